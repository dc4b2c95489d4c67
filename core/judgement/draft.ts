import type { CompiledStep } from '../procedure/compile'
import { showQuantity } from '../quantity/show'
import { definitionOf } from '../checks/registry'
import type { Fault, Finding } from '../checks/verdict'
import type { Draft } from './types'

function criterionOf({ title, min, max, dimension, unit }: Finding): string {
  const show = (v: number) => showQuantity(v, dimension, unit)
  if (min !== null && max !== null)
    return min === max ? `${title} is ${show(min)}` : `${title} from ${show(min)} to ${show(max)}`
  return max !== null ? `${title} at most ${show(max)}` : `${title} at least ${show(min!)}`
}

/** A nonconformance drafted from a rejected step: the criterion and what was found against it. */
export function draftOf(
  step: CompiledStep,
  judged: { findings: readonly Finding[]; faults: readonly Fault[]; entry: string | null },
  sentence: string,
): Draft {
  const bad = judged.findings.find((f) => f.verdict === 'reject')
  const check = step.step.check
  const faulty = judged.faults.find((f) => f.verdict === 'reject')
  if (faulty)
    return {
      step: step.step.key,
      kind: 'rejected',
      criterion: definitionOf(check).describe.rule(check),
      reading: faulty.sentence,
      entry: faulty.entry,
    }
  const criterion = bad ? criterionOf(bad) : 'question' in check ? check.question : step.step.title
  return {
    step: step.step.key,
    kind: 'rejected',
    criterion,
    reading: bad ? showQuantity(bad.value, bad.dimension, bad.unit) : sentence,
    entry: judged.entry ?? '',
  }
}
