import { describe, expect, it } from 'vitest'
import { requiredTime } from '../../../core/pressure/methods/low-pressure-air'

const pipe = (diameter: number, length: number) => ({ diameter, length })
const inFeet = (diameter: number, length: number) => pipe(diameter * 0.0254, length * 0.3048)

describe('how long air must stay in a main with its laterals', () => {
  it('is by hand: 8 in × 300 ft with 6 in × 60 ft', () => {
    // Σd·l = 2760, Σd²·l = 21,360; 0.000419 · 2760 = 1.156; 0.085 · 7.739 · 1.156 · 1 / 0.0015
    const area = 8 * 300 + 6 * 60
    const mean = (64 * 300 + 36 * 60) / area
    const byHand = (0.085 * mean * (0.000419 * area) * 1) / 0.0015
    expect(requiredTime([inFeet(8, 300), inFeet(6, 60)], 6895)).toBeCloseTo(byHand, 6)
    expect(byHand).toBeGreaterThan(500)
  })
  it('of short pipes does not fall below what one square of wall asks', () => {
    const byHand = (0.085 * ((64 * 50 + 36 * 10) / (8 * 50 + 6 * 10))) / 0.0015
    expect(requiredTime([inFeet(8, 50), inFeet(6, 10)], 6895)).toBeCloseTo(byHand, 6)
  })
  it('goes with the fall that is timed', () => {
    const pipes = [pipe(0.2, 90), pipe(0.15, 20)]
    expect(requiredTime(pipes, 3447.5)).toBeCloseTo(requiredTime(pipes, 6895) / 2, 9)
  })
  it('a main in two pieces of one size asks what it asks as one', () =>
    expect(requiredTime([inFeet(8, 200), inFeet(8, 100)], 6895)).toBeCloseTo(
      requiredTime([inFeet(8, 300)], 6895),
      -1,
    ))
})
