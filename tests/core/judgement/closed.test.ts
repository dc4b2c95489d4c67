import { describe, expect, it } from 'vitest'
import { judgeAhead, stateAt } from '../../../core/judgement/ahead'
import type { Entry } from '../../../core/record/entry'
import type { FactValue } from '../../../core/formula/formula'
import { entry, read, yes } from '../support'
import { at, facts, judged, small, step } from './support'

/** What cannot be worked out stays closed and says what is missing. */
const without = (key: string): Record<string, FactValue> =>
  Object.fromEntries(Object.entries(facts).filter(([k]) => k !== key))
/** without the hold point, so that nothing stands behind it */
const free = { plan: { before: null } }
const ines = { person: 'ines', role: 'inspector' as const }

describe('a figure that is missing', () => {
  it('keeps a clock that runs by itself closed, and its gate', () => {
    const list = [yes('joined', 10)]
    expect(step(list, 'cured', 500).state).toBe('accepted')
    expect(step(list, 'cured', 500, {}, without('site.air'))).toMatchObject({
      state: 'blocked',
      sentence: 'How long it takes cannot be worked out: air temperature is not known.',
    })
    expect(judged(list, 500, {}, without('site.air')).gates['pressure-test']).toEqual({
      open: false,
      until: null,
    })
  })
  it('and one beyond the table of the procedure too', () => {
    const cold = { ...facts, 'site.air': -5 }
    expect(step([yes('joined', 10)], 'cured', 5000, {}, cold)).toMatchObject({
      state: 'blocked',
      sentence: expect.stringContaining('outside the table'),
    })
  })
  it('cannot be accepted by a word', () => {
    const word = entry('cured', 'decision', { verdict: 'accept', reason: 'long enough' }, 600, ines)
    expect(
      step(
        [yes('joined', 10), entry('cured', 'clock', { answer: 'yes' }, 500), word],
        'cured',
        700,
        {},
        without('site.air'),
      ).state,
    ).toBe('blocked')
  })
  it.each<[string, Entry, RegExp]>([
    [
      'a mark',
      yes('marked', 3),
      /Where the mark belongs cannot be worked out: outside diameter is not known/,
    ],
    [
      'a count',
      entry('bolts', 'count', { count: 9 }, 3),
      /The limits cannot be worked out: outside diameter is not known/,
    ],
  ])('keeps %s open', (_what, e, sentence) => {
    expect(step([e], e.step!, 90, {}, facts).state).toBe('accepted')
    expect(step([e], e.step!, 90, {}, without('pipe.od'))).toMatchObject({
      state: 'blocked',
      sentence: expect.stringMatching(sentence),
    })
  })
  it('a condition on a fact that is not known does not apply', () => {
    expect(step([], 'rain', 90, {}, without('site.wet')).state).toBe('not-applicable')
    expect(step([], 'rain', 90, {}, { ...facts, 'site.wet': true }).state).not.toBe('not-applicable')
  })
  it('a lot with a life and no date is not accepted', () =>
    expect(step([entry('paste', 'lot', { lot: 'P1' }, 5)], 'paste', 90, free)).toMatchObject({
      state: 'not-started',
      sentence: 'Lot P1: give its date of production or expiry.',
    }))
})

describe('a lot is good', () => {
  const lot = (payload: object, minute = 5) =>
    step([entry('paste', 'lot', { lot: 'P1', ...payload }, minute)], 'paste').state
  // Entries are of 9 March 2026, 08:05 UTC.
  it.each([
    ['by months of the calendar, not by days: two years to the day', { made: '2024-03-09' }, 'accepted'],
    ['not a day longer', { made: '2024-03-08' }, 'rejected'],
    ['to the end of its printed day', { expires: '2026-03-09' }, 'accepted'],
    ['not the day after', { expires: '2026-03-08' }, 'rejected'],
    [
      'thirty days after it was opened, whenever it was made',
      { made: '2025-12-01', opened: '2026-02-07' },
      'accepted',
    ],
    ['not thirty-one', { made: '2025-12-01', opened: '2026-02-06' }, 'rejected'],
    ['by the first of its ends', { made: '2026-01-01', expires: '2026-03-01' }, 'rejected'],
  ])('%s', (_what, payload, state) => expect(lot(payload)).toBe(state))
  it('by the days of the place where the work is', () => {
    const list = [entry('paste', 'lot', { lot: 'P1', expires: '2026-03-08' }, -130)]
    // 05:50 UTC on the 9th is still the 8th on the west coast of America.
    expect(step(list, 'paste', 90, { zone: 'America/Los_Angeles' }).state).toBe('accepted')
    expect(step(list, 'paste', 90, { zone: 'UTC' }).state).toBe('rejected')
  })
  it('and in quarantine however its name is spelled', () => {
    const lots = {
      'P-1': {
        made: null,
        expires: '2027-01-01',
        opened: null,
        shelfMonths: null,
        openedDays: null,
        quarantinedAt: at(0),
        reason: 'lumps',
      },
    }
    for (const name of ['P-1', 'p-1', ' P‑1'.replace('‑', '-'), 'Ｐ-1', 'p-1\u200b'])
      expect(step([entry('paste', 'lot', { lot: name }, 5)], 'paste', 90, { lots }).state, name).toBe(
        'rejected',
      )
  })
})

