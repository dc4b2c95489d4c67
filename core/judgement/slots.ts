import type { Made } from '../checks/define'
import { recordFunctions } from '../checks/records'
import type { FactValue, Slots } from '../formula/formula'
import type { CompiledProcedure } from '../procedure/compile'
import type { RecordedUse } from '../procedure/scope'
import type { Entry } from '../record/entry'
import { byStep } from './standing'

type Steps = readonly (readonly Entry[])[]

function recordedValue(
  compiled: CompiledProcedure,
  { step, what, which }: RecordedUse,
  entries: readonly Entry[],
  slots: Slots,
  until: Entry | null = null,
): FactValue {
  const made = compiled.steps[step]!
  const record = made.definition.records![what]!
  return record.value(made as unknown as Made<{ kind: string }>, entries, which, slots, until)
}

/**
 * Facts, chosen options and what was recorded at earlier steps, where the formulas of a procedure look
 * for them.
 */
export function fillSlots(
  compiled: CompiledProcedure,
  facts: Record<string, FactValue>,
  schools: Record<string, string> | undefined,
  steps: Steps,
): FactValue[] {
  const slots = compiled.slots(facts, schools)
  for (const use of compiled.recorded) slots[use.slot] = recordedValue(compiled, use, steps[use.step]!, slots)
  return slots
}

/**
 * Puts what depends on the moment into slots as it stood when an entry was recorded; as it stands at the
 * end for null.
 */
export function asOf(
  compiled: CompiledProcedure,
  slots: FactValue[],
  steps: Steps,
  entry: Entry | null,
): void {
  for (const use of compiled.recorded)
    if (recordFunctions.get(use.what)!.asOf)
      slots[use.slot] = recordedValue(compiled, use, steps[use.step]!, slots, entry)
}

/** As `fillSlots`, from all entries of a subject. */
export const slotsOf = (
  compiled: CompiledProcedure,
  facts: Record<string, FactValue>,
  entries: readonly Entry[],
  schools?: Record<string, string>,
): Slots => fillSlots(compiled, facts, schools, byStep(compiled, entries))
