import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { Problem } from '../../../core/problem'
import { readQuantity } from '../../../core/quantity/read'
import { showDuration, showNumber, showQuantity } from '../../../core/quantity/show'
import type { DimensionKey } from '../../../core/quantity/dimension'
import { unitsOf } from '../../../core/quantity/units'

describe('quantities as people write them', () => {
  it.each<[string, DimensionKey, number]>([
    ['12.5 mm', 'length', 0.0125],
    ['12,5mm', 'length', 0.0125],
    ['3/32 in', 'length', 0.00238125],
    ['1 1/2 in', 'length', 0.0381],
    [`6' 2"`, 'length', 1.8796],
    [`6' 2 1/2"`, 'length', 1.8923],
    [`5 ft`, 'length', 1.524],
    ['8 bar', 'pressure', 8e5],
    ['150 psi', 'pressure', 1034213.5939752],
    ['20 min', 'time', 1200],
    ['1.5 h', 'time', 5400],
    ['57 °F', 'temperature', 13.888888888889],
    ['-10 °C', 'temperature', -10],
    ['−3 mm', 'length', -0.003],
    ['12 %', 'ratio', 0.12],
    ['2,75 GPa', 'pressure', 2.75e9],
    ['45 deg', 'angle', 45],
    ['10 ft·lbf', 'torque', 13.558179483314],
    ['1 gal', 'volume', 0.003785411784],
    ['120 L', 'volume', 0.12],
    ['1e5', 'pressure', 1e5],
  ])('%s as %s is %d in SI', (text, dimension, si) => {
    expect(readQuantity(text, dimension)).toBeCloseTo(
      si,
      9 - Math.max(0, Math.floor(Math.log10(Math.abs(si) || 1))),
    )
  })
  it('a bare number is in the unit shown beside the field', () => {
    expect(readQuantity('12', 'length', { bareUnit: 'mm' })).toBeCloseTo(0.012, 12)
    expect(readQuantity('12 m', 'length', { bareUnit: 'mm' })).toBe(12)
  })
  it.each<[unknown, DimensionKey, string]>([
    ['', 'length', 'missing'],
    [null, 'length', 'missing'],
    ['abc', 'length', 'not-a-number'],
    ['1.2.3 mm', 'length', 'unknown-unit'],
    ['5 bar', 'length', 'wrong-dimension'],
    ['5 furlong', 'length', 'unknown-unit'],
    ['1/0 in', 'length', 'not-a-number'],
    [NaN, 'length', 'not-a-number'],
    [Infinity, 'time', 'not-a-number'],
    [true, 'length', 'not-a-number'],
    ['1'.repeat(400), 'length', 'not-a-number'],
  ])('%j as %s is refused as %s', (input, dimension, code) => {
    try {
      readQuantity(input, dimension, { field: 'depth' })
      expect.unreachable()
    } catch (error) {
      expect(error).toBeInstanceOf(Problem)
      expect([(error as Problem).code, (error as Problem).field]).toEqual([code, 'depth'])
    }
  })
  it('reading what is shown gives the value back, in every unit', () => {
    const dimensionKeys: DimensionKey[] = [
      'length',
      'pressure',
      'time',
      'mass',
      'force',
      'temperature',
      'volume',
      'density',
    ]
    fc.assert(
      fc.property(
        fc.constantFrom(...dimensionKeys),
        fc.double({ min: 1e-2, max: 1e5, noNaN: true }),
        fc.nat(),
        (dimension, value, pick) => {
          const units = unitsOf(dimension)
          const text = showQuantity(value, dimension, units[pick % units.length]!, 12)
          expect(Math.abs(readQuantity(text, dimension) - value)).toBeLessThan(1e-6 * Math.max(1, value))
        },
      ),
    )
  })
  it.each([
    [0.00012345, 3, '0.000123'],
    [1234567, 3, '1234567'],
    [-2.5, 4, '−2.5'],
    [0, 4, '0'],
    [1e-15, 4, '0'],
    [12.3400001, 4, '12.34'],
  ])('%d to %d digits is %s', (value, digits, text) => expect(showNumber(value, digits)).toBe(text))
  it.each([
    [95, '1 min 35 s'],
    [7265, '2 h 1 min 5 s'],
    [-5, '−5 s'],
    [59.6, '1 min'],
  ])('%d s reads %s', (s, text) => expect(showDuration(s)).toBe(text))
})
