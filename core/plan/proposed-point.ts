import { Problem } from '../problem'
import { isDay } from '../quantity/day'
import type { PointRule } from './points'

/** A change of the inspection and test plan as an engineer proposes it. */
export type ProposedPoint = Omit<PointRule, 'id' | 'by' | 'at' | 'review' | 'good'> & { good: number | null }

/**
 * What of a proposed change does not hold together by itself.
 *
 * @param steps keys of the procedure's steps as its document writes them
 * @throws Problem `bad-input` naming the field, `not-found` for a step that there is not
 */
export function checkProposed(p: Omit<ProposedPoint, 'reason'>, steps: ReadonlySet<string>): void {
  const refuse = (field: string, sentence: string): never => {
    throw new Problem('bad-input', sentence, field)
  }
  if (!isDay(p.from)) refuse('from', 'Say from which day it counts.')
  if (p.until !== null && (!isDay(p.until) || p.until < p.from))
    refuse('until', 'The last day is a day, and not before the first.')
  if (p.point === 'S' ? p.rate === null : p.rate !== null)
    refuse('rate', 'Surveillance says how many of so many are watched, and nothing else does.')
  if (p.good !== null && p.step !== '*')
    refuse('good', 'How many in a row have to be good is said of a crew that is new.')
  if (p.step !== '*') {
    if (!steps.has(p.step)) throw new Problem('not-found', 'The procedure has no such step.', 'step')
  } else if (p.point !== 'H' || p.crew === null)
    refuse('step', 'All points of a procedure become holds for one crew only.')
}

/**
 * Who may take a change into the plan, or turn it down: somebody else, once, and who turns it down says why.
 *
 * @throws Problem `reviewed`, `own-work` or `missing`
 */
export function checkReview(
  rule: Pick<PointRule, 'by' | 'review'>,
  person: string,
  { accepted, reason }: { accepted: boolean; reason: string },
): void {
  if (rule.review) throw new Problem('reviewed', 'This was reviewed already.', 'rule')
  if (rule.by === person)
    throw new Problem('own-work', 'Who asks for a change does not review it: a second engineer does.', 'rule')
  if (!accepted && reason === '') throw new Problem('missing', 'Say why it is turned down.', 'reason')
}
