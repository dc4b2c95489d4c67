import type { CompiledProcedure } from '../procedure/compile'
import type { Formula, Slots } from '../formula/formula'

/**
 * What keeps a formula from being worked out, for a person: the facts that are not known and the
 * steps whose record it reads; or, when all of it is known, that no table goes so far.
 */
export function whatIsMissing(
  compiled: CompiledProcedure,
  formulas: readonly (Formula | null)[],
  slots: Slots,
): string {
  const facts = compiled.procedure.facts
  const names = new Set<string>()
  const steps = new Set<string>()
  for (const formula of formulas) {
    for (const use of formula?.uses ?? []) {
      const at = facts.findIndex((f) => f.key === use)
      if (at >= 0 && slots[at] === undefined) names.add(facts[at]!.title.toLowerCase())
    }
    for (const key of formula?.records ?? []) {
      const index = compiled.stepIndex.get(key)!
      if (compiled.recorded.some((r) => r.step === index && slots[r.slot] === undefined))
        steps.add(`"${compiled.steps[index]!.step.title}"`)
    }
  }
  if (names.size > 0) return `${[...names].join(', ')} ${names.size === 1 ? 'is' : 'are'} not known`
  if (steps.size > 0) return `${[...steps].join(', ')} must be recorded first`
  return 'the values lie outside the table of the procedure'
}

/**
 * Whether a formula reads a number or a record that is not there; a word or flag that is not known is
 * simply another.
 */
export function lacking(compiled: CompiledProcedure, formula: Formula, slots: Slots): boolean {
  const facts = compiled.procedure.facts
  const fact = formula.uses.some((use) => {
    const at = facts.findIndex((f) => f.key === use)
    return (
      at >= 0 && slots[at] === undefined && facts[at]!.dimension !== 'word' && facts[at]!.dimension !== 'flag'
    )
  })
  return (
    fact ||
    formula.records.some((key) =>
      compiled.recorded.some((r) => r.step === compiled.stepIndex.get(key) && slots[r.slot] === undefined),
    )
  )
}
