<script setup lang="ts">
import { unitShown } from '#core/quantity/site-units'
import { showStretch, showMetres } from '#core/quantity/show'
import type { SubjectState } from '#core/judgement/types'
import { LANE_NAMES, useStripView } from '~/composables/useStripView'
import { stateColour, within } from '~/drawings/strip-runs'
import { useSession } from '~/stores/session'
import { useStrip, type StripJoint } from '~/stores/strip'
import { packStateWords, stateWords } from '~/words'

const session = useSession()
const store = useStrip()
const now = useNow()
const line = computed(() => session.line)
const crew = useAddress('crew')
const only = useAddress('state')
/** the number of the joint that is looked at */
const number = useAddress('joint')
/** the stations around which it is looked from elsewhere */
const at = useAddress('at')

const box = ref<HTMLElement | null>(null)
const { width, view, x, zoom, around, whole, hand } = useStripView(box, line, (station) => {
  const near = joints.value.reduce<StripJoint | null>(
    (best, j) => (!best || Math.abs(j.station - station) < Math.abs(best.station - station) ? j : best),
    null,
  )
  if (near) number.value = near.number
})
watch(
  at,
  (text) => {
    const station = Number(text)
    if (line.value && text && Number.isFinite(station)) around(station, 60)
  },
  { immediate: true },
)

const all = computed<readonly StripJoint[]>(() => store.strip?.joints ?? [])
const joints = computed(() =>
  crew.value || only.value
    ? all.value.filter(
        (j) => (!crew.value || j.crew === crew.value) && (!only.value || j.state === only.value),
      )
    : all.value,
)
const counts = computed(() => {
  const out = new Map<SubjectState, number>()
  for (const j of all.value) out.set(j.state, (out.get(j.state) ?? 0) + 1)
  return [...out].sort((a, b) => b[1] - a[1])
})
const chosen = computed(() => (number.value ? all.value.find((j) => j.number === number.value) : undefined))
const first = computed(() => all.value.find((j) => !j.opened))
/** as many as a person reads */
const ROWS = 200
const rows = computed(() => within(joints.value, ...view.value).slice(0, ROWS))
const tableOpen = ref(false)
const giving = ref(false)

function step(by: number) {
  const list = joints.value
  const i = list.findIndex((j) => j.number === number.value)
  const next = list[Math.min(list.length - 1, Math.max(0, i + by))]
  if (!next) return
  number.value = next.number
  if (next.station < view.value[0] || next.station > view.value[1]) around(next.station)
}
function choose(joint: StripJoint) {
  number.value = joint.number
  if (joint.station < view.value[0] || joint.station > view.value[1]) around(joint.station)
}
useKeys({
  '+': () => zoom(0.6),
  '-': () => zoom(1.6),
  ArrowRight: () => step(1),
  ArrowLeft: () => step(-1),
  Enter: () => chosen.value && navigateTo(`/joints/${chosen.value.id}`),
})
watch(chosen, (c) => (store.station = c?.station ?? null), { immediate: true })
onBeforeUnmount(() => (store.station = null))
</script>

<template>
  <div class="page line-page">
    <div class="page-head">
      <h1>{{ line?.name }}</h1>
      <span class="muted">{{ showStretch(view[0], view[1]) }}</span>
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
      <ElButton @click="whole">Whole line</ElButton>
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
      @pointerdown="hand.down"
      @pointermove="hand.move"
      @pointerup="hand.up"
      @pointerleave="hand.leave"
      @wheel.prevent="hand.wheel"
    >
      <StripDrawing
        v-if="width > 0 && line"
        :width="width"
        :left="LANE_NAMES"
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
            station {{ showMetres(chosen.station, 1) }} · {{ session.crewName(chosen.crew) }}</span
          ><br />{{ stateWords[chosen.state]
          }}<template v-if="chosen.next">, next: {{ chosen.next }}</template
          ><template v-if="chosen.applicable">
            · {{ chosen.done }} of {{ chosen.applicable }} checks</template
          >
        </div>
        <ElButton v-if="session.can('plan-work')" size="large" @click="giving = true">Other crew …</ElButton>
        <ElButton type="primary" size="large" @click="navigateTo(`/joints/${chosen.id}`)">{{
          chosen.opened ? 'Open the sheet' : 'Open this joint'
        }}</ElButton>
      </template>
      <template v-else>
        <p class="muted grow">Tap a joint. Drag to move along the line, pinch or wheel to zoom.</p>
        <ElButton v-if="first" size="large" @click="choose(first)"
          >Next joint to open: {{ first.number }}</ElButton
        >
      </template>
    </div>
    <p class="visually-hidden" aria-live="polite">
      {{ chosen ? `${chosen.number}, ${stateWords[chosen.state]}` : '' }}
    </p>
    <div v-if="store.strip && line" class="below">
      <LineCrews :joints="all" :now="now" @choose="choose" />
      <LineProgress :strip="store.strip" :from="line.from" :to="line.to" />
    </div>
    <details class="table" @toggle="tableOpen = ($event.target as HTMLDetailsElement).open">
      <summary>Read as a table</summary>
      <table v-if="tableOpen" class="figures">
        <thead>
          <tr>
            <th>Joint</th>
            <th class="number">Station, {{ unitShown('m') }}</th>
            <th>Crew</th>
            <th>State</th>
            <th>Next</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="j in rows" :key="j.id">
            <td>
              <NuxtLink :to="`/joints/${j.id}`">{{ j.number }}</NuxtLink>
            </td>
            <td class="number">{{ showMetres(j.station, 1, false) }}</td>
            <td>{{ session.crewName(j.crew) }}</td>
            <td :style="{ color: stateColour[j.state] }">{{ stateWords[j.state] }}</td>
            <td>{{ j.next }}</td>
          </tr>
        </tbody>
      </table>
      <p v-if="tableOpen && rows.length === ROWS" class="muted small">
        The first {{ ROWS }} of these stations; zoom in for the others.
      </p>
      <p v-if="store.strip" class="muted small">
        {{ store.strip.packs.map((p) => `${p.number} ${packStateWords[p.state]}`).join(' · ') }}
      </p>
    </details>
    <GiveJoint v-if="chosen" v-model="giving" :joint="chosen" @given="store.load" />
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
.below {
  display: grid;
  grid-template-columns: minmax(0, 3fr) minmax(0, 2fr);
  gap: 16px 40px;
  padding-top: 8px;
}
summary {
  min-height: 44px;
  display: list-item;
  padding: 10px 0;
  cursor: pointer;
}
@media (max-width: 900px) {
  .below {
    grid-template-columns: minmax(0, 1fr);
  }
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
