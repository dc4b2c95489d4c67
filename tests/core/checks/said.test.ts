import { describe, expect, it } from 'vitest'
import { checkKinds, type CheckKind } from '../../../core/checks/registry'
import type { EntryKind } from '../../../core/record/entry'
import { showEverythingIn, wordedIn } from '../../../core/quantity/site-units'

const answerOf: Partial<Record<CheckKind, EntryKind>> = {
  ...{ lot: 'lot', density: 'density', lifts: 'lift', measure: 'reading' },
}
/** What a check asks for and what was answered, in the words that stand in the record and on paper. */
const rule = (check: { kind: CheckKind } & object) => checkKinds[check.kind].describe.rule(check as never)
const said = (check: { kind: CheckKind } & object, payload: object) =>
  checkKinds[check.kind].describe.entry(payload as never, check as never, answerOf[check.kind]!)

describe('a lot', () => {
  it.each([
    [{}, 'Which tin?'],
    [{ shelfLife: '1 y' }, 'Which tin?, shelf life 1 y'],
    [{ shelfMonths: '24' }, 'Which tin?, good for 24 months'],
    [{ openedLife: '30 d' }, 'Which tin?, 30 d once opened'],
    [
      { shelfLife: '1 y', shelfMonths: '24', openedLife: '30 d' },
      'Which tin?, shelf life 1 y, good for 24 months, 30 d once opened',
    ],
  ])('%j is asked for', (more, words) =>
    expect(rule({ kind: 'lot', question: 'Which tin?', ...more } as never)).toBe(words),
  )
  it.each([
    [{ lot: 'CE-3' }, 'CE-3'],
    [{ lot: 'CE-3', made: '2026-01-02' }, 'CE-3, made 2026-01-02'],
    [{ lot: 'CE-3', expires: '2027-01-02' }, 'CE-3, expires 2027-01-02'],
    [{ lot: 'CE-3', opened: '2026-03-01' }, 'CE-3, opened 2026-03-01'],
  ])('%j is answered', (payload, words) => expect(said({ kind: 'lot' }, payload)).toBe(words))
})

describe('a density', () => {
  const test = { side: 'left', station: 12.5, wetDensity: 1900, moisture: 0.25, maximum: 1600 }
  it.each([
    [{}, 'At least 90 % of the maximum dry density'],
    [{ minCompaction: '95 %' }, 'At least 95 % of the maximum dry density'],
  ])('%j is asked for', (more, words) => expect(rule({ kind: 'density', ...more } as never)).toBe(words))
  it.each([
    [{}, '95 % of the maximum, left at 12.5 m'],
    [{ side: 'both' }, '95 % of the maximum, both sides at 12.5 m'],
    [{ retestOf: 'a' }, '95 % of the maximum, left at 12.5 m, tested again'],
  ])('%j is answered', (more, words) => expect(said({ kind: 'density' }, { ...test, ...more })).toBe(words))
})

describe('a lift', () => {
  const lift = { side: 'both', thickness: 0.2, passes: 4, plant: 'plate', material: 'sand' }
  it.each([
    [{}, 'Lifts of at most 0.3 m loose, 3 passes each, sides within 0.15 m'],
    [
      { maxLoose: '0.25 m', minPasses: '5', maxDifference: '0.1 m' },
      'Lifts of at most 0.25 m loose, 5 passes each, sides within 0.1 m',
    ],
  ])('%j is asked for', (more, words) => expect(rule({ kind: 'lifts', ...more } as never)).toBe(words))
  it.each([
    [{}, {}, 'both sides 200 mm loose, 4 passes by plate, sand'],
    [{ passes: 1, side: 'left' }, {}, 'left 200 mm loose, 1 pass by plate, sand'],
    [{ plant: 'none' }, {}, 'both sides 200 mm loose, not compacted, sand'],
    [
      { material: 'crushed-rock', replaces: 'a' },
      {},
      'both sides 200 mm loose, 4 passes by plate, crushed rock, laid again',
    ],
    [{ material: 'Slag' }, {}, 'both sides 200 mm loose, 4 passes by plate, slag'],
    [
      { material: 'slag' },
      { materials: [{ key: 'slag', title: 'Blast furnace slag', conforms: true }] },
      'both sides 200 mm loose, 4 passes by plate, blast furnace slag',
    ],
  ])('%j, of %j, is answered', (more, check, words) =>
    expect(said({ kind: 'lifts', ...check } as never, { ...lift, ...more })).toBe(words),
  )
})

describe('readings', () => {
  const check = { kind: 'measure', quantity: 'length', unit: 'mm', limits: [] } as const
  it.each([
    [[{ of: 'each', title: 'Gouge', max: '1 mm' }], 'Gouge ≤ 1 mm'],
    [
      [
        { of: 'mean', min: '2 mm' },
        { of: 'range', max: '1 mm' },
      ],
      'mean ≥ 2 mm; range ≤ 1 mm',
    ],
  ])('%j is asked for', (limits, words) => expect(rule({ ...check, limits } as never)).toBe(words))
  it('are said as they were typed', () =>
    expect(said(check, { values: [0.4, 0.401], typed: ['400', '401 mm'] })).toBe('400 · 401 mm'))
  it.each([[undefined], [[]], ['400']])(
    'of which nothing was kept as typed (%j) are said as numbers',
    (typed) => expect(said(check, { values: [0.4, 0.4015], typed })).toBe('400 mm · 401.5 mm'),
  )
  it('name the unit that they were typed in where the site reads another, those that have one do not', () =>
    expect(wordedIn('us', () => said(check, { values: [0.4, 0.401], typed: ['400', '401 mm'] }))).toBe(
      '400 mm · 401 mm',
    ))
  it('are said so for that one site alone', () => {
    showEverythingIn('as-written')
    expect(said(check, { values: [0.4], typed: ['400'] })).toBe('400')
  })
})
