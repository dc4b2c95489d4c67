<script setup lang="ts">
import { showMetres } from '#core/quantity/show'
import { useLocalStorage } from '@vueuse/core'
import type { Place } from '#core/round/travel'
import { useSession } from '~/stores/session'
import { useStrip } from '~/stores/strip'

/** Who waits, in which order to go, and when I am there. */
const session = useSession()
const strip = useStrip()
const now = useNow()
const times = useTimes()
const line = ref(session.line?.id ?? '')
const station = ref(strip.station ?? session.line?.from ?? 0)
const kept = useLocalStorage('vet-line-round', { speed: 4.5, minutes: 10, between: 15 })
const pinned = ref<string | null>(null)
const without = ref<string[]>([])
const me = computed<Place | null>(() =>
  line.value ? { line: line.value, station: station.value, at: null } : null,
)
const going = computed(() => ({ speed: kept.value.speed / 3.6, between: kept.value.between * 60 }))
const { data, problem, loading, load, visits, changed } = useRound({
  me: () => me.value,
  going: () => going.value,
  service: () => kept.value.minutes * 60,
  pinned: () => pinned.value,
  without: () => without.value,
})
const lines = computed(() => session.overview?.lines ?? [])
watch(line, (id) => (station.value = lines.value.find((l) => l.id === id)?.from ?? 0))
const lineName = (id: string) => lines.value.find((l) => l.id === id)?.name ?? ''
const left = computed(() => (data.value?.stops ?? []).filter((s) => without.value.includes(s.key)))
const waited = (v: { begin: number; stop: { ready: number } }) => Math.max(0, v.begin - v.stop.ready)
// For whoever only watches nobody stands.
const total = computed(() =>
  visits.value.reduce((sum, v) => sum + (v.stop.kind === 'watch' ? 0 : waited(v)), 0),
)
const from = (at: number) => (at - now.value > 45_000 ? `at ${times.clock(at)}` : 'now')
const leave = (key: string) => {
  without.value = [...without.value, key]
  if (pinned.value === key) pinned.value = null
}
/** I am there: the next way begins here. */
function here(v: { stop: { line: string; station: number } }) {
  line.value = v.stop.line
  void nextTick(() => (station.value = v.stop.station))
}
</script>

