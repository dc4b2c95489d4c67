import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { Problem } from '../../../core/problem'
import { isDay } from '../../../core/quantity/day'
import { dimensions, namedDimension, type DimensionKey } from '../../../core/quantity/dimension'
import { readQuantity, writtenDimension } from '../../../core/quantity/read'
import {
  showCount,
  showDuration,
  showIn,
  showLeft,
  showNumber,
  showQuantity,
} from '../../../core/quantity/show'
import { fromSi, findUnit, toSi, unitSpellings, unitsOf } from '../../../core/quantity/units'

describe('units', () => {
  it.each<[string, DimensionKey, number]>([
    ['1 in', 'length', 0.0254],
    ['1 ft', 'length', 0.3048],
    ['1 psi', 'pressure', 6894.757293168],
    ['1 bar', 'pressure', 1e5],
    ['14.5 psi', 'pressure', 99973.98],
    ['1 lbf', 'force', 4.4482216152605],
    ['1 ft·lbf', 'torque', 1.3558179483314],
    ['1 gal', 'volume', 0.003785411784],
    ['1 gpm', 'flow', 6.30901964e-5],
    ['100 pcf', 'density', 1601.846337],
    ['1 lb/ft', 'massPerLength', 1.48816394],
    ['32 °F', 'temperature', 0],
    ['212 degF', 'temperature', 100],
    ['−40 °F', 'temperature', -40],
    ['180 deg', 'angle', 180],
    ['3.14159265358979 rad', 'angle', 180],
    ['1 d', 'time', 86400],
    ['5 ‰', 'ratio', 0.005],
  ])('%s is right', (text, dimension, si) =>
    expect(readQuantity(text, dimension) / (si || 1)).toBeCloseTo(si === 0 ? 0 : 1, 6),
  )
  it('every spelling belongs to its dimension and goes there and back', () => {
    for (const [spelling, unit] of unitSpellings()) {
      expect(findUnit(spelling)).toBe(unit)
      for (const v of [-3.5, 0, 0.001, 42, 1e6]) expect(fromSi(toSi(v, unit), unit)).toBeCloseTo(v, 6)
      expect(unitsOf(unit.dimension).some((u) => findUnit(u)!.symbol === unit.symbol)).toBe(true)
    }
  })
  it('case matters: a millimetre is no megametre', () => {
    expect(findUnit('MM')).toBeNull()
    expect(findUnit('mpa')).toBeNull()
    expect(findUnit('MPa')!.factor).toBe(1e6)
  })
  it('the unit in which a dimension is held has the factor one', () => {
    for (const d of Object.values(dimensions))
      if (d.unit) expect(findUnit(d.unit), d.unit).toMatchObject({ factor: 1, offset: 0 })
  })
  it('of two dimensions with the same base kinds the first has the name', () =>
    expect(namedDimension(dimensions.torque.exponents)!.key).toBe('torque'))
})

