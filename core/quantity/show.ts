import { Problem } from '../problem'
import type { DimensionKey } from './dimension'
import { dimensions } from './dimension'
import { findUnit, fromSi } from './units'

/**
 * Rounds for display to a number of significant digits, without scientific
 * notation and without trailing zeros; integers of any size keep all digits.
 */
export function showNumber(value: number, digits = 4): string {
  if (!Number.isFinite(value)) return '–'
  // What is left of a subtraction of equals is nothing to a person.
  if (Math.abs(value) < 1e-13) return '0'
  const decimals = Math.min(30, Math.max(0, digits - 1 - Math.floor(Math.log10(Math.abs(value)))))
  const text = value.toFixed(decimals)
  return (text.includes('.') ? text.replace(/0+$/, '').replace(/\.$/, '') : text)
    .replace(/^-(0(\.0*)?)$/, '0')
    .replace(/^-/, '−')
}

/** How many: whole numbers with their thousands set apart, 20000 → "20,000". */
export const showCount = (count: number): string => Math.round(count).toLocaleString('en-GB')

/** A value held in SI, as a bare number in `unit` (at most `digits` significant). */
export function showIn(value: number, unit: string, digits = 4): string {
  if (unit === '') return showNumber(value, digits)
  const found = findUnit(unit)
  if (!found) throw new Problem('unknown-unit', `The unit "${unit}" is not known.`)
  return showNumber(fromSi(value, found), digits)
}

/** A value held in SI, written with its unit: "2.5 mm". Without a unit, in SI. */
export function showQuantity(
  value: number,
  dimension: DimensionKey,
  unit: string = dimensions[dimension].unit,
  digits = 4,
): string {
  const text = showIn(value, unit, digits)
  // An angle stands close to its sign; everything else keeps its distance.
  if (unit === 'deg' || unit === '°') return `${text}°`
  return unit === '' ? text : `${text} ${unit}`
}

/** Seconds as a clock face: 95 → "1:35", 7265 → "2:01:05"; negative with a sign. */
export function showDuration(seconds: number): string {
  const sign = seconds < 0 ? '−' : ''
  const total = Math.round(Math.abs(seconds))
  const h = Math.floor(total / 3600)
  const m = Math.floor((total % 3600) / 60)
  const two = (n: number) => String(n).padStart(2, '0')
  return sign + (h > 0 ? `${h}:${two(m)}:${two(total % 60)}` : `${m}:${two(total % 60)}`)
}
