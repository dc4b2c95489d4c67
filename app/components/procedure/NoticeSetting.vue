<script setup lang="ts">
import { USUAL_NOTICE } from '#core/judgement/witness'
import { showDuration } from '#core/quantity/show'
import { useSession } from '~/stores/session'

/** How long before a point its witness is told: said, and changed by an engineer with a reason. */
const props = defineProps<{ notice: number | null }>()
const emit = defineEmits<{ done: [] }>()
const session = useSession()
const open = ref(false)
/** in hours, as they are typed */
const hours = ref('')
watch(open, () => (hours.value = props.notice ? String(props.notice / 3600) : ''))
const said = computed(() => `A witness is told ${showDuration(props.notice ?? USUAL_NOTICE)} before`)
async function send(reason: string) {
  const typed = Number(hours.value.replace(',', '.'))
  if (hours.value.trim() && !(typed >= 0)) throw new ApiProblem('bad-input', 'Type the hours.', 'notice', 422)
  const notice = hours.value.trim() ? Math.round(typed * 3600) : null
  await api(`${session.base}/points/notice`, { body: { notice, reason } })
  emit('done')
}
</script>

<template>
  <button v-if="session.can('set-rule')" type="button" class="notice" @click="open = true">{{ said }}</button>
  <span v-else class="muted">{{ said }}</span>
  <AskDialog v-model="open" title="Notice for a witness" label="Why" action="Change it" :send="send"
    ><label class="hours"
      >Hours before the point; empty for the usual {{ USUAL_NOTICE / 3600
      }}<ElInput v-model="hours" size="large" inputmode="decimal" /></label
  ></AskDialog>
</template>

<style scoped>
.notice {
  min-height: 48px;
  padding: 0;
  border: 0;
  font: inherit;
  background: none;
  color: var(--line);
  text-decoration: underline;
  cursor: pointer;
}
.hours {
  font-size: var(--s14);
  color: var(--muted);
}
</style>
