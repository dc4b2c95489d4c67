import { computed, ref, type ComputedRef, type Ref } from 'vue'
import { sameAtOtherEnd, seenTogether } from '#core/procedure/together'
import type { AtWork } from './useWorksheet'
import type { Answer } from '~/checks/form'

/** Plain questions that are seen with the step at hand, and what is answered for both ends at once. */
export function useTogether(
  { compiled, judgement }: Pick<AtWork, 'compiled' | 'judgement'>,
  current: Ref<string | null> | ComputedRef<string | null>,
) {
  /** before and after the one at hand */
  const together = computed(() => {
    const byKey = new Map(judgement.value?.steps.map((s) => [s.key, s]))
    const applies = (key: string) => byKey.get(key)?.state !== 'not-applicable'
    const keys = compiled.value && current.value ? seenTogether(compiled.value, current.value, applies) : []
    const rows = keys.map((key) => ({
      step: compiled.value!.steps[compiled.value!.stepIndex.get(key)!]!.step,
      judged: byKey.get(key)!,
    }))
    const at = keys.indexOf(current.value ?? '')
    return { before: rows.slice(0, Math.max(0, at)), after: rows.slice(at + 1) }
  })
  /** what is answered by looking counts for both ends, until the person goes end by end again */
  const both = ref(false)
  /** the same step at the other end, where it is still open */
  const otherEnd = computed(() => {
    const key = compiled.value && current.value ? sameAtOtherEnd(compiled.value, current.value) : null
    const there = judgement.value?.steps.find((s) => s.key === key)
    return there && there.entry === null && there.state !== 'not-applicable' ? there.key : null
  })
  const atBothEnds = (answers: Answer[]): Answer[] =>
    both.value && otherEnd.value
      ? [...answers, ...answers.map((a) => ({ ...a, step: otherEnd.value! }))]
      : answers
  return { together, both, otherEnd, atBothEnds }
}
