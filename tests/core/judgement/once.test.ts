import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { standingAnswers, type AnsweredBefore } from '../../../core/judgement/once'
import { judge } from '../../../core/judgement/judge'
import { loadProcedure } from '../../../core/procedure/load'
import type { Entry } from '../../../core/record/entry'
import { conforming, entry, facts180, T0, yes } from '../entries'

const source = readFileSync('procedures/pe-electrofusion-socket.yaml', 'utf8')
const electrofusion = loadProcedure(source)
const NOON = T0 + 4 * 3_600_000
const uuid = (n: number) => `01900000-0000-7000-8000-${String(n).padStart(12, '0')}`
const at = (name: string, entries: Entry[], n = 900): AnsweredBefore => ({ subject: uuid(n), name, entries })
const stands = (earlier: AnsweredBefore[], more: Partial<Parameters<typeof standingAnswers>[5]> = {}) =>
  standingAnswers(electrofusion, facts180, 'mara', NOON, earlier, more)
const steps = (earlier: AnsweredBefore[]) => stands(earlier).map((a) => a.step)

/** Answers carried into a joint, as entries of its record. */
const entered = (answers: ReturnType<typeof stands>, minute: number) =>
  answers.map((a, i) => entry(a.step, a.kind, a.payload, minute + i / 100))

const morning = () => conforming().slice(0, 6)

describe('what is asked once a shift', () => {
  it('stands at the next joint, with its origin, and counts there', () => {
    const first = morning()
    const answers = stands([at('RM-101', first)])
    expect(answers.map((a) => a.step)).toEqual([
      'right-parts',
      'installer',
      'instruments',
      'tools',
      'ppe',
      'shelter',
    ])
    expect(answers[0]!.payload).toEqual({
      answer: 'yes',
      once: { entry: first[0]!.id, subject: uuid(900), at: 'RM-101', answeredAt: first[0]!.recordedAt },
    })
    const { steps } = judge(electrofusion, facts180, entered(answers, 240), NOON)
    expect(steps.filter((s) => s.state === 'accepted').map((s) => s.key)).toEqual(
      expect.arrayContaining(answers.map((a) => a.step)),
    )
  })

  it('keeps its first origin, however often it is carried on', () => {
    const first = morning()
    const second = entered(stands([at('RM-101', first)]), 60)
    const third = stands([at('RM-102', second, 901)])
    expect(third.map((a) => a.payload.once.at)).toEqual(new Array(6).fill('RM-101'))
    expect(third[3]!.payload.once.entry).toBe(first[3]!.id)
  })

  it('readings, marks and lots are never carried', () => {
    const kinds = new Set(stands([at('RM-101', conforming())]).map((a) => a.kind))
    expect([...kinds]).toEqual(['confirmation'])
  })

  it.each<[string, () => AnsweredBefore[], string]>([
    [
      'answered by somebody else',
      () => [at('RM-101', [yes('tools', 1, { person: 'joris' }), yes('ppe', 2)])],
      'tools',
    ],
    [
      'answered with no',
      () => [at('RM-101', [entry('tools', 'confirmation', { answer: 'no' }, 1), yes('ppe', 2)])],
      'tools',
    ],
    [
      'struck, though an older yes stands elsewhere',
      () => {
        const wrong = yes('tools', 50)
        const strike = entry(null, 'correction', { strikes: wrong.id, reason: 'the clamp was missing' }, 51)
        return [at('RM-101', [yes('tools', 1), yes('ppe', 2)]), at('RM-102', [wrong, strike], 901)]
      },
      'tools',
    ],
  ])('is asked again when it was %s', (_, earlier, step) => {
    expect(steps(earlier())).toEqual(['ppe'])
    expect(step).toBe('tools')
  })

  it('is asked again where the plan of the project makes it a hold or witness point', () => {
    const earlier = [at('RM-101', morning())]
    for (const point of ['H', 'W'] as const)
      expect(stands(earlier, { plan: { ppe: point } }).map((a) => a.step)).not.toContain('ppe')
    expect(stands(earlier, { plan: { ppe: 'S' } }).map((a) => a.step)).toContain('ppe')
  })

  it('nothing stands where nothing was answered', () => {
    expect(stands([])).toEqual([])
    expect(stands([at('RM-101', [])])).toEqual([])
  })
})

describe('what is asked once a lot', () => {
  const cpvc = loadProcedure(readFileSync('procedures/cpvc-solvent-weld.yaml', 'utf8'))
  const lot = (name: string, minute: number) =>
    entry('primer', 'lot', { lot: name, expires: '2027-01-01' }, minute)
  const earlier = [at('CP-1', [lot('PR-7', 1), yes('softens', 2)])]
  const carried = () => standingAnswers(cpvc, {}, 'mara', NOON, earlier)
  const state = (entries: Entry[]) =>
    judge(cpvc, {}, entries, NOON).steps[cpvc.stepIndex.get('softens')!]!.state

  it('stands for that lot alone, however its name is spelled', () => {
    const [answer] = carried()
    expect(answer).toMatchObject({
      step: 'softens',
      payload: { once: { rests: { step: 'primer', lot: 'PR-7' } } },
    })
    const here = entered([answer!], 240)
    expect(state(here), 'no lot yet').toBe('not-started')
    expect(state([...here, lot('pr-7', 241)]), 'the same lot').toBe('accepted')
    expect(state([...here, lot('PR-8', 241)]), 'another lot').toBe('not-started')
    expect(state([...here, lot('PR-7', 241), lot('PR-8', 242)]), 'a new tin meanwhile').toBe('not-started')
    expect(state([...here, lot('PR-8', 241), yes('softens', 242)]), 'answered for the other lot').toBe(
      'accepted',
    )
  })

  it('is not carried from where its lot is not known', () => {
    expect(standingAnswers(cpvc, {}, 'mara', NOON, [at('CP-1', [yes('softens', 2)])])).toEqual([])
  })
})

describe('a document may ask once', () => {
  const with_ = (step: string, once: string) =>
    source.replace(new RegExp(`(- key: ${step}\\n)`), `$1        once: ${once}\n`)
  it.each([
    ['temperature', 'shift', 'What a check of kind environment asks is asked at every joint.'],
    ['before-fusion', 'shift', 'comes to look at'],
    ['power', 'shift', 'follows a hold point'],
    ['washed', 'lot', 'No lot is asked before this step'],
    ['washed', 'tin', 'No lot is asked before this step, as "tin" says.'],
  ])('%s cannot be asked once a %s', (step, once, why) => {
    expect(() => loadProcedure(with_(step, once))).toThrow(why)
  })
  it('a plain question may', () => {
    expect(loadProcedure(with_('washed', 'shift')).steps.find((s) => s.step.key === 'washed')!.once).toEqual({
      lot: null,
    })
  })
})
