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

/**
 * A span of time in words, so that nobody reads it as a time of day: 95 s → "1 min 35 s",
 * 7265 s → "2 h 1 min 5 s"; negative with a sign.
 *
 * @param seconds rounded to whole ones
 */
export function showDuration(seconds: number): string {
  const total = Math.round(Math.abs(seconds))
  const parts = [
    [Math.floor(total / 3600), 'h'],
    [Math.floor((total % 3600) / 60), 'min'],
    [total % 60, 's'],
  ] as const
  const said = parts.filter(([n]) => n > 0).map(([n, unit]) => `${n} ${unit}`)
  return said.length === 0 ? '0 s' : (seconds < 0 ? '−' : '') + said.join(' ')
}

/** The time left of a running clock: to the second in the last hour, to the minute before. */
export const showLeft = (seconds: number): string =>
  showDuration(Math.abs(seconds) < 3600 ? seconds : Math.ceil(seconds / 60) * 60)
