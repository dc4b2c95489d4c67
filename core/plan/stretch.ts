import { Problem } from '../problem'

/** Two stations closer than this are one, m. */
export const SAME_STATION = 1e-6

/** A stretch of a line that something is planned along, and the first number of what is. */
export interface Stretch {
  /** m */
  from: number
  to: number
  start: number
}

/** @throws Problem naming `from`, `to` or `start`: off the line, backwards, or no whole number */
export function checkStretch({ from, to, start }: Stretch, line: { from: number; to: number }): void {
  if (!(from >= line.from - SAME_STATION))
    throw new Problem('out-of-bounds', 'This lies before the line.', 'from')
  if (!(to <= line.to + SAME_STATION))
    throw new Problem('out-of-bounds', 'This lies after the end of the line.', 'to')
  if (!(to > from)) throw new Problem('contradiction', 'The end lies after the beginning.', 'to')
  if (!Number.isSafeInteger(start) || start < 0)
    throw new Problem('not-whole', 'The first number is a whole number.', 'start')
}
