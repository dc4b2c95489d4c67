import { describe, expect, it } from 'vitest'
import type { LotFacts } from '../../../core/checks/verdict'
import { judge } from '../../../core/judgement/judge'
import { loadProcedure } from '../../../core/procedure/load'
import type { FactValue } from '../../../core/formula/formula'
import type { Entry } from '../../../core/record/entry'
import { entry, T0 } from '../support'

/** Whether a tin was good when it was used: its dates as typed, as the register has them, and its quarantine. */
const DAY = 86_400_000
const paste = (lives: object) =>
  loadProcedure(
    JSON.stringify({
      ...{ key: 'paste', title: 'Paste', revision: 'A', system: 'paste', material: 'none', basis: 'sample' },
      ...{
        cautions: [],
        facts: [{ key: 'paste.life', title: 'Life', dimension: 'time', from: 'site', optional: true }],
      },
      stages: [
        {
          ...{ key: 'work', title: 'Work' },
          steps: [
            {
              ...{ key: 'paste', title: 'Paste', instruction: 'Say which.' },
              check: { kind: 'lot', question: 'Which tin?', ...lives },
            },
          ],
        },
      ],
    }),
  )
const used = (payload: object, more: Partial<Entry> = {}) =>
  entry('paste', 'lot', { lot: 'P 1', ...payload }, 0, more)
const state = (
  lives: object,
  given: Entry,
  lots: Record<string, Partial<LotFacts>> = {},
  facts: Record<string, FactValue> = {},
) => {
  const options = { zone: 'UTC', lots: lots as Record<string, LotFacts> }
  return judge(paste(lives), facts, [given], T0 + DAY, options).steps[0]!.state
}
const none = { made: null, expires: null, opened: null, shelfMonths: null, openedDays: null }
const free = { ...none, quarantinedAt: null, reason: null }

describe('a tin with a printed date', () => {
  // Used on 9 March 2026.
  it.each([
    ['2026-03-10', 'accepted'],
    ['2026-03-09', 'accepted'],
    ['2026-03-08', 'rejected'],
  ])('good until %s is %s', (expires, then) => expect(state({}, used({ expires }))).toBe(then))
  it('that is no day says nothing', () => {
    expect(state({}, used({ expires: '2026-02-30' }))).toBe('accepted')
    expect(state({ shelfMonths: '24' }, used({ made: 20260101 }))).toBe('not-started')
  })
})

describe('a life from production', () => {
  it.each([
    [{ shelfLife: '30 d' }, '2026-02-07', 'accepted'],
    [{ shelfLife: '30 d' }, '2026-02-06', 'rejected'],
    [{ shelfMonths: '1' }, '2026-02-09', 'accepted'],
    [{ shelfMonths: '1' }, '2026-02-08', 'rejected'],
  ])('of %j from %s is %s', (lives, made, then) => expect(state(lives, used({ made }))).toBe(then))
  it('needs the day of production, and a printed date instead of it', () => {
    expect(state({ shelfLife: '30 d' }, used({}))).toBe('not-started')
    expect(state({ shelfLife: '30 d' }, used({ expires: '2026-03-09' }))).toBe('accepted')
  })
  it('that is not known cannot be worked out, whatever is printed', () => {
    const lives = { shelfLife: 'paste.life' }
    expect(state(lives, used({ made: '2026-02-07' }))).toBe('blocked')
    expect(state(lives, used({ expires: '2026-03-10' }))).toBe('blocked')
    expect(state(lives, used({ made: '2026-02-07' }), {}, { 'paste.life': 30 * 86_400 })).toBe('accepted')
  })
})

describe('a life after opening', () => {
  it.each([
    ['2026-03-06', 'accepted'],
    ['2026-03-05', 'rejected'],
  ])('of three days from %s is %s', (opened, then) =>
    expect(state({ openedLife: '3 d' }, used({ opened }))).toBe(then),
  )
  it('counts beside the others, the earliest of them', () => {
    const lives = { shelfMonths: '24', openedLife: '3 d' }
    expect(state(lives, used({ made: '2026-01-01', opened: '2026-03-05' }))).toBe('rejected')
    expect(state(lives, used({ made: '2024-01-01', opened: '2026-03-08' }))).toBe('rejected')
    expect(state(lives, used({ made: '2026-01-01', opened: '2026-03-08' }))).toBe('accepted')
  })
})

describe('what the register has of it', () => {
  it.each(['P 1', 'p  1 '])('counts however %j is spelled', (lot) =>
    expect(state({}, used({ lot }), { 'P 1': { ...free, expires: '2026-03-08' } })).toBe('rejected'),
  )
  it.each([
    [-1, 'rejected'],
    [0, 'rejected'],
    [1, 'accepted'],
  ])('a quarantine that began %i ms after its use: %s', (after, then) =>
    expect(state({}, used({}), { 'P 1': { ...free, quarantinedAt: T0 + after } })).toBe(then),
  )
})

describe('what came late', () => {
  const late = (receivedAt?: number) =>
    used({ expires: '2026-03-10' }, { late: true, ...(receivedAt ? { receivedAt } : {}) })
  const end = Date.parse('2026-03-10T23:59:59.999Z')
  it.each([
    [end, 'accepted'],
    [end + 1, 'held'],
    [undefined, 'held'],
  ])('and was there at %s is %s', (receivedAt, then) => expect(state({}, late(receivedAt))).toBe(then))
  it.each([
    [-1, 'held'],
    [0, 'held'],
    [1, 'accepted'],
  ])('may have been used in a quarantine that began %i ms after it was there', (after, then) => {
    const quarantined = { 'P 1': { ...free, quarantinedAt: T0 + DAY + after } }
    expect(state({}, late(T0 + DAY), quarantined)).toBe(then)
  })
})
