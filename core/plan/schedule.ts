import type { Table } from '../files/table'
import { Problem } from '../problem'
import { readQuantity } from '../quantity/read'
import { nameKey } from '../record/names'

export interface ScheduledJoint {
  row: number
  number: string
  /** m */
  station: number
  system: string
  /** name of the crew, as the project has it */
  crew: string
}

export interface RowFault {
  row: number
  column: string
  message: string
}

/** What a schedule is held against. */
export interface ScheduleGround {
  line: { from: number; to: number }
  /** numbers that are taken in the project, by their key */
  taken: ReadonlySet<string>
  systems: ReadonlySet<string>
  /** names of crews by their key */
  crews: ReadonlyMap<string, string>
}

const columns = ['number', 'station', 'system', 'crew'] as const
const NUMBER = /^[A-Za-z0-9][A-Za-z0-9 ._/-]{0,39}$/

/**
 * Reads a joint schedule: one row a joint with number, station, system (key of a procedure) and crew. Rows
 * with faults are told one by one, and none of them is taken.
 *
 * @throws Problem `bad-file` where a column is missing
 */
export function readSchedule(
  table: Table,
  ground: ScheduleGround,
): { joints: ScheduledJoint[]; faults: RowFault[] } {
  const at = Object.fromEntries(
    columns.map((c) => [c, table.header.findIndex((h) => h.trim().toLowerCase() === c)]),
  ) as Record<(typeof columns)[number], number>
  const missing = columns.filter((c) => at[c] < 0)
  if (missing.length > 0)
    throw new Problem(
      'bad-file',
      `The schedule has no column ${missing.map((c) => `"${c}"`).join(', ')}.`,
      'file',
    )
  const faults: RowFault[] = [...table.faults]
  const joints: ScheduledJoint[] = []
  const seen = new Map<string, number>()
  for (const { row, cells } of table.rows) {
    const cell = (c: (typeof columns)[number]) => (cells[at[c]] ?? '').trim()
    const before = faults.length
    const fault = (column: string, message: string) => faults.push({ row, column, message })
    const number = cell('number')
    if (!NUMBER.test(number)) fault('number', `"${number.slice(0, 40)}" is no number of a joint`)
    else if (ground.taken.has(nameKey(number))) fault('number', `${number} is there already`)
    else if (seen.has(nameKey(number)))
      fault('number', `${number} stands in row ${seen.get(nameKey(number))} too`)
    seen.set(nameKey(number), row)
    let station = NaN
    try {
      station = readQuantity(cell('station'), 'length', { field: 'station', bareUnit: 'm' })
      if (station < ground.line.from || station > ground.line.to)
        fault('station', `${station} m does not lie on the line, ${ground.line.from} to ${ground.line.to} m`)
    } catch (error) {
      if (!(error instanceof Problem)) throw error
      fault('station', error.message)
    }
    const system = cell('system')
    if (!ground.systems.has(system))
      fault('system', `"${system.slice(0, 60)}" is the key of no procedure of this project`)
    const crew = ground.crews.get(nameKey(cell('crew')))
    if (crew === undefined) fault('crew', `there is no crew "${cell('crew').slice(0, 60)}"`)
    if (faults.length === before) joints.push({ row, number, station, system, crew: crew! })
  }
  return { joints, faults }
}
