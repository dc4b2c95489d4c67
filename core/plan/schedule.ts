import type { Table } from '../files/table'
import { nameKey } from '../record/names'
import { readList, type Ground, type ListedLine, type RowFault } from './lists/define'
import { jointList } from './lists/work'

export interface ScheduledJoint {
  number: string
  /** m */
  station: number
  system: string
  /** name of the crew, as the project has it */
  crew: string
}

/** The table with a column that says of every row which line it is of, where the file does not. */
function onLine(table: Table, key: string): Table {
  if (table.header.some((h) => h.trim().toLowerCase() === 'line')) return table
  const width = table.header.length
  return {
    ...table,
    header: [...table.header, 'line'],
    rows: table.rows.map(({ row, cells }) => ({
      row,
      cells: [...Array.from({ length: width }, (_v, i) => cells[i] ?? ''), key],
    })),
  }
}

/**
 * Reads a joint schedule of one line: one row a joint with number, station, system (key of a procedure)
 * and crew. Rows with faults are told one by one, and none of them is taken.
 *
 * @throws Problem `bad-file` where a column is missing
 */
export function readSchedule(
  table: Table,
  ground: Ground,
  line: ListedLine,
): { joints: ScheduledJoint[]; faults: RowFault[] } {
  const only = new Map([[nameKey(line.key), line]])
  const { rows, faults } = readList(jointList, onLine(table, line.key), { ...ground, lines: only })
  return {
    joints: rows.map(({ number, station, system, crew }) => ({ number, station, system, crew })),
    faults,
  }
}
