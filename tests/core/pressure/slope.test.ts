import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { evenly, robustSlope } from '../../../core/pressure/slope'

const line = (count: number, step: number, v: (t: number) => number) =>
  Array.from({ length: count }, (_x, i) => ({ t: i * step, v: v(i * step) }))

describe('the trend of a hold', () => {
  it('a straight fall is found to the digit, without doubt', () => {
    const trend = robustSlope(
      line(60, 60, (t) => 1e6 - 2.5 * t),
      0,
    )!
    expect(trend.slope).toBeCloseTo(-2.5, 9)
    expect(trend.half).toBeCloseTo(0, 6)
  })
  it('the steps of the gauge alone leave a doubt', () =>
    expect(
      robustSlope(
        line(61, 60, () => 1e6),
        1000,
      )!.half,
    ).toBeCloseTo(1000 / 3600, 12))
  it('one wild reading does not turn it', () => {
    const points = line(60, 60, (t) => 1e6 - 2.5 * t)
    points[30] = { ...points[30]!, v: 2e6 }
    expect(robustSlope(points, 0)!.slope).toBeCloseTo(-2.5, 6)
  })
  it('is the same from whatever pressure and moment it is looked at', () =>
    fc.assert(
      fc.property(fc.double({ min: -1e5, max: 1e5, noNaN: true }), fc.nat(1e6), (up, later) => {
        const points = line(30, 60, (t) => 1e6 - t + 300 * Math.sin(t))
        const moved = points.map((p) => ({ t: p.t + later, v: p.v + up }))
        expect(robustSlope(moved, 0)!.slope).toBeCloseTo(robustSlope(points, 0)!.slope, 4)
      }),
    ))
  it('more noise is more doubt, and so is noise that hangs together', () => {
    const noisy = (size: number, turn: number) =>
      robustSlope(
        line(60, 60, (t) => 1e6 - t + size * Math.sin(turn * t)),
        0,
      )!.half
    expect(noisy(500, 7)).toBeGreaterThan(noisy(100, 7))
    expect(noisy(100, 0.002)).toBeGreaterThan(noisy(100, 7))
  })
  it('three points are no trend', () =>
    expect(
      robustSlope(
        line(3, 60, () => 1),
        0,
      ),
    ).toBeNull())
  it('of many, at most so many are taken, ends among them', () => {
    const list = Array.from({ length: 5000 }, (_v, i) => i)
    const taken = evenly(list)
    expect([taken.length, taken[0], taken.at(-1)]).toEqual([600, 0, 4999])
  })
})
