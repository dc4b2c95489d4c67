import { describe, expect, it } from 'vitest'
import { readPressureLog } from '../../../core/pressure/log'
import { planPack } from '../../../core/pressure/pack'
import { Problem } from '../../../core/problem'

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
})
