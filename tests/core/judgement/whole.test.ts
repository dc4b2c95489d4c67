import { describe, expect, it } from 'vitest'
import { sumUp } from '../../../core/judgement/whole'
import type { StepJudgement } from '../../../core/judgement/types'
import type { StepState } from '../../../core/checks/verdict'
import { T0 } from '../entries'
import { small } from './support'

/** What the steps of a joint come to, step by step as a case says; all others are accepted. */
const keys = small.steps.map((s) => s.key)
type Case = Record<string, StepState | Partial<StepJudgement>>
const steps = (of: Case, others: StepState = 'accepted') =>
  keys.map(
    (key) =>
      ({
        ...{ key, state: others, ncr: null, entry: null, startedAt: null, until: null, latest: null },
        ...(typeof of[key] === 'string' ? { state: of[key] } : of[key]),
      }) as StepJudgement,
  )
const sum = (of: Case, others?: StepState, untouched = false) =>
  sumUp(small, steps(of, others), untouched, [])

describe('the state of a joint', () => {
  it.each<[string, Case, string]>([
    ['all done', {}, 'accepted'],
    ['all done that applies', { rain: 'not-applicable', marked: 'not-applicable' }, 'accepted'],
    ['one rejected', { gouge: 'rejected', wiped: 'held' }, 'rejected'],
    ['one overdue', { off: 'overdue' }, 'rejected'],
    ['two people differ', { gouge: 'differs' }, 'rejected'],
    ['one held', { before: 'held', gouge: 'too-close' }, 'held'],
    ['one too close to call', { gouge: 'too-close', bolts: 'not-started' }, 'too-close'],
    ['one to do', { bolts: 'not-started' }, 'in-work'],
    ['a clock that runs, nothing to do', { cured: 'waiting' }, 'waiting'],
    ['a clock that runs before something to do', { cured: 'waiting', paste: 'not-started' }, 'in-work'],
    ['a clock whose end is to be confirmed', { off: 'waiting' }, 'waiting'],
  ])('%s: %s', (_what, of, state) => expect(sum(of).state).toBe(state))
  it('nothing recorded is not begun', () => {
    expect(sum({}, 'not-started', true).state).toBe('not-started')
    expect(sum({}, 'not-started', false).state).toBe('in-work')
  })
  it.each<[string, boolean, string | null, string]>([
    ['scrapped', false, 'scrap', 'rejected'],
    ['sent back', false, 'return', 'rejected'],
    ['reworked', false, 'rework', 'accepted'],
    ['reported, to be scrapped', true, 'scrap', 'accepted'],
  ])('one that was %s', (_what, open, disposition, state) =>
    expect(sum({ gouge: { ncr: { number: 'N', open, disposition } } }).state).toBe(state),
  )
})

describe('what comes next', () => {
  it('is the first step that asks somebody', () => {
    expect(sum({ wiped: 'not-started', paste: 'not-started' }).next).toBe('wiped')
    expect(sum({ rain: 'not-applicable' }).next).toBeNull()
  })
  it('is no clock after which nobody does anything', () =>
    expect(sum({ cured: 'waiting', paste: 'not-started' }).next).toBe('paste'))
  it('counts what is done of what applies', () => {
    const { done, applicable } = sum({ gouge: 'rejected', rain: 'not-applicable' })
    expect([done, applicable]).toEqual([keys.length - 2, keys.length - 1])
  })
})

describe('clocks', () => {
  const [from, until, latest] = [T0, T0 + 1800e3, T0 + 3600e3]
  const runs = (more: Partial<StepJudgement>, key = 'off') =>
    sum({ [key]: { state: 'waiting', startedAt: from, until, latest, ...more } }).clocks
  it('run toward their time, with what is done then', () =>
    expect(runs({})).toEqual([
      { step: 'off', title: 'Clamps off', startedAt: from, until, latest, action: 'Clamps off', gate: null },
    ]))
  it('that only must not be late run toward that', () => expect(runs({ until: null })[0]!.until).toBe(latest))
  it.each<[string, Partial<StepJudgement>, number]>([
    ['overdue', { state: 'overdue' }, 1],
    ['due', { state: 'not-started' }, 1],
    ['answered', { entry: 'e' }, 0],
    ['accepted', { state: 'accepted' }, 0],
    ['blocked', { state: 'blocked' }, 0],
    ['of a step that does not apply', { state: 'not-applicable' }, 0],
    ['not begun', { startedAt: null }, 0],
    ['of times that nobody can work out', { until: null, latest: null }, 0],
  ])('%s', (_what, more, n) => expect(runs(more)).toHaveLength(n))
  it('after which nobody does anything are not due', () =>
    expect(runs({ state: 'not-started' }, 'cured')).toEqual([]))
})

describe('the pressure test', () => {
  it('waits for the clock of its gate', () => {
    const waits = sum({ cured: { state: 'waiting', startedAt: T0, until: T0 + 7200e3 } })
    expect(waits.gates).toEqual({ 'pressure-test': { open: false, until: T0 + 7200e3 } })
    expect(waits.test).toEqual({ ready: true, gated: true, at: T0 + 7200e3 })
    const over = sum({ cured: { state: 'accepted', until: T0 + 7200e3 } })
    expect(over.gates['pressure-test']!.open).toBe(true)
  })
  it('is not ready while something before it is open', () =>
    expect(sum({ bolts: 'not-started' }).test.ready).toBe(false))
  it('whose clock is not known has no time', () =>
    expect(sum({ cured: { state: 'not-started', until: null } }).test).toEqual({
      ...{ ready: true, gated: true, at: null },
    }))
  it('of a joint without such a clock is not held back by one', () =>
    expect(sum({ cured: 'not-applicable' })).toMatchObject({
      ...{ gates: {}, test: { ready: true, gated: false, at: null } },
    }))
})
