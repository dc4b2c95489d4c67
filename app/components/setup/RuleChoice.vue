<script setup lang="ts">
import { useSession } from '~/stores/session'

/** How close to a limit a reading may be and still count: the whole project is judged by it. */
export interface Rejudged {
  judged: number
  state: string
}
type Rule = 'guarded' | 'simple'
const props = defineProps<{ rule: Rule }>()
const emit = defineEmits<{ changed: [Rejudged] }>()
const session = useSession()
const engineer = computed(() => session.can('set-rule'))
const chosen = ref<Rule>(props.rule)
watch(
  () => props.rule,
  (rule) => (chosen.value = rule),
)
const asking = ref(false)
async function change(secret: string, reason: string) {
  const body = { rule: chosen.value, reason, secret }
  emit('changed', await api<Rejudged>(`${session.base}/settings/rule`, { body }))
}
</script>

<template>
  <ElRadioGroup v-model="chosen" :disabled="!engineer" class="rules" aria-label="How close is close enough">
    <ElRadio value="guarded"
      ><strong>Guarded</strong> – a reading within the uncertainty of its instrument from a limit is too close
      to call: measure again, or with a better tool.</ElRadio
    >
    <ElRadio value="simple"><strong>Simple</strong> – the limit alone decides.</ElRadio>
  </ElRadioGroup>
  <ElButton v-if="engineer" type="primary" size="large" :disabled="chosen === rule" @click="asking = true"
    >Change it for the project</ElButton
  >
  <p v-else class="muted small">An engineer changes it, with a reason.</p>
  <SecretDialog
    v-model="asking"
    title="Change how close is close enough"
    action="Change"
    reason-label="Why?"
    reason-required
    :send="change"
    ><p class="muted">
      Every joint of the project is judged anew. What people decided stays as it is.
    </p></SecretDialog
  >
</template>

<style scoped>
.rules {
  display: flex;
  flex-direction: column;
  align-items: flex-start;
  gap: 6px;
}
.rules :deep(.el-radio) {
  height: auto;
  min-height: 44px;
  white-space: normal;
}
</style>