describe('order by the times recorded', () => {
  it.each([
    ['wiped after peeled', [yes('peeled', 2), yes('wiped', 3)], 'accepted'],
    ['both at one moment', [yes('peeled', 2), yes('wiped', 2)], 'accepted'],
    ['wiped before peeled', [yes('wiped', 2), yes('peeled', 3)], 'rejected'],
    ['wiped and never peeled', [yes('wiped', 2)], 'blocked'],
    ['peeled once more after wiping', [yes('peeled', 1), yes('wiped', 2), yes('peeled', 3)], 'not-started'],
    [
      'wiped once more after that',
      [yes('peeled', 1), yes('wiped', 2), yes('peeled', 3), yes('wiped', 4)],
      'accepted',
    ],
  ])('%s', (_what, list, state) => expect(step(list, 'wiped').state).toBe(state))
  it('a step is not offered before those it waits for', () => {
    expect(step([], 'wiped')).toMatchObject({ state: 'blocked', sentence: 'First: Peeled.' })
    expect(judged([yes('peeled', 1)]).next).not.toBe('wiped')
  })
})

const upToHold = [
  read('gouge', [0.0001], 1),
  yes('peeled', 2),
  yes('wiped', 3),
  yes('marked', 4),
  entry('bolts', 'count', { count: 2 }, 5),
  yes('before', 6),
]
const request = (minute = 7) => entry('before', 'request', {}, minute)
const release = (minute = 8, kind: 'release' | 'waiver' = 'release', payload: Record<string, unknown> = {}) =>
  entry('before', kind, payload, minute, ines)

describe('a hold point', () => {
  it('is opened by a release that was asked for, with everything before it done', () =>
    expect(step([...upToHold, request(), release()], 'before').state).toBe('accepted'))
  it.each<[string, Entry[], string]>([
    ['not asked for', [...upToHold, release()], 'the request for it'],
    ['asked for afterwards', [...upToHold, release(), request(9)], ''],
    [
      'with an earlier step unanswered',
      [...upToHold.filter((e) => e.step !== 'wiped'), request(), release()],
      'Wiped',
    ],
    [
      'with an earlier step answered afterwards',
      [...upToHold.filter((e) => e.step !== 'wiped'), request(), release(), yes('wiped', 9)],
      'Wiped',
    ],
    [
      'with its own question unanswered',
      [...upToHold.filter((e) => e.step !== 'before'), request(), release()],
      'Before joining',
    ],
    [
      'by a waiver that does not name what is open',
      [
        ...upToHold.filter((e) => e.step !== 'wiped'),
        request(),
        release(8, 'waiver', { reason: 'x', waives: ['peeled'] }),
      ],
      'Wiped',
    ],
  ])('is not by one %s', (_what, list, named) => {
    const s = step(list, 'before')
    expect(s.state).toBe('held')
    expect(s.sentence).toContain(named)
    expect(judged([...list, yes('joined', 20)]).drafts.map((d) => d.kind)).toContain('past-hold')
  })
  it('is by a waiver that names it', () =>
    expect(
      step(
        [
          ...upToHold.filter((e) => e.step !== 'wiped'),
          release(8, 'waiver', { reason: 'x', waives: ['wiped'] }),
        ],
        'before',
      ).state,
    ).toBe('accepted'))
  it('is not by a waiver for a lot, nor by a late release', () => {
    expect(
      step([...upToHold, request(), release(8, 'waiver', { reason: 'x', lot: 'P1' })], 'before').state,
    ).toBe('held')
    expect(step([...upToHold, request(), { ...release(), late: true }], 'before').state).toBe('held')
  })
  it('passed is a nonconformance, also after a report at it was raised', () => {
    const past = (list: Entry[]) => judged(list).drafts.filter((d) => d.kind === 'past-hold')
    expect(past([...upToHold, yes('joined', 20)])).toHaveLength(1)
    const raised = entry('before', 'ncr', { event: 'raised', number: 'NCR-1' }, 21, ines)
    const closed = entry(
      'before',
      'ncr',
      { event: 'closed', number: 'NCR-1', disposition: 'rework' },
      22,
      ines,
    )
    expect(past([...upToHold, yes('joined', 20), raised, closed])).toHaveLength(0)
    expect(
      past([...upToHold, yes('joined', 20), raised, closed, entry('off', 'clock', { answer: 'yes' }, 55)]),
    ).toHaveLength(1)
  })
  it('that the plan takes away holds nothing; one that it adds does', () => {
    expect(judged([...upToHold, yes('joined', 20)], 90, { plan: { before: null } }).drafts).toEqual([])
    expect(step([], 'gouge', 90, { plan: { gouge: 'H' } }).point).toBe('H')
  })
  it('that does not apply holds nothing', () => {
    const plan = { rain: 'H' as const }
    expect(judged([...upToHold, request(), release(), yes('joined', 20)], 90, { plan }).drafts).toEqual([])
  })
})

