import { findUnit, fromSi, toSi } from './units'

/**
 * What a site reads its figures in. `as-written`: every figure in the unit that its procedure names, metric
 * and US side by side where makers print them so.
 */
export const siteUnits = ['metric', 'us', 'as-written'] as const
export type SiteUnits = (typeof siteUnits)[number]

/** A metric unit and the one in which a US site reads what is written in it. */
const inUs: Record<string, string> = {
  ...{ mm: 'in', cm: 'in', m: 'ft' },
  ...{ 'm²': 'ft²', 'cm²': 'in²', 'mm²': 'in²' },
  ...{ 'm³': 'gal', L: 'gal' },
  ...{ kg: 'lb', t: 'lb', 'kg/m': 'lb/ft' },
  '°C': '°F',
  ...{ Pa: 'psi', kPa: 'psi', MPa: 'psi', bar: 'psi', mbar: 'psi', 'N/mm²': 'psi', 'N/m²': 'psi' },
  ...{ N: 'lbf', kN: 'lbf', 'N·m': 'ft·lbf', 'kN·m': 'ft·lbf' },
  ...{ 'kg/m³': 'lb/ft³', 'g/cm³': 'lb/ft³', 't/m³': 'lb/ft³', 'N/m³': 'lbf/ft³', 'kN/m³': 'lbf/ft³' },
  ...{ 'm/s': 'ft/s', 'm³/s': 'gal/min', 'm³/h': 'gal/min', 'L/s': 'gal/min', 'L/min': 'gal/min' },
  'L/h': 'gal/h',
}
/** A US unit and the metric one in which a metric site reads it. */
const inMetric: Record<string, string> = {
  ...{ in: 'mm', ft: 'm', 'in²': 'mm²', 'ft²': 'm²', gal: 'L', 'ft³': 'm³' },
  ...{ lb: 'kg', 'lb/ft': 'kg/m', '°F': '°C', psi: 'kPa', lbf: 'kN', 'ft·lbf': 'N·m' },
  ...{ 'lb/ft³': 'kg/m³', 'lbf/ft³': 'kN/m³', 'ft/s': 'm/s', 'gal/min': 'L/min', 'gal/h': 'L/h' },
}

/**
 * The unit in which a site reads a figure that is written in another: mm → in on a US site. A unit that has
 * no companion, such as seconds or percent, stays.
 */
export function unitOn(units: SiteUnits, written: string): string {
  if (units === 'as-written') return written
  const symbol = findUnit(written)?.symbol ?? written
  const other = units === 'us' ? inUs[symbol] : inMetric[symbol]
  return other ?? written
}

/**
 * In what figures are shown now. It is how a person reads, as a language is, and never what is worked out:
 * values are SI throughout.
 */
let shown: SiteUnits = 'as-written'
export const shownIn = (): SiteUnits => shown

/** Shows all that follows in these units: of a browser, which one person reads. */
export function showEverythingIn(units: SiteUnits): void {
  shown = units
}

/**
 * Words what `run` says in these units and leaves everything else as it was: of a server, which speaks to
 * sites of both kinds. `run` must not wait for anything.
 */
export function wordedIn<T>(units: SiteUnits | undefined, run: () => T): T {
  if (units === undefined || units === shown) return run()
  const before = shown
  shown = units
  try {
    return run()
  } finally {
    shown = before
  }
}

/** The unit in which what is written in `unit` is shown now. */
export const unitShown = (unit: string): string => (unit === '' ? '' : unitOn(shown, unit))

const THIRTY_SECOND = 32
/** Closer than this to a thirty-second of an inch a figure is that fraction: a hundredth of its width. */
const SAME = 0.01

/**
 * Inches as a tape shows them: 4.34375 → "4 11/32".
 *
 * @param exactly null is given for what lies between two marks of a tape; otherwise the nearer mark
 */
export function inchFraction(inches: number, exactly: boolean): string | null {
  const parts = Math.abs(inches) * THIRTY_SECOND
  const whole = Math.round(parts)
  if (!Number.isFinite(parts) || (exactly && Math.abs(parts - whole) > SAME)) return null
  const sign = inches < 0 && whole > 0 ? '−' : ''
  const feet = Math.floor(whole / THIRTY_SECOND)
  let [top, bottom] = [whole % THIRTY_SECOND, THIRTY_SECOND]
  if (top === 0) return `${sign}${feet}`
  while (top % 2 === 0) [top, bottom] = [top / 2, bottom / 2]
  return `${sign}${feet > 0 ? `${feet} ` : ''}${top}/${bottom}`
}

/** A value held in SI as a tape shows it, in inches to the nearest thirty-second; null where no tape is read so. */
export function onTape(value: number, unit: string): string | null {
  const found = findUnit(unit)
  return found?.symbol === 'in' ? inchFraction(fromSi(value, found), false) : null
}

/** Whether a number was typed without a unit. */
export const isBare = (typed: string): boolean =>
  typed.trim() !== '' && /^[−+-]?[\d.,\s/]+$/.test(typed.trim())

/**
 * What a person typed, with the unit that stood beside the field where it has none of its own: "12" typed
 * at a field in feet is "12 ft", so that nobody else takes it for metres.
 *
 * @param unit the unit as the field is written in, before it is shown in that of the site
 */
export const withUnit = (typed: string, unit: string): string =>
  isBare(typed) ? `${typed.trim()} ${unitShown(unit)}` : typed

/** A value held in SI as a number of the unit in which what is written in `unit` is shown now. */
export const inSite = (value: number, unit: string): number => fromSi(value, findUnit(unitShown(unit))!)

/** A number of the unit shown, held in SI. */
export const ofSite = (shown: number, unit: string): number => toSi(shown, findUnit(unitShown(unit))!)
