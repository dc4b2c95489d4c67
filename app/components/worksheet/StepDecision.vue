<script setup lang="ts">
import type { StepJudgement } from '#core/judgement/types'
import type { Check } from '#core/checks/registry'
import type { Entry } from '#core/record/entry'
import { showQuantity } from '#core/quantity/show'
import type { Decision } from '~/composables/useWorksheet'

/**
 * An inspector's word on answers: which of two stands, whether to measure again, or otherwise than the
 * criterion.
 */
const props = defineProps<{
  judged: StepJudgement
  check: Check
  entries: Entry[]
  people: Record<string, string>
  me: string
}>()
const emit = defineEmits<{ decide: [Decision] }>()

const times = useTimes()
function said(e: Entry): string {
  const { check } = props
  if (e.kind === 'reading') {
    const unit = 'unit' in check ? (check.unit ?? '') : ''
    const quantity = 'quantity' in check ? check.quantity : 'ratio'
    return (e.payload.values as number[]).map((v) => showQuantity(v, quantity, unit)).join(', ')
  }
  if (e.kind === 'choice' && check.kind === 'choice')
    return check.choices.find((c) => c.key === e.payload.choice)?.title ?? String(e.payload.choice)
  if (e.kind === 'lot') return `lot ${String(e.payload.lot)}`
  return String(e.payload.answer ?? e.payload.count)
}
const answers = computed(() =>
  props.judged.between.flatMap((id) => props.entries.find((e) => e.id === id) ?? []),
)
const own = (e: Entry) => e.person === props.me
</script>

<template>
  <div class="decision">
    <template v-if="answers.length > 0">
      <p class="muted small">Which stands?</p>
      <div v-for="e in answers" :key="e.id" class="answer">
        <span class="grow"
          ><strong>{{ said(e) }}</strong>
          <span class="muted small"
            >{{ people[e.person] }}, {{ times.moment(e.recordedAt)
            }}<template v-if="e.payload.reason">: {{ e.payload.reason }}</template></span
          ></span
        >
        <ElButton
          size="large"
          :disabled="own(e)"
          @click="emit('decide', { kind: 'decision', verdict: 'accept', stands: e.id })"
          >{{ own(e) ? 'Your own' : 'This one stands' }}</ElButton
        >
      </div>
    </template>
    <div class="row wrap">
      <ElButton
        v-if="judged.faults.length === 0"
        size="large"
        @click="emit('decide', { kind: 'decision', verdict: 'again' })"
        >Measure again …</ElButton
      >
      <ElButton
        v-if="answers.length === 0 && judged.entry"
        size="large"
        @click="emit('decide', { kind: 'decision', verdict: 'accept' })"
        >Accept all the same …</ElButton
      >
    </div>
  </div>
</template>

<style scoped>
.decision {
  display: flex;
  flex-direction: column;
  gap: 8px;
}
.decision p {
  margin: 0;
}
.answer {
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 8px 0;
  border-top: 1px solid var(--hair);
}
</style>
