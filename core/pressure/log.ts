import Papa from 'papaparse'
import { checkColumns } from '../files/table'
import { isDay } from '../quantity/day'
import { Problem } from '../problem'

/** One sample of a pressure log: seconds since the log began, pascals, °C, m³ of makeup water so far. */
export interface Sample {
  t: number
  pressure: number
  temperature: number | null
  makeup: number
}

export interface PressureLog {
  /** ms since 1970 of the first sample */
  startedAt: number
  samples: Sample[]
}

const names = {
  time: ['time', 'timestamp', 'date time'],
  pressure: ['pressure kpa', 'pressure bar', 'pressure pa', 'pressure'],
  temperature: ['temperature', 'pipe temperature', 'temperature c'],
  makeup: ['makeup l', 'makeup', 'water added l'],
}
const MAX_SAMPLES = 200_000
const MAX_COLUMNS = 60

/**
 * Reads a pressure log from CSV: `time` (ISO with zone), `pressure kPa` (or bar, Pa),
 * optional `temperature` (°C) and `makeup L` (running total).
 *
 * @throws Problem `bad-file`, or `bad-row` naming row and column; nothing is half read
 */
export function readPressureLog(text: string): PressureLog {
  checkColumns(text, MAX_COLUMNS)
  const parsed = Papa.parse<Record<string, string>>(text.replace(/^\uFEFF/, ''), {
    header: true,
    skipEmptyLines: 'greedy',
  })
  const header = parsed.meta.fields ?? []
  const find = (list: string[]) => header.find((h) => list.includes(h.trim().toLowerCase()))
  const columns = {
    time: find(names.time),
    pressure: find(names.pressure),
    temperature: find(names.temperature),
    makeup: find(names.makeup),
  }
  if (!columns.time || !columns.pressure)
    throw new Problem(
      'bad-file',
      `The log needs the columns "time" and "pressure kPa". Columns found: ${header.join(', ').slice(0, 200) || 'none'}.`,
      'file',
    )
  if (parsed.data.length < 2) throw new Problem('bad-file', 'The log has fewer than two samples.', 'file')
  if (parsed.data.length > MAX_SAMPLES)
    throw new Problem('bad-file', `The log has more than ${MAX_SAMPLES} samples.`, 'file')
  const scale = /bar$/i.test(columns.pressure)
    ? 1e5
    : /pa$/i.test(columns.pressure) && !/kpa$/i.test(columns.pressure)
      ? 1
      : 1000
  const fault = (row: number, column: string, message: string): never => {
    throw new Problem('bad-row', `Row ${row}, column "${column}": ${message}.`, column, { row })
  }
  const numberAt = (raw: Record<string, string>, column: string | undefined, row: number): number | null => {
    const cell = column ? raw[column]?.trim() : ''
    if (!column || !cell) return null
    const value = Number(cell.replace(',', '.'))
    return Number.isFinite(value) ? value : fault(row, column, `"${cell.slice(0, 30)}" is not a number`)
  }
  const times: number[] = []
  const samples = parsed.data.map((raw, i): Sample => {
    const row = i + 2
    const cell = raw[columns.time!]?.trim() ?? ''
    const at =
      /^\d{4}-\d\d-\d\dT.*(Z|[+-]\d\d:?\d\d)$/.test(cell) && isDay(cell.slice(0, 10)) ? Date.parse(cell) : NaN
    if (Number.isNaN(at))
      fault(row, columns.time!, `"${cell.slice(0, 30)}" is not a date and time with its zone`)
    times.push(at)
    const pressure = numberAt(raw, columns.pressure, row) ?? fault(row, columns.pressure!, 'is empty')
    return {
      t: (at - times[0]!) / 1000,
      pressure: pressure * scale,
      temperature: numberAt(raw, columns.temperature, row),
      makeup: (numberAt(raw, columns.makeup, row) ?? 0) / 1000,
    }
  })
  return { startedAt: times[0]!, samples }
}
