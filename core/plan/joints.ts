import { Problem } from '../problem'
import { numbering } from './numbering'
import { checkStretch, SAME_STATION, type Stretch } from './stretch'

export interface PlannedJoint {
  number: string
  /** m */
  station: number
}

/** Pipe from one station to another. */
export interface Generator extends Stretch {
  /** m that one pipe makes of the line */
  pipeLength: number
  pattern: string
}

/** A line is planned in pieces of so many. */
export const MOST_JOINTS = 20_000

/**
 * Joints a pipe length apart, between two pipes each: none where the first pipe begins, none where the
 * last one ends.
 *
 * @param line stations of the line, m
 * @throws Problem naming `from`, `to`, `pipeLength`, `pattern` or `start`
 */
export function generateJoints(g: Generator, line: { from: number; to: number }): PlannedJoint[] {
  checkStretch(g, line)
  if (!(g.pipeLength > 0.1)) throw new Problem('out-of-bounds', 'A pipe is longer than 0.1 m.', 'pipeLength')
  const name = numbering(g.pattern)
  const count = Math.ceil((g.to - g.from) / g.pipeLength - SAME_STATION) - 1
  if (count < 1)
    throw new Problem(
      'nothing',
      'One pipe reaches from one end to the other: there is no joint.',
      'pipeLength',
    )
  if (count > MOST_JOINTS)
    throw new Problem(
      'too-many',
      `These would be ${count} joints: plan at most ${MOST_JOINTS} at once.`,
      'pipeLength',
    )
  return Array.from({ length: count }, (_v, i) => ({
    number: name(g.start + i),
    // To the millimetre, as stations are set out.
    // To a tenth of a millimetre, so that feet stay whole.
    station: Math.round((g.from + (i + 1) * g.pipeLength) * 1e4) / 1e4,
  }))
}
