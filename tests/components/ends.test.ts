import { mount } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import JointEnds from '../../app/components/worksheet/JointEnds.vue'
import StepList from '../../app/components/worksheet/StepList.vue'
import { judge } from '../../core/judgement/judge'
import { exampleFacts } from '../../core/procedure/facts'
import { loadProcedure } from '../../core/procedure/load'
import source from '../../procedures/steel-axial-swage.yaml?raw'
import { read, T0, yes } from '../core/entries'

const swage = loadProcedure(source)
const facts = exampleFacts(swage.procedure)
const entries = [
  read('cut@upstream', [1], 1),
  read('cut@downstream', [9], 2),
  yes('install-mark@upstream', 3),
]
const judgement = judge(swage, facts, entries, T0 + 3_600_000)

describe('the list of steps', () => {
  const spine = mount(StepList, {
    props: { procedure: swage.procedure, judgement, current: 'cut@downstream' },
    global: { stubs: { StateGlyph: true } },
  })
  const names = spine.findAll('button').map((b) => b.attributes('aria-label'))
  it('has both ends of a step side by side, each with its own state', () => {
    const row = spine.findAll('.pair').find((p) => p.text().startsWith('Cut square'))!
    expect(row.findAll('button').map((b) => b.attributes('aria-label'))).toEqual([
      'Cut square, upstream end: Accepted',
      'Cut square, downstream end: Rejected',
    ])
  })
  it('names every step that applies once an end, and no other', () => {
    const made = judgement.steps.filter((s) => s.state !== 'not-applicable')
    expect(names).toHaveLength(made.length)
    expect(names).not.toContain('Faced, upstream end: Does not apply')
  })
  it('marks the step at hand, and goes to the one that is tapped', async () => {
    expect(spine.findAll('[aria-current=step]').map((b) => b.attributes('aria-label'))).toEqual([
      'Cut square, downstream end: Rejected',
    ])
    await spine.find('[aria-label^="Cut square, upstream"]').trigger('click')
    expect(spine.emitted('choose')).toEqual([['cut@upstream']])
  })
})

describe('the two ends', () => {
  const ends = (step: string | null) =>
    mount(JointEnds, { props: { compiled: swage, judgement, facts, step } })
  it('say how far each has come, and which is rejected', () => {
    const [up, down] = ends('cut@upstream').findAll('[role=button]')
    expect(up!.attributes('aria-label')).toMatch(/^Upstream end: 3 of \d+ done$/)
    expect(down!.attributes('aria-label')).toMatch(/^Downstream end: 1 of \d+ done, rejected$/)
    expect([up, down].map((e) => e!.attributes('aria-pressed'))).toEqual(['true', 'false'])
  })
  it('draw the marks to one scale from their cut, whole lines only where they are drawn on the pipe', () => {
    const [up, down] = ends('cut@upstream').findAll('[role=button]')
    const marks = (e: typeof up) =>
      e!.findAll('line').map((l) => ({
        from: Math.abs(Number(l.attributes('x1')) - (e === up ? 192 : 212)),
        drawn: !l.attributes('stroke-dasharray'),
        mm: l.find('title').text(),
      }))
    const [install, inspect] = marks(up)
    expect([install!.mm, inspect!.mm]).toEqual(['34 mm', '24 mm'])
    expect(install!.from / inspect!.from).toBeCloseTo(34 / 24, 6)
    expect(marks(up).map((m) => m.drawn)).toEqual([true, false])
    expect(marks(down).map((m) => m.drawn)).toEqual([false, false])
    for (const [i, m] of marks(down).entries()) expect(m.from).toBeCloseTo(marks(up)[i]!.from, 9)
  })
  it('lead to the same step at the other end, or to what is open there', async () => {
    const w = ends('cut@upstream')
    await w.findAll('[role=button]')[1]!.trigger('click')
    const other = ends('tool')
    await other.findAll('[role=button]')[0]!.trigger('click')
    expect([w.emitted('step'), other.emitted('step')]).toEqual([
      [['cut@downstream']],
      [['straight@upstream']],
    ])
  })
})
