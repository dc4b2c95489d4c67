<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { scaleLinear } from 'd3-scale'
import { computed, ref } from 'vue'
import type { Layout, OnLine } from '#core/pressure/layout'
import { extent } from './extent'
import type { ProfilePoint } from '#core/pressure/pack'
import { showMetres, showQuantity } from '#core/quantity/show'

/**
 * The line from the side with the pack that is being laid out: its ends are dragged, or moved by arrow keys,
 * and snap to what stands on the line.
 */
const props = defineProps<{
  profile: readonly ProfilePoint[]
  onLine: readonly OnLine[]
  /** stations that an end may snap to besides */
  joints: readonly number[]
  layout: Layout | null
  gaugeStation: number
}>()
const from = defineModel<number>('from', { required: true })
const to = defineModel<number>('to', { required: true })
const box = ref<HTMLElement | null>(null)
const { width } = useElementSize(box)
const HEIGHT = 300
const span = computed(() => extent(props.profile.map((p) => p.station)))
const x = computed(() =>
  scaleLinear()
    .domain(span.value)
    .range([64, Math.max(90, width.value - 64)]),
)
const y = computed(() => {
  const [low, high] = extent(props.profile.map((p) => p.elevation))
  return scaleLinear()
    .domain([low, Math.max(high, low + 0.5)])
    .range([HEIGHT - 70, 78])
})
const path = (points: readonly ProfilePoint[]) =>
  points.map((p) => `${x.value(p.station)},${y.value(p.elevation)}`).join(' ')
const level = (station: number) => {
  const i = props.profile.findIndex((p) => p.station >= station)
  if (i <= 0) return y.value(props.profile[Math.max(0, i)]!.elevation)
  const [a, b] = [props.profile[i - 1]!, props.profile[i]!]
  return y.value(
    a.elevation + ((b.elevation - a.elevation) * (station - a.station)) / (b.station - a.station || 1),
  )
}
/** Isolations draw from farther than joints do. */
function snapped(station: number): number {
  const reach = x.value.invert(14) - x.value.invert(0)
  const near = (list: readonly number[], within: number) =>
    list.reduce<number | null>(
      (best, s) =>
        Math.abs(s - station) <= within && (best === null || Math.abs(s - station) < Math.abs(best - station))
          ? s
          : best,
      null,
    )
  const found =
    near(
      props.onLine.map((s) => s.station),
      reach,
    ) ?? near(props.joints, reach / 2)
  return found ?? Math.round(station)
}
const dragging = ref<'from' | 'to' | null>(null)
function move(end: 'from' | 'to', station: number) {
  const [low, high] = span.value
  const at = Math.min(high, Math.max(low, station))
  if (end === 'from') from.value = Math.min(at, to.value - 1)
  else to.value = Math.max(at, from.value + 1)
}
function drag(event: PointerEvent) {
  if (!dragging.value) return
  const left = (event.currentTarget as SVGElement).getBoundingClientRect().left
  move(dragging.value, snapped(x.value.invert(event.clientX - left)))
}
function take(event: PointerEvent, end: 'from' | 'to') {
  dragging.value = end
  ;(event.currentTarget as SVGElement).ownerSVGElement?.setPointerCapture(event.pointerId)
}
const key = (event: KeyboardEvent, end: 'from' | 'to') => {
  const by = { ArrowLeft: -1, ArrowRight: 1, PageDown: -10, PageUp: 10 }[event.key]
  if (by === undefined) return
  event.preventDefault()
  move(end, (end === 'from' ? from.value : to.value) + by)
}
const ends = computed(() => [
  { end: 'from' as const, at: from.value, says: 'Beginning of the pack' },
  { end: 'to' as const, at: to.value, says: 'End of the pack' },
])
const marks = computed(() => {
  const plan = props.layout?.plan
  return plan
    ? [
        { p: plan.highest, ok: plan.highOk, up: true },
        { p: plan.lowest, ok: plan.lowOk, up: false },
      ]
    : []
})
const kN = (force: number) => showQuantity(force, 'force', 'kN', 3)
/** Where words about a station stand: inside the pack where the line of one of its ends would strike them. */
function words(station: number) {
  const at = x.value(station)
  const [left, right] = [at - x.value(from.value), x.value(to.value) - at]
  if (right < 50) return { x: at - 12, anchor: 'end' }
  return left < 50 ? { x: at + 12, anchor: 'start' } : { x: at, anchor: 'middle' }
}
/** arrows as long as they push, to one scale */
const strongest = computed(() => Math.max(1, ...(props.layout?.pushes.map((p) => p.force) ?? [1])))
const arrow = (force: number) => 14 + 40 * (force / strongest.value)
</script>

