<script setup lang="ts">
import { showCount, showMetres } from '#core/quantity/show'
import { useDebounceFn, useElementSize } from '@vueuse/core'
import type { Found } from '../../../server/services/find'
import type { Trace } from '~/drawings/trace-graph'
import { useSession } from '~/stores/session'
import { originWords } from '~/words'
import { dayOf, startOfDay } from '#core/quantity/day'

/** From anything that was used to every joint, reach and test it touches, and back. */
const session = useSession()
const times = useTimes()
const route = useRoute()
const origin = computed(() =>
  typeof route.query.kind === 'string' && typeof route.query.value === 'string'
    ? {
        kind: route.query.kind,
        value: route.query.value,
        since: typeof route.query.since === 'string' ? Number(route.query.since) : null,
      }
    : null,
)
const asked = computed(() => ({
  kind: origin.value?.kind ?? '',
  value: origin.value?.value ?? '',
  ...(origin.value?.since ? { since: String(origin.value.since) } : {}),
}))
const { data, problem, loading, load } = useLoad<Trace | null>(async () =>
  origin.value ? api<Trace>(`${session.base}/trace`, { query: asked.value }) : null,
)
watch(origin, load)
onMounted(load)

const text = ref('')
const found = ref<{ key: string; kind: string; value: string; label: string; detail: string }[]>([])
const known = computed(() => {
  const o = session.overview
  return [
    ...(o?.instruments ?? []).map((i) => ({
      kind: 'instrument',
      value: i.id,
      label: i.name,
      detail: i.kind,
    })),
    ...(o?.crews ?? []).map((c) => ({ kind: 'crew', value: c.id, label: c.name, detail: '' })),
    ...(o?.people ?? []).map((p) => ({ kind: 'person', value: p.id, label: p.name, detail: '' })),
  ]
})
const search = useDebounceFn(async () => {
  const wanted = text.value.trim()
  if (!wanted) return void (found.value = [])
  const rows = await api<Found[]>(`${session.base}/find`, { query: { text: wanted } }).catch(() => [])
  if (text.value.trim() !== wanted) return
  const own = known.value.filter((k) => k.label.toLowerCase().includes(wanted.toLowerCase()))
  const served = rows.flatMap((r) =>
    r.kind === 'ncr'
      ? []
      : [{ kind: r.kind, value: r.kind === 'lot' ? r.label : r.id, label: r.label, detail: r.detail }],
  )
  found.value = [...served, ...own].slice(0, 12).map((f) => ({ ...f, key: `${f.kind} ${f.value}` }))
}, 150)
watch(text, search)
function go(f: { kind: string; value: string }) {
  text.value = ''
  found.value = []
  void navigateTo({ path: '/deliveries/trace', query: { kind: f.kind, value: f.value } })
}
const since = ref('')
watch(origin, (o) => (since.value = o?.since ? dayOf(o.since, session.zone) : ''), {
  immediate: true,
})
const lastGood = computed(() =>
  origin.value?.kind === 'instrument'
    ? (session.overview?.instruments.find((i) => i.id === origin.value!.value)?.calibrations.at(-1)?.from ??
      null)
    : null,
)
const setSince = (day: string) =>
  navigateTo({
    path: '/deliveries/trace',
    query: {
      kind: origin.value!.kind,
      value: origin.value!.value,
      ...(day ? { since: String(startOfDay(day, session.zone)) } : {}),
    },
  })
const box = ref<HTMLElement | null>(null)
const { width } = useElementSize(box)
const quarantining = ref(false)
const may = computed(
  () => session.can('quarantine') && origin.value !== null && !['reach', 'pack'].includes(origin.value.kind),
)
const csv = computed(() => `/api/${session.base}/trace/export?${new URLSearchParams(asked.value).toString()}`)
const forward = computed(
  () => data.value !== null && !['joint', 'reach', 'pack'].includes(data.value.origin.kind),
)
</script>

