import { DateTime, IANAZone } from 'luxon'
import { Problem } from '../problem'
import { isDay } from '../quantity/day'
import { findUnit, toSi } from '../quantity/units'

/** How a logger writes its times. */
export const timeForms = ['iso', 'day-first', 'month-first', 'elapsed'] as const
export type TimeForm = (typeof timeForms)[number]
export const pressureUnits = ['Pa', 'kPa', 'bar', 'mbar', 'psi'] as const
export const temperatureUnits = ['degC', 'degF'] as const
export const volumeUnits = ['L', 'mL', 'm3', 'gal'] as const

/** Which column of a logger's file is which, in which units, and what its times mean. */
export interface LogMap {
  time: string
  /** a column of its own for the day */
  date: string | null
  form: TimeForm
  /** where the logger's clock is set, when the times do not say it */
  zone: string | null
  /** when a log of elapsed seconds began, an ISO time with its zone */
  begin: string | null
  pressure: string
  pressureUnit: (typeof pressureUnits)[number] | null
  pipe: string | null
  air: string | null
  temperatureUnit: (typeof temperatureUnits)[number]
  makeup: string | null
  makeupUnit: (typeof volumeUnits)[number] | null
  /** each row says what was added since the row before, not the total so far */
  makeupEach: boolean
}
export type LogQuestion = 'time' | 'pressure' | 'pressureUnit' | 'makeupUnit' | 'form' | 'zone' | 'begin'

const headings: Record<'time' | 'date' | 'pressure' | 'pipe' | 'air' | 'makeup', RegExp> = {
  date: /^date$|^day$/i,
  time: /time|^clock|^elapsed|seconds|^t$/i,
  pressure: /^pressure|^press\b|^p$|^gauge/i,
  air: /\b(air|ambient)\b/i,
  pipe: /temp|pipe|water t/i,
  makeup: /make-?up|added|volume|meter|totali[sz]er/i,
}
/** A unit at the end of a heading: "Pressure (bar)", "pressure kPa", "P [psi]". */
const unitIn = <U extends string>(heading: string | null, units: readonly U[]): U | null => {
  const last = heading
    ?.trim()
    .replace(/[)\]]$/, '')
    .split(/[\s([_/]+/)
    .at(-1)
    ?.toLowerCase()
  return units.find((u) => u.toLowerCase() === last) ?? null
}
const ZONED = /(Z|[+-]\d\d:?\d\d)$/
const ISO = /^\d{4}-\d\d-\d\d/
const SLASHED = /^(\d{1,2})[/.](\d{1,2})[/.](\d{4})/

/** What the cells of a column of times can mean; null when they leave it open. */
function formOf(cells: readonly string[]): TimeForm | null {
  if (cells.every((c) => ISO.test(c))) return 'iso'
  if (cells.every((c) => c !== '' && Number.isFinite(Number(c.replace(',', '.'))))) return 'elapsed'
  const slashed = cells.map((c) => SLASHED.exec(c)).filter((m) => m !== null)
  // What is no date at all is found out row by row.
  if (slashed.length === 0) return 'iso'
  if (slashed.some((m) => Number(m[1]) > 12)) return 'day-first'
  if (slashed.some((m) => Number(m[2]) > 12)) return 'month-first'
  return null
}

/**
 * Proposes a map from the headings and cells of a file, and says what only a person can.
 *
 * @param rows cells by heading
 * @param given what a person has said already; it goes before what is proposed
 */
export function proposeLogMap(
  header: readonly string[],
  rows: readonly Record<string, string>[],
  given: Partial<LogMap> = {},
): { map: LogMap; asks: LogQuestion[] } {
  const taken = new Set(
    [given.time, given.date, given.pressure, given.pipe, given.air, given.makeup].filter(Boolean),
  )
  const find = (key: keyof typeof headings): string | null => {
    if (given[key] !== undefined) return given[key]
    const found = header.find((h) => !taken.has(h) && headings[key].test(h.trim()))
    if (found) taken.add(found)
    return found ?? null
  }
  const date = find('date')
  const time = find('time') ?? (date && given.date === undefined ? date : null)
  const pressure = find('pressure')
  const [makeup, air] = [find('makeup'), find('air')]
  const pipe = find('pipe')
  const cells = rows.map((r) => [date, time].map((h) => (h ? (r[h] ?? '').trim() : '')).find(Boolean) ?? '')
  const form = given.form ?? formOf(cells)
  // What is no time at all is found out row by row; a time without its zone is asked about.
  const bare = cells.some(
    (c, i) => (ISO.test(c) || SLASHED.test(c)) && !ZONED.test((rows[i]![time ?? ''] ?? '').trim()),
  )
  const map: LogMap = {
    time: time ?? '',
    date: date === time ? null : date,
    form: form ?? 'iso',
    zone: given.zone ?? null,
    begin: given.begin ?? null,
    pressure: pressure ?? '',
    pressureUnit: given.pressureUnit ?? unitIn(pressure, pressureUnits),
    pipe,
    air,
    temperatureUnit: given.temperatureUnit ?? (/f[)\]]?$/i.test(pipe ?? air ?? '') ? 'degF' : 'degC'),
    makeup,
    makeupUnit: given.makeupUnit ?? unitIn(makeup, volumeUnits),
    makeupEach: given.makeupEach ?? false,
  }
  const asks: LogQuestion[] = []
  if (!time) asks.push('time')
  if (!pressure) asks.push('pressure')
  if (pressure && !map.pressureUnit) asks.push('pressureUnit')
  if (makeup && !map.makeupUnit) asks.push('makeupUnit')
  if (time && !form) asks.push('form')
  if (form === 'elapsed' ? !map.begin : bare && !map.zone) asks.push(form === 'elapsed' ? 'begin' : 'zone')
  return { map, asks }
}

