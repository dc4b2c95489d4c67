import { flushPromises, mount } from '@vue/test-utils'
import { describe, expect, it, vi } from 'vitest'
import { nextTick } from 'vue'
import { checkForms } from '../../app/checks/forms'
import { useSession } from '../../app/stores/session'
import type { CheckProps } from '../../app/checks/form'
import type { Sheet } from '../../app/composables/useWorksheet'
import { judge } from '../../core/judgement/judge'
import { slotsOf } from '../../core/judgement/slots'
import { checkSchemas } from '../../core/procedure/schema'
import type { Entry } from '../../core/record/entry'
import { loadProcedure } from '../../core/procedure/load'
import cpvcSource from '../../procedures/cpvc-solvent-weld.yaml?raw'
import source from '../../procedures/pe-electrofusion-socket.yaml?raw'
import { conforming, facts180, T0 } from '../core/entries'

const electrofusion = loadProcedure(source)

/** The record of a whole joint up to a step. */
const until = (key: string) => {
  const all = conforming()
  return all.slice(
    0,
    all.findIndex((e) => e.step === key),
  )
}

/** The working form of one step of an electrofusion socket, as the joint sheet gives it. */
function form(key: string, entries: Entry[] = [], now = T0 + 3_600_000, more: Partial<Sheet> = {}) {
  const step = electrofusion.steps[electrofusion.stepIndex.get(key)!]!
  const judged = judge(electrofusion, facts180, entries, now).steps[step.index]!
  const sheet = { instruments: [], lots: {}, rule: 'guarded', ...more } as unknown as Sheet
  const props: CheckProps = {
    step,
    judged,
    slots: slotsOf(electrofusion, facts180, entries),
    sheet,
    entries,
    now,
    busy: false,
  }
  return mount(checkForms[step.step.check.kind]!, { props, attachTo: document.body })
}
const button = (w: ReturnType<typeof form>, text: string) =>
  w.findAll('button').find((b) => b.text() === text)!

describe('the forms of checks', () => {
  it('there is one for every kind, and none for what is worked out', () => {
    expect(Object.keys(checkForms).sort()).toEqual(Object.keys(checkSchemas).sort())
    expect(
      Object.entries(checkForms)
        .filter(([, f]) => f === null)
        .map(([kind]) => kind),
    ).toEqual(['calculated'])
  })

  it('a question is answered with yes or no, and by key', async () => {
    const w = form('washed')
    expect(w.find('.question').text()).toBe('Are both ends washed and dried?')
    await button(w, 'No').trigger('click')
    ;(w.vm as unknown as { say(a: string): void }).say('yes')
    expect(w.emitted('answer')).toEqual([
      [[{ kind: 'confirmation', payload: { answer: 'no' } }]],
      [[{ kind: 'confirmation', payload: { answer: 'yes' } }]],
    ])
  })

  it('while an answer is on its way nothing more is sent', async () => {
    const w = form('washed')
    await w.setProps({ busy: true })
    await button(w, 'No').trigger('click')
    expect(w.emitted('answer')).toBeUndefined()
  })

  it('a choice is one of its titles; a key beyond them answers nothing', async () => {
    const w = form('wiped')
    await button(w, 'Welding cleaner').trigger('click')
    ;(w.vm as unknown as { choose(i: number): void }).choose(8)
    expect(w.emitted('answer')).toEqual([[[{ kind: 'choice', payload: { choice: 'cleaner' } }]]])
  })

  it('a clock says how long it still runs, in words, and how much too early an answer would be', () => {
    // Fusion started at minute 30 and takes 210 s.
    const w = form('fusion-run', until('fusion-run'), T0 + 31 * 60_000)
    expect(w.find('[role=timer]').text()).toMatch(/^2 min 30 s\s*left, until/)
    expect(w.text()).toContain('2 min 30 s too early, and rejected')
  })

  it('a clock that has run asks for what is done then', async () => {
    const w = form('cooling', until('cooling'), T0 + 60 * 60_000)
    expect(w.find('[role=timer]').exists()).toBe(false)
    await button(w, 'Clamps off').trigger('click')
    expect(w.emitted('answer')).toEqual([[[{ kind: 'clock', payload: { answer: 'yes' } }]]])
  })

  it('a clock that has not begun offers nothing', () => expect(form('cooling').findAll('button')).toEqual([]))

  it('readings are judged while they are typed, and offered to be recorded once all are there', async () => {
    const w = form('square')
    await vi.dynamicImportSettled()
    await flushPromises()
    const inputs = w.findAll('.slots input')
    expect(inputs).toHaveLength(2)
    await inputs[0]!.setValue('1 mm')
    expect(w.emitted('ready')?.at(-1)).toEqual([null])
    await inputs[1]!.setValue('9')
    await nextTick()
    expect(w.emitted('live')?.at(-1)).toEqual([[0.001, expect.closeTo(0.009, 12)]])
    expect(w.emitted('ready')?.at(-1)).toEqual([
      {
        kind: 'reading',
        payload: { values: [0.001, expect.closeTo(0.009, 12)], typed: ['1 mm', '9'] },
        instrument: null,
      },
    ])
    ;(w.vm as unknown as { clear(): void }).clear()
    await nextTick()
    expect(w.findAll<HTMLInputElement>('.slots input').map((i) => i.element.value)).toEqual(['', ''])
    expect(w.emitted('ready')?.at(-1)).toEqual([null])
  })
})

