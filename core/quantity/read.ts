import { Problem } from '../problem'
import { dimensions, type DimensionKey } from './dimension'
import { findUnit, toSi } from './units'

const NUMBER = String.raw`(?:\d+(?:[.,]\d+)?|[.,]\d+)(?:[eE][+-]?\d+)?`
const mixedFraction = new RegExp(String.raw`^([+-]?)\s*(?:(\d+)[\s-]+)?(\d+)\s*/\s*(\d+)\s*(.*)$`)
const plain = new RegExp(String.raw`^([+-]?)\s*(${NUMBER})\s*(.*)$`)
const feetInches = new RegExp(
  String.raw`^([+-]?)\s*(${NUMBER})\s*(?:'|ft)\s*-?\s*(?:((?:\d+[\s-]+)?\d+\s*/\s*\d+|${NUMBER})\s*(?:"|in|''))?$`,
)

const decimal = (text: string) => Number(text.replace(',', '.'))

function fractionOrDecimal(text: string): number {
  const match = /^(?:(\d+)[\s-]+)?(\d+)\s*\/\s*(\d+)$/.exec(text)
  if (!match) return decimal(text)
  return Number(match[1] ?? 0) + Number(match[2]) / Number(match[3])
}

interface Written {
  value: number
  unit: string
}

/** Splits "1 1/2 in", "12,5 mm", "6' 2\"" into number and unit; null when it is neither. */
function split(text: string): Written | null {
  const feet = feetInches.exec(text)
  if (feet) {
    const inches = decimal(feet[2]!) * 12 + (feet[3] ? fractionOrDecimal(feet[3]) : 0)
    return { value: (feet[1] === '-' ? -1 : 1) * inches, unit: 'in' }
  }
  const fraction = mixedFraction.exec(text)
  if (fraction) {
    const value = Number(fraction[2] ?? 0) + Number(fraction[3]) / Number(fraction[4])
    return { value: (fraction[1] === '-' ? -1 : 1) * value, unit: fraction[5]!.trim() }
  }
  const number = plain.exec(text)
  if (!number) return null
  return { value: (number[1] === '-' ? -1 : 1) * decimal(number[2]!), unit: number[3]!.trim() }
}

export interface ReadOptions {
  /** The field named in a refusal. */
  field?: string
  /** The unit a bare number is in; SI when absent. */
  bareUnit?: string
}

/**
 * Reads a quantity typed by a person or sent by a program.
 *
 * @param input text with or without a unit ("3/32 in", "12,5 mm", "6' 2\""), or a finite number
 * @param dimension what it must be
 * @returns the value in SI (degrees, °C)
 * @throws Problem `missing`, `not-a-number`, `unknown-unit` or `wrong-dimension`, naming `options.field`
 */
export function readQuantity(input: unknown, dimension: DimensionKey, options: ReadOptions = {}): number {
  const field = options.field ?? null
  const theValue = field === null ? 'The value' : `{${field}}`
  const wanted = dimensions[dimension]
  if (input === undefined || input === null || (typeof input === 'string' && input.trim() === '')) {
    throw new Problem('missing', `${theValue} is missing: give ${wanted.noun}.`, field)
  }
  let written: Written | null = null
  if (typeof input === 'number') written = { value: input, unit: '' }
  else if (typeof input === 'string' && input.length <= 60)
    written = split(
      input
        .trim()
        .replace(/\u00a0/g, ' ')
        .replace(/−/g, '-'),
    )
  if (!written || !Number.isFinite(written.value)) {
    throw new Problem(
      'not-a-number',
      `${theValue} is not a number with a unit: give ${wanted.noun}, for example "${exampleOf(dimension)}".`,
      field,
    )
  }
  const symbol = written.unit || options.bareUnit || ''
  if (symbol === '') return written.value
  const unit = findUnit(symbol)
  if (!unit) throw new Problem('unknown-unit', `${theValue}: the unit "${symbol}" is not known.`, field)
  if (unit.dimension !== dimension) {
    throw new Problem(
      'wrong-dimension',
      `${theValue} must be ${wanted.noun}, but "${symbol}" is ${dimensions[unit.dimension].noun}.`,
      field,
    )
  }
  const value = toSi(written.value, unit)
  if (!Number.isFinite(value)) throw new Problem('not-a-number', `${theValue} is too large.`, field)
  return value
}

/**
 * The dimension of a written quantity by its unit, or null for a bare number. @throws Problem as
 * readQuantity
 */
export function writtenDimension(input: unknown, field?: string): DimensionKey | null {
  if (typeof input !== 'string') return null
  const written = split(input.trim())
  if (!written || written.unit === '') return null
  const unit = findUnit(written.unit)
  if (!unit)
    throw new Problem(
      'unknown-unit',
      `${field ? `{${field}}` : 'The value'}: the unit "${written.unit}" is not known.`,
      field ?? null,
    )
  return unit.dimension
}

const exampleOf = (dimension: DimensionKey) =>
  (
    ({
      length: '12.5 mm',
      pressure: '8 bar',
      time: '20 min',
      temperature: '18 °C',
      angle: '2.5 deg',
      ratio: '12 %',
    }) as Partial<Record<DimensionKey, string>>
  )[dimension] ?? `10 ${dimensions[dimension].unit}`.trim()
