import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { holeInHold } from '../../../core/pressure/holes'

/** A log that has no reading where the test is judged says nothing of what happened there. */
const rows = (times: readonly number[]) =>
  times.map((t) => ({ t, pressure: 5e5, pipe: null, air: null, makeup: null }))
/** a reading every ten seconds, but none in these stretches */
const log = (...without: [from: number, to: number][]) =>
  rows(
    Array.from({ length: 361 }, (_v, i) => i * 10).filter((t) => !without.some(([a, b]) => t > a && t < b)),
  )
const hold = [{ from: 600, to: 3000 }]

describe('a hole in the hold', () => {
  it.each([
    ['none where every reading is there', log(), null],
    ['none before the hold', log([100, 500]), null],
    ['none after it', log([3100, 3500]), null],
    ['one inside', log([1000, 1400]), { from: 1000, to: 1400 }],
    ['one across its begin', log([400, 700]), { from: 400, to: 700 }],
    ['one across its end', log([2900, 3300]), { from: 2900, to: 3300 }],
    ['the longest of several', log([700, 900], [1000, 1600]), { from: 1000, to: 1600 }],
    ['none of a minute', log([1000, 1060]), null],
    ['one of a little more', log([1000, 1070]), { from: 1000, to: 1070 }],
  ])('%s', (_what, log, want) => expect(holeInHold(log, hold)).toEqual(want))

  it('of readings typed every quarter of an hour is longer than that', () => {
    const quarters = rows([0, 900, 1800, 2700, 3600, 9000])
    expect(holeInHold(quarters, [{ from: 0, to: 9000 }])).toEqual({ from: 3600, to: 9000 })
    expect(holeInHold(rows([0, 900, 1800, 3600]), [{ from: 0, to: 3600 }])).toBeNull()
  })
  it('in a pause is none, and one that reaches out of it is', () => {
    const pauses = [{ from: 1000, to: 1400 }]
    expect(holeInHold(log([1000, 1400]), hold, pauses)).toBeNull()
    expect(holeInHold(log([1000, 1500]), hold, pauses)).toEqual({ from: 1000, to: 1500 })
    expect(holeInHold(log([1000, 1400]), hold, [{ from: 900, to: Infinity }])).toBeNull()
  })
  it('is the same whenever the log began', () => {
    fc.assert(
      fc.property(fc.integer({ min: -5000, max: 5000 }), (by) => {
        const moved = log([1000, 1400]).map((r) => ({ ...r, t: r.t + by }))
        const found = holeInHold(moved, [{ from: 600 + by, to: 3000 + by }])
        expect(found).toEqual({ from: 1000 + by, to: 1400 + by })
      }),
    )
  })
})
