import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { Problem } from '../../../core/problem'
import { compileTable, type ProcedureTable, type TableAxis } from '../../../core/formula/table'

const axis = (
  mode: TableAxis['mode'],
  values: (number | string)[],
  dimension: TableAxis['dimension'] = 'length',
  unit = 'mm',
): TableAxis => ({ dimension, mode, values, unit }) as TableAxis
const table = (axes: TableAxis[], values: unknown): ProcedureTable =>
  ({ key: 't', title: 'T', dimension: 'torque', unit: 'N·m', axes, values }) as ProcedureTable
const look = (t: ProcedureTable, ...at: (number | string)[]) => compileTable(t).look(at)

describe('a table by exact value', () => {
  const t = table([axis('exact', ['M16', 'M20', 'M24'], 'word')], [95, 180, 310])
  it.each([
    ['M16', 95],
    ['M20', 180],
    ['M24', 310],
  ])('%s gives %i', (bolt, torque) => expect(look(t, bolt)).toBe(torque))
  it.each(['M18', 'm16', '', 'toString', '__proto__'])('%j is not in it', (bolt) =>
    expect(look(t, bolt)).toBeNaN(),
  )
  it('a size written in inches finds its row in millimetres', () =>
    expect(look(table([axis('exact', [50.8, 101.6])], [1, 2]), 2 * 0.0254)).toBe(1))
  it('a size between two rows is not in it', () =>
    expect(look(table([axis('exact', [50, 100])], [1, 2]), 0.06)).toBeNaN())
})

describe('a table by bands', () => {
  const t = table([axis('banded', [63, 110, 200])], [10, 20, 30])
  it.each([
    [0, 10],
    [0.063, 10],
    [0.0631, 20],
    [0.11, 20],
    [0.2, 30],
  ])('%f m is in the band of %i', (size, value) => expect(look(t, size)).toBe(value))
  it('over the last band there is nothing: it is never stretched', () => expect(look(t, 0.201)).toBeNaN())
})

describe('a table between rows', () => {
  const t = table([axis('interpolated', [100, 200, 400])], [10, 20, 60])
  it.each([
    [0.1, 10],
    [0.15, 15],
    [0.2, 20],
    [0.3, 40],
    [0.4, 60],
  ])('at %f m: %f', (size, value) => expect(look(t, size)).toBeCloseTo(value, 9))
  it.each([0.0999, 0.4001, Number.NaN])('%f m is outside', (size) => expect(look(t, size)).toBeNaN())
  it('what lies between two rows lies between their values', () =>
    fc.assert(
      fc.property(fc.double({ min: 0.2, max: 0.4, noNaN: true }), (x) => {
        expect(look(t, x)).toBeGreaterThanOrEqual(20 - 1e-9)
        expect(look(t, x)).toBeLessThanOrEqual(60 + 1e-9)
      }),
    ))
})

describe('a table of two axes', () => {
  const t = table(
    [axis('interpolated', [0, 10, 20], 'temperature', '°C'), axis('banded', [50, 100])],
    [
      [1, 2],
      [3, 4],
      [5, 8],
    ],
  )
  it.each([
    [0, 0.05, 1],
    [5, 0.05, 2],
    [15, 0.1, 6],
    [20, 0.07, 8],
  ])('at %f °C and %f m: %f', (temperature, size, value) =>
    expect(look(t, temperature, size)).toBeCloseTo(value, 9),
  )
  it('outside on either axis is outside', () => {
    expect(look(t, 21, 0.05)).toBeNaN()
    expect(look(t, 10, 0.11)).toBeNaN()
  })
  it('both axes between rows: the order of mixing does not matter', () => {
    const both = table(
      [axis('interpolated', [0, 10]), axis('interpolated', [0, 10])],
      [
        [0, 10],
        [20, 40],
      ],
    )
    const turned = table(
      [axis('interpolated', [0, 10]), axis('interpolated', [0, 10])],
      [
        [0, 20],
        [10, 40],
      ],
    )
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 0.01, noNaN: true }),
        fc.double({ min: 0, max: 0.01, noNaN: true }),
        (x, y) => void expect(look(both, x, y)).toBeCloseTo(look(turned, y, x), 9),
      ),
    )
  })
})

describe('a table that is none', () => {
  it.each<[string, ProcedureTable, RegExp]>([
    ['an axis that falls', table([axis('interpolated', [200, 100])], [1, 2]), /must rise/],
    ['an axis that stands still', table([axis('banded', [100, 100])], [1, 2]), /must rise/],
    ['a value too few', table([axis('exact', [1, 2, 3])], [1, 2]), /1 × 3 values/],
    ['a row too few', table([axis('exact', [1, 2]), axis('exact', [1, 2])], [[1, 2]]), /2 × 2 values/],
    ['a ragged row', table([axis('exact', [1, 2]), axis('exact', [1, 2])], [[1, 2], [1]]), /2 × 2 values/],
  ])('%s is refused', (_what, bad, sentence) => {
    expect(() => compileTable(bad)).toThrow(Problem)
    expect(() => compileTable(bad)).toThrow(sentence)
  })
  it('a cell of another dimension is refused', () =>
    expect(() => compileTable(table([axis('exact', [1])], ['5 bar']))).toThrow(/must be a torque/))
})
