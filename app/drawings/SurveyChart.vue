<script setup lang="ts">
import { siteTicks } from '~/drawings/site-ticks'
import { unitShown } from '#core/quantity/site-units'
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import { scaleLinear } from 'd3-scale'
import type { SurveyPoint } from '#core/checks/survey'

/** Deflection by station, with what each is known to, the limit, and what was foreseen. Ratios, metres. */
const props = defineProps<{
  points: readonly SurveyPoint[]
  limit: number
  uncertainty: number
  predicted: number | null
}>()
const box = ref<HTMLElement | null>(null)
const { width } = useElementSize(box)
const HEIGHT = 300
const LEFT = 52
const x = computed(() => {
  const s = props.points.map((p) => p.station)
  const [from, to] = [s.reduce((a, b) => Math.min(a, b)), s.reduce((a, b) => Math.max(a, b))]
  return scaleLinear()
    .domain(from === to ? [from - 1, to + 1] : [from, to])
    .range([LEFT + 14, Math.max(LEFT + 40, width.value - 18)])
})
const y = computed(() => {
  const d = [...props.points.map((p) => p.deflection), props.limit, props.predicted ?? 0, 0]
  const [low, high] = [d.reduce((a, b) => Math.min(a, b)), d.reduce((a, b) => Math.max(a, b))]
  return scaleLinear()
    .domain([low - 0.004, high + props.uncertainty + 0.012])
    .range([HEIGHT - 40, 14])
})
const colours = { accept: 'var(--accepted)', reject: 'var(--rejected)', 'too-close': 'var(--held)' }
const percent = (r: number) => `${(r * 100).toFixed(1)} %`
const line = computed(() =>
  props.points.map((p) => `${x.value(p.station)},${y.value(p.deflection)}`).join(' '),
)
const most = computed(() => props.points.map((p) => p.deflection).reduce((a, b) => Math.max(a, b)))
</script>

<template>
  <div ref="box" class="plotted">
    <svg
      v-if="width > 0"
      :width="width"
      :height="HEIGHT"
      role="img"
      :aria-label="`Deflection at ${points.length} stations, at most ${percent(most)} of ${percent(limit)}`"
    >
      <rect
        :x="LEFT"
        :y="y.range()[1]"
        :width="width - LEFT - 8"
        :height="Math.max(0, y(limit) - y.range()[1]!)"
        fill="var(--rejected)"
        opacity="0.1"
      />
      <g v-for="t in y.ticks(6)" :key="`y ${t}`">
        <line :x1="LEFT" :x2="width - 8" :y1="y(t)" :y2="y(t)" stroke="var(--hair)" />
        <text :x="LEFT - 6" :y="y(t) + 5" text-anchor="end">{{ Math.round(t * 1000) / 10 }} %</text>
      </g>
      <line
        :x1="LEFT"
        :x2="width - 8"
        :y1="y(limit)"
        :y2="y(limit)"
        stroke="var(--rejected)"
        stroke-width="2"
      />
      <text :x="width - 12" :y="y.range()[1]! + 16" text-anchor="end" class="limit">
        over {{ percent(limit) }}
      </text>
      <template v-if="predicted !== null">
        <line
          :x1="LEFT"
          :x2="width - 8"
          :y1="y(predicted)"
          :y2="y(predicted)"
          stroke="var(--line)"
          stroke-width="2"
          stroke-dasharray="7 5"
        />
        <text :x="width - 12" :y="y(predicted) - 6" text-anchor="end">foreseen {{ percent(predicted) }}</text>
      </template>
      <polyline :points="line" fill="none" stroke="var(--muted)" stroke-width="1.5" />
      <g v-for="p in points" :key="p.station">
        <line
          v-if="uncertainty > 0"
          :x1="x(p.station)"
          :x2="x(p.station)"
          :y1="y(p.deflection + uncertainty)"
          :y2="y(p.deflection - uncertainty)"
          stroke="var(--muted)"
          stroke-width="2"
        />
        <circle
          :cx="x(p.station)"
          :cy="y(p.deflection)"
          r="6"
          :fill="colours[p.verdict]"
          stroke="var(--paper)"
        />
        <text
          v-if="p.verdict !== 'accept' || points.length <= 10"
          :x="x(p.station)"
          :y="y(p.deflection) - 12"
          text-anchor="middle"
        >
          {{ (p.deflection * 100).toFixed(1) }}
        </text>
      </g>
      <text
        v-for="t in siteTicks(x.domain()[0]!, x.domain()[1]!, Math.max(2, Math.floor(width / 120)))"
        :key="`x ${t.at}`"
        :x="x(t.at)"
        :y="HEIGHT - 12"
        text-anchor="middle"
      >
        {{ t.text }} {{ unitShown('m') }}
      </text>
    </svg>
    <p class="muted small">
      How far the pipe is pressed down, by station.<template v-if="uncertainty > 0">
        The upright lines are what a diameter is known to.</template
      >
    </p>
  </div>
</template>

<style scoped>
.plotted .limit {
  fill: var(--rejected);
}
</style>
