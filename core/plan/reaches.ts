import { Problem } from '../problem'
import { numbering } from './numbering'

export interface PlannedSpan {
  name: string
  /** m */
  from: number
  to: number
}

export interface Cutting {
  from: number
  to: number
  /** m of one reach; the last one takes what is left */
  every: number
  pattern: string
  start: number
}

/** A line is cut into so many reaches at once. */
export const MOST_REACHES = 2000
const EPSILON = 1e-6
const mm = (m: number) => Math.round(m * 1000) / 1000

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
  if (!(c.from >= line.from - EPSILON))
    throw new Problem('out-of-bounds', 'This lies before the line.', 'from')
  if (!(c.to <= line.to + EPSILON))
    throw new Problem('out-of-bounds', 'This lies after the end of the line.', 'to')
  if (!(c.to > c.from)) throw new Problem('contradiction', 'The end lies after the beginning.', 'to')
  if (!(c.every >= 1)) throw new Problem('out-of-bounds', 'A reach is at least a metre long.', 'every')
  if (!Number.isSafeInteger(c.start) || c.start < 0)
    throw new Problem('not-whole', 'The first number is a whole number.', 'start')
  const over = taken.find((t) => t.from < c.to - EPSILON && t.to > c.from + EPSILON)
  if (over)
    throw new Problem('overlap', `${over.name}, ${over.from} to ${over.to} m, lies there already.`, 'from')
  const name = numbering(c.pattern)
  const whole = (c.to - c.from) / c.every
  const count = Math.max(1, whole - Math.floor(whole) < 0.1 ? Math.floor(whole + EPSILON) : Math.ceil(whole))
  if (count > MOST_REACHES)
    throw new Problem(
      'too-many',
      `These would be ${count} reaches: cut at most ${MOST_REACHES} at once.`,
      'every',
    )
  return Array.from({ length: count }, (_v, i) => ({
    name: name(c.start + i),
    from: mm(c.from + i * c.every),
    to: i === count - 1 ? mm(c.to) : mm(c.from + (i + 1) * c.every),
  }))
}
