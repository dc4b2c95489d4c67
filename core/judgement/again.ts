import { answering } from '../checks/registry'
import type { Entry } from '../record/entry'
import type { StepJudgement } from './types'

/**
 * Whether a further answer at a step is a re-measurement, which says why: something recorded there was
 * rejected, and neither an inspector nor an engineer's report has decided about it yet.
 *
 * @param entries of the step, corrections aside
 */
export const needsReason = (
  judged: Pick<StepJudgement, 'state' | 'ncr' | 'release' | 'faults'> | null,
  entries: readonly Entry[],
): boolean =>
  judged !== null &&
  // Where many are recorded a further one measures nothing again.
  judged.faults.length === 0 &&
  (judged.state === 'rejected' || judged.state === 'differs') &&
  judged.release.state !== 'refused' &&
  judged.ncr?.open !== true &&
  entries.some((e) => answering.has(e.kind))
