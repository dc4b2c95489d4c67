<script setup lang="ts">
import { sideBySide } from '~/drawings/side-by-side'
import { siteTicks } from '~/drawings/site-ticks'
import { unitShown } from '#core/quantity/site-units'
import { useElementSize } from '@vueuse/core'
import { scaleLinear } from 'd3-scale'
import { computed, ref } from 'vue'
import type { Place } from '#core/round/travel'

/**
 * The round over time and place: a row a line, stations to scale along it, and the way from stop to stop in
 * its order. Where a crew stands the circle is filled.
 */
const props = defineProps<{
  visits: readonly { stop: Place & { key: string; kind: string; name: string }; arrive: number }[]
  me: Place | null
  lineName: (line: string) => string
  now: number
}>()
const box = ref<HTMLElement | null>(null)
const { width } = useElementSize(box)
const ROW = 58
const LEFT = 148
const rows = computed(() => [
  ...new Set([...(props.me ? [props.me.line] : []), ...props.visits.map((v) => v.stop.line)]),
])
const scales = computed(
  () =>
    new Map(
      rows.value.map((line) => {
        const at = [...(props.me?.line === line ? [props.me.station] : [])]
        for (const v of props.visits) if (v.stop.line === line) at.push(v.stop.station)
        const [low, high] = [at.reduce((a, b) => Math.min(a, b)), at.reduce((a, b) => Math.max(a, b))]
        const room = Math.max(20, (high - low) * 0.08)
        return [
          line,
          scaleLinear()
            .domain([low - room, high + room])
            .range([LEFT, Math.max(LEFT + 40, width.value - 24)]),
        ]
      }),
    ),
)
const y = (line: string) => 34 + rows.value.indexOf(line) * ROW
const point = (p: Place): [number, number] => [scales.value.get(p.line)!(p.station), y(p.line)]
const MARK = 28
/** Stops that are nearly at one place stand side by side. */
const marks = computed(() => {
  const out: [number, number][] = props.visits.map((v) => point(v.stop))
  for (const line of rows.value) {
    const own = props.visits.flatMap((v, i) => (v.stop.line === line ? [i] : []))
    const right = Math.max(LEFT + 40, width.value - 24)
    sideBySide(
      own.map((i) => out[i]![0]),
      MARK,
      LEFT,
      right,
    ).forEach((x, k) => (out[own[k]!] = [x, y(line)]))
  }
  return out
})
const ways = computed(() => {
  const stops = [...(props.me ? [point(props.me)] : []), ...marks.value]
  return stops.slice(1).map(([x2, y2], i) => {
    const [x1, y1] = stops[i]!
    // On one line the way is drawn over it, so that going back and forth can be told apart.
    return y1 === y2 ? `M${x1} ${y1}Q${(x1 + x2) / 2} ${y1 - 30} ${x2} ${y2}` : `M${x1} ${y1}L${x2} ${y2}`
  })
})
</script>

<template>
  <div ref="box">
    <svg
      v-if="width > 0 && rows.length > 0"
      :width="width"
      :height="rows.length * ROW + 24"
      role="img"
      :aria-label="`The round over ${rows.length} ${rows.length === 1 ? 'line' : 'lines'}`"
    >
      <g v-for="line in rows" :key="line">
        <text x="0" :y="y(line) + 5" class="line">{{ lineName(line) }}</text>
        <line :x1="LEFT" :x2="width - 24" :y1="y(line)" :y2="y(line)" stroke="var(--hair)" stroke-width="3" />
        <text
          v-for="t in siteTicks(scales.get(line)!.domain()[0]!, scales.get(line)!.domain()[1]!, 4)"
          :key="t.at"
          :x="scales.get(line)!(t.at)"
          :y="y(line) + 22"
          text-anchor="middle"
          class="tick"
        >
          {{ t.text }} {{ unitShown('m') }}
        </text>
      </g>
      <path v-for="(d, i) in ways" :key="i" :d="d" fill="none" stroke="var(--line)" stroke-width="2" />
      <g v-if="me">
        <path :d="`M${point(me)[0] - 8} ${point(me)[1] - 22}h16l-8 14z`" fill="var(--ink)" />
      </g>
      <g v-for="(v, i) in visits" :key="v.stop.key">
        <circle
          :cx="marks[i]![0]"
          :cy="marks[i]![1]"
          r="13"
          :fill="v.stop.kind === 'hold' ? 'var(--held)' : 'var(--card)'"
          stroke="var(--ink)"
          stroke-width="2"
        />
        <text
          :x="marks[i]![0]"
          :y="marks[i]![1] + 5"
          text-anchor="middle"
          class="order"
          :class="{ on: v.stop.kind === 'hold' }"
        >
          {{ i + 1 }}
        </text>
      </g>
    </svg>
  </div>
</template>

<style scoped>
svg {
  display: block;
}
text {
  font-size: 14px;
  fill: var(--ink);
}
.tick {
  font-size: 13px;
  fill: var(--muted);
}
.line {
  font-weight: 600;
}
.order {
  font-weight: 600;
}
.order.on {
  fill: var(--card);
}
</style>
