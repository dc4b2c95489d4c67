import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { lacksQualification, qualifiedOn, type Qualification } from '../../../core/crew/qualification'
import { shiftReport, type ShiftWork } from '../../../core/crew/shift-report'
import { checkShiftSignature, shiftStateOf, signaturesOf } from '../../../core/crew/shift-signing'
import type { Entry } from '../../../core/record/entry'

const FROM = Date.parse('2026-03-09T00:00:00Z')
const TO = FROM + 86_400_000
let n = 0
const entry = (kind: Entry['kind'], hour: number, more: Partial<Entry> = {}) =>
  ({
    ...{ id: `00000000-0000-7000-8000-${String(++n).padStart(12, '0')}`, kind, step: 'a', payload: {} },
    ...{ recordedAt: FROM + hour * 3_600_000, person: 'tam', role: 'crew-lead', ...more },
  }) as unknown as Entry

describe('the report of a shift', () => {
  const work = (entries: Entry[], more: Partial<ShiftWork> = {}): ShiftWork => ({
    ...{ id: 'j1', name: 'RM-001', of: 'joint', procedure: 'Electrofusion', state: 'accepted', right: true },
    ...{ faults: [], titles: { a: 'Scrape', b: 'Clamp' }, entries, judged: null, ...more },
  })
  const report = (...all: ShiftWork[]) =>
    shiftReport({ id: 'c', name: 'Crew' }, '2026-03-09', { from: FROM, to: TO }, all)
  it('counts what was recorded on the day, and nothing of another', () => {
    const {
      work: rows,
      photos,
      late,
    } = report(
      work([
        entry('reading', -1),
        entry('reading', 8),
        entry('photo', 9),
        entry('photo', 25),
        entry('reading', 10, { late: true }),
      ]),
    )
    expect(rows[0]).toMatchObject({ name: 'RM-001', answers: 3 })
    expect([photos, late]).toEqual([1, 1])
  })
  it('says where the crew stood, at what and for how long, within the day', () => {
    const { stands, standing } = report(
      work([entry('request', -2, { step: 'b' }), entry('release', 2, { step: 'b' })]),
      work([entry('request', 23, { step: 'a' })], { id: 'j2', name: 'RM-002' }),
    )
    expect(stands.map((s) => [s.at, s.step, s.to === null])).toEqual([
      ['RM-001', 'Clamp', false],
      ['RM-002', 'Scrape', true],
    ])
    expect(standing.release).toBe(3 * 3_600_000)
  })
  it('names lots and reports once, in order', () => {
    const raised = (number: string) => entry('ncr', 9, { payload: { event: 'raised', number } })
    const { lots, ncrs } = report(
      work([
        ...['L-2', 'L-1', 'L-2'].map((lot) => entry('lot', 8, { payload: { lot } })),
        ...[
          raised('NCR-9'),
          raised('NCR-9'),
          entry('ncr', 9, { payload: { event: 'closed', number: 'NCR-1' } }),
        ],
      ]),
    )
    expect([lots, ncrs]).toEqual([['L-1', 'L-2'], ['NCR-9']])
  })
  it('counts the lifts of a reach', () =>
    expect(
      report(work([entry('lift', 8), entry('lift', 9), entry('lift', 30)], { of: 'reach' })).work[0]!.lifts,
    ).toBe(2))
})

describe('who signs a shift', () => {
  const signature = (person: string, role: string, report: string) =>
    entry('signature', 18, { person, role: role as never, payload: { report, until: TO, name: person } })
  const lead = signature('tam', 'crew-lead', 'r1')
  const check = (entries: Entry[], person: string, role: string, report = 'r1') => {
    try {
      checkShiftSignature(signaturesOf(entries), { person, role, report })
      return null
    } catch (error) {
      return (error as { code: string }).code
    }
  }
  it.each<[string, Entry[], string, string, string, string | null]>([
    ['the crew lead begins', [], 'tam', 'crew-lead', 'r1', null],
    ['an inspector does not', [], 'ines', 'inspector', 'r1', 'not-yet'],
    ['then an inspector follows', [lead], 'ines', 'inspector', 'r1', null],
    ['but not when the record has moved on', [lead], 'ines', 'inspector', 'r2', 'moved'],
    ['nor for both sides', [lead], 'tam', 'inspector', 'r1', 'own-work'],
    ['the crew lead may sign anew', [lead], 'tam', 'crew-lead', 'r2', null],
  ])('%s', (_what, entries, person, role, report, code) =>
    expect(check(entries, person, role, report)).toBe(code),
  )
  it('a crew lead who signs anew asks the inspector anew', () => {
    const both = [lead, signature('ines', 'inspector', 'r1')]
    expect(shiftStateOf(signaturesOf(both))).toBe('signed')
    expect(shiftStateOf(signaturesOf([...both, signature('tam', 'crew-lead', 'r2')]))).toBe('led')
    expect(shiftStateOf(signaturesOf([]))).toBe('open')
  })
})

describe('a qualification', () => {
  const of = (since: string, until: string | null, procedure = 'ef'): Qualification => ({
    ...{ person: 'p', procedure, since, until, by: 'x' },
  })
  const on = '2026-03-09'
  it.each<[string, Qualification[], string, string | null]>([
    ['none', [], 'none', null],
    ['of another procedure is none', [of('2026-01-01', null, 'sw')], 'none', null],
    ['counts on its first day', [of(on, null)], 'valid', null],
    ['and on its last', [of('2025-01-01', on)], 'valid', on],
    ['the day after it is over', [of('2025-01-01', '2026-03-08')], 'expired', '2026-03-08'],
    ['of tomorrow does not count yet', [of('2026-03-10', null)], 'not-yet', '2026-03-10'],
    [
      'renewed it counts',
      [of('2024-01-01', '2025-01-01'), of('2026-01-01', '2027-01-01')],
      'valid',
      '2027-01-01',
    ],
    [
      'the last that ended is said',
      [of('2022-01-01', '2023-01-01'), of('2024-01-01', '2025-01-01')],
      'expired',
      '2025-01-01',
    ],
  ])('%s', (_what, all, state, day) => expect(qualifiedOn(all, 'ef', on)).toEqual({ state, day }))
  it('lacks something unless it is valid', () => {
    for (const state of ['expired', 'not-yet', 'none'] as const)
      expect(lacksQualification({ state, day: on }, 'Electrofusion')).toContain('Electrofusion')
    expect(lacksQualification({ state: 'valid', day: null }, 'Electrofusion')).toBeNull()
  })
  it('more certificates never take one away', () => {
    const day = fc
      .integer({ min: 0, max: 900 })
      .map((d) => new Date(FROM + d * 864e5).toISOString().slice(0, 10))
    const one = fc.tuple(day, fc.option(day)).map(([a, b]) => of(a, b !== null && b < a ? a : b))
    fc.assert(
      fc.property(fc.array(one), one, day, (all, more, at) => {
        if (qualifiedOn(all, 'ef', at).state === 'valid')
          expect(qualifiedOn([...all, more], 'ef', at).state).toBe('valid')
      }),
    )
  })
})
