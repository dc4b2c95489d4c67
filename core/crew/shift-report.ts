import type { Entry } from '../record/entry'
import { leftOpen, type AtWorkToday, type LeftOpen } from './end-of-day'
import { standingTime, standsOf, type StandingCause } from './standing-time'

/** What a crew worked at on a day, as its record says. */
export interface ShiftWork {
  id: string
  /** number of a joint, name of a reach */
  name: string
  of: 'joint' | 'reach'
  procedure: string
  state: string
  /** right at the first try; null while that is not decided */
  right: boolean | null
  /** titles of steps that were rejected or reported */
  faults: readonly string[]
  /** titles by the keys of the steps */
  titles: Readonly<Record<string, string>>
  /** all that stands, in order */
  entries: readonly Entry[]
  /** as it is judged at the end of the span; null where it has no procedure */
  judged: Pick<AtWorkToday, 'compiled' | 'judgement'> | null
}

export interface ShiftReport {
  crew: { id: string; name: string }
  /** YYYY-MM-DD */
  day: string
  work: {
    id: string
    name: string
    of: 'joint' | 'reach'
    procedure: string
    state: string
    right: boolean | null
    faults: string[]
    answers: number
    lifts: number
  }[]
  stands: { at: string; step: string | null; cause: StandingCause; from: number; to: number | null }[]
  /** ms by cause, within the day */
  standing: Record<StandingCause, number>
  lots: string[]
  ncrs: string[]
  photos: number
  /** entries that came too late to be relied on */
  late: number
  /** what was left open at the end; not there in reports that were signed before it was told */
  left?: LeftOpen[]
}

const sorted = (names: Iterable<string>) => [...new Set(names)].sort((a, b) => a.localeCompare(b, 'en'))

/**
 * One page of a crew and a day, made by the record itself: what was worked at and how it stands, what was
 * refused, where the crew stood and why, what was opened and raised.
 *
 * @param span the day, ms; `to` is now while the day is not over
 * @param told whether it tells what is left open
 */
export function shiftReport(
  crew: { id: string; name: string },
  day: string,
  span: { from: number; to: number },
  work: readonly ShiftWork[],
  told = true,
): ShiftReport {
  const within = (e: Entry) => e.recordedAt >= span.from && e.recordedAt < span.to
  const entries = work.flatMap((w) => w.entries.filter(within))
  const stands = work
    .flatMap((w) => standsOf(w.id, w.entries).map((s) => ({ ...s, w })))
    .filter((s) => s.from < span.to && (s.to ?? span.to) > span.from)
    .sort((a, b) => a.from - b.from)
  return {
    crew,
    day,
    work: work.map((w) => {
      const today = w.entries.filter(within)
      return {
        ...{ id: w.id, name: w.name, of: w.of, procedure: w.procedure, state: w.state, right: w.right },
        faults: [...w.faults],
        answers: today.filter((e) => e.step !== null).length,
        lifts: today.filter((e) => e.kind === 'lift').length,
      }
    }),
    stands: stands.map(({ w, step, cause, from, to }) => ({
      ...{ at: w.name, step: step === null ? null : (w.titles[step] ?? step), cause, from, to },
    })),
    standing: standingTime(stands, span.from, span.to),
    lots: sorted(entries.filter((e) => e.kind === 'lot').map((e) => String(e.payload.lot))),
    ncrs: sorted(
      entries
        .filter((e) => e.kind === 'ncr' && e.payload.event === 'raised')
        .map((e) => String(e.payload.number)),
    ),
    photos: entries.filter((e) => e.kind === 'photo').length,
    late: entries.filter((e) => e.late).length,
    ...(told
      ? {
          left: leftOpen(
            work.flatMap((w) => (w.judged ? [{ ...w, ...w.judged }] : [])),
            span.from,
          ),
        }
      : {}),
  }
}
