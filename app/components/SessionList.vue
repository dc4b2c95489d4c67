<script setup lang="ts">
import { deviceWords } from '~/words'

/** Where a person is signed in; any of it can be ended from here. */
const open = defineModel<boolean>({ required: true })
interface OwnSession {
  id: string
  client: string
  beganAt: string
  seenAt: string
  here: boolean
}
const times = useTimes()
const { data, problem, loading, load } = useLoad(() => api<OwnSession[]>('sessions'))
watch(open, (now) => now && void load())

async function end(id: string) {
  await api(`sessions/${id}`, { method: 'DELETE' })
  await load()
}
</script>

<template>
  <ElDialog v-model="open" title="Where you are signed in" width="560px" align-center>
    <Notice v-if="problem && !data" :problem="problem" @again="load" />
    <Notice v-else-if="!data" :loading="loading" />
    <ul v-else class="sessions">
      <li v-for="s in data" :key="s.id">
        <span class="grow"
          ><strong>{{ deviceWords(s.client) }}</strong
          ><br /><span class="muted small"
            >since {{ times.moment(s.beganAt) }}, last seen {{ times.moment(s.seenAt) }}</span
          ></span
        >
        <span v-if="s.here" class="muted">this one</span>
        <ElButton v-else size="large" @click="end(s.id)">End it</ElButton>
      </li>
    </ul>
    <p class="muted small">
      A session ends after fourteen hours of silence, after five days, and at once with another password or
      role.
    </p>
  </ElDialog>
</template>

<style scoped>
.sessions {
  list-style: none;
  margin: 0 0 14px;
  padding: 0;
  max-height: 50vh;
  overflow-y: auto;
}
.sessions li {
  display: flex;
  align-items: center;
  gap: 14px;
  min-height: 64px;
  border-top: 1px solid var(--hair);
}
.sessions li:first-child {
  border-top: 0;
}
</style>
