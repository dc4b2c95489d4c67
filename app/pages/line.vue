<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import type { SubjectState } from '#core/judgement/types'
import { useSession } from '~/stores/session'
import { useStrip, type StripJoint } from '~/stores/strip'
import { packStateWords, stateWords } from '~/words'
import { stateColour } from '~/drawings/strip-runs'

const session = useSession()
const store = useStrip()
const route = useRoute()
const box = ref<HTMLElement | null>(null)
const { width } = useElementSize(box)
const crew = ref('')
const only = ref<SubjectState | ''>('')
const line = computed(() => session.line)
/** the stations in view */
const view = ref<[number, number]>([0, 1])
watch(line, (l) => l && (view.value = [l.from, l.to]), { immediate: true })
watch(
  () => route.query.at,
  (at) => {
    const station = Number(at)
    if (!line.value || at === undefined || !Number.isFinite(station)) return
    view.value = clamp([station - 60, station + 60])
  },
  { immediate: true },
)
function clamp([from, to]: [number, number]): [number, number] {
  const l = line.value!
  const span = Math.min(l.to - l.from, Math.max(24, to - from))
  const start = Math.min(l.to - span, Math.max(l.from, (from + to) / 2 - span / 2))
  return [start, start + span]
}
const zoom = (factor: number, at = (view.value[0] + view.value[1]) / 2) =>
  (view.value = clamp([at - (at - view.value[0]) * factor, at + (view.value[1] - at) * factor]))
const left = 96
const x = (station: number) =>
  left + ((station - view.value[0]) / (view.value[1] - view.value[0])) * (width.value - left - 16)
const joints = computed(() =>
  (store.strip?.joints ?? []).filter(
    (j) => (!crew.value || j.crew === crew.value) && (!only.value || j.state === only.value),
  ),
)
const counts = computed(() => {
  const out = new Map<SubjectState, number>()
  for (const j of store.strip?.joints ?? []) out.set(j.state, (out.get(j.state) ?? 0) + 1)
  return [...out].sort((a, b) => b[1] - a[1])
})
const chosen = ref<StripJoint | null>(null)
const first = computed(() => store.strip?.joints.find((j) => !j.opened) ?? null)

let drag: { x: number; view: [number, number]; moved: boolean } | null = null
function down(e: PointerEvent) {
  drag = { x: e.clientX, view: [...view.value] as [number, number], moved: false }
}
function moveBy(e: PointerEvent) {
  if (!drag) return
  const dx = e.clientX - drag.x
  if (Math.abs(dx) > 6) drag.moved = true
  const perPixel = (drag.view[1] - drag.view[0]) / Math.max(1, width.value - left - 16)
  if (drag.moved) view.value = clamp([drag.view[0] - dx * perPixel, drag.view[1] - dx * perPixel])
}
function up(e: PointerEvent) {
  const tap = drag && !drag.moved
  drag = null
  if (!tap || !box.value) return
  const station =
    view.value[0] +
    ((e.clientX - box.value.getBoundingClientRect().left - left) / (width.value - left - 16)) *
      (view.value[1] - view.value[0])
  const near = joints.value.reduce<StripJoint | null>(
    (best, j) => (!best || Math.abs(j.station - station) < Math.abs(best.station - station) ? j : best),
    null,
  )
  if (near) chosen.value = near
}
const wheel = (e: WheelEvent) =>
  zoom(
    e.deltaY > 0 ? 1.25 : 0.8,
    view.value[0] + ((e.offsetX - left) / (width.value - left - 16)) * (view.value[1] - view.value[0]),
  )
const step = (by: number) => {
  const list = joints.value
  const i = chosen.value ? list.findIndex((j) => j.id === chosen.value!.id) : -1
  chosen.value = list[Math.min(list.length - 1, Math.max(0, i + by))] ?? null
  if (chosen.value && (chosen.value.station < view.value[0] || chosen.value.station > view.value[1]))
    view.value = clamp([
      chosen.value.station - (view.value[1] - view.value[0]) / 2,
      chosen.value.station + (view.value[1] - view.value[0]) / 2,
    ])
}
useKeys({
  '+': () => zoom(0.6),
  '-': () => zoom(1.6),
  ArrowRight: () => step(1),
  ArrowLeft: () => step(-1),
  Enter: () => chosen.value && navigateTo(`/joints/${chosen.value.id}`),
})
watch(chosen, (c) => (store.station = c?.station ?? null))
watch(
  () => store.strip,
  (s) => chosen.value && (chosen.value = s?.joints.find((j) => j.id === chosen.value!.id) ?? null),
)
</script>