describe('what a person may write', () => {
  it.each<[string, number]>([
    ['1/2 in', 0.0127],
    ['1 1/2 in', 0.0381],
    ['1-1/2 in', 0.0381],
    ['3/32"', 0.00238125],
    ['6\' 2"', 1.8796],
    ['6ft 2 1/2in', 1.8923],
    ["6'", 1.8288],
    ['12,5 mm', 0.0125],
    ['.5 m', 0.5],
    ['5e-3 m', 0.005],
    ['  7 mm  ', 0.007],
    ['−7 mm', -0.007],
    ['+7 mm', 0.007],
    ['7\u00a0mm', 0.007],
  ])('%s', (text, metres) => expect(readQuantity(text, 'length')).toBeCloseTo(metres, 9))
  it.each([
    ['1/0 in'],
    ['seven mm'],
    ['7 mm wide'],
    ['1.2.3 mm'],
    ['7 8 mm'],
    ['mm'],
    ['--7 mm'],
    ['0x10 mm'],
    ['Infinity m'],
    ['NaN'],
    ['7 mm\n8 mm'],
    ['1e999 m'],
    ['7 furlongs'],
    ['7 bar'],
    ['7'.repeat(80)],
  ])('not %j', (text) =>
    expect(() => readQuantity(text, 'length', { field: 'gap' })).toThrow(
      expect.objectContaining({ field: 'gap' }),
    ),
  )
  it.each([[undefined], [null], ['']])('%j is missing', (input) =>
    expect(() => readQuantity(input, 'length')).toThrow(expect.objectContaining({ code: 'missing' })),
  )
  it.each([[true], [{}], [[]], [Number.NaN], [Number.POSITIVE_INFINITY]])('%j is not a number', (input) =>
    expect(() => readQuantity(input, 'length')).toThrow(expect.objectContaining({ code: 'not-a-number' })),
  )
  it('nothing that is typed does anything but give a number or a refusal', () =>
    fc.assert(
      fc.property(fc.string({ maxLength: 80 }), (text) => {
        try {
          expect(Number.isFinite(readQuantity(text, 'length', { bareUnit: 'mm' }))).toBe(true)
        } catch (error) {
          expect(error).toBeInstanceOf(Problem)
        }
      }),
      { numRuns: 2000 },
    ))
  it('the dimension is seen from the unit', () => {
    expect([writtenDimension('5 mm'), writtenDimension('5'), writtenDimension(5)]).toEqual([
      'length',
      null,
      null,
    ])
    expect(() => writtenDimension('5 wishes', 'value')).toThrow(
      expect.objectContaining({ code: 'unknown-unit', field: 'value' }),
    )
  })
})

describe('what is shown', () => {
  it.each([
    [0.0125, 'mm', '12.5'],
    [0.3, 'in', '11.81'],
    [1.25e6, 'bar', '12.5'],
    [21, '°F', '69.8'],
  ])('%f in %s is %s', (si, unit, text) => expect(showIn(si, unit)).toBe(text))
  it.each<[number, DimensionKey, string, string]>([
    [0.0125, 'length', 'mm', '12.5 mm'],
    [2.5, 'angle', 'deg', '2.5°'],
    [0.12, 'ratio', '%', '12 %'],
    [3, 'ratio', '', '3'],
  ])('%f as %s in %j reads %s', (si, dimension, unit, text) =>
    expect(showQuantity(si, dimension, unit)).toBe(text),
  )
  it('an unknown unit is refused, not shown as something else', () =>
    expect(() => showIn(1, 'furlong')).toThrow(Problem))
  it.each([
    [0, '0'],
    [999, '999'],
    [1000, '1,000'],
    [20000, '20,000'],
    [1234567, '1,234,567'],
  ])('%i are %s', (n, text) => expect(showCount(n)).toBe(text))
  it('no number is shown in powers of ten, nor with trailing zeros', () =>
    fc.assert(
      fc.property(
        fc.double({ noNaN: true, noDefaultInfinity: true, min: -1e15, max: 1e15 }),
        fc.integer({ min: 1, max: 8 }),
        (v, digits) => {
          expect(showNumber(v, digits)).toMatch(/^−?\d+(\.\d*[1-9])?$/)
        },
      ),
    ))
  it('what is not finite is a dash', () =>
    expect([Number.NaN, Number.POSITIVE_INFINITY].map((v) => showNumber(v))).toEqual(['–', '–']))
  it.each([
    [0, '0 s'],
    [59, '59 s'],
    [60, '1 min'],
    [3599.6, '1 h'],
    [-95, '−1 min 35 s'],
    [90_000, '25 h'],
  ])('%f s is %s', (s, text) => expect(showDuration(s)).toBe(text))
  it.each([
    [3599, '59 min 59 s'],
    [3600, '1 h'],
    [3901, '1 h 6 min'],
  ])('%d s left is %s', (s, text) => expect(showLeft(s)).toBe(text))
})

describe('a day', () => {
  it.each(['2026-03-09', '2024-02-29', '2000-02-29'])('%s exists', (day) => expect(isDay(day)).toBe(true))
  it.each([
    '2026-02-29',
    '2026-02-30',
    '2026-04-31',
    '2026-13-01',
    '2026-00-10',
    '26-03-09',
    '2026-3-9',
    '2026-03-09T00:00:00Z',
    '',
    '1900-02-29',
  ])('%j does not', (day) => expect(isDay(day)).toBe(false))
})
