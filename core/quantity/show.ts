import { Problem } from '../problem'
import type { DimensionKey } from './dimension'
import { dimensions } from './dimension'
import { inchFraction, onTape, shownIn, unitShown } from './site-units'
import { findUnit, fromSi } from './units'

/**
 * Rounds for display to a number of significant digits, without scientific
 * notation and without trailing zeros; integers of any size keep all digits.
 */
export function showNumber(value: number, digits = 4): string {
  if (!Number.isFinite(value)) return '–'
  // What is left of a subtraction of equals is nothing to a person.
  if (Math.abs(value) < 1e-13) return '0'
  const text = Number.isSafeInteger(value) ? String(value) : rounded(value, digits)
  if (text === '-0') return '0'
  return value < 0 ? text.replace('-', '−') : text
}

function rounded(value: number, digits: number): string {
  const decimals = Math.min(30, Math.max(0, digits - 1 - Math.floor(Math.log10(Math.abs(value)))))
  return decimals === 0 ? value.toFixed(0) : withoutTrailingZeros(value.toFixed(decimals))
}

const [ZERO, POINT] = [48, 46]
/** "2.500" → "2.5", "3.000" → "3". By characters: sentences are written by the hundred thousand. */
function withoutTrailingZeros(text: string): string {
  let end = text.length
  while (text.charCodeAt(end - 1) === ZERO) end--
  return text.slice(0, text.charCodeAt(end - 1) === POINT ? end - 1 : end)
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

/** Of a US site, inches that lie on a mark of a tape as that fraction; null of anything else. */
function fractionOf(value: number, unit: string): string | null {
  const found = shownIn() === 'us' ? findUnit(unit) : null
  return found?.symbol === 'in' ? inchFraction(fromSi(value, found), true) : null
}

/** As `showIn`, in the unit of the site: with `unitShown(unit)` beside it. */
export function showBare(value: number, unit: string, digits = 4): string {
  const own = unitShown(unit)
  if (own === unit || unit === '') return showIn(value, unit, digits)
  const found = findUnit(own)!
  // What was made of another unit is no surer than its digits: 49,800 gal, not 49,807.
  const rounded = Number(fromSi(value, found).toPrecision(digits))
  return fractionOf(value, own) ?? showNumber(rounded, digits)
}

/** A length with so many decimals, as stations and levels are said: "12.50 m"; bare beside its unit. */
export function showMetres(value: number, decimals: number, withUnit = true): string {
  const unit = unitShown('m')
  const text = fromSi(value, findUnit(unit)!).toFixed(decimals).replace('-', '−')
  return withUnit ? `${text} ${unit}` : text
}

/** From one station to another: "0 to 480 m". */
export const showStretch = (from: number, to: number, decimals = 0): string =>
  `${showMetres(from, decimals, false)} to ${showMetres(to, decimals)}`

/**
 * Rounded to whole steps of the unit it is written in, or up to the next one where that is the safe side;
 * where the site reads another unit, to three digits of it.
 */
export function showSteps(value: number, unit: string, up = false, withUnit = true): string {
  const own = unitShown(unit)
  const found = findUnit(own)!
  const step = own === unit ? 1 : 0.1
  const steps = fromSi(value, found) / step
  const whole = up ? Math.ceil(steps - 1e-6) : Math.round(steps)
  return withUnit ? `${showNumber(whole * step)} ${own}` : showNumber(whole * step)
}

/** A distance that is laid off with a tape: on a US site to the nearest thirty-second of an inch. */
export const showTaped = (value: number, unit: string): string => {
  const own = unitShown(unit)
  return `${onTape(value, own) ?? showIn(value, own)} ${own}`
}

/** A value held in SI, written with its unit as the site reads it: "2.5 mm". Without a unit, in SI. */
export function showQuantity(
  value: number,
  dimension: DimensionKey,
  written: string = dimensions[dimension].unit,
  digits = 4,
): string {
  const unit = unitShown(written)
  const text = showBare(value, written, digits)
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
