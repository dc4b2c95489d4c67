import { isDay } from '../quantity/day'
import { Problem } from '../problem'
import type { DimensionKey } from '../quantity/dimension'
import { dimensions } from '../quantity/dimension'
import { readQuantity } from '../quantity/read'

/** What a form or a document needs to know about one input. */
export interface InputDescription {
  kind: 'quantity' | 'count' | 'word' | 'flag' | 'time' | 'list' | 'record'
  dimension?: DimensionKey
  /** A unit handy on screen; SI when absent. */
  unit?: string
  bounds?: string
  choices?: readonly string[]
  fields?: Record<string, InputDescription>
  of?: InputDescription
  optional?: boolean
  default?: unknown
}

/** One input of a calculator: how it is described and how it is read. */
export interface Input<T> {
  readonly describe: InputDescription
  /** Reads a given value. @throws Problem naming `field` */
  read(raw: unknown, field: string): T
  /** What stands in when it is not given; absent when it must be given. */
  readonly absent?: { value: T }
}

export type Inputs = Record<string, Input<unknown>>
export type Values<I extends Inputs> = { [K in keyof I]: I[K] extends Input<infer T> ? T : never }

interface Bounds {
  /** lowest allowed */
  min?: number
  /** must be greater than */
  above?: number
  max?: number
  below?: number
}

const bounded = (value: number, bounds: Bounds, field: string, unit: string): number => {
  const fail = (rule: string): never => {
    const u = unit ? ` ${unit}` : ''
    throw new Problem('out-of-bounds', `{${field}} must be ${rule}${u}, but is ${value}${u}.`, field)
  }
  if (bounds.above !== undefined && !(value > bounds.above)) fail(`more than ${bounds.above}`)
  if (bounds.min !== undefined && !(value >= bounds.min)) fail(`at least ${bounds.min}`)
  if (bounds.max !== undefined && !(value <= bounds.max)) fail(`at most ${bounds.max}`)
  if (bounds.below !== undefined && !(value < bounds.below)) fail(`less than ${bounds.below}`)
  return value
}

const boundsText = (b: Bounds) =>
  [
    b.above !== undefined && `> ${b.above}`,
    b.min !== undefined && `≥ ${b.min}`,
    b.max !== undefined && `≤ ${b.max}`,
    b.below !== undefined && `< ${b.below}`,
  ]
    .filter(Boolean)
    .join(', ')

/** A physical quantity in SI. */
export function quantity(dimension: DimensionKey, bounds: Bounds = {}, unit?: string): Input<number> {
  return {
    describe: { kind: 'quantity', dimension, unit, bounds: boundsText(bounds) },
    read(raw, field) {
      if (typeof raw === 'number' && Number.isFinite(raw))
        return bounded(raw, bounds, field, dimensions[dimension].unit)
      if (typeof raw !== 'number' && typeof raw !== 'string' && raw !== null && raw !== undefined) {
        throw new Problem(
          'not-a-number',
          `{${field}} must be ${dimensions[dimension].noun}, not ${Array.isArray(raw) ? 'a list' : typeof raw}.`,
          field,
        )
      }
      return bounded(readQuantity(raw, dimension, { field }), bounds, field, dimensions[dimension].unit)
    },
  }
}

export const positive = (dimension: DimensionKey, unit?: string) => quantity(dimension, { above: 0 }, unit)
export const notNegative = (dimension: DimensionKey, unit?: string) => quantity(dimension, { min: 0 }, unit)

/** A whole number without a unit. */
export function count(bounds: Bounds = { min: 0 }): Input<number> {
  return {
    describe: { kind: 'count', bounds: boundsText(bounds) },
    read(raw, field) {
      if (typeof raw !== 'number' && typeof raw !== 'string' && raw !== null && raw !== undefined)
        throw new Problem('not-a-number', `{${field}} must be a whole number.`, field)
      const value = readQuantity(raw, 'ratio', { field })
      if (!Number.isSafeInteger(value) || (typeof raw === 'string' && /[%‰]/.test(raw)))
        throw new Problem('not-whole', `{${field}} must be a whole number.`, field)
      return bounded(value, bounds, field, '')
    },
  }
}

/** One of a few words. */
export function word<const W extends string>(choices: readonly W[]): Input<W> {
  return {
    describe: { kind: 'word', choices },
    read(raw, field) {
      if (raw === undefined || raw === null || raw === '')
        throw new Problem('missing', `{${field}} is missing: give one of ${choices.join(', ')}.`, field)
      const found = choices.find((choice) => choice === raw)
      if (!found)
        throw new Problem('unknown-choice', `{${field}} must be one of ${choices.join(', ')}.`, field)
      return found
    },
  }
}

/** Yes or no; the words true and false are understood, as a command line has no booleans. */
export function flag(): Input<boolean> {
  return {
    describe: { kind: 'flag' },
    read(raw, field) {
      if (raw === true || raw === 'true') return true
      if (raw === false || raw === 'false') return false
      throw new Problem(
        raw === undefined || raw === null || raw === '' ? 'missing' : 'not-a-flag',
        `{${field}} must be true or false.`,
        field,
      )
    },
  }
}