<template>
  <div class="page" tabindex="0" role="region" aria-label="Trace">
    <DeliveryTabs />
    <div class="search">
      <ElInput
        v-model="text"
        size="large"
        clearable
        placeholder="Lot, serial, delivery, instrument, operator, crew, joint, reach or test pack"
        aria-label="Trace from"
        @keydown.enter.prevent="found[0] && go(found[0])"
      />
      <div v-if="found.length" class="found sheet" role="listbox" aria-label="Found">
        <button
          v-for="f in found"
          :key="f.key"
          type="button"
          role="option"
          aria-selected="false"
          @click="go(f)"
        >
          <span class="muted small kind">{{ originWords[f.kind] }}</span><strong>{{ f.label }}</strong
          ><span class="muted small">{{ f.detail }}</span>
        </button>
      </div>
    </div>
    <Notice
      v-if="!origin"
      empty="Trace anything"
      hint="Type a lot, a serial, an instrument or a joint: everything that it touches is shown, and what that was made with."
    />
    <Notice v-else-if="problem && !data" :problem="problem" @again="load" />
    <Notice v-else-if="!data" :loading="loading" />
    <div v-else ref="box" class="trace">
      <div class="page-head">
        <h1>{{ originWords[data.origin.kind] }} {{ data.origin.label }}</h1>
        <span class="muted grow"
          >{{ showCount(data.total) }} {{ data.total === 1 ? 'joint' : 'joints' }}, {{ data.reaches.length }}
          {{ data.reaches.length === 1 ? 'reach' : 'reaches' }}, {{ data.packs.length }}
          {{ data.packs.length === 1 ? 'test pack' : 'test packs' }}</span
        >
        <a class="quiet" :href="csv" download>CSV</a>
        <ElButton v-if="may" type="danger" plain size="large" @click="quarantining = true"
          >Quarantine all this touches</ElButton
        >
      </div>
      <p v-if="data.lot?.quarantinedAt" class="warn">
        In quarantine since {{ times.moment(data.lot.quarantinedAt) }}: {{ data.lot.reason }}
      </p>
      <form v-if="data.origin.kind === 'instrument'" class="row since" @submit.prevent="setSince(since)">
        <DayField v-model="since" label="Only readings since" />
        <ElButton native-type="submit" size="large">Show</ElButton>
        <ElButton v-if="lastGood" size="large" @click="setSince(lastGood.slice(0, 10))"
          >Since the last good check, {{ times.day(lastGood) }}</ElButton
        >
      </form>
      <div class="drawn" tabindex="0" role="region" aria-label="Where it went">
        <TraceDrawing :trace="data" :width="width" />
      </div>
      <section v-if="data.lines.length">
        <h2>On the lines</h2>
        <TraceStrip :lines="data.lines" :width="width" />
      </section>
      <section>
        <h2>{{ forward ? 'Joints' : 'Made with' }}</h2>
        <p v-if="forward && data.total === 0" class="muted">No joint was made with it.</p>
        <div v-else-if="forward" class="sheet scroll" tabindex="0" role="region" aria-label="Joints">
          <table class="figures">
            <thead>
              <tr>
                <th>Joint</th>
                <th class="number">Station</th>
                <th>System</th>
                <th>Crew</th>
                <th>Report</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="j in data.joints" :key="j.id">
                <td>
                  <NuxtLink :to="`/joints/${j.id}`"
                    ><strong>{{ j.number }}</strong></NuxtLink
                  >
                </td>
                <td class="number">{{ showMetres(j.station, 1) }}</td>
                <td>{{ j.system }}</td>
                <td>{{ data.crews[j.crew] }}</td>
                <td>{{ j.ncr ?? '–' }}</td>
              </tr>
            </tbody>
          </table>
        </div>
        <div v-else class="sheet">
          <table class="figures">
            <thead>
              <tr>
                <th>What</th>
                <th>Name</th>
                <th class="number">In joints</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="m in data.made" :key="m.kind + m.value">
                <td>{{ originWords[m.kind] }}</td>
                <td>
                  <NuxtLink :to="`/deliveries/trace?kind=${m.kind}&value=${encodeURIComponent(m.value)}`">{{
                    m.label
                  }}</NuxtLink>
                </td>
                <td class="number">{{ m.joints }}</td>
              </tr>
            </tbody>
          </table>
        </div>
        <p v-if="data.total > data.joints.length" class="muted small">
          The first {{ data.joints.length }} of {{ showCount(data.total) }} are listed; the CSV has all.
        </p>
      </section>
      <TraceQuarantine v-if="origin" v-model="quarantining" :trace="data" :origin="origin" @done="load" />
    </div>
  </div>
</template>

<style scoped>
.search {
  position: relative;
  max-width: 720px;
  margin-bottom: 16px;
}
.found {
  position: absolute;
  z-index: 5;
  left: 0;
  right: 0;
  top: 60px;
  max-height: 420px;
  overflow: auto;
}
.found button {
  display: flex;
  gap: 14px;
  align-items: baseline;
  width: 100%;
  min-height: 48px;
  padding: 12px 14px;
  border: 0;
  border-bottom: 1px solid var(--hair);
  background: none;
  color: inherit;
  font-size: var(--s16);
  text-align: left;
  cursor: pointer;
}
.found button:hover {
  background: var(--wash);
}
.kind {
  width: 84px;
  flex: none;
}
.trace {
  display: flex;
  flex-direction: column;
  gap: 14px;
}
.page-head {
  margin: 0;
}
.drawn {
  overflow-x: auto;
  padding: 8px 0;
}
.since {
  align-items: flex-end;
}
section {
  display: flex;
  flex-direction: column;
  gap: 8px;
}
.scroll {
  max-height: 420px;
  overflow: auto;
}
.warn {
  padding: 10px 14px;
  border-left: 4px solid var(--rejected);
  background: color-mix(in srgb, var(--rejected) 8%, var(--card));
}
</style>
