import type { CompiledProcedure } from '../procedure/compile'
import type { FactValue, Slots } from '../procedure/formula/formula'
import type { RecordedUse } from '../procedure/scope'
import type { Entry } from '../record/entry'
import { byStep } from './standing'
import { statistics } from './statistics'

/**
 * What formulas of later steps read of a step: a statistic of its last standing readings or count, or its
 * choice.
 */
function recordedValue(use: RecordedUse, entries: readonly Entry[]): FactValue {
  const last = entries
    .filter((e) => (use.what === 'answer' ? e.kind === 'choice' : e.kind === 'reading' || e.kind === 'count'))
    .at(-1)
  if (!last) return undefined
  if (use.what === 'answer') return String(last.payload.choice)
  const values =
    last.kind === 'count'
      ? [last.payload.count]
      : Array.isArray(last.payload.values)
        ? (last.payload.values as unknown[])
        : []
  const numbers = values.filter((v): v is number => typeof v === 'number' && Number.isFinite(v))
  if (numbers.length === 0) return undefined
  return typeof use.statistic === 'number' ? numbers[use.statistic - 1] : statistics[use.statistic]!(numbers)
}

/**
 * Facts, chosen schools and what was recorded at earlier steps, where the formulas of a procedure look
 * for them.
 */
export function fillSlots(
  compiled: CompiledProcedure,
  facts: Record<string, FactValue>,
  schools: Record<string, string> | undefined,
  steps: readonly (readonly Entry[])[],
): Slots {
  const slots = compiled.slots(facts, schools)
  for (const use of compiled.recorded) slots[use.slot] = recordedValue(use, steps[use.step]!)
  return slots
}

/** As `fillSlots`, from all entries of a joint. */
export const slotsOf = (
  compiled: CompiledProcedure,
  facts: Record<string, FactValue>,
  entries: readonly Entry[],
  schools?: Record<string, string>,
): Slots => fillSlots(compiled, facts, schools, byStep(compiled, entries))
