import { isAnswered } from '../checks/registry'
import type { CompiledProcedure, CompiledStep } from './compile'
import { atEnd, ends, plainKey } from './ends'

/**
 * Whether a step may be answered in a list with its neighbours: a plain question. What must be looked at
 * by itself – a hold or witness point, a photo, a caution, a drawing – keeps its own card.
 */
const plain = ({ step }: CompiledStep): boolean =>
  ['confirm', 'gathered'].includes(step.check.kind) &&
  !('photo' in step.check && step.check.photo) &&
  step.point !== 'H' &&
  step.point !== 'W' &&
  (step.cautions ?? []).length === 0 &&
  step.drawing === undefined

/** What is worked out asks nobody, and ends no run of questions. */
const asksNothing = ({ step }: CompiledStep): boolean => !isAnswered(step.check)

/**
 * The steps that stand on one card with a step: the run of plain questions around it, of the same stage
 * and end.
 *
 * @param applies steps that do not apply to the joint are left out, and do not end the run
 * @returns keys in their order; only the step itself where it stands alone
 */
export function seenTogether(
  compiled: Pick<CompiledProcedure, 'steps' | 'stepIndex'>,
  key: string,
  applies: (key: string) => boolean,
): string[] {
  const at = compiled.stepIndex.get(key)
  const own = at === undefined ? undefined : compiled.steps[at]!
  if (!own || !plain(own)) return [key]
  const joins = (s: CompiledStep | undefined): s is CompiledStep =>
    s !== undefined &&
    s.stage === own.stage &&
    s.end === own.end &&
    (plain(s) || asksNothing(s) || !applies(s.step.key))
  let [from, to] = [at!, at!]
  while (joins(compiled.steps[from - 1])) from--
  while (joins(compiled.steps[to + 1])) to++
  return compiled.steps
    .slice(from, to + 1)
    .filter((s) => plain(s) && (s === own || applies(s.step.key)))
    .map((s) => s.step.key)
}

/**
 * The same step at the other end, where one answer may be given for both: a question that is answered by
 * looking, in a stage without clocks. What is timed, measured, photographed or held is done end by end.
 */
export function sameAtOtherEnd(
  compiled: Pick<CompiledProcedure, 'steps' | 'stepIndex'>,
  key: string,
): string | null {
  const own = compiled.steps[compiled.stepIndex.get(key) ?? -1]
  if (!own?.end) return null
  const { check, point } = own.step
  const looked =
    ['confirm', 'gathered', 'choice', 'mark'].includes(check.kind) && !('photo' in check && check.photo)
  if (!looked || point === 'H' || point === 'W') return null
  if (compiled.steps.some((s) => s.stage === own.stage && s.step.check.kind === 'clock')) return null
  const other = atEnd(
    plainKey(key),
    ends.find((end) => end !== own.end)!,
  )
  return compiled.stepIndex.has(other) ? other : null
}