describe('clocks', () => {
  const off = (minute: number) =>
    step([yes('joined', 10), entry('off', 'clock', { answer: 'yes' }, minute)], 'off').state
  it.each([
    [39.99, 'rejected'],
    [40, 'accepted'],
    [70, 'accepted'],
    [70.01, 'rejected'],
  ])('taken off at minute %d', (minute, state) => expect(off(minute)).toBe(state))
  it('is overdue after the latest time, not at it', () => {
    expect(step([yes('joined', 10)], 'off', 70, free).state).toBe('not-started')
    expect(step([yes('joined', 10)], 'off', 70.001).state).toBe('overdue')
    expect(judged([yes('joined', 10)], 71).state).toBe('rejected')
  })
  it('runs from a start that was rejected too', () =>
    expect(step([entry('joined', 'confirmation', { answer: 'no' }, 10)], 'off', 20).state).toBe('waiting'))
  it('the gate of the test is closed before the start', () =>
    expect(judged([], 90).gates['pressure-test']).toEqual({ open: false, until: null }))
  it('what is stored knows the first change and every later one', () => {
    const { judgement, changes } = judgeAhead(small, facts, [yes('joined', 10)], at(11))
    const stored = { state: judgement.state, changes }
    for (const minute of [11, 39, 40, 70, 70.1, 75, 5000])
      expect(stateAt(stored, at(minute)), String(minute)).toBe(judged([yes('joined', 10)], minute).state)
    // Too late to take off the clamps after an hour, although the cure runs on.
    expect(stateAt(stored, at(70.1))).toBe('rejected')
  })
})

describe('a late entry', () => {
  const late = (e: Entry, receivedAt?: number): Entry => ({
    ...e,
    late: true,
    ...(receivedAt === undefined ? {} : { receivedAt }),
  })
  const word = (key: string, minute = 100) =>
    entry(key, 'decision', { verdict: 'accept', reason: 'I stood there' }, minute, ines)
  it('satisfies no clock by itself, but with an inspector’s word', () => {
    const off = late(entry('off', 'clock', { answer: 'yes' }, 45))
    expect(step([yes('joined', 10), off], 'off').state).toBe('held')
    expect(step([yes('joined', 10), off, word('off')], 'off').state).toBe('accepted')
    expect(step([yes('joined', 10), late(entry('off', 'clock', { answer: 'yes' }, 20))], 'off').state).toBe(
      'rejected',
    )
  })
  it('as a start satisfies none either', () => {
    const list = [late(yes('joined', 10)), entry('off', 'clock', { answer: 'yes' }, 45)]
    expect(step(list, 'off').state).toBe('held')
    expect(step([...list, word('joined')], 'off').state).toBe('accepted')
  })
  it('as a start is counted from its arrival where time must have passed', () => {
    const list = [late(yes('joined', 10), at(100))]
    expect(step(list, 'cured', 100 + 59).state).toBe('waiting')
    expect(step(list, 'cured', 100 + 60).state).toBe('accepted')
    expect(step([late(yes('joined', 10))], 'cured', 5000)).toMatchObject({
      state: 'blocked',
      sentence: expect.stringContaining('its start was recorded late'),
    })
    expect(step([late(yes('joined', 10)), word('joined', 20)], 'cured', 5000).state).toBe('accepted')
  })
  it('satisfies no shelf life by itself', () => {
    const used = (receivedAt?: number) =>
      step([late(entry('paste', 'lot', { lot: 'P1', expires: '2026-03-09' }, 5), receivedAt)], 'paste').state
    expect([used(), used(at(60)), used(at(60 * 24))]).toEqual(['held', 'accepted', 'held'])
  })
  it('otherwise counts as it is', () =>
    expect(step([late(read('gouge', [0.0001], 1))], 'gouge').state).toBe('accepted'))
})
