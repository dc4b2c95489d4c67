import { cellReader, column, type Column, type Mapping } from '../files/columns'
import type { Table } from '../files/table'
import type { LevelRow } from '../calculators/level-book'
import { Problem } from '../problem'
import { readQuantity } from '../quantity/read'

/** What an instrument's file of sights may hold. */
export const levelColumns: readonly Column[] = [
  column('backsight', 'Backsight', true, 'of the benchmark and at change points', 'bs', 'back'),
  column('intermediate', 'Intermediate', false, 'of the pipes', 'is', 'between', 'intermediate sight'),
  column('foresight', 'Foresight', true, 'at change points and at the end', 'fs', 'fore'),
  column('station', 'Station', false, 'along the line', 'chainage', 'distance'),
  column('design', 'Design', false, 'level of the invert as drawn', 'design level', 'required level'),
]
/** Units that such a file may be written in; a cell may name another. */
export const levelFileUnits = ['m', 'mm', 'ft'] as const
export type LevelFileUnit = (typeof levelFileUnits)[number]
const MOST = 1000

export interface LevelFileRead {
  rows: LevelRow[]
  faults: { row: number; column: string; message: string }[]
}

/**
 * Reads the sights of an instrument's file. A row without any sight is passed over; a cell that is no
 * length is a fault of its row, and nothing is taken for it. Bare numbers are in `unit`.
 *
 * @throws Problem of {@link cellReader} for a map that does not fit, `bad-file` for too many rows
 */
export function readLevelFile(table: Table, mapping: Mapping, unit: LevelFileUnit): LevelFileRead {
  const { cell, heading } = cellReader(levelColumns, table, mapping)
  if (table.rows.length > MOST)
    throw new Problem('bad-file', `A booking has at most ${MOST} rows; this file has more.`, 'file')
  const faults = [...table.faults]
  const length = (row: number, cells: readonly string[], key: string): number | null => {
    const text = cell(cells, key).trim()
    if (text === '') return null
    try {
      return readQuantity(text, 'length', { bareUnit: unit })
    } catch (error) {
      if (!(error instanceof Problem)) throw error
      const message = `"${text.slice(0, 40)}" is no length such as "1.482" or "1482 mm"`
      faults.push({ row, column: heading(key), message })
      return null
    }
  }
  const rows = table.rows.flatMap(({ row, cells }): LevelRow[] => {
    const read = Object.fromEntries(
      levelColumns.flatMap(({ key }) => {
        const value = length(row, cells, key)
        return value === null ? [] : [[key, value]]
      }),
    ) as LevelRow
    const sighted = ['backsight', 'intermediate', 'foresight'].some((k) => k in read)
    return sighted ? [read] : []
  })
  return { rows, faults }
}
