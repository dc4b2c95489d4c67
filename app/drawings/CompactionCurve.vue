<script setup lang="ts">
import { siteTicks } from '~/drawings/site-ticks'
import { showQuantity } from '#core/quantity/show'
import { useElementSize } from '@vueuse/core'
import { scaleLinear } from 'd3-scale'
import { computed, ref } from 'vue'
import { curveLine, peakOf, withoutAir } from '#core/embedment/curve'
import { extent } from './extent'
import type { CurvePoint } from '#core/plan/lists/soil'

/**
 * What the laboratory found: dry density over water content, its peak, and the line on which no air would
 * be left. A test of the field is set beside it.
 */
const props = defineProps<{
  points: readonly CurvePoint[]
  specificGravity: number | null
  field?: CurvePoint | null
}>()
const box = ref<HTMLElement | null>(null)
const { width } = useElementSize(box)
const HEIGHT = 260
const LEFT = 56
const line = computed(() => curveLine(props.points))
const peak = computed(() => peakOf({ points: [...props.points], specificGravity: null }))
const airless = computed(() =>
  props.specificGravity === null
    ? []
    : line.value.map((p) => ({
        moisture: p.moisture,
        dryDensity: withoutAir(props.specificGravity!, p.moisture),
      })),
)
const all = computed(() => [...props.points, ...line.value, ...(props.field ? [props.field] : [])])
const span = (values: number[], room: number): [number, number] => {
  const [low, high] = extent(values)
  return [low - (high - low) * room, high + (high - low) * room]
}
const x = computed(() =>
  scaleLinear()
    .domain(
      span(
        all.value.map((p) => p.moisture),
        0.06,
      ),
    )
    .range([LEFT, Math.max(LEFT + 20, width.value - 12)]),
)
const y = computed(() =>
  scaleLinear()
    .domain(
      span(
        all.value.map((p) => p.dryDensity),
        0.16,
      ),
    )
    .range([HEIGHT - 36, 12]),
)
const path = (points: readonly CurvePoint[]) =>
  points.map((p) => `${x.value(p.moisture)},${y.value(p.dryDensity)}`).join(' ')
const percent = (r: number) => `${(r * 100).toFixed(1)} %`
</script>

<template>
  <div ref="box" class="plotted">
    <svg
      v-if="width > 0"
      :width="width"
      :height="HEIGHT"
      role="img"
      :aria-label="`Densest at ${percent(peak.optimum)} of water: ${showQuantity(peak.maximum, 'density', 'kg/m³')}`"
    >
      <defs>
        <clipPath id="curve-room">
          <rect :x="LEFT" y="0" :width="width - LEFT" :height="HEIGHT - 36" />
        </clipPath>
      </defs>
      <g v-for="t in siteTicks(y.domain()[0]!, y.domain()[1]!, 4, 'kg/m³')" :key="`y ${t.at}`">
        <line :x1="LEFT" :x2="width - 12" :y1="y(t.at)" :y2="y(t.at)" stroke="var(--hair)" />
        <text :x="LEFT - 6" :y="y(t.at) + 5" text-anchor="end">{{ t.text }}</text>
      </g>
      <text v-for="t in x.ticks(5)" :key="`x ${t}`" :x="x(t)" :y="HEIGHT - 14" text-anchor="middle">
        {{ Math.round(t * 1000) / 10 }} %
      </text>
      <polyline
        v-if="airless.length > 0"
        :points="path(airless)"
        fill="none"
        stroke="var(--muted)"
        stroke-dasharray="7 5"
        clip-path="url(#curve-room)"
      />
      <polyline :points="path(line)" fill="none" stroke="var(--line)" stroke-width="2.5" />
      <circle
        v-for="p in points"
        :key="`${p.moisture} ${p.dryDensity}`"
        :cx="x(p.moisture)"
        :cy="y(p.dryDensity)"
        r="4.5"
        fill="var(--ink)"
      />
      <line
        :x1="x(peak.optimum)"
        :x2="x(peak.optimum)"
        :y1="y(peak.maximum)"
        :y2="HEIGHT - 36"
        stroke="var(--line)"
      />
      <text :x="x(peak.optimum)" :y="y(peak.maximum) - 8" text-anchor="middle" class="peak">
        {{ showQuantity(peak.maximum, 'density', 'kg/m³') }} at {{ percent(peak.optimum) }}
      </text>
      <circle
        v-if="field"
        :cx="x(field.moisture)"
        :cy="y(field.dryDensity)"
        r="7"
        fill="none"
        stroke="var(--rejected)"
        stroke-width="3"
      />
    </svg>
    <p class="muted small">
      Dry density over water content.<template v-if="airless.length > 0">
        The broken line: no air left in the soil.</template
      ><template v-if="field"> The ring: this test.</template>
    </p>
  </div>
</template>

<style scoped>
.plotted .peak {
  fill: var(--ink);
  font-weight: 600;
}
</style>
