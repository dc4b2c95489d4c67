<script setup lang="ts">
import type { Draft } from '#core/judgement/types'
import type { Entry } from '#core/record/entry'
import type { AtWork } from '~/composables/useWorksheet'

/** The report that a rejection at the step at hand has drafted, to be raised with the last picture taken there. */
const props = defineProps<{
  id: string
  work: AtWork
  step: string | null
  draft: Draft
  ofStep: readonly Entry[]
}>()
const report = useRaising(props.work.address)
const waits = computed(() => report.waits.value.includes(props.step))
onMounted(report.look)
const raise = () =>
  report.raise({
    subjectType: props.work.sheet.value!.subject.type,
    subject: props.id,
    step: props.step,
    photo: (props.ofStep.findLast((e) => e.kind === 'photo')?.payload.file as string | undefined) ?? null,
  })
</script>

<template>
  <div class="draft">
    <p><strong>Nonconformance drafted.</strong> {{ draft.criterion }} – found: {{ draft.reading }}</p>
    <p v-if="waits" class="muted">The report waits on this device for a signal.</p>
    <ElButton v-else-if="!work.dry" type="danger" size="large" @click="raise">Raise it</ElButton>
  </div>
</template>

<style scoped>
.draft {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 16px;
  border: 1.5px solid var(--rejected);
  border-radius: var(--corner);
  padding: 12px 16px;
}
</style>
