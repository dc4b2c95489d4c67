<script setup lang="ts">
import { standing } from '#core/judgement/standing'
import { withdrawalOf } from '#core/judgement/withdrawal'
import type { Entry } from '#core/record/entry'

/** Says that something is no part of the job any more, who said so and why; an inspector brings it back. */
const props = defineProps<{
  entries: readonly Entry[]
  people: Record<string, string>
  /** strikes the word, with a reason; left out where this person may not */
  back?: (entry: string, reason: string) => Promise<void>
}>()
const times = useTimes()
const said = computed(() => withdrawalOf(standing(props.entries)))
const open = ref(false)
</script>

<template>
  <div v-if="said" class="note" role="status">
    <p>
      <strong>Withdrawn</strong> by {{ people[said.person] ?? 'somebody' }},
      {{ times.moment(said.recordedAt) }}: {{ said.payload.reason }}
    </p>
    <ElButton v-if="back" size="large" @click="open = true">Bring it back</ElButton>
    <AskDialog
      v-if="back"
      v-model="open"
      title="Bring it back"
      label="Why?"
      action="Bring it back"
      :send="(reason) => back!(said!.id, reason)"
      ><p class="muted">It is part of the job again, with all that was recorded before.</p></AskDialog
    >
  </div>
</template>

<style scoped>
.note {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 14px;
  border-left: 4px solid var(--idle);
  padding: 8px 14px;
}
</style>
