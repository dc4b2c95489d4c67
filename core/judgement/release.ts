import { answering, isAnswered, onlyWaits } from '../checks/registry'
import type { CompiledProcedure } from '../procedure/compile'
import { ofOtherEnd } from '../procedure/ends'
import type { Entry } from '../record/entry'
import type { Judgement } from './types'

/**
 * What is still open at and before a hold point: steps that are neither accepted nor without
 * application here, and the hold point's own question while nobody has answered it. A clock that
 * runs by itself holds nothing back.
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
        !onlyWaits(compiled.steps[i]!.step.check),
    )
    .map((s) => s.key)
  const own =
    !isAnswered(compiled.steps[at]!.step.check) ||
    entries.some((e) => e.step === hold && answering.has(e.kind))
  return own ? open : [...open, hold]
}

/** Steps that a waiver names. */
export const waived = (payload: Record<string, unknown>): readonly string[] =>
  Array.isArray(payload.waives) ? (payload.waives as unknown[]).map(String) : []