/** Reads numbers of a file in one unit to SI; the comma may stand for the point. null is none. */
export function readerOf(unit: string): (cell: string) => number | null {
  const found = findUnit(unit === 'm3' ? 'm³' : unit)
  if (!found) return () => null
  return (cell) => {
    const value = Number(cell.includes(',') ? cell.replace(',', '.') : cell)
    return Number.isFinite(value) ? toSi(value, found) : null
  }
}

const DAY_FORMS: Record<string, string[]> = {
  'day-first': ['d/M/yyyy H:mm:ss', 'd/M/yyyy H:mm', 'd/M/yyyy H:mm:ss.SSS'],
  'month-first': ['M/d/yyyy H:mm:ss', 'M/d/yyyy H:mm', 'M/d/yyyy H:mm:ss.SSS', 'M/d/yyyy h:mm:ss a'],
}

const PLAIN = /^\d{4}-\d\d-\d\dT\d\d:\d\d(:\d\d(\.\d+)?)?(Z|[+-]\d\d:?\d\d)$/

/** ISO times; those without a zone are of the logger's. */
function isoReader({ zone }: LogMap) {
  let day = ''
  let real = false
  return (text: string): number | null => {
    const first = text.slice(0, 10)
    // A log stays on one day for long: it is looked at once whether there is such a day.
    if (first !== day) [day, real] = [first, isDay(first)]
    if (!real) return null
    if (PLAIN.test(text)) return Date.parse(text)
    const iso = text.replace(/^(\d{4}-\d\d-\d\d) +/, '$1T')
    const where = ZONED.test(iso) ? 'utc' : zone
    if (!where) return null
    const read = DateTime.fromISO(iso, { zone: where })
    return read.isValid ? read.toMillis() : null
  }
}

/** Dates with slashes or points, as the map says which of their numbers is the day. */
function slashedReader({ form, zone }: LogMap) {
  return (text: string): number | null => {
    if (!zone) return null
    const plain = text.replace(/[.](?=\d{1,2}[.]|\d{4})/g, '/').replace(/\s+/g, ' ')
    for (const one of DAY_FORMS[form]!) {
      const read = DateTime.fromFormat(plain, one, { zone, locale: 'en' })
      if (read.isValid) return read.toMillis()
    }
    return null
  }
}

/**
 * Reads the moments that rows say, ms; null where they say none. Of an hour that the clocks repeat it is
 * the first, and one that they skip runs on.
 */
export function momentReader(map: LogMap): (day: string, time: string) => number | null {
  if (map.form === 'elapsed') {
    const begin = Date.parse(map.begin ?? '')
    return (_day, time) => {
      const seconds = Number(time.replace(',', '.'))
      return time === '' || !Number.isFinite(seconds) || Number.isNaN(begin) ? null : begin + seconds * 1000
    }
  }
  const read = map.form === 'iso' ? isoReader(map) : slashedReader(map)
  return (day, time) => read(day ? `${day} ${time}` : time)
}

/** @throws Problem naming what of a map does not fit the file, or was not said */
export function checkLogMap(map: LogMap, header: readonly string[], asks: readonly LogQuestion[]): void {
  const words: Record<LogQuestion, string> = {
    time: 'Say which column holds the time.',
    pressure: 'Say which column holds the pressure.',
    pressureUnit: 'Say in which unit the pressure is written.',
    makeupUnit: 'Say in which unit the water added is written.',
    form: 'Say whether the day or the month stands first in the dates.',
    zone: 'The times carry no zone: say where the logger’s clock is set.',
    begin: 'The log counts seconds: say when it began.',
  }
  if (asks[0]) throw new Problem('unsaid', words[asks[0]], asks[0], { asks })
  if (map.zone && !IANAZone.isValidZone(map.zone))
    throw new Problem('bad-zone', `There is no time zone "${map.zone.slice(0, 40)}".`, 'zone')
  for (const key of ['time', 'date', 'pressure', 'pipe', 'air', 'makeup'] as const)
    if (map[key] && !header.includes(map[key]))
      throw new Problem('bad-map', `The file has no column "${map[key].slice(0, 60)}".`, key)
}
