<script setup lang="ts">
import { useClipboard } from '@vueuse/core'
import { useSession } from '~/stores/session'

/** The secret address under which a calendar program reads what waits for a person. */
const open = defineModel<boolean>({ required: true })
const session = useSession()
const times = useTimes()
const path = `${session.base}/calendar`
const { data, problem, loading, load } = useLoad(() => api<{ madeAt: string | null }>(path))
const address = ref('')
watch(open, (now) => {
  address.value = ''
  if (now) void load()
})
async function make() {
  const { token } = await api<{ token: string }>(path, { method: 'POST', body: {} })
  address.value = `${location.origin}/api/calendar/${token}.ics`
  await load()
}
async function revoke() {
  await api(`${path}/revoke`, { method: 'POST', body: {} })
  address.value = ''
  await load()
}
const { copy, copied } = useClipboard({ source: address })
</script>

<template>
  <ElDialog v-model="open" title="Your calendar" width="600px" align-center>
    <Notice v-if="problem && !data" :problem="problem" @again="load" />
    <Notice v-else-if="!data" :loading="loading" />
    <div v-else class="form">
      <p>
        Holds, invitations, clocks, tests and what falls due, as a calendar that your phone or computer reads
        by itself. Whoever has the address reads it too: keep it to yourself.
      </p>
      <template v-if="address">
        <ElInput :model-value="address" readonly size="large" aria-label="Address of your calendar" />
        <p class="muted small">It is shown this once. Lost, make a new one: the old is dead from then on.</p>
        <ElButton size="large" @click="copy()">{{ copied ? 'Copied' : 'Copy the address' }}</ElButton>
      </template>
      <p v-else-if="data.madeAt" class="muted">There is an address, made {{ times.moment(data.madeAt) }}.</p>
      <div class="actions">
        <ElButton v-if="data.madeAt" size="large" @click="revoke">Let it die</ElButton>
        <ElButton v-if="!address" size="large" type="primary" @click="make">{{
          data.madeAt ? 'Make a new address' : 'Make an address'
        }}</ElButton>
      </div>
    </div>
  </ElDialog>
</template>

<style scoped>
.form {
  display: flex;
  flex-direction: column;
  gap: 12px;
}
</style>