<template>
  <div class="page line-page">
    <div class="page-head">
      <h1>{{ line?.name }}</h1>
      <span class="muted">{{ view[0].toFixed(0) }} to {{ view[1].toFixed(0) }} m</span>
      <span class="grow" />
      <ElSelect
        v-if="!session.overview?.crew"
        v-model="crew"
        clearable
        placeholder="All crews"
        aria-label="Crew"
        class="filter"
        ><ElOption v-for="c in session.overview?.crews" :key="c.id" :value="c.id" :label="c.name"
      /></ElSelect>
      <ElButton aria-label="Zoom out" @click="zoom(1.8)">−</ElButton>
      <ElButton aria-label="Zoom in" @click="zoom(0.55)">+</ElButton>
      <ElButton @click="line && (view = [line.from, line.to])">Whole line</ElButton>
    </div>
    <div class="legend" role="group" aria-label="Show only">
      <button
        v-for="[state, n] in counts"
        :key="state"
        type="button"
        :class="{ on: only === state }"
        :aria-pressed="only === state"
        @click="only = only === state ? '' : state"
      >
        <StateGlyph :state="state" :size="26" /> {{ stateWords[state] }} <strong>{{ n }}</strong>
      </button>
    </div>
    <Notice v-if="store.problem && !store.strip" :problem="store.problem" @again="store.load" />
    <Notice v-else-if="!store.strip" loading />
    <div
      v-else
      ref="box"
      class="strip sheet"
      @pointerdown="down"
      @pointermove="moveBy"
      @pointerup="up"
      @pointerleave="drag = null"
      @wheel.prevent="wheel"
    >
      <StripDrawing
        v-if="width > 0 && line"
        :width="width"
        :left="left"
        :view="view"
        :x="x"
        :joints="joints"
        :strip="store.strip"
        :profile="line.profile"
        :chosen="chosen?.id ?? null"
      />
    </div>
    <div class="foot sheet">
      <template v-if="chosen">
        <StateGlyph :state="chosen.state" :size="36" />
        <div class="grow">
          <strong class="reading">{{ chosen.number }}</strong>
          <span class="muted">
            station {{ chosen.station.toFixed(1) }} m · {{ session.crewName(chosen.crew) }}</span
          ><br />{{ stateWords[chosen.state]
          }}<template v-if="chosen.next">, next: {{ chosen.next }}</template
          ><template v-if="chosen.applicable">
            · {{ chosen.done }} of {{ chosen.applicable }} checks</template
          >
        </div>
        <ElButton type="primary" size="large" @click="navigateTo(`/joints/${chosen.id}`)">{{
          chosen.opened ? 'Open the sheet' : 'Open this joint'
        }}</ElButton>
      </template>
      <template v-else>
        <p class="muted grow">Tap a joint. Drag to move along the line, pinch or wheel to zoom.</p>
        <ElButton v-if="first" size="large" @click="chosen = first"
          >Next joint to open: {{ first.number }}</ElButton
        >
      </template>
    </div>
    <p class="visually-hidden" aria-live="polite">
      {{ chosen ? `${chosen.number}, ${stateWords[chosen.state]}` : '' }}
    </p>
    <details class="table">
      <summary>Read as a table</summary>
      <table class="figures">
        <thead>
          <tr>
            <th>Joint</th>
            <th class="number">Station, m</th>
            <th>Crew</th>
            <th>State</th>
            <th>Next</th>
          </tr>
        </thead>
        <tbody>
          <tr
            v-for="j in joints.filter((j) => j.station >= view[0] && j.station <= view[1]).slice(0, 200)"
            :key="j.id"
          >
            <td>
              <NuxtLink :to="`/joints/${j.id}`">{{ j.number }}</NuxtLink>
            </td>
            <td class="number">{{ j.station.toFixed(1) }}</td>
            <td>{{ session.crewName(j.crew) }}</td>
            <td :style="{ color: stateColour[j.state] }">{{ stateWords[j.state] }}</td>
            <td>{{ j.next }}</td>
          </tr>
        </tbody>
      </table>
      <p v-if="store.strip" class="muted small">
        {{ store.strip.packs.map((p) => `${p.number} ${packStateWords[p.state]}`).join(' · ') }}
      </p>
    </details>
  </div>
</template>

<style scoped>
.line-page {
  display: flex;
  flex-direction: column;
  gap: 12px;
}
.page-head {
  margin-bottom: 0;
}
.line-page > * {
  flex: none;
}
.filter {
  width: 170px;
}
.legend {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 8px;
}
.legend button {
  display: inline-flex;
  align-items: center;
  gap: 8px;
  min-height: 44px;
  padding: 0 12px;
  border: 1px solid transparent;
  border-radius: var(--corner);
  background: none;
  color: inherit;
  font-size: var(--s16);
  cursor: pointer;
}
.legend .on {
  border-color: var(--ink);
  background: var(--card);
}
.strip {
  touch-action: pan-y;
  cursor: grab;
  overflow: hidden;
  flex: none;
}
.foot {
  display: flex;
  align-items: center;
  gap: 18px;
  padding: 12px 18px;
  min-height: 84px;
}
summary {
  min-height: 44px;
  display: list-item;
  padding: 10px 0;
  cursor: pointer;
}
@media (max-width: 720px) {
  .page-head {
    row-gap: 6px;
  }
  .foot {
    flex-wrap: wrap;
    gap: 10px;
    padding: 12px 14px;
  }
  .foot > * {
    flex: 1 1 100%;
  }
  .legend button {
    padding: 0 8px;
  }
}
</style>
