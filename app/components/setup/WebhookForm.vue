<script setup lang="ts">
import type { webhookOf } from '../../../server/services/webhooks'
import { useSession } from '~/stores/session'

/** Where another program is told what happens on site: holds, witnesses, queries, nonconformances, tests. */
const session = useSession()
const times = useTimes()
const path = `${session.base}/settings/webhook`
const { data, load } = useLoad(() => api<{ webhook: Awaited<ReturnType<typeof webhookOf>> }>(path))
onMounted(load)
const hook = computed(() => data.value?.webhook ?? null)
const form = reactive({ address: '', reason: '' })
watch(hook, (now) => (form.address = now?.address ?? ''))
/** shown this once */
const secret = ref<string | null>(null)
const { busy, at, besides, send } = useSending()
async function set(address: string | null) {
  secret.value = null
  const kept = await send(async () => {
    const reply = await api<{ secret: string | null }>(path, { body: { address, reason: form.reason } })
    secret.value = reply.secret
  })
  if (!kept) return
  form.reason = ''
  await load()
}
const says = computed(() => {
  if (!hook.value) return 'Nothing is told elsewhere.'
  const { fault, nextAt, toldAt } = hook.value
  if (fault) return `${fault} It is tried again ${times.moment(nextAt)}; nothing is lost meanwhile.`
  return toldAt === null ? 'Nothing has happened yet that it is told.' : `Told last ${times.moment(toldAt)}.`
})
</script>

<template>
  <PlanForm v-if="data" @submit="set(form.address)">
    <FormField label="Address that is told" class="wide" :fault="at('address')"
      ><ElInput v-model="form.address" size="large" maxlength="400" placeholder="https://" inputmode="url"
    /></FormField>
    <FormField label="Why it is changed" :fault="at('reason')"
      ><ElInput v-model="form.reason" size="large" maxlength="2000"
    /></FormField>
    <p class="wide muted" role="status">{{ says }}</p>
    <p v-if="secret" class="wide" role="status">
      The secret under which each post is signed, shown this once:<br /><code>{{ secret }}</code>
    </p>
    <template #acts>
      <p v-if="besides(['address', 'reason'])" class="fault grow" role="alert">
        {{ besides(['address', 'reason']) }}
      </p>
      <ElButton v-if="hook" size="large" :disabled="busy || !form.reason.trim()" @click="set(null)"
        >Tell it no more</ElButton
      >
      <ElButton
        type="primary"
        size="large"
        native-type="submit"
        :loading="busy"
        :disabled="!form.address.trim() || !form.reason.trim()"
        >{{ hook ? 'Change it, with a new secret' : 'Tell it from now on' }}</ElButton
      >
    </template>
  </PlanForm>
</template>

<style scoped>
code {
  overflow-wrap: anywhere;
  font-size: var(--s14);
}
p {
  margin: 0;
}
</style>
