import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { rightFirstTime, wilson } from '../../../core/crew/first-time'
import { forecast, quantile, walkOf, type Walk } from '../../../core/crew/pace'
import { standingTime, standsOf } from '../../../core/crew/standing-time'
import type { Judgement } from '../../../core/judgement/types'
import { entry, read, T0, yes } from '../entries'

const MINUTE = 60_000

describe('a share with its interval', () => {
  // Wilson's interval at 95 %, worked through by hand from its formula
  it.each([
    [0, 10, 0, 0.2775],
    [5, 10, 0.2366, 0.7634],
    [10, 10, 0.7225, 1],
    [90, 100, 0.8256, 0.9448],
    [1, 1, 0.2065, 1],
  ])('%d of %d: %d to %d', (right, of, low, high) => {
    const share = wilson(right, of)
    expect([share.low, share.high]).toEqual([expect.closeTo(low, 4), expect.closeTo(high, 4)])
  })
  it('of none is no share, and may be anything', () =>
    expect(wilson(0, 0)).toEqual({ of: 0, right: 0, share: null, low: 0, high: 1 }))
  it('is no share where more are right than were made', () => expect(() => wilson(3, 2)).toThrow(RangeError))
  it('holds the share, and grows narrower with more of the same', () =>
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 50 }), fc.integer({ min: 1, max: 50 }), (right, more) => {
        const of = right + more
        const [few, many] = [wilson(right, of), wilson(right * 4, of * 4)]
        expect(few.low).toBeLessThanOrEqual(few.share! + 1e-12)
        expect(few.high).toBeGreaterThanOrEqual(few.share! - 1e-12)
        expect(many.high - many.low).toBeLessThan(few.high - few.low)
      }),
    ))
})

describe('right at the first try', () => {
  const judged = (more: Partial<Judgement> = {}, step: object = {}) =>
    ({
      ...{
        state: 'accepted',
        drafts: [],
        steps: [{ ncr: null, computed: null, state: 'accepted', ...step }],
      },
      ...more,
    }) as unknown as Judgement
  it('is what was accepted without a word', () => expect(rightFirstTime(judged(), [yes('a', 1)])).toBe(true))
  it.each([
    ['it is rejected', judged({ state: 'rejected' }), []],
    ['a report was raised', judged(), [entry('a', 'ncr', { event: 'raised', number: 'N-1' }, 2)]],
    ['a report stands at a step', judged({}, { ncr: { number: 'N-1' } }), []],
    ['a rejection was accepted by decision', judged({}, { computed: 'rejected' }), []],
    ['it had to be done again', judged(), [entry('a', 'decision', { verdict: 'again' }, 2)]],
    ['a release was refused', judged(), [entry('a', 'refusal', { reason: 'x' }, 2)]],
  ] as const)('is not where %s', (_why, judgement, entries) =>
    expect(rightFirstTime(judgement, entries)).toBe(false),
  )
  it('is where what was too close to call was accepted', () =>
    expect(
      rightFirstTime(judged({}, { computed: 'too-close' }), [
        entry('a', 'decision', { verdict: 'accept' }, 2),
      ]),
    ).toBe(true))
})

describe('when a crew comes to a point', () => {
  const walk = (minutes: number): Walk =>
    new Map([
      ['cut', 0],
      ['hold', minutes * MINUTE],
    ])
  const past = [20, 22, 24, 26, 28].map(walk)
  const at = (joints: readonly Walk[], now = T0) => forecast(joints, { key: 'cut', at: T0 }, 'hold', now)
  it('is the median of its last joints, with a span that holds most of them', () => {
    const found = at(past)!
    expect([found.at, found.of]).toEqual([T0 + 24 * MINUTE, 5])
    expect(found.from).toBeLessThan(T0 + 21 * MINUTE)
    expect(found.to).toBeGreaterThan(T0 + 27 * MINUTE)
  })
  it('is not said of fewer than four joints', () => expect(at(past.slice(0, 3))).toBeNull())
  it('is not in the past', () => {
    const late = at(past, T0 + 60 * MINUTE)!
    expect([late.from, late.at, late.to]).toEqual([T0 + 3_600_000, T0 + 3_600_000, T0 + 3_600_000])
  })
  it('leaves out a night, and a joint that never came there', () =>
    expect(at([...past, walk(900), new Map([['cut', 0]])])!.of).toBe(5))
  it('rests on the last twelve', () => {
    const old = Array.from({ length: 30 }, () => walk(200))
    expect(at([...Array.from({ length: 12 }, () => walk(10)), ...old])!.at).toBe(T0 + 10 * MINUTE)
  })
  it('reads a record by its first answers; a late entry tells no time', () => {
    const walk = walkOf([read('a', [1], 5), read('a', [1], 9), { ...yes('b', 7), late: true }, yes('c', 8)])
    expect([...walk]).toEqual([
      ['a', T0 + 5 * MINUTE],
      ['c', T0 + 8 * MINUTE],
    ])
  })
  it('a quantile lies between its neighbours in proportion', () =>
    expect([0, 0.25, 0.5, 1].map((q) => quantile([1, 2, 4, 8, 16], q))).toEqual([1, 2, 4, 16]))
})

describe('how long a crew stood', () => {
  const hour = 60 * MINUTE
  const ncr = (event: string, minute: number) => entry('a', 'ncr', { event, number: 'N-1' }, minute)
  it('is from a request to its answer, and from a report to its closing', () => {
    const stands = standsOf('j', [
      entry('hold', 'request', {}, 10),
      entry('hold', 'request', {}, 12),
      entry('hold', 'release', {}, 40),
      ncr('raised', 50),
      ncr('closed', 110),
    ])
    expect(standingTime(stands, T0, T0 + 5 * hour)).toMatchObject({
      ...{ release: 30 * MINUTE, ncr: 60 * MINUTE, weather: 0 },
    })
  })
  it('goes on while nobody answers', () =>
    expect(standingTime(standsOf('j', [entry('hold', 'request', {}, 0)]), T0, T0 + hour).release).toBe(hour))
  it('counts once what lies over each other, and only within the span', () => {
    const two = [
      ...standsOf('j', [entry('hold', 'request', {}, 0), entry('hold', 'release', {}, 60)]),
      ...standsOf('k', [entry('hold', 'request', {}, 30), entry('hold', 'refusal', { reason: 'x' }, 90)]),
    ]
    expect(standingTime(two, T0, T0 + 3 * hour).release).toBe(90 * MINUTE)
    expect(standingTime(two, T0 + 45 * MINUTE, T0 + hour).release).toBe(15 * MINUTE)
  })
})
