import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { calibratedAt, instrumentFault } from '../../../core/checks/instruments'
import { conceded, lookThrough, ncrOf, releaseOf } from '../../../core/judgement/decisions'
import { standing } from '../../../core/judgement/standing'
import { inOrder } from '../../../core/record/order'
import type { InstrumentFacts } from '../../../core/checks/verdict'
import type { Entry, EntryKind } from '../../../core/record/entry'

const at = (
  id: number,
  kind: EntryKind,
  payload: Record<string, unknown> = {},
  more: Partial<Entry> = {},
): Entry => ({
  id: String(id).padStart(4, '0'),
  kind,
  step: 's',
  payload,
  person: 'tam',
  role: 'crew-lead',
  crew: null,
  instrument: null,
  recordedAt: id * 1000,
  ...more,
})

describe('entries that stand', () => {
  const strikes = (id: number, struck: number) =>
    at(id, 'correction', { strikes: String(struck).padStart(4, '0'), reason: 'wrong' })
  it('a struck entry does not, nor its correction', () =>
    expect(standing([at(1, 'reading'), at(2, 'reading'), strikes(3, 1)]).map((e) => e.id)).toEqual(['0002']))
  it('a correction that is struck strikes nothing', () =>
    expect(standing([at(1, 'reading'), strikes(2, 1), strikes(3, 2)]).map((e) => e.id)).toEqual(['0001']))
  it('are the same whatever order they came in', () => {
    const all = [
      at(1, 'reading'),
      at(2, 'reading'),
      strikes(3, 1),
      at(4, 'remark'),
      strikes(5, 3),
      strikes(6, 2),
    ]
    fc.assert(
      fc.property(fc.shuffledSubarray(all, { minLength: all.length }), (mixed) => {
        expect(standing(mixed).map((e) => e.id)).toEqual(standing(all).map((e) => e.id))
      }),
    )
  })
  it('of one moment go by their ids', () =>
    expect(
      inOrder([at(2, 'reading', {}, { recordedAt: 5 }), at(1, 'reading', {}, { recordedAt: 5 })]).map(
        (e) => e.id,
      ),
    ).toEqual(['0001', '0002']))
})

describe('what stands at a step', () => {
  it('the last answer counts, remarks and photos do not', () =>
    expect(lookThrough([at(1, 'reading'), at(2, 'reading'), at(3, 'remark'), at(4, 'photo')]).last?.id).toBe(
      '0002',
    ))
  it('the last answer of somebody else stands beside it', () =>
    expect(lookThrough([at(1, 'reading', {}, { person: 'ines' }), at(2, 'reading')])).toMatchObject({
      last: { id: '0002' },
      other: { id: '0001' },
    }))
  it('a decision counts only while nothing was answered since', () => {
    expect(lookThrough([at(1, 'reading'), at(2, 'decision')]).decision?.id).toBe('0002')
    expect(lookThrough([at(1, 'reading'), at(2, 'decision'), at(3, 'reading')]).decision).toBeNull()
  })
  it('after a nonconformance only what was done since counts', () => {
    const raised = at(2, 'ncr', { event: 'raised', number: 'NCR-1' })
    expect(lookThrough([at(1, 'reading'), raised]).last).toBeNull()
    expect(lookThrough([at(1, 'reading'), raised, at(3, 'reading')]).last?.id).toBe('0003')
  })
})

describe('a nonconformance at a step', () => {
  const raised = at(1, 'ncr', { event: 'raised', number: 'NCR-1' })
  const closed = (disposition: string) => at(2, 'ncr', { event: 'closed', number: 'NCR-1', disposition })
  it.each([
    [[], null],
    [[raised], { open: true, disposition: null }],
    [[raised, closed('rework')], { open: false, disposition: 'rework' }],
  ])('%#', (entries, state) =>
    state === null ? expect(ncrOf(entries)).toBeNull() : expect(ncrOf(entries)).toMatchObject(state),
  )
  it('another report closed does not close this one', () =>
    expect(ncrOf([raised, at(2, 'ncr', { event: 'closed', number: 'NCR-2' })])?.open).toBe(true))
  it.each([
    ['use-as-is', true],
    ['rework', false],
  ])('closed with %s is a concession: %s', (disposition, is) =>
    expect(conceded(ncrOf([raised, closed(disposition)]))).toBe(is),
  )
})

describe('a hold point', () => {
  it.each([
    ['request', 'requested'],
    ['release', 'released'],
    ['refusal', 'refused'],
    ['waiver', 'waived'],
  ] as const)('stands by its last %s', (kind, state) =>
    expect(releaseOf([at(1, 'request'), at(2, kind, { reason: 'r' }), at(3, 'remark')])).toMatchObject({
      state,
      at: kind === 'request' ? 2000 : 2000,
    }),
  )
  it('asked again after a refusal, it waits again', () =>
    expect(releaseOf([at(1, 'request'), at(2, 'refusal', { reason: 'x' }), at(3, 'request')]).state).toBe(
      'requested',
    ))
})

describe('an instrument', () => {
  const tool: InstrumentFacts = {
    name: 'M-4',
    uncertainty: 0.1,
    min: 0,
    max: 25,
    calibrated: [
      { from: 1000, until: 2000 },
      { from: 3000, until: 4000 },
    ],
  }
  it.each([
    [999, false],
    [1000, true],
    [2000, true],
    [2001, false],
    [2999, false],
    [3500, true],
    [4001, false],
  ])('at %i is in calibration: %s', (when, is) => expect(calibratedAt(tool, when)).toBe(is))
  it.each([
    [[25], 1500, null],
    [[25.01], 1500, 'outside the range'],
    [[-0.01], 1500, 'outside the range'],
    [[5], 2500, 'out of calibration'],
    [[5, 30], 3500, 'outside the range'],
  ])('readings %j at %i', (values, when, why) =>
    why === null
      ? expect(instrumentFault(tool, values, when)).toBeNull()
      : expect(instrumentFault(tool, values, when)).toContain(why),
  )
  it('one that nobody registered does not count', () =>
    expect(instrumentFault(undefined, [1], 1500)).toContain('not in the register'))
})