describe('the lot of the joint before', () => {
  const cpvc = loadProcedure(cpvcSource)
  const lotForm = (lotsBefore: Sheet['lotsBefore'], { lots = {}, now = T0 } = {}) => {
    const step = cpvc.steps[cpvc.stepIndex.get('primer')!]!
    const judged = judge(cpvc, {}, [], T0).steps[step.index]!
    const sheet = { instruments: [], lots, rule: 'guarded', lotsBefore } as unknown as Sheet
    const slots = slotsOf(cpvc, {}, [])
    const props: CheckProps = { step, judged, slots, sheet, entries: [], now, busy: false }
    return mount(checkForms.lot!, { props, attachTo: document.body })
  }
  const before = { number: 'CP-3', lots: { primer: { lot: 'PR-7', expires: '2027-01-01' } } }

  it('is offered by name, and recorded with one tap', async () => {
    const w = lotForm(before)
    const offer = w.findAll('button').find((b) => b.text() === 'Still PR-7, as at CP-3')!
    await offer.trigger('click')
    expect(w.emitted('answer')).toEqual([
      [[{ kind: 'lot', payload: { lot: 'PR-7', expires: '2027-01-01' } }]],
    ])
  })
  it.each([
    ['no joint before', null],
    ['a joint before without it', { number: 'CP-3', lots: {} }],
  ])('%s: nothing is offered', (_, none) => {
    expect(lotForm(none).text()).not.toContain('Still')
  })
  it.each([
    [
      'UTC',
      'The register says: good until 8 Mar 2026 (printed expiry). It is past its date: take another lot.',
    ],
    ['America/Anchorage', 'The register says: good until 8 Mar 2026 (printed expiry).'],
  ])('the register says how long a lot is good where the work is: %s', async (zone, says) => {
    const session = useSession()
    session.overview = { project: { zone } } as typeof session.overview
    const dates = { made: null, expires: '2026-03-08', opened: null, shelfMonths: null, openedDays: null }
    const lots = { 'PR-7': { ...dates, quarantinedAt: null, reason: null } }
    const w = lotForm(null, { lots, now: Date.parse('2026-03-09T02:00:00Z') })
    await w.find('input').setValue('PR-7')
    expect(w.text()).toContain(says)
    expect(w.text().includes('past its date')).toBe(says.includes('past its date'))
    session.overview = null
  })
  it('nothing is offered any more once a lot is typed', async () => {
    const w = lotForm(before)
    await w.find('input').setValue('PR-8')
    expect(w.text()).not.toContain('Still')
  })
})
