import { endOfDay } from '../quantity/day'

/** What is known of the age of a lot. Dates such as 2026-03-09; lives in months and days. */
export interface LotDates {
  made: string | null
  expires: string | null
  opened: string | null
  shelfMonths: number | null
  openedDays: number | null
}

export interface ShelfEnd {
  /** the last moment that is good, ms since 1970 UTC */
  at: number
  why: 'printed expiry' | 'shelf life from production' | 'life after opening'
}

/** A date moved on by months; the 31st becomes the last day of a shorter month. */
export function addMonths(day: string, months: number): string {
  const [year, month, date] = day.split('-').map(Number) as [number, number, number]
  const last = new Date(Date.UTC(year, month - 1 + months + 1, 0)).getUTCDate()
  return new Date(Date.UTC(year, month - 1 + months, Math.min(date, last))).toISOString().slice(0, 10)
}

/** A date moved on by whole days. */
export const addDays = (day: string, days: number): string =>
  new Date(Date.parse(day) + days * 86_400_000).toISOString().slice(0, 10)

/**
 * When a lot is no longer good: the earliest of the printed expiry, production
 * plus shelf life, and opening plus the life once opened. A date is good to its
 * end, where the work is. Null when nothing limits it.
 *
 * @param zone IANA name of the project's zone
 */
export function shelfEnd(lot: LotDates, zone: string): ShelfEnd | null {
  const endOf = (day: string) => endOfDay(day, zone)
  const ends: ShelfEnd[] = []
  if (lot.expires) ends.push({ at: endOf(lot.expires), why: 'printed expiry' })
  if (lot.made && lot.shelfMonths !== null)
    ends.push({ at: endOf(addMonths(lot.made, lot.shelfMonths)), why: 'shelf life from production' })
  if (lot.opened && lot.openedDays !== null)
    ends.push({ at: endOf(addDays(lot.opened, lot.openedDays)), why: 'life after opening' })
  return ends.reduce<ShelfEnd | null>((first, e) => (first === null || e.at < first.at ? e : first), null)
}

export type ShelfState = 'good' | 'soon' | 'expired' | 'unlimited'

/** How a lot stands at a moment; `soon` within the days of warning. */
export function shelfState(end: ShelfEnd | null, now: number, warnDays = 30): ShelfState {
  if (!end) return 'unlimited'
  if (now > end.at) return 'expired'
  return now > end.at - warnDays * 86_400_000 ? 'soon' : 'good'
}
