import { describe, expect, it } from 'vitest'
import {
  between,
  crossing,
  highestOf,
  lowestOf,
  meanOf,
  valueAt,
  type Point,
} from '../../../core/pressure/curve'
import { timeUnit } from '../../../core/pressure/time-unit'

const curve = (...points: [t: number, v: number][]): Point[] => points.map(([t, v]) => ({ t, v }))
const line = curve([10, 100], [20, 120], [40, 60])

describe('a curve', () => {
  it.each([
    ['at a point', 20, 120],
    ['between two', 15, 110],
    ['between two that fall', 35, 75],
    ['at its beginning', 10, 100],
    ['at its end', 40, 60],
    ['before it', 9.9, null],
    ['after it', 40.1, null],
  ])('%s', (_what, t, v) => expect(valueAt(line, t)).toBe(v))
  it('between two times has its values at both', () => {
    expect(between(line, 15, 35)).toEqual(curve([15, 110], [20, 120], [35, 75]))
    expect(between(line, 20, 40)).toEqual(curve([20, 120], [40, 60]))
  })
  it('only as far as it goes', () => {
    expect(between(line, 0, 25)).toEqual(curve([10, 100], [20, 120], [25, 105]))
    expect(between(line, 30, 90)).toEqual(curve([30, 90], [40, 60]))
    expect(between([], 0, 90)).toEqual([])
  })
  it('at one time is one point', () => expect(between(line, 15, 15)).toEqual(curve([15, 110])))
  it('has its lowest, its highest, and its mean over time', () => {
    expect([lowestOf(line), highestOf(line)]).toEqual([60, 120])
    // (110 · 10 + 90 · 20) / 30
    expect(meanOf(line)).toBeCloseTo(2900 / 30, 9)
    expect(meanOf(curve([5, 7]))).toBe(7)
  })
})

describe('a level is passed', () => {
  it.each<[string, number, boolean, number | null]>([
    ['going up', 110, false, 15],
    ['going down', 90, true, 30],
    ['going up, at a point of it', 120, false, 20],
    ['going down, at its last point', 60, true, 40],
    ['not at all: it never was so high', 121, false, null],
    ['not at all: it never came so low', 59, true, null],
  ])('%s', (_what, level, down, t) => expect(crossing(line, 0, level, down)).toBe(t))
  it('from a point on, whatever was before', () => {
    const twice = curve([0, 0], [10, 100], [20, 0], [30, 100])
    expect(crossing(twice, 0, 50, false)).toBe(5)
    expect(crossing(twice, 2, 50, false)).toBe(25)
  })
  it('at the point it starts from, where it leaves it there', () => {
    expect(crossing(curve([0, 100], [10, 90]), 0, 100, true)).toBe(0)
    expect(crossing(curve([0, 100], [10, 100], [20, 80]), 0, 100, true)).toBeNull()
    expect(crossing(curve([0, 100], [10, 110], [20, 90]), 0, 100, true)).toBe(0)
  })
})

it.each([
  [59, 'seconds', 1],
  [300, 'seconds', 1],
  [301, 'minutes', 60],
  [7200, 'minutes', 60],
  [7201, 'hours', 3600],
])('a test of %d s is read in %s', (seconds, name, of) => expect(timeUnit(seconds)).toEqual({ name, of }))
