import { config, flushPromises, mount } from '@vue/test-utils'
import { setActivePinia, type Pinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import StepCheck from '../../app/components/worksheet/StepCheck.vue'
import type { Sheet } from '../../app/composables/useWorksheet'
import { judge } from '../../core/judgement/judge'
import type { InterventionPoint } from '../../core/procedure/types'
import type { Entry } from '../../core/record/entry'
import { loadProcedure } from '../../core/procedure/load'
import source from '../../procedures/pe-electrofusion-socket.yaml?raw'
import { entry, facts180, read, T0, yes } from '../core/entries'

/** A hold point as the crew and the inspector have it before them. */
const electrofusion = loadProcedure(source)
beforeEach(() => setActivePinia(config.global.plugins[1] as Pinia))

async function step(key: string, entries: Entry[], as: object = {}) {
  const now = T0 + 3_600_000
  const plan: Record<string, InterventionPoint | null> = { [key]: 'H' }
  const judgement = judge(electrofusion, facts180, entries, now, { plan })
  const sheet = { subject: { facts: facts180 }, people: { mara: 'Mara' }, schools: {} }
  const w = mount(StepCheck, {
    props: {
      ...{ compiled: electrofusion, entries, judgement, now },
      sheet: { ...sheet, instruments: [], lots: {}, rule: 'guarded' } as unknown as Sheet,
      judged: judgement.steps.find((s) => s.key === key)!,
      ...{ mayRecord: true, mayRelease: false, mayWaive: false, mayAnswer: false, busy: false },
      ...as,
    },
    attachTo: document.body,
  })
  await vi.dynamicImportSettled()
  await flushPromises()
  return w
}
type Shown = Awaited<ReturnType<typeof step>>
const button = (w: Shown, name: RegExp) => w.findAll('button').find((b) => name.test(b.text()))
const before = [
  ...['right-parts', 'installer', 'instruments', 'tools', 'ppe', 'shelter'].map((key, i) => yes(key, i / 10)),
  ...[read('temperature', [14], 1), yes('washed', 2), yes('sound', 3), read('square', [0.001, 0.001], 4)],
]
const request = entry('gouge', 'request', {}, 6)
const inspector = { mayRecord: false, mayRelease: true }

describe('a hold point that asks whether all is ready', () => {
  it('is answered by asking for its release', async () => {
    const w = await step('before-fusion', [])
    expect(button(w, /^Yes$/)).toBeUndefined()
    await button(w, /request release/)!.trigger('click')
    expect(w.emitted('answer')).toEqual([
      [
        [
          { kind: 'confirmation', payload: { answer: 'yes' } },
          { kind: 'request', payload: {} },
        ],
      ],
    ])
  })
})

describe('a hold point that is measured', () => {
  it('takes its reading before anybody is asked to release it', async () => {
    const w = await step('gouge', before)
    expect(w.findAll('.keypad, input').length).toBeGreaterThan(0)
    expect(button(w, /request release/)!.attributes('disabled')).toBeDefined()
  })
  it('and is asked for with that reading, and no word beside it', async () => {
    const w = await step('gouge', [...before, read('gouge', [0.0005], 5)])
    await button(w, /request release/)!.trigger('click')
    expect(w.emitted('answer')).toEqual([[[{ kind: 'request', payload: {} }]]])
  })
  it('that conforms is released; the inspector decides nothing about it', async () => {
    const w = await step('gouge', [...before, read('gouge', [0.0005], 5), request], inspector)
    expect(button(w, /^Release$/)!.attributes('disabled')).toBeUndefined()
    expect(w.text()).toContain('Release requested.')
    expect(button(w, /Accept/)).toBeUndefined()
  })
  it('whoever releases it has what was found before him, and measures again where he asks to', async () => {
    const w = await step('gouge', [...before, read('gouge', [0.0005], 5), request], {
      ...{ mayRecord: true, mayRelease: true },
    })
    expect(w.findAll('.keypad, input')).toHaveLength(0)
    await button(w, /Answer again/)!.trigger('click')
    await vi.dynamicImportSettled()
    await flushPromises()
    expect(w.findAll('.keypad, input').length).toBeGreaterThan(0)
  })
  it('that does not conform is decided with a reason or waived by its name, not released', async () => {
    const w = await step('gouge', [...before, read('gouge', [0.004], 5), request], inspector)
    expect(w.text()).toContain('is outside')
    expect(button(w, /^Release$/)!.attributes('disabled')).toBeDefined()
    expect(button(w, /Accept/)).toBeDefined()
    await button(w, /^Waive$/)!.trigger('click')
    expect(w.emitted('release')).toEqual([[{ kind: 'waiver', waives: ['gouge'] }]])
  })
  it('that was passed is no matter of its reading: nothing is decided about it here', async () => {
    const w = await step(
      'gouge',
      [...before, read('gouge', [0.0005], 5), request, yes('scrape-mark', 7)],
      inspector,
    )
    expect(w.text()).toContain('was done past this hold point')
    expect(button(w, /Accept/)).toBeUndefined()
  })
})
