<script setup lang="ts">
import { siteTicks } from '~/drawings/site-ticks'
import { unitShown } from '#core/quantity/site-units'
import { useElementSize } from '@vueuse/core'
import { scaleLinear } from 'd3-scale'
import { elevationAt, type ProfilePoint } from '#core/pressure/pack'
import { extent } from '~/drawings/extent'

/** The line from the side: invert, the ground over it where it is known, and what stands or lies along it. */
const props = withDefaults(
  defineProps<{
    profile: readonly ProfilePoint[]
    ground: readonly ProfilePoint[]
    marks?: readonly { station: number; name: string }[]
    spans?: readonly { from: number; to: number; name: string }[]
  }>(),
  { marks: () => [], spans: () => [] },
)
const box = ref<HTMLElement | null>(null)
const { width } = useElementSize(box)
const HEIGHT = 200
const all = computed(() => [...props.profile, ...props.ground])
const x = computed(() =>
  scaleLinear()
    .domain(extent(all.value.map((p) => p.station)))
    .range([58, Math.max(60, width.value - 14)]),
)
const y = computed(() =>
  scaleLinear()
    .domain(extent(all.value.map((p) => p.elevation)))
    .nice(4)
    .range([HEIGHT - 30, 14]),
)
const path = (points: readonly ProfilePoint[]) =>
  points.map((p) => `${x.value(p.station)},${y.value(p.elevation)}`).join(' ')
</script>

<template>
  <div ref="box" class="section">
    <svg
      v-if="width > 0 && profile.length > 1"
      :width="width"
      :height="HEIGHT"
      role="img"
      aria-label="Long section of the line"
    >
      <g v-for="t in siteTicks(y.domain()[0]!, y.domain()[1]!, 4)" :key="`y ${t.at}`">
        <line :x1="58" :x2="width - 14" :y1="y(t.at)" :y2="y(t.at)" stroke="var(--hair)" />
        <text x="50" :y="y(t.at) + 4" text-anchor="end">{{ t.text }} {{ unitShown('m') }}</text>
      </g>
      <g
        v-for="t in siteTicks(x.domain()[0]!, x.domain()[1]!, Math.max(2, Math.floor(width / 130)))"
        :key="`x ${t.at}`"
      >
        <text :x="x(t.at)" :y="HEIGHT - 8" text-anchor="middle">{{ t.text }}</text>
      </g>
      <polyline
        v-if="ground.length > 1"
        :points="path(ground)"
        fill="none"
        stroke="var(--muted)"
        stroke-width="1.5"
        stroke-dasharray="6 4"
      />
      <polyline :points="path(profile)" fill="none" stroke="var(--ink)" stroke-width="2.5" />
      <g v-for="m in marks" :key="`m ${m.station} ${m.name}`">
        <line
          :x1="x(m.station)"
          :x2="x(m.station)"
          :y1="y(elevationAt(profile, m.station)) - 10"
          :y2="y(elevationAt(profile, m.station)) + 4"
          stroke="var(--line)"
          stroke-width="2"
        />
        <text
          v-if="m.name"
          :x="x(m.station)"
          :y="y(elevationAt(profile, m.station)) - 14"
          text-anchor="middle"
        >
          {{ m.name }}
        </text>
      </g>
      <g v-for="(s, i) in spans" :key="`s ${s.name}`">
        <line
          :x1="x(s.from) + 1"
          :x2="x(s.to) - 1"
          :y1="HEIGHT - 28 - (i % 2) * 5"
          :y2="HEIGHT - 28 - (i % 2) * 5"
          stroke="var(--line)"
          stroke-width="4"
        />
        <text
          v-if="x(s.to) - x(s.from) > 60"
          :x="(x(s.from) + x(s.to)) / 2"
          :y="HEIGHT - 34 - (i % 2) * 5"
          text-anchor="middle"
        >
          {{ s.name }}
        </text>
      </g>
    </svg>
    <p v-if="ground.length > 1" class="muted small">Full: invert. Broken: ground.</p>
  </div>
</template>

<style scoped>
.section {
  width: 100%;
}
text {
  font-size: 13px;
  fill: var(--muted);
}
</style>
