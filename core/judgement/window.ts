import { plain, type Verdict } from '../checks/verdict'
import type { FactValue } from '../formula/formula'
import type { CompiledProcedure, CompiledStep } from '../procedure/compile'
import type { Entry } from '../record/entry'
import { lacking, whatIsMissing } from './missing'
import { asOf } from './slots'

/**
 * What the window of a step says of it: what was done before the work was so far does not stand, what was
 * done when it was too far is wrong. The record is read as of the entry; as of its end for null.
 *
 * @returns null where the step has no window, or its window is open
 */
export function windowVerdict(
  compiled: CompiledProcedure,
  slots: FactValue[],
  steps: readonly (readonly Entry[])[],
  step: CompiledStep,
  last: Entry | null,
): Verdict | null {
  const { window } = step
  if (!window) return null
  const formulas = [window.opens, window.closes]
  const lacks = formulas.filter((f) => f && lacking(compiled, f, slots))
  if (lacks.length > 0)
    return plain('blocked', `Cannot be worked out: ${whatIsMissing(compiled, lacks, slots)}.`)
  asOf(compiled, slots, steps, last)
  const [opened, closed] = formulas.map((f) => f?.evaluate(slots))
  asOf(compiled, slots, steps, null)
  const { early, late } = step.step.window!
  if (closed === true) return plain(last ? 'rejected' : 'overdue', late!)
  return opened === false ? plain('blocked', early!) : null
}