<template>
  <div ref="box" class="builder">
    <svg
      v-if="width > 0 && profile.length > 1"
      :width="width"
      :height="HEIGHT"
      role="group"
      aria-label="The pack on the profile of its line"
      @pointermove="drag"
      @pointerup="dragging = null"
      @pointercancel="dragging = null"
    >
      <polyline :points="path(profile)" fill="none" stroke="var(--muted)" stroke-width="2" />
      <g v-if="layout">
        <path
          :d="`M${x(from)} ${HEIGHT - 40}L${path(layout.plan.points).replaceAll(' ', 'L').replaceAll(',', ' ')}L${x(to)} ${HEIGHT - 40}Z`"
          fill="var(--line)"
          opacity="0.14"
        />
        <polyline :points="path(layout.plan.points)" fill="none" stroke="var(--line)" stroke-width="4" />
        <g v-for="t in layout.tops" :key="`top ${t.station}`">
          <path
            :d="`M${x(t.station)} ${y(t.elevation) - 6}v-16m-5 6l5 -6l5 6`"
            fill="none"
            stroke="var(--waiting)"
            stroke-width="2"
          />
          <text :x="x(t.station)" :y="y(t.elevation) - 28" text-anchor="middle" class="air">air</text>
        </g>
        <g v-for="p in layout.pushes" :key="`${p.name} ${p.station}`" class="push">
          <path
            v-if="p.kind === 'closure'"
            :d="
              p.station === from
                ? `M${x(p.station)} ${level(p.station)}h-${arrow(p.force)}m7 -5l-7 5l7 5`
                : `M${x(p.station)} ${level(p.station)}h${arrow(p.force)}m-7 -5l7 5l-7 5`
            "
          />
          <path v-else :d="`M${x(p.station)} ${level(p.station)}v${arrow(p.force)}m-5 -7l5 7l5 -7`" />
        </g>
        <g v-for="m in marks" :key="m.up ? 'high' : 'low'">
          <circle
            :cx="x(m.p.station)"
            :cy="y(m.p.elevation)"
            r="7"
            :fill="m.ok ? 'var(--accepted)' : 'var(--rejected)'"
          />
          <text
            :x="words(m.p.station).x"
            :y="y(m.p.elevation) + (m.up ? -14 : 26)"
            :text-anchor="words(m.p.station).anchor"
            class="pressure"
          >
            {{ showQuantity(m.p.pressure, 'pressure', 'kPa', 4) }}
          </text>
        </g>
        <text
          :x="words(gaugeStation).x"
          :y="level(gaugeStation) - 14"
          :text-anchor="words(gaugeStation).anchor"
          class="air"
        >
          gauge
        </text>
        <circle
          :cx="x(gaugeStation)"
          :cy="level(gaugeStation)"
          r="5"
          fill="var(--paper)"
          stroke="var(--ink)"
          stroke-width="2"
        />
      </g>
      <g v-for="s in onLine" :key="s.name">
        <line
          :x1="x(s.station)"
          :x2="x(s.station)"
          :y1="level(s.station) - 9"
          :y2="level(s.station) + 9"
          class="structure"
        />
        <title>{{ s.name }}, {{ s.kind }} at {{ showMetres(s.station, 1) }}</title>
      </g>
      <g v-for="e in ends" :key="e.end">
        <line :x1="x(e.at)" :x2="x(e.at)" y1="40" :y2="HEIGHT - 40" stroke="var(--ink)" stroke-width="2" />
        <g
          class="handle"
          tabindex="0"
          role="slider"
          :aria-label="e.says"
          :aria-valuenow="e.at"
          :aria-valuemin="span[0]"
          :aria-valuemax="span[1]"
          :aria-valuetext="`station ${showMetres(e.at, 1)}`"
          @pointerdown.prevent="(p: PointerEvent) => take(p, e.end)"
          @keydown="(k: KeyboardEvent) => key(k, e.end)"
        >
          <rect :x="x(e.at) - 22" y="4" width="44" height="40" rx="6" fill="var(--ink)" />
          <text :x="x(e.at)" y="30" text-anchor="middle" class="grip">↔</text>
        </g>
        <text :x="x(e.at)" :y="HEIGHT - 20" text-anchor="middle">
          {{ showQuantity(e.at, 'length', 'm', 5) }}
        </text>
      </g>
    </svg>
    <p v-if="layout" class="pushes small">
      <span v-for="p in layout.pushes" :key="`${p.name} ${p.station}`"
        >{{ p.name }} at {{ showQuantity(p.station, 'length', 'm', 5) }}:
        <strong>{{ kN(p.force) }}</strong><template v-if="p.block !== null"
          >, block {{ showQuantity(p.block, 'area', 'm²', 2) }}</template
        ></span
      >
    </p>
  </div>
</template>

<style scoped>
.builder {
  width: 100%;
}
svg {
  display: block;
  touch-action: none;
}
text {
  font-size: 14px;
  fill: var(--muted);
}
.pressure {
  font-size: 16px;
  font-weight: 600;
  fill: var(--ink);
  paint-order: stroke;
  stroke: var(--paper);
  stroke-width: 4px;
}
.air {
  paint-order: stroke;
  stroke: var(--paper);
  stroke-width: 3px;
}
.push path {
  fill: none;
  stroke: var(--held);
  stroke-width: 3;
}
.structure {
  stroke: var(--ink);
  stroke-width: 2;
}
.handle {
  cursor: ew-resize;
}
.handle:focus-visible rect {
  outline: 3px solid var(--line);
  outline-offset: 2px;
}
.grip {
  fill: var(--paper);
  font-size: 20px;
}
.pushes {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 20px;
  margin: 4px 0 0;
}
</style>
