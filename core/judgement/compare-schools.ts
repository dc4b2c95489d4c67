import { choiceConforms } from '../checks/choice'
import type { FactValue } from '../formula/formula'
import type { CompiledProcedure } from '../procedure/compile'
import { showQuantity } from '../quantity/show'
import { judge } from './judge'
import type { StepJudgement } from './types'

/** What a step asks of a joint, in words: limits and mark worked out, or that it does not apply. */
function asks(compiled: CompiledProcedure, step: StepJudgement): string {
  if (step.state === 'not-applicable') return 'does not apply'
  const { check } = compiled.steps[compiled.stepIndex.get(step.key)!]!.step
  const parts = step.limits.map((l) => {
    const show = (v: number) => showQuantity(v, l.dimension, l.unit)
    if (l.min !== null && l.max !== null) return `${l.title} ${show(l.min)} to ${show(l.max)}`
    if (l.max !== null) return `${l.title} at most ${show(l.max)}`
    return l.min !== null ? `${l.title} at least ${show(l.min)}` : l.title
  })
  if (step.value !== null && 'unit' in check)
    parts.push(showQuantity(step.value, check.kind === 'mark' ? 'length' : check.quantity, check.unit))
  return parts.join('; ') || 'applies'
}

export interface SchoolDifference {
  step: string
  title: string
  a: string
  b: string
}

/**
 * What a joint would be asked under one choice of schools and under another.
 *
 * @param facts the joint; for a made-up one, `exampleFacts`
 */
export function compareSchools(
  compiled: CompiledProcedure,
  facts: Record<string, FactValue>,
  a: Record<string, string>,
  b: Record<string, string>,
): SchoolDifference[] {
  const slots = [compiled.slots(facts, a), compiled.slots(facts, b)]
  const sides = [a, b].map((schools) => judge(compiled, facts, [], 0, { schools }).steps)
  return compiled.steps.flatMap((step, i) => {
    const said = sides.map((steps, side) => {
      const asked = asks(compiled, steps[i]!)
      if (asked === 'does not apply') return asked
      const { check } = step.step
      const conforming =
        'choices' in check
          ? check.choices
              .filter((_c, k) => choiceConforms(step, k, slots[side]!))
              .map((c) => c.title)
              .join(', ')
          : ''
      const spans = [
        step.earliest && `not before ${seconds(step.earliest.evaluate(slots[side]!))}`,
        step.latest && `not after ${seconds(step.latest.evaluate(slots[side]!))}`,
      ]
        .filter(Boolean)
        .join(', ')
      return [asked === 'applies' && (conforming || spans) ? '' : asked, conforming, spans]
        .filter(Boolean)
        .join('; ')
    })
    return said[0] === said[1]
      ? []
      : [{ step: step.step.key, title: step.step.title, a: said[0]!, b: said[1]! }]
  })
}

const seconds = (value: unknown) =>
  typeof value === 'number' && Number.isFinite(value)
    ? showQuantity(value, 'time', value >= 7200 ? 'h' : value >= 120 ? 'min' : 's')
    : 'a time not known yet'
