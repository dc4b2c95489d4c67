import { describe, expect, it } from 'vitest'
import { couldSee } from '../../../core/pressure/could-see'

const section = { length: 180, insideDiameter: 0.3, wall: 0.0076, modulus: 170e9, nominal: 0.3 }
const of = (method: string, parameters: object, gauge: object, more: object = section) =>
  couldSee({ method, parameters: { ...parameters }, section: { ...more }, gauge: { ...gauge } })

describe('whether a gauge could tell a leak that matters', () => {
  it('of makeup: the water that two readings leave in doubt, against the allowance of the hold', () => {
    const sight = of('hydro-makeup', { testPressure: 15e5 }, { uncertainty: 2500 })!
    const volume = (Math.PI / 4) * 0.3 ** 2 * 180
    const takes = volume * (1 / 2.19e9 + 0.3 / (0.0076 * 170e9))
    expect(sight.doubt).toBeCloseTo(takes * Math.SQRT2 * 2500 * 1000, 9)
    expect(sight.allowed).toBeCloseTo(2 * ((180 * 300 * Math.sqrt(1500)) / 794_797), 9)
    expect(sight.unit).toBe('L')
  })
  it('of a drop: the step of the gauge over the hold, against the fall that is allowed', () =>
    expect(
      of('hydro-drop', { testPressure: 15e5, duration: 1800 }, { uncertainty: 2500, resolution: 1000 }),
    ).toEqual({ doubt: 2000, allowed: 20e3, unit: 'Pa/h' }))
  it.each<[string, string, object, object, object]>([
    ['a method not judged by a leak', 'casing-air', {}, { uncertainty: 100 }, {}],
    ['a gauge of unknown uncertainty', 'hydro-drop', { testPressure: 15e5 }, {}, section],
    ['a pipe that nobody described', 'hydro-makeup', { testPressure: 15e5 }, { uncertainty: 1 }, {}],
  ])('nothing is said of %s', (_what, method, parameters, gauge, more) =>
    expect(of(method, parameters, gauge, more)).toBeNull(),
  )
})
