import { describe, expect, it } from 'vitest'
import {
  eventAt,
  holdEnd,
  pausesOf,
  reachedAt,
  readEvents,
  steepestFall,
  unpaused,
  type TestEvent,
  type TestEventKind,
} from '../../../core/pressure/events'

const events = (...list: [t: number, kind: TestEventKind][]): TestEvent[] =>
  list.map(([t, kind]) => ({ t, kind }))
const points = (...list: [t: number, v: number][]) => list.map(([t, v]) => ({ t, v }))

describe('events', () => {
  it('are read in the order of their times', () =>
    expect(
      readEvents([
        { t: 20, kind: 'end' },
        { t: 5, kind: 'reached' },
      ]),
    ).toEqual(events([5, 'reached'], [20, 'end'])))
  it('may be none', () => expect([readEvents(undefined), readEvents(null)]).toEqual([[], []]))
  it.each([
    ['no list', {}, 'Events must be a list.'],
    ['one that is nothing', [null], 'Event 1 has no time.'],
    ['one without a time', [{ t: 1, kind: 'end' }, { kind: 'end' }], 'Event 2 has no time.'],
    ['a time that is none', [{ t: Infinity, kind: 'end' }], 'Event 1 has no time.'],
    ['a kind that nobody knows', [{ t: 1, kind: 'stop' }], /Event 1 must be one of reached, pump-off/],
  ])('%s is refused', (_what, raw, says) => expect(() => readEvents(raw)).toThrow(says))
  it('the first of a kind from a time on is found', () => {
    const list = events([1, 'paused'], [5, 'paused'], [9, 'end'])
    expect([eventAt(list, 'paused'), eventAt(list, 'paused', 5), eventAt(list, 'paused', 6)]).toEqual([
      ...[1, 5],
      null,
    ])
  })
})

describe('pauses', () => {
  it('run from a pause to where it went on', () =>
    expect(pausesOf(events([10, 'paused'], [20, 'resumed'], [30, 'paused'], [35, 'resumed']))).toEqual([
      { from: 10, to: 20 },
      { from: 30, to: 35 },
    ]))
  it('said twice is one; going on unasked is none', () => {
    expect(pausesOf(events([10, 'paused'], [12, 'paused'], [20, 'resumed'], [22, 'resumed']))).toEqual([
      { from: 10, to: 20 },
    ])
    expect(pausesOf(events([5, 'resumed']))).toEqual([])
  })
  it('that is not over runs on', () =>
    expect(pausesOf(events([10, 'paused']))).toEqual([{ from: 10, to: Infinity }]))
  it.each<[string, [number, number][], number]>([
    ['none', [], 160],
    ['one within', [[120, 130]], 170],
    [
      'two within',
      [
        [110, 120],
        [130, 140],
      ],
      180,
    ],
    ['one before it began', [[50, 100]], 160],
    ['one that was over just then counts from there', [[90, 110]], 170],
    ['one after it was over', [[160, 200]], 160],
    [
      'one that only counts because another came',
      [
        [110, 130],
        [170, 175],
      ],
      185,
    ],
    ['one that is open', [[120, Infinity]], Infinity],
  ])('a hold of a minute with %s', (_what, pauses, end) =>
    expect(
      holdEnd(
        100,
        60,
        pauses.map(([from, to]) => ({ from, to })),
      ),
    ).toBe(end),
  )
  it('what was read within one is left out, at its ends not', () =>
    expect(unpaused(points([1, 1], [2, 2], [3, 3], [4, 4]), [{ from: 1, to: 3 }]).map((p) => p.t)).toEqual([
      1, 3, 4,
    ]))
})

describe('the pressure is there', () => {
  const rising = points([0, 0], [10, 90], [20, 99], [30, 100])
  it('when somebody says so', () => expect(reachedAt(events([7, 'reached']), rising, 100, 1)).toBe(7))
  it('else when the gauge shows it, as sure as it is', () => {
    expect(reachedAt([], rising, 100, 0)).toBe(30)
    expect(reachedAt([], rising, 100, 1)).toBe(20)
    expect(reachedAt([], rising, 120, 1)).toBeNull()
  })
})

describe('the steepest fall', () => {
  it('goes from its top to its foot', () =>
    expect(steepestFall(points([0, 100], [60, 99], [120, 60], [180, 40], [240, 39]), 0, 20)).toEqual(
      points([60, 99], [180, 40]),
    ))
  it('is looked for from a time on, and must be large enough', () => {
    const list = points([0, 100], [60, 50], [120, 49], [180, 30])
    expect(steepestFall(list, 100, 15)).toEqual(points([120, 49], [180, 30]))
    expect(steepestFall(list, 100, 20)).toBeNull()
    expect(steepestFall(list, 100, 19)).toEqual(points([120, 49], [180, 30]))
  })
  it('is one of ten minutes at most', () => {
    expect(steepestFall(points([0, 100], [601, 50]), 0, 20)).toBeNull()
    expect(steepestFall(points([0, 100], [600, 50]), 0, 20)).toEqual(points([0, 100], [600, 50]))
  })
  it('takes in what falls nearly as fast before and after, for those ten minutes', () => {
    const even = points(...Array.from({ length: 30 }, (_v, i): [number, number] => [i * 60, 300 - 10 * i]))
    const [top, foot] = steepestFall(even, 0, 50)!
    expect(foot.t - top.t).toBe(600)
  })
})
