import { answering, onlyWaits } from '../checks/registry'
import type { StepState } from '../checks/verdict'
import type { CompiledStep } from '../procedure/compile'
import type { Entry } from '../record/entry'
import type { StepJudgement } from './types'

/** A step that comes first, as it stands. */
export interface Before {
  title: string
  judged: Pick<StepJudgement, 'state' | 'release' | 'until' | 'entry' | 'point'>
  entries: readonly Entry[]
  compiled: CompiledStep
}

/** When a step was done, ms; null when that cannot be told or does not matter. */
function doneAt({ judged, entries, compiled }: Before): number | null {
  if (judged.state === 'not-applicable') return null
  if (judged.point === 'H' && (judged.release.state === 'released' || judged.release.state === 'waived'))
    return judged.release.at
  if (onlyWaits(compiled.step.check)) return judged.until
  return entries.find((e) => e.id === judged.entry)?.recordedAt ?? null
}

/**
 * Whether an answer was recorded in its order: what a step waits for was done before it, by the
 * times recorded. Two at the same moment are in order.
 *
 * @returns null when it was, else the state and sentence that it has instead
 */
export function outOfOrder(
  last: Entry,
  before: readonly Before[],
): { state: StepState; sentence: string } | null {
  for (const b of before) {
    const passive = onlyWaits(b.compiled.step.check)
    const first = b.entries.find((e) => answering.has(e.kind))
    if (!first && !passive && b.judged.state !== 'not-applicable' && b.judged.state !== 'accepted')
      return {
        state: 'blocked',
        sentence: `First: ${b.title}. What is recorded here does not count before it.`,
      }
    const done = doneAt(b)
    if (done === null || last.recordedAt >= done) continue
    if (passive || !first || first.recordedAt > last.recordedAt)
      return { state: 'rejected', sentence: `Recorded before "${b.title}", which comes first.` }
    return { state: 'not-started', sentence: `"${b.title}" was done again after this: do this again.` }
  }
  return null
}
