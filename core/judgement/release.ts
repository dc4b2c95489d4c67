import { answering } from '../checks/registry'
import type { CompiledProcedure } from '../procedure/compile'
import { ofOtherEnd } from '../procedure/ends'
import type { Entry } from '../record/entry'
import type { StepState } from '../checks/verdict'
import type { Judgement } from './types'

const AGAINST: ReadonlySet<StepState> = new Set(['rejected', 'too-close', 'differs', 'blocked'])

/** A hold point's own check does not conform, or cannot be worked out: nobody releases it as it is. */
export const speaksAgainst = ({ state }: { state: StepState }): boolean => AGAINST.has(state)

/**
 * What is still open at and before a hold point: steps that are neither accepted nor without
 * application here, and the hold point's own question while nobody has answered it, or its answer does not
 * conform. A clock that runs by itself holds nothing back.
 *
 * @returns keys of the steps in their order
 */
export function openBefore(
  compiled: CompiledProcedure,
  judgement: Judgement,
  entries: readonly Entry[],
  hold: string,
): string[] {
  const at = compiled.stepIndex.get(hold)!
  const open = judgement.steps
    .slice(0, at)
    .filter(
      (s, i) =>
        !ofOtherEnd(s, compiled.steps[at]!) &&
        s.state !== 'accepted' &&
        s.state !== 'not-applicable' &&
        !compiled.steps[i]!.onlyWaits,
    )
    .map((s) => s.key)
  const answered =
    compiled.steps[at]!.definition.workOut || entries.some((e) => e.step === hold && answering.has(e.kind))
  return answered && !speaksAgainst(judgement.steps[at]!) ? open : [...open, hold]
}

/** Steps that a waiver names. */
export const waived = (payload: Record<string, unknown>): readonly string[] =>
  Array.isArray(payload.waives) ? (payload.waives as unknown[]).map(String) : []
