import type { AtWork } from './useWorksheet'

/** The step at hand of a worksheet: the one of the address, else what comes next; and what is recorded there. */
export function useStepAtHand({ compiled, judgement, entries, dry }: AtWork) {
  const { current, go, goOn } = useStepAddress(() => dry)
  const steps = computed(() => judgement.value?.steps.filter((s) => s.state !== 'not-applicable') ?? [])
  const judged = computed(() => judgement.value?.steps.find((s) => s.key === current.value) ?? null)
  watch(
    judgement,
    (j) => {
      if (!j || j.steps.some((s) => s.key === current.value && s.state !== 'not-applicable')) return
      const first = j.next ?? steps.value.at(-1)?.key
      if (first) goOn(first)
    },
    { immediate: true },
  )
  const indexOf = (key: string | null) => compiled.value?.stepIndex.get(key ?? '')
  const titleOf = (key: string) => compiled.value!.steps[indexOf(key)!]!.step.title
  const ofStep = computed(() =>
    entries.value.filter(
      (e) =>
        e.step === current.value ||
        (e.kind === 'correction' &&
          entries.value.some((x) => x.id === e.payload.strikes && x.step === current.value)),
    ),
  )
  const currentCheck = computed(() => compiled.value?.steps[indexOf(current.value) ?? 0]?.step.check ?? null)
  const next = computed(() => judgement.value?.next ?? null)
  const nextTitle = computed(() => (next.value ? titleOf(next.value) : null))
  /** where a condition of the release at hand can be asked */
  const laterSteps = computed(() => {
    const at = indexOf(current.value) ?? -1
    const states = new Map(judgement.value?.steps.map((s) => [s.key, s.state]))
    return (compiled.value?.steps ?? [])
      .slice(at + 1)
      .map((s) => ({ key: s.step.key, title: s.step.title }))
      .filter((s) => states.get(s.key) !== 'not-applicable')
  })
  /** the step so many before or after it */
  const beside = (by: number) => {
    const i = steps.value.findIndex((s) => s.key === current.value)
    return steps.value[Math.min(steps.value.length - 1, Math.max(0, i + by))]?.key ?? null
  }
  return {
    ...{
      current,
      go,
      goOn,
      steps,
      judged,
      titleOf,
      ofStep,
      currentCheck,
      next,
      nextTitle,
      laterSteps,
      beside,
    },
  }
}
