import { computed, ref, type Ref } from 'vue'
import type { Decision, AtWork } from '~/composables/useWorksheet'

const words = {
  release: ['Release', 'Release'],
  refusal: ['Refuse', 'Refuse the release'],
  waiver: ['Waive', 'Waive the hold point'],
  decision: ['Accept', 'Accept against the criterion'],
} as const

/** A sign-off at the step at hand: what it is called, and its dialog with the PIN. */
export function useSignOff(joint: AtWork, current: Ref<string | null>) {
  const signing = ref<Decision>({ kind: 'release' })
  const open = ref(false)
  const title = computed(() => {
    const { kind, lot, verdict, stands } = signing.value
    if (lot) return `Use lot ${lot} by waiver`
    if (verdict === 'again') return 'None of it stands: measure again'
    return stands ? 'This answer stands' : words[kind][1]
  })
  const action = computed(() => {
    const { kind, verdict, stands } = signing.value
    return verdict === 'again' ? 'Measure again' : stands ? 'It stands' : words[kind][0]
  })
  return {
    signing,
    open,
    title,
    action,
    begin(decision: Decision) {
      signing.value = decision
      // Nothing of a made-up joint is kept: its release needs no PIN.
      if (joint.dry && decision.kind === 'release') void joint.decide(current.value!, decision, '', '')
      else open.value = true
    },
    sign: (secret: string, reason: string) => {
      const { conditions, ...plain } = signing.value
      const whole = conditions?.filter((c) => c.step !== '' && c.text.trim() !== '') ?? []
      const decision = whole.length > 0 ? { ...plain, conditions: whole } : plain
      return joint.decide(current.value!, decision, reason, secret)
    },
  }
}
