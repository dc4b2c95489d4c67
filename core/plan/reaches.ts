import { Problem } from '../problem'
import { numbering } from './numbering'
import { checkStretch, SAME_STATION, type Stretch } from './stretch'

export interface PlannedSpan {
  name: string
  /** m */
  from: number
  to: number
}

export interface Cutting extends Stretch {
  /** m of one reach; the last one takes what is left */
  every: number
  pattern: string
}

/** A line is cut into so many reaches at once. */
export const MOST_REACHES = 2000
/** To a tenth of a millimetre, so that feet stay whole. */
const fine = (m: number) => Math.round(m * 1e4) / 1e4

/**
 * Reaches of one length, one after the other without a gap; the last one is what is left. A rest of less
 * than a tenth of a reach goes to the one before it.
 *
 * @param line stations of the line, m
 * @param taken spans that are reaches already, m: none is cut over another
 * @throws Problem naming `from`, `to`, `every`, `pattern` or `start`
 */
export function cutReaches(
  c: Cutting,
  line: { from: number; to: number },
  taken: readonly { name: string; from: number; to: number }[] = [],
): PlannedSpan[] {
  checkStretch(c, line)
  if (!(c.every >= 1)) throw new Problem('out-of-bounds', 'A reach is at least a metre long.', 'every')
  const over = taken.find((t) => t.from < c.to - SAME_STATION && t.to > c.from + SAME_STATION)
  if (over)
    throw new Problem('overlap', `${over.name}, ${over.from} to ${over.to} m, lies there already.`, 'from')
  const name = numbering(c.pattern)
  const whole = (c.to - c.from) / c.every
  const count = Math.max(
    1,
    whole - Math.floor(whole) < 0.1 ? Math.floor(whole + SAME_STATION) : Math.ceil(whole),
  )
  if (count > MOST_REACHES)
    throw new Problem(
      'too-many',
      `These would be ${count} reaches: cut at most ${MOST_REACHES} at once.`,
      'every',
    )
  return Array.from({ length: count }, (_v, i) => ({
    name: name(c.start + i),
    from: fine(c.from + i * c.every),
    to: i === count - 1 ? fine(c.to) : fine(c.from + (i + 1) * c.every),
  }))
}
