<script setup lang="ts">
import type { packSheet } from '../../../../server/services/pack-view'
import { useSession } from '~/stores/session'
import { packStateWords } from '~/words'

/** A running test on a screen of its own, for a witness or a table full of people. */
type Sheet = Awaited<ReturnType<typeof packSheet>>
const session = useSession()
const id = useRoute().params.id as string
const path = `${session.base}/packs/${id}`
const { data, problem, loading, load } = useLoad(() => api<Sheet>(path))
onMounted(load)
useFeed(session.projectKey, (rows) => rows.some((r) => r.subject === id) && void load())
const running = computed(() => data.value?.pack.state === 'running')
const live = useLiveTest(path, running, load)
const shown = computed(() => traceShown(data.value!, running.value ? live : null))
const evaluation = computed(() =>
  running.value ? (live.run.value?.evaluation ?? null) : (data.value?.evaluation ?? null),
)
const mayJoin = computed(() => session.can('answer-invitation'))
const here = computed(() => data.value?.run?.present.some((p) => p.person === session.person?.id) ?? false)
async function join() {
  await api(`${path}/join`, { method: 'POST', body: {} })
  await load()
}
</script>

<template>
  <Notice v-if="problem && !data" :problem="problem" @again="load" />
  <Notice v-else-if="!data" :loading="loading" />
  <div v-else class="watch">
    <div class="page-head">
      <h1>{{ data.pack.number }}</h1>
      <span class="muted grow"
        >{{ data.method.title }} · {{ data.line.name }} · {{ packStateWords[data.pack.state] }}</span
      >
      <span v-if="data.run?.present.length" class="muted"
        >Here: {{ data.run.present.map((p) => data!.people[p.person]).join(', ') }}</span
      >
      <ElButton v-if="running && mayJoin && !here" type="primary" size="large" @click="join"
        >I am here</ElButton
      >
      <NuxtLink :to="`/tests/${id}`" class="link">The whole pack</NuxtLink>
    </div>
    <LivePanel
      v-if="running && live.run.value"
      :run="live.run.value"
      :marks="live.marks.value"
      :quiet="live.quiet.value"
      :may-mark="false"
      :busy="false"
    />
    <PressureTrace v-if="shown.samples.length > 0" :shown="shown" :name="data.pack.number" tall />
    <Notice v-else-if="running" empty="Waiting for the logger" hint="Readings show here as they come." />
    <div v-if="evaluation && shown.samples.length > 0" class="verdict">
      <TestVerdict :evaluation="evaluation" />
    </div>
  </div>
</template>

<style scoped>
.watch {
  height: 100%;
  overflow-y: auto;
  padding: 16px 24px;
  display: flex;
  flex-direction: column;
  gap: 12px;
}
.watch > * {
  flex: none;
}
.watch :deep(.reading) {
  font-size: 64px;
}
.watch :deep(.phase) {
  font-size: var(--s28, 28px);
}
.link {
  min-height: 44px;
  display: inline-flex;
  align-items: center;
}
@media (max-width: 720px) {
  .watch {
    padding: 12px 14px;
  }
  .watch :deep(.reading) {
    font-size: 44px;
  }
}
</style>