<template>
  <div class="page">
    <TodayTabs />
    <div class="page-head">
      <h1>Round</h1>
      <p class="muted">Who waits loses least when you go in this order.</p>
    </div>
    <form class="settings" aria-label="Where I am and how I go" @submit.prevent>
      <label
        >I am on<ElSelect v-model="line" size="large" aria-label="I am on">
          <ElOption v-for="l in lines" :key="l.id" :value="l.id" :label="l.name" /></ElSelect
      ></label>
      <label
        >at station, m<ElInputNumber
          v-model="station"
          size="large"
          :controls="false"
          aria-label="at station, m"
      /></label>
      <label
        >Going, km/h<ElInputNumber
          v-model="kept.speed"
          size="large"
          :min="1"
          :max="80"
          :controls="false"
          aria-label="Going, km/h"
      /></label>
      <label
        >Minutes at a stop<ElInputNumber
          v-model="kept.minutes"
          size="large"
          :min="0"
          :max="240"
          :controls="false"
          aria-label="Minutes at a stop"
      /></label>
      <label
        >Minutes between lines<ElInputNumber
          v-model="kept.between"
          size="large"
          :min="0"
          :max="240"
          :controls="false"
          aria-label="Minutes between lines"
      /></label>
    </form>
    <Notice v-if="problem && !data" :problem="problem" @again="load" />
    <Notice v-else-if="!data" :loading="loading" />
    <Notice
      v-else-if="data.stops.length === 0"
      empty="Nobody waits for you"
      hint="Crews that will come to a hold point within three hours stand here as soon as that can be foreseen."
    />
    <template v-else>
      <p v-if="changed" class="changed" role="status">{{ changed }}</p>
      <RoundStrip :visits="visits" :me="me" :line-name="lineName" :now="now" />
      <ol class="visits">
        <li v-for="(v, i) in visits" :key="v.stop.key" :class="{ pinned: v.stop.key === pinned }">
          <span class="number">{{ i + 1 }}</span>
          <span class="when">
            <strong>{{ from(v.arrive) }}</strong>
            <span v-if="v.begin - v.arrive > 60_000" class="muted small"
              >{{ times.span(v.begin - v.arrive) }} too early</span
            >
          </span>
          <NuxtLink :to="v.stop.path" class="what">
            <strong>{{ v.stop.name }}</strong> <span>{{ v.stop.title }}</span>
            <span class="muted small"
              >{{ lineName(v.stop.line) }}, {{ showMetres(v.stop.station, 0)
              }}<template v-if="v.stop.crew"> · {{ v.stop.crew }}</template></span
            >
          </NuxtLink>
          <span class="wait">
            <template v-if="v.stop.kind === 'hold'"
              >stands {{ times.span(now - v.stop.ready) }} now,
              <strong>{{ times.span(waited(v)) }}</strong> when you come</template
            >
            <template v-else-if="v.stop.from !== null && v.stop.ready <= now + 45_000">{{
              v.stop.kind === 'watch' ? 'should be there by now' : 'should be ready by now'
            }}</template>
            <template v-else-if="v.stop.from !== null"
              >{{ v.stop.kind === 'watch' ? 'to be watched' : 'ready' }} about {{ times.clock(v.stop.ready) }}
              <span class="muted small"
                >({{ times.clock(v.stop.from) }} to {{ times.clock(v.stop.to!) }})</span
              ></template
            >
            <template v-else>due {{ times.moment(v.stop.ready) }}</template>
          </span>
          <span class="acts">
            <ElButton
              size="large"
              :aria-pressed="v.stop.key === pinned"
              @click="pinned = pinned === v.stop.key ? null : v.stop.key"
              >{{ v.stop.key === pinned ? 'Pinned first' : 'Go here first' }}</ElButton
            >
            <ElButton size="large" @click="here(v)">I am here</ElButton>
            <ElButton size="large" text @click="leave(v.stop.key)">Leave out</ElButton>
          </span>
        </li>
      </ol>
      <p v-if="visits.length > 0" class="muted">
        In this order the crews stand {{ times.span(total) }} altogether.
      </p>
      <p v-if="left.length > 0" class="left">
        Left out:
        <ElButton v-for="s in left" :key="s.key" @click="without = without.filter((k) => k !== s.key)"
          >{{ s.name }}: take in again</ElButton
        >
      </p>
    </template>
  </div>
</template>

<style scoped>
.settings {
  display: flex;
  flex-wrap: wrap;
  gap: 12px 20px;
  margin-bottom: 20px;
}
.settings label {
  display: flex;
  flex-direction: column;
  gap: 4px;
  color: var(--muted);
  font-size: var(--s14);
}
.settings .el-select {
  width: 220px;
}
.settings .el-input-number {
  width: 150px;
}
.settings :deep(.el-input__wrapper),
.settings :deep(.el-select__wrapper) {
  height: 48px;
  min-height: 48px;
}
.settings :deep(.el-input__inner) {
  height: 46px;
  text-align: left;
}
.changed {
  border-left: 4px solid var(--held);
  padding: 6px 14px;
  font-weight: 600;
}
.visits {
  list-style: none;
  margin: 16px 0 0;
  padding: 0;
}
.visits li {
  display: grid;
  grid-template-columns: 44px 110px minmax(200px, 1.3fr) minmax(200px, 1fr) auto;
  align-items: center;
  gap: 16px;
  min-height: 76px;
  padding: 10px 4px;
  border-top: 1px solid var(--hair);
}
.visits .pinned {
  background: var(--wash);
}
.number {
  display: grid;
  place-items: center;
  width: 38px;
  height: 38px;
  border-radius: 50%;
  border: 2px solid var(--ink);
  font-weight: 600;
}
.when,
.what {
  display: flex;
  flex-direction: column;
}
.when strong {
  font-size: var(--s18);
}
.what {
  color: inherit;
  text-decoration: none;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
.acts .el-button {
  margin: 0;
}
.left {
  margin-top: 18px;
}
@media (max-width: 1100px) {
  .visits li {
    grid-template-columns: 44px 1fr;
  }
  .visits li > :nth-child(n + 3) {
    grid-column: 2;
  }
}
</style>
