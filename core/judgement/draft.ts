import type { CompiledStep } from '../procedure/compile'
import { showQuantity } from '../quantity/show'
import type { Finding } from '../checks/verdict'
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
  judged: { findings: readonly Finding[]; entry: string | null },
  sentence: string,
): Draft {
  const bad = judged.findings.find((f) => f.verdict === 'reject')
  const check = step.step.check
  const criterion = bad ? criterionOf(bad) : 'question' in check ? check.question : step.step.title
  return {
    step: step.step.key,
    kind: 'rejected',
    criterion,
    reading: bad ? showQuantity(bad.value, bad.dimension, bad.unit) : sentence,
    entry: judged.entry ?? '',
  }
}
