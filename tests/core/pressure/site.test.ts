import { describe, expect, it } from 'vitest'
import { readPressureLog } from '../../../core/pressure/log'
import { elevationAt, planPack, profileBetween } from '../../../core/pressure/pack'
import { Problem } from '../../../core/problem'
import { refusal } from '../refusal'

const section = { length: 600, insideDiameter: 0.2578, wall: 0.0286, modulus: 900e6 }

describe('a pressure log', () => {
  it.each([
    ['time,pressure kPa\n2026-03-09T06:00:00Z,10\n2026-03-09T06:01:00Z,abc', /Row 3, column "pressure kPa"/],
    ['time,pressure kPa\nyesterday,10\n2026-03-09T06:01:00Z,9', /Row 2, column "time"/],
    ['a,b\n1,2\n3,4', /needs the columns/],
  ])('%j is refused', (text, sentence) => {
    expect(() => readPressureLog(text)).toThrow(Problem)
    expect(() => readPressureLog(text)).toThrow(sentence)
  })
})

describe('a test pack on its profile', () => {
  const profile = [
    { station: 0, elevation: 0 },
    { station: 300, elevation: 40 },
    { station: 600, elevation: -5 },
  ]
  const plan = planPack(profile, {
    section,
    outsideDiameter: 0.315,
    rating: 16e5,
    weakest: 'pipe',
    gaugeElevation: 0,
    testPressure: 12.5e5,
    required: 10e5,
  })
  it('the highest point sees too little here, the lowest is within its class', () => {
    expect(plan.highest.pressure).toBeCloseTo(12.5e5 - 40 * 9806.65, 0)
    expect([plan.highOk, plan.lowOk]).toEqual([false, true])
    expect(plan.endThrust).toBeCloseTo((12.5e5 + 5 * 9806.65) * (Math.PI / 4) * 0.315 ** 2, 0)
  })
  it('what it takes to fill and to raise is worked out for the whole section', () => {
    const volume = (Math.PI / 4) * 0.2578 ** 2 * 600
    expect(plan.fillVolume).toBeCloseTo(volume, 9)
    expect(plan.fillTime).toBe(1200)
    expect(plan.waterToRaise).toBeCloseTo(volume * 12.5e5 * (1 / 2.19e9 + 0.2578 / (0.0286 * 900e6)), 9)
  })
  it('with air every point sees the same, and the bore is what is pushed at', () => {
    const air = planPack(profile, {
      ...{ section, outsideDiameter: 0.315, rating: 20e3, weakest: 'plug', gaugeElevation: 0 },
      ...{ testPressure: 20e3, required: 20e3, air: true },
    })
    expect(air.points.map((p) => p.pressure)).toEqual([20e3, 20e3, 20e3])
    // Just enough, and just what is borne.
    expect([air.highOk, air.lowOk]).toEqual([true, true])
    expect(air.endThrust).toBeCloseTo(20e3 * (Math.PI / 4) * 0.2578 ** 2, 6)
  })
  it('of points equally high and low the first is named', () => {
    const flat = planPack(
      [0, 5, 0, 5].map((elevation, i) => ({ station: i * 10, elevation })),
      {
        ...{ section, outsideDiameter: 0.315, rating: 16e5, weakest: 'pipe', gaugeElevation: 0 },
        ...{ testPressure: 12.5e5, required: 10e5 },
      },
    )
    expect([flat.highest.station, flat.lowest.station]).toEqual([10, 0])
  })
  it('a part of a profile keeps its inner points once', () => {
    expect(profileBetween(profile, 0, 600)).toEqual(profile)
    expect(profileBetween(profile, 150, 300).map((p) => [p.station, p.elevation])).toEqual([
      [150, 20],
      [300, 40],
    ])
    expect(refusal(() => elevationAt([], 5))).toEqual(['no-profile', 'profile'])
  })
})
