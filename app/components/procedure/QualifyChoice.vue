<script setup lang="ts">
import type { QualifyMode } from '#core/crew/qualification'
import { useSession } from '~/stores/session'

/** What is done about crew leads without a qualification for a procedure; changed by an engineer with a reason. */
const props = defineProps<{ procedure: string; mode: QualifyMode | null }>()
const emit = defineEmits<{ done: [] }>()
const session = useSession()
const modes = [
  { key: 'none', word: 'is not asked for' },
  { key: 'say', word: 'is said when it lacks' },
  { key: 'block', word: 'is needed for an answer' },
]
const wanted = ref('none')
const open = ref(false)
function ask(mode: string) {
  wanted.value = mode
  open.value = true
}
async function send(reason: string) {
  const mode = wanted.value === 'none' ? null : wanted.value
  await api(`${session.base}/points/qualify`, { body: { procedure: props.procedure, mode, reason } })
  emit('done')
}
</script>

<template>
  <label class="qualify"
    ><span class="muted small">Qualification of the crew lead</span
    ><ElSelect
      :model-value="mode ?? 'none'"
      size="large"
      :disabled="!session.can('set-rule')"
      aria-label="Qualification of the crew lead"
      @update:model-value="ask"
      ><ElOption v-for="m in modes" :key="m.key" :value="m.key" :label="m.word" /></ElSelect
  ></label>
  <AskDialog
    v-model="open"
    title="Qualification of the crew lead"
    label="Why"
    action="Change it"
    :send="send"
  />
</template>

<style scoped>
.qualify {
  width: 230px;
}
</style>
