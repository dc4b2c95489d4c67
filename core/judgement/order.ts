import { answering } from '../checks/registry'
import type { StepState } from '../checks/verdict'
import type { CompiledStep } from '../procedure/compile'
import type { Entry } from '../record/entry'
import type { StepJudgement } from './types'

/** How a step that comes first stands. */
export type Before = Pick<StepJudgement, 'state' | 'release' | 'until' | 'entry' | 'point'>

/** When a step was done, ms; null when that cannot be told or does not matter. */
function doneAt(step: Pick<CompiledStep, 'onlyWaits'>, judged: Before, entries: readonly Entry[]) {
  if (judged.state === 'not-applicable') return null
  if (judged.point === 'H' && (judged.release.state === 'released' || judged.release.state === 'waived'))
    return judged.release.at
  if (step.onlyWaits) return judged.until
  return entries.find((e) => e.id === judged.entry)?.recordedAt ?? null
}

/**
 * Whether an answer was recorded in its order: what a step waits for was done before it, by the
 * times recorded. Two at the same moment are in order.
 *
 * @param step one that comes first, with how it stands and what is recorded there
 * @returns null when it was, else the state and sentence that it has instead
 */
export function outOfOrder(
  last: Entry,
  step: Pick<CompiledStep, 'title' | 'onlyWaits'>,
  judged: Before,
  entries: readonly Entry[],
): { state: StepState; sentence: string } | null {
  const passive = step.onlyWaits
  const first = entries.find((e) => answering.has(e.kind))
  if (!first && !passive && judged.state !== 'not-applicable' && judged.state !== 'accepted')
    return {
      state: 'blocked',
      sentence: `First: ${step.title}. What is recorded here does not count before it.`,
    }
  const done = doneAt(step, judged, entries)
  if (done === null || last.recordedAt >= done) return null
  if (passive || !first || first.recordedAt > last.recordedAt)
    return { state: 'rejected', sentence: `Recorded before "${step.title}", which comes first.` }
  return { state: 'not-started', sentence: `"${step.title}" was done again after this: do this again.` }
}
