import Papa from 'papaparse'
import { checkColumns } from '../files/table'
import { Problem } from '../problem'
import { checkLogMap, momentReader, proposeLogMap, readerOf, type LogMap, type LogQuestion } from './log-map'

/** One sample of a pressure log. What nobody measured is null: no meter is not the same as no water. */
export interface Sample {
  /** seconds since the log began */
  t: number
  /** Pa */
  pressure: number
  /** °C at the pipe */
  pipe: number | null
  /** °C of the air */
  air: number | null
  /** m³ of water added so far */
  makeup: number | null
}

export interface PressureLog {
  /** ms since 1970 of the first sample */
  startedAt: number
  samples: Sample[]
}

/** The columns in which this tool writes a log itself. */
export const ownLogColumns = {
  time: 'time',
  pressure: 'pressure kPa',
  pipe: 'pipe degC',
  air: 'air degC',
  makeup: 'makeup L',
} as const

const MAX_SAMPLES = 200_000
const MAX_COLUMNS = 60
/** so many rows tell what a column holds */
const LOOKED_AT = 200

const tableOf = (text: string, preview = 0) => {
  checkColumns(text, MAX_COLUMNS)
  const parsed = Papa.parse<Record<string, string>>(text.replace(/^\uFEFF/, ''), {
    ...{ header: true, skipEmptyLines: true, preview },
  })
  return { header: (parsed.meta.fields ?? []).filter((h) => h.trim() !== ''), rows: parsed.data }
}

/** What a file's columns seem to be, its first rows, and what only a person can say of it. */
export interface LogLook {
  header: string[]
  rows: Record<string, string>[]
  map: LogMap
  asks: LogQuestion[]
}

/** Looks at the head of a logger's file. @throws Problem `bad-file` */
export function lookAtLog(text: string, given: Partial<LogMap> = {}): LogLook {
  const { header, rows } = tableOf(text, LOOKED_AT)
  if (rows.length === 0) throw new Problem('bad-file', 'The log has fewer than two samples.', 'file')
  return { header, rows: rows.slice(0, 5), ...proposeLogMap(header, rows, given) }
}

/** Rows that lie so far apart are worth a fault each; more are only counted. */
const MOST_FAULTS = 20

/**
 * Reads a pressure log from CSV by a map of its columns; what the map leaves open is taken from headings
 * and cells: `time` (ISO), `pressure kPa`, and where they were measured `pipe degC`, `air degC` and
 * `makeup L`, a running total.
 *
 * @throws Problem `bad-file`, `unsaid` with the first question left, or `bad-row` naming row and column, with
 *   more of them in `details.faults`; nothing is half read
 */
export function readPressureLog(text: string, given: Partial<LogMap> = {}): PressureLog {
  const { header, rows } = tableOf(text)
  if (rows.length < 2) throw new Problem('bad-file', 'The log has fewer than two samples.', 'file')
  if (rows.length > MAX_SAMPLES)
    throw new Problem('bad-file', `The log has more than ${MAX_SAMPLES} samples.`, 'file')
  const { map, asks } = proposeLogMap(header, rows.slice(0, LOOKED_AT), given)
  if (!map.time || !map.pressure)
    throw new Problem(
      'bad-file',
      `The log needs the columns of its times and pressures. Columns found: ${header.join(', ').slice(0, 200) || 'none'}.`,
      'file',
    )
  checkLogMap(map, header, asks)

  const faults: { row: number; column: string; message: string }[] = []
  const fault = (row: number, column: string, cell: string, what: string): null => {
    if (faults.length < MOST_FAULTS)
      faults.push({ row, column, message: cell ? `"${cell.slice(0, 30)}" is not ${what}` : 'is empty' })
    return null
  }
  const cellOf = (raw: Record<string, string>, column: string | null) =>
    column ? (raw[column] ?? '').trim() : ''
  /** Reads the figures of one column in its unit; what is empty or not in the file is null. */
  const figures = (column: string | null, unit: string | null) => {
    const read = unit === null ? null : readerOf(unit)
    return (raw: Record<string, string>, row: number): number | null => {
      const cell = cellOf(raw, column)
      if (!column || !read || cell === '') return null
      return read(cell) ?? fault(row, column, cell, 'a number')
    }
  }
  const pressureAt = figures(map.pressure, map.pressureUnit)
  const pipeAt = figures(map.pipe, map.temperatureUnit)
  const airAt = figures(map.air, map.temperatureUnit)
  const makeupAt = figures(map.makeup, map.makeupUnit)
  const moments = momentReader(map)
  let total: number | null = null
  let startedAt = NaN
  const samples: Sample[] = []
  rows.forEach((raw, i) => {
    const row = i + 2
    const [day, time] = [cellOf(raw, map.date), cellOf(raw, map.time)]
    if (day === '' && time === '' && Object.values(raw).every((cell) => cell.trim() === '')) return
    const at = moments(day, time)
    if (at === null) return fault(row, map.time, time, 'a date and time with its zone')
    const pressure = pressureAt(raw, row)
    if (pressure === null) {
      if (cellOf(raw, map.pressure) === '') fault(row, map.pressure, '', 'a number')
      return
    }
    const added = makeupAt(raw, row)
    if (added !== null) total = map.makeupEach ? (total ?? 0) + added : added
    if (samples.length === 0) startedAt = at
    samples.push({
      t: (at - startedAt) / 1000,
      pressure,
      pipe: pipeAt(raw, row),
      air: airAt(raw, row),
      makeup: map.makeupEach ? total : added,
    })
  })
  const [first] = faults
  if (first)
    throw new Problem(
      'bad-row',
      `Row ${first.row}, column "${first.column}": ${first.message}.`,
      first.column,
      {
        ...{ row: first.row, faults },
      },
    )
  return { startedAt, samples }
}

/** A log as this tool writes it: read back, it is the same. */
export const writePressureLog = ({ startedAt, samples }: PressureLog): string =>
  Papa.unparse({
    fields: Object.values(ownLogColumns),
    data: samples.map((s) => [
      new Date(startedAt + s.t * 1000).toISOString(),
      s.pressure / 1000,
      s.pipe ?? '',
      s.air ?? '',
      s.makeup === null ? '' : s.makeup * 1000,
    ]),
  })