const ISO = /^\d{4}-\d\d-\d\dT\d\d:\d\d(:\d\d(\.\d{1,9})?)?(Z|[+-]\d\d:?\d\d)$/

/** An instant, ISO 8601 with its zone, as milliseconds since 1970. */
export function instant(): Input<number> {
  return {
    describe: { kind: 'time' },
    read(raw, field) {
      if (raw === undefined || raw === null || raw === '')
        throw new Problem('missing', `{${field}} is missing: give a date and time with its zone.`, field)
      if (typeof raw !== 'string' || !ISO.test(raw))
        throw new Problem(
          'not-a-time',
          `{${field}} must be a date and time with its zone, such as 2026-03-09T08:15:00Z.`,
          field,
        )
      const ms = Date.parse(raw)
      if (Number.isNaN(ms) || !isDay(raw.slice(0, 10)))
        throw new Problem('not-a-time', `{${field}} is not a date that exists.`, field)
      return ms
    },
  }
}

/** Several of the same. Refusals name the list, never an index. A command line gives one text with commas. */
export function list<T>(
  of: Input<T>,
  length: { min?: number; exactly?: number; max?: number } = {},
): Input<T[]> {
  const max = length.max ?? 10_000
  return {
    describe: {
      kind: 'list',
      of: of.describe,
      bounds: length.exactly ? `exactly ${length.exactly}` : length.min ? `at least ${length.min}` : '',
    },
    read(raw, field) {
      if (raw === undefined || raw === null || raw === '')
        throw new Problem('missing', `{${field}} is missing: give a list.`, field)
      if (!Array.isArray(raw)) throw new Problem('not-a-list', `{${field}} must be a list.`, field)
      if (length.exactly !== undefined && raw.length !== length.exactly)
        throw new Problem('wrong-length', `{${field}} must have exactly ${length.exactly} values.`, field)
      if (raw.length < (length.min ?? 1))
        throw new Problem('wrong-length', `{${field}} must have at least ${length.min ?? 1} values.`, field)
      if (raw.length > max)
        throw new Problem('wrong-length', `{${field}} may have at most ${max} values.`, field)
      return raw.map((item) => of.read(item, field))
    },
  }
}

/** A small record, such as one point of a curve. Refusals name the list it stands in. */
export function record<I extends Inputs>(fields: I): Input<Values<I>> {
  return {
    describe: {
      kind: 'record',
      fields: Object.fromEntries(Object.entries(fields).map(([key, input]) => [key, input.describe])),
    },
    read(raw, field) {
      if (typeof raw !== 'object' || raw === null || Array.isArray(raw))
        throw new Problem(
          'not-a-record',
          `{${field}} must hold records of ${Object.keys(fields).join(', ')}.`,
          field,
        )
      for (const key of Object.keys(raw)) {
        if (!Object.hasOwn(fields, key))
          throw new Problem('unknown-input', `{${field}} holds "${key}", which is not known there.`, field)
      }
      const given = raw as Record<string, unknown>
      return Object.fromEntries(
        Object.entries(fields).map(([key, input]) => {
          if (given[key] === undefined && input.absent) return [key, input.absent.value]
          return [key, input.read(given[key], field)]
        }),
      ) as Values<I>
    },
  }
}

export const optional = <T>(input: Input<T>): Input<T | null> => ({
  ...input,
  describe: { ...input.describe, optional: true },
  absent: { value: null },
})

/** Not given: the default stands in (shown in the input's own unit). */
export const withDefault = <T>(input: Input<T>, value: T): Input<T> => ({
  ...input,
  describe: { ...input.describe, optional: true, default: value },
  absent: { value },
})

/** Whether a length is written in inches; a bare number is in the unit that is usual there. */
export const writtenInInches = (text: string, usual?: string): boolean =>
  /(in|inch|inches|")\s*$/.test(text) || (usual === 'in' && /[\d/]\s*$/.test(text))

/** A nominal pipe size in metres; inches are nominal too and map to DN (2 in is DN 50). */
export function nominalSize(): Input<number> {
  const input = positive('length', 'mm')
  return {
    ...input,
    read(raw, field) {
      const si = input.read(raw, field)
      return typeof raw === 'string' && writtenInInches(raw) ? dnOfInches(si / 0.0254) / 1000 : si
    },
  }
}

const smallDn: [inches: number, dn: number][] = [
  [0.25, 8],
  [0.375, 10],
  [0.5, 15],
  [0.75, 20],
  [1, 25],
  [1.25, 32],
  [1.5, 40],
  [2, 50],
  [2.5, 65],
  [3, 80],
  [3.5, 90],
  [4, 100],
  [5, 125],
  [6, 150],
  [8, 200],
  [10, 250],
  [12, 300],
]
/** DN (mm) of a nominal size in inches: the usual pairs up to 12 in, 25 mm an inch above. */
export const dnOfInches = (inches: number): number =>
  smallDn.find(([nominal]) => Math.abs(nominal - inches) < 1e-6)?.[1] ?? inches * 25
