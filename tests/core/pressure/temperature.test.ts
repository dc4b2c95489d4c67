import { describe, expect, it } from 'vitest'
import { correctHold, driftOf, laggedTemperature } from '../../../core/pressure/temperature'
import type { Section } from '../../../core/pressure/section'

const points = (...list: [t: number, v: number][]) => list.map(([t, v]) => ({ t, v }))
const section = {
  ...{ insideDiameter: 0.3, wall: 0.008, modulus: 170e9, poisson: 0.28, pipeExpansion: 11e-6 },
  ...{ restrained: true, length: 500, restraint: 1, nominal: 0.3, material: 'ductile iron' },
} as Section & { insideDiameter: number; wall: number; modulus: number }

describe('the water follows the sensor', () => {
  it('at once where there is no lag', () => {
    const sensor = points([0, 10], [60, 12])
    expect(laggedTemperature(sensor, 0)).toEqual(sensor)
  })
  it('by 63 % after the lag, by 86 % after two', () => {
    const out = laggedTemperature(points([0, 10], [600, 20], [1200, 20]), 600)
    expect(out.map((p) => p.t)).toEqual([0, 600, 1200])
    expect(out[0]!.v).toBe(10)
    expect(out[1]!.v).toBeCloseTo(20 - 10 * Math.exp(-1), 9)
    expect(out[2]!.v).toBeCloseTo(20 - 10 * Math.exp(-2), 9)
  })
  it('from the last reading on, not from the beginning', () => {
    const out = laggedTemperature(points([1000, 10], [1600, 20]), 600)
    expect(out[1]!.v).toBeCloseTo(20 - 10 * Math.exp(-1), 9)
  })
})

describe('what a temperature did to a hold', () => {
  const hold = points([0, 10e5], [1800, 10e5], [3600, 10e5])
  it('is taken out, at the mean temperature of the hold', () => {
    const found = correctHold(hold, points([0, 10], [3600, 11]), section)!
    expect(found.moved).toBe(1)
    expect(found.k).toBeCloseTo(driftOf(section, 10.5), 6)
    expect(found.corrected.map((p) => p.v)).toEqual(
      [0, 0.5, 1].map((share) => expect.closeTo(10e5 - found.k * share, 6) as number),
    )
  })
  it('warmth within the hold counts for the mean', () => {
    const found = correctHold(hold, points([0, 10], [1800, 14], [3600, 10]), section)!
    expect(found.k).toBeCloseTo(driftOf(section, 12), 6)
    expect(found.moved).toBe(0)
    expect(found.corrected[1]!.v).toBeCloseTo(10e5 - 4 * found.k, 6)
  })
  it('a sensor that began later or ended earlier says what it last said', () => {
    const found = correctHold(hold, points([1000, 10], [2600, 12]), section)!
    expect([found.corrected[0]!.v, found.moved]).toEqual([10e5, 2])
    expect(found.corrected[2]!.v).toBeCloseTo(10e5 - 2 * found.k, 6)
  })
  it('is not known without a sensor', () => expect(correctHold(hold, [], section)).toBeNull())
})
