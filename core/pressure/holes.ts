import { cleanRows, type Row } from './rows'

/** A stretch of a log, s from its first row. */
interface Span {
  from: number
  to: number
}
/** In which nothing was read. */
export type Hole = Span

/**
 * The longest stretch without a reading within the phases of a test: what happened there nobody knows. It is
 * a hole where it is longer than five usual steps and than a minute, as the notes of a log count it. What
 * lies in a pause was not to be read.
 *
 * @param phases from and to, s
 * @param pauses from and to, s; one that has not ended runs on
 */
export function holeInHold(
  raw: readonly Row[],
  phases: readonly Span[],
  pauses: readonly Span[] = [],
): Hole | null {
  const { gaps } = cleanRows(raw)
  const judged = gaps.filter(
    (g) =>
      phases.some((p) => g.from < p.to && g.to > p.from) &&
      !pauses.some((p) => g.from >= p.from && g.to <= p.to),
  )
  return judged.reduce<Hole | null>(
    (longest, g) => (longest === null || g.to - g.from > longest.to - longest.from ? g : longest),
    null,
  )
}
