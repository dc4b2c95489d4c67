<script setup lang="ts">
import { siteTicks } from '~/drawings/site-ticks'
import { unitShown } from '#core/quantity/site-units'
import { showMetres, showQuantity, showSteps } from '#core/quantity/show'
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import { scaleLinear } from 'd3-scale'
import type { LongSection } from '#core/embedment/long-section'
import { extent } from './extent'

/**
 * The reach from the side: inverts as they were found against their design, with what is allowed round it.
 * Heights are drawn larger than lengths; by how much is said.
 */
const props = defineProps<{ section: LongSection }>()
const box = ref<HTMLElement | null>(null)
const { width } = useElementSize(box)
const HEIGHT = 300
const LEFT = 64
const stations = computed(() => props.section.inverts.map((p) => p.station))
const heights = computed(() =>
  props.section.inverts.flatMap((p) => [
    p.level,
    p.design + props.section.tolerance,
    p.design - props.section.tolerance,
  ]),
)
const x = computed(() => {
  const [from, to] = extent(stations.value)
  return scaleLinear()
    .domain(from === to ? [from - 1, to + 1] : [from, to])
    .range([LEFT + 12, Math.max(LEFT + 40, width.value - 16)])
})
const y = computed(() => {
  const [low, high] = extent(heights.value)
  const room = Math.max(0.004, (high - low) * 0.12)
  return scaleLinear()
    .domain([low - room, high + room])
    .range([HEIGHT - 40, 40])
})
const band = computed(() => {
  const list = props.section.inverts
  const edge = (sign: number, points: typeof list) =>
    points.map((p) => `${x.value(p.station)},${y.value(p.design + sign * props.section.tolerance)}`)
  return [...edge(1, list), ...edge(-1, [...list].reverse())].join(' ')
})
const line = (of: 'design' | 'level') =>
  props.section.inverts.map((p) => `${x.value(p.station)},${y.value(p[of])}`).join(' ')
const larger = computed(() => {
  const perMetre = (s: { range(): number[]; domain(): number[] }) =>
    Math.abs((s.range()[1]! - s.range()[0]!) / (s.domain()[1]! - s.domain()[0]!))
  return Math.round(perMetre(y.value) / perMetre(x.value))
})
const mm = (m: number) => {
  const off = showSteps(Math.abs(m), 'mm', false, false)
  return `${off === '0' ? '' : m > 0 ? '+' : '−'}${off}`
}
const percent = (slope: number) => (slope * 100).toFixed(2).replace('-', '−')
const wrong = computed(() => props.section.inverts.filter((p) => p.off || p.back).length)
</script>

<template>
  <div ref="box" class="plotted">
    <svg
      v-if="width > 0 && section.inverts.length > 0"
      :width="width"
      :height="HEIGHT"
      role="img"
      :aria-label="`Inverts of ${section.inverts.length} pipes against design, ${wrong} of them wrong`"
    >
      <g v-for="t in siteTicks(y.domain()[0]!, y.domain()[1]!, 5)" :key="`y ${t.at}`">
        <line :x1="LEFT" :x2="width - 8" :y1="y(t.at)" :y2="y(t.at)" stroke="var(--hair)" />
        <text :x="LEFT - 6" :y="y(t.at) + 5" text-anchor="end">{{ showMetres(t.at, 2, false) }}</text>
      </g>
      <polygon v-if="section.inverts.length > 1" :points="band" fill="var(--line)" opacity="0.14" />
      <polyline
        :points="line('design')"
        fill="none"
        stroke="var(--line)"
        stroke-width="1.5"
        stroke-dasharray="7 5"
      />
      <polyline :points="line('level')" fill="none" stroke="var(--ink)" stroke-width="2.5" />
      <template v-if="section.inverts.length <= 12">
        <text :x="LEFT - 6" y="14" text-anchor="end">fall</text>
        <text
          v-for="g in section.grades"
          :key="`grade ${g.from}`"
          :x="(x(g.from) + x(g.to)) / 2"
          y="14"
          text-anchor="middle"
          :class="{ bad: section.gravity && g.slope <= 0 }"
        >
          {{ percent(g.slope) }}
        </text>
      </template>
      <g v-for="(p, i) in section.inverts" :key="p.station">
        <circle
          v-if="p.moved !== null && Math.abs(p.moved) > 0.0005"
          :cx="x(p.station)"
          :cy="y(p.level - p.moved)"
          r="4.5"
          fill="var(--paper)"
          stroke="var(--muted)"
          stroke-width="2"
        />
        <circle
          :cx="x(p.station)"
          :cy="y(p.level)"
          :r="p.off || p.back ? 7 : 4.5"
          :fill="p.off || p.back ? 'var(--rejected)' : 'var(--ink)'"
        />
        <text
          v-if="p.off || p.back || section.inverts.length <= 12"
          :x="x(p.station)"
          :y="y(p.level) + (p.back ? -14 : 22)"
          :text-anchor="i === 0 ? 'start' : i === section.inverts.length - 1 ? 'end' : 'middle'"
          :class="{ bad: p.off || p.back }"
        >
          {{ mm(p.level - p.design) }}{{ p.back ? ' back-fall' : '' }}
        </text>
      </g>
      <g
        v-for="t in siteTicks(x.domain()[0]!, x.domain()[1]!, Math.max(2, Math.floor(width / 120)))"
        :key="`x ${t.at}`"
      >
        <text
          :x="Math.min(x(t.at), width - 4)"
          :y="HEIGHT - 12"
          :text-anchor="x(t.at) > width - 32 ? 'end' : 'middle'"
        >
          {{ t.text }} {{ unitShown('m') }}
        </text>
      </g>
    </svg>
    <p class="muted small">
      Inverts against design, {{ unitShown('mm') }}; the band is what is allowed; above, the fall from pipe to
      pipe, %.
      <template v-if="section.inverts.some((p) => p.moved !== null)"
        >Hollow: as booked before the push.</template
      >
      Heights drawn
      {{ larger }} times larger than lengths.
      <template v-if="section.misclosure !== null">
        The run closes {{ showQuantity(Math.abs(section.misclosure), 'length', 'mm', 3) }} off<template
          v-if="section.allowed !== null"
          >, {{ showQuantity(section.allowed, 'length', 'mm', 3) }} allowed</template
        >.</template
      >
      <strong v-if="section.void" class="bad">None of its levels counts.</strong>
    </p>
  </div>
</template>

<style scoped>
.plotted .bad {
  fill: var(--rejected);
  color: var(--rejected);
  font-weight: 600;
}
</style>
