import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { addMonths, shelfEnd, shelfState, type LotDates } from '../../../core/lots/shelf-life'
import { judge } from '../../../core/judgement/judge'
import type { JudgeOptions } from '../../../core/judgement/types'
import type { LotFacts } from '../../../core/checks/verdict'
import type { Entry } from '../../../core/record/entry'
import { loadSystem } from '../../../demo/system-records'

const dates = (more: Partial<LotDates> = {}): LotDates => ({
  made: null,
  expires: null,
  opened: null,
  shelfMonths: null,
  openedDays: null,
  ...more,
})
const day = (at: number | undefined) => (at === undefined ? null : new Date(at).toISOString().slice(0, 10))

describe('shelf life', () => {
  it.each([
    [dates({ expires: '2026-12-01' }), '2026-12-01', 'printed expiry'],
    [dates({ made: '2026-01-31', shelfMonths: 1 }), '2026-02-28', 'shelf life from production'],
    [dates({ opened: '2026-03-01', openedDays: 30 }), '2026-03-31', 'life after opening'],
    [dates({ made: '2025-01-01', shelfMonths: 24, expires: '2026-12-01' }), '2026-12-01', 'printed expiry'],
    [
      dates({ made: '2024-06-01', shelfMonths: 24, expires: '2026-12-01' }),
      '2026-06-01',
      'shelf life from production',
    ],
    [
      dates({
        made: '2024-06-01',
        shelfMonths: 24,
        expires: '2026-12-01',
        opened: '2026-03-01',
        openedDays: 30,
      }),
      '2026-03-31',
      'life after opening',
    ],
  ])('ends with the earliest: %o', (lot, end, why) =>
    expect([day(shelfEnd(lot, 'UTC')?.at), shelfEnd(lot, 'UTC')?.why]).toEqual([end, why]),
  )
  it.each([dates(), dates({ made: '2026-01-01' }), dates({ opened: '2026-01-01' })])(
    'nothing to go by, no end',
    (lot) => expect(shelfEnd(lot, 'UTC')).toBeNull(),
  )
  it.each([
    ['2026-01-31', 1, '2026-02-28'],
    ['2024-01-31', 1, '2024-02-29'],
    ['2026-11-15', 3, '2027-02-15'],
    ['2026-05-31', 24, '2028-05-31'],
    ['2024-02-29', 12, '2025-02-28'],
  ])('%s and %i months is %s', (from, months, to) => expect(addMonths(from, months)).toBe(to))
  it('a date is good to its end, then is not; warned of before', () => {
    const end = shelfEnd(dates({ expires: '2026-12-01' }), 'UTC')
    const at = (text: string) => shelfState(end, Date.parse(text), 30)
    expect([
      at('2026-10-01T00:00Z'),
      at('2026-11-15T00:00Z'),
      at('2026-12-01T23:59Z'),
      at('2026-12-02T00:00Z'),
      shelfState(null, 0),
    ]).toEqual(['good', 'soon', 'soon', 'expired', 'unlimited'])
  })
  it.each([
    ['UTC', '2026-12-01T23:59:59.999Z'],
    ['Pacific/Auckland', '2026-12-01T10:59:59.999Z'],
    ['America/Anchorage', '2026-12-02T08:59:59.999Z'],
  ])('a day ends where the work is: %s', (zone, end) =>
    expect(new Date(shelfEnd(dates({ expires: '2026-12-01' }), zone)!.at).toISOString()).toBe(end),
  )
  it('one more date never makes it longer', () => {
    const some = fc
      .date({ min: new Date('2020-01-01'), max: new Date('2030-01-01'), noInvalidDate: true })
      .map((d) => d.toISOString().slice(0, 10))
    fc.assert(
      fc.property(some, some, some, (expires, made, opened) => {
        const less = shelfEnd(dates({ expires }), 'UTC')!.at
        expect(
          shelfEnd(dates({ expires, made, shelfMonths: 12, opened, openedDays: 30 }), 'UTC')!.at,
        ).toBeLessThanOrEqual(less)
      }),
    )
  })
})

describe('a lot used at a step', () => {
  const { compiled, facts } = loadSystem('cpvc-solvent-weld')
  const T = Date.UTC(2026, 5, 1, 9)
  const entry = (
    id: string,
    kind: Entry['kind'],
    payload: Record<string, unknown>,
    at: number,
    role: Entry['role'] = 'crew-lead',
  ): Entry => ({
    id,
    kind,
    step: 'cement',
    payload,
    person: role,
    role,
    crew: null,
    instrument: null,
    recordedAt: at,
  })
  const register = (more: Partial<LotFacts>): JudgeOptions => ({
    lots: {
      'CE-1': {
        made: null,
        expires: null,
        opened: null,
        shelfMonths: null,
        openedDays: null,
        quarantinedAt: null,
        reason: null,
        ...more,
      },
    },
  })
  const step = (entries: Entry[], options: JudgeOptions = {}) =>
    judge(compiled, facts as never, entries, T + 60_000, options).steps.find((s) => s.key === 'cement')!
  const used = entry('1', 'lot', { lot: 'CE-1' }, T)
  const old = entry('1', 'lot', { lot: 'CE-1', expires: '2026-05-01' }, T)

  it('is judged by the date typed', () =>
    expect([
      step([old]).state,
      step([entry('1', 'lot', { lot: 'CE-1', expires: '2026-07-01' }, T)]).state,
    ]).toEqual(['rejected', 'accepted']))
  it('is judged by the register where nothing was typed', () => {
    expect(step([used], register({ expires: '2026-05-01' }))).toMatchObject({
      state: 'rejected',
      sentence: expect.stringContaining('not used without a waiver'),
    })
    expect(step([used], register({ made: '2024-05-01', shelfMonths: 24 })).state).toBe('rejected')
    expect(step([used], register({ made: '2024-07-01', shelfMonths: 24 })).state).toBe('accepted')
  })
  it('the earlier of typed and registered counts', () =>
    expect(
      step(
        [entry('1', 'lot', { lot: 'CE-1', expires: '2027-01-01' }, T)],
        register({ expires: '2026-05-01' }),
      ).state,
    ).toBe('rejected'))
  it('is used past its date only by a waiver that names it', () => {
    const waiver = (lot: string) =>
      entry('2', 'waiver', { lot, reason: 'Tested by the maker yesterday.' }, T + 1000, 'inspector')
    expect(step([old, waiver('CE-1')])).toMatchObject({
      state: 'accepted',
      computed: 'rejected',
      sentence: expect.stringContaining('by waiver: Tested by the maker yesterday.'),
    })
    expect(step([old, waiver('CE-2')]).state).toBe('rejected')
  })
  it('drafts a nonconformance, and with a waiver none', () => {
    const drafts = (entries: Entry[]) => judge(compiled, facts as never, entries, T + 60_000).drafts.length
    expect([
      drafts([old]),
      drafts([old, entry('2', 'waiver', { lot: 'CE-1', reason: 'x' }, T + 1000, 'inspector')]),
    ]).toEqual([1, 0])
  })
  it('quarantine stops what is used from then on, and no waiver helps', () => {
    const held = (at: number) => register({ quarantinedAt: at, reason: 'lumps' })
    expect(step([used], held(T - 1000))).toMatchObject({
      state: 'rejected',
      sentence: expect.stringContaining('quarantine: lumps'),
    })
    expect(step([used], held(T + 1000)).state).toBe(step([used]).state)
    expect(
      step([used, entry('2', 'waiver', { lot: 'CE-1', reason: 'x' }, T + 1000, 'inspector')], held(T - 1000))
        .state,
    ).toBe('rejected')
  })
})
