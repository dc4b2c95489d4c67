import { DateTime } from 'luxon'

/** Whether a text is a date that exists, written like 2026-03-09. */
export const isDay = (text: string): boolean =>
  /^\d{4}-\d\d-\d\d$/.test(text) &&
  !Number.isNaN(Date.parse(text)) &&
  new Date(text).toISOString().slice(0, 10) === text

/**
 * The day that it is where the work is.
 *
 * @param at ms since 1970 UTC
 * @param zone IANA name of the project's zone
 */
export const dayOf = (at: number, zone: string): string => DateTime.fromMillis(at, { zone }).toISODate()!

/** The Monday of the week that it is where the work is. */
export const weekOf = (at: number, zone: string): string =>
  DateTime.fromMillis(at, { zone }).startOf('week').toISODate()!

/** The first moment of a day where the work is, ms since 1970 UTC. */
export const startOfDay = (day: string, zone: string): number =>
  DateTime.fromISO(day, { zone }).startOf('day').toMillis()

/** The last moment of a day where the work is, ms since 1970 UTC. */
export const endOfDay = (day: string, zone: string): number =>
  DateTime.fromISO(day, { zone }).endOf('day').toMillis()
