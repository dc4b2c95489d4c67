import { Problem } from '../problem'
import { readQuantity } from '../quantity/read'
import type { DimensionKey } from '../quantity/dimension'
import { typeOfDimension, type CompiledTable, type FormulaType } from './parts'

export interface TableAxis {
  dimension: DimensionKey | 'word'
  unit?: string
  mode: 'exact' | 'banded' | 'interpolated'
  values: (string | number)[]
}

/** A table of a document: values over one or two axes. */
export interface ProcedureTable {
  key: string
  title: string
  dimension: DimensionKey
  unit?: string
  axes: TableAxis[]
  values: (string | number)[] | (string | number)[][]
}

const axisType = (axis: TableAxis): FormulaType =>
  axis.dimension === 'word' ? { kind: 'word' } : typeOfDimension(axis.dimension)

/** Rows to mix for a value on an axis, as [index, share] pairs; empty when outside. */
function place(axis: TableAxis, stops: (number | string)[], at: number | string): [number, number][] {
  const exact = stops.findIndex((stop) =>
    typeof stop === 'number' && typeof at === 'number'
      ? Math.abs(stop - at) <= 1e-9 * Math.max(1, Math.abs(stop))
      : stop === at,
  )
  if (exact >= 0) return [[exact, 1]]
  if (axis.mode === 'exact' || typeof at !== 'number') return []
  const upper = stops.findIndex((stop) => typeof stop === 'number' && at <= stop)
  // Banded: each stop is the top of its band, and the first band reaches down to anything.
  if (axis.mode === 'banded') return upper < 0 ? [] : [[upper, 1]]
  if (upper <= 0) return []
  const [low, high] = [stops[upper - 1] as number, stops[upper] as number]
  const share = (at - low) / (high - low)
  return [
    [upper - 1, 1 - share],
    [upper, share],
  ]
}

export function compileTable(table: ProcedureTable): CompiledTable {
  const axes = table.axes.map((axis) =>
    axis.values.map((value) =>
      axis.dimension === 'word'
        ? String(value)
        : readQuantity(value, axis.dimension, { field: table.key, bareUnit: axis.unit }),
    ),
  )
  table.axes.forEach((axis, i) => {
    const stops = axes[i]!
    if (axis.mode !== 'exact' && stops.some((stop, k) => k > 0 && !(stop > stops[k - 1]!)))
      throw new Problem('bad-table', `Axis ${i + 1} of table "${table.key}" must rise.`, table.key)
  })
  const rows = (table.axes.length === 1 ? [table.values] : table.values) as (string | number)[][]
  const width = axes.at(-1)!.length
  const height = table.axes.length === 1 ? 1 : axes[0]!.length
  if (rows.length !== height || rows.some((row) => !Array.isArray(row) || row.length !== width))
    throw new Problem('bad-table', `Table "${table.key}" must have ${height} × ${width} values.`, table.key)
  const cells = rows.map((row) =>
    row.map((cell) => readQuantity(cell, table.dimension, { field: table.key, bareUnit: table.unit })),
  )
  return {
    key: table.key,
    type: typeOfDimension(table.dimension),
    axes: table.axes.map((axis) => ({ type: axisType(axis) })),
    look(at) {
      const places = table.axes.map((axis, i) => place(axis, axes[i]!, at[i]!))
      if (places.some((p) => p.length === 0)) return NaN
      const columns = places.at(-1)!
      const lines = places.length === 2 ? places[0]! : ([[0, 1]] as [number, number][])
      return lines.reduce(
        (sum, [r, share]) => sum + share * columns.reduce((s, [c, part]) => s + part * cells[r]![c]!, 0),
        0,
      )
    },
  }
}
