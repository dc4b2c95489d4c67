import { DateTime } from 'luxon'
import { useSession } from '~/stores/session'

/** Times as the project's clock shows them. */
export function useTimes() {
  const session = useSession()
  const at = (ms: number | string) =>
    (typeof ms === 'string' ? DateTime.fromISO(ms) : DateTime.fromMillis(ms)).setZone(session.zone)
  const clock = (ms: number) => at(ms).toFormat('HH:mm')
  return {
    clock,
    /** a time of day to the second, as readings of a log have it */
    second: (ms: number) => at(ms).toFormat('HH:mm:ss'),
    /** "14:05" today, "Tue 14:05" this week, "3 Mar 14:05" beyond */
    moment: (ms: number | string) => {
      const t = at(ms)
      const now = DateTime.now().setZone(session.zone)
      if (t.hasSame(now, 'day')) return t.toFormat('HH:mm')
      return Math.abs(t.diff(now, 'days').days) < 6 ? t.toFormat('ccc HH:mm') : t.toFormat('d LLL HH:mm')
    },
    /** the day it is where the work is, as days are kept: YYYY-MM-DD */
    today: () => DateTime.now().setZone(session.zone).toISODate()!,
    /** a calendar day as it is printed, whatever the zone */
    date: (iso: string) => DateTime.fromISO(iso.slice(0, 10), { zone: 'utc' }).toFormat('d LLL yyyy'),
    /** whether a calendar day of the project is over */
    overdue: (iso: string, now: number) =>
      DateTime.fromISO(iso, { zone: session.zone }).endOf('day').toMillis() < now,
    day: (ms: number | string) => at(ms).toFormat('d LLL yyyy'),
    /** "6 min", "3 h 10 min", "2 days" */
    span: (ms: number) => {
      const minutes = Math.max(0, Math.round(ms / 60_000))
      if (minutes < 60) return `${minutes} min`
      if (minutes < 48 * 60)
        return `${Math.floor(minutes / 60)} h${minutes % 60 ? ` ${minutes % 60} min` : ''}`
      return `${Math.round(minutes / 1440)} days`
    },
  }
}
