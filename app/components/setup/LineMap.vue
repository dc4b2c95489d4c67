<script setup lang="ts">
import { findUnit } from '#core/quantity/units'
import { unitShown } from '#core/quantity/site-units'
import { showMetres } from '#core/quantity/show'
import { useElementSize } from '@vueuse/core'
import type { PathPoint } from '#core/line/alignment'

/** A line drawn from its own coordinates, north up and to scale; nothing is fetched for it. */
const props = defineProps<{ path: readonly PathPoint[] }>()
const box = ref<HTMLElement | null>(null)
const { width } = useElementSize(box)
const HEIGHT = 260
const EDGE = 26

/** metres east and north of the middle: degrees shrink towards the poles */
const metres = computed(() => {
  const mean = (of: (p: PathPoint) => number) => props.path.reduce((n, p) => n + of(p), 0) / props.path.length
  const [lon, lat] = [mean((p) => p.lon), mean((p) => p.lat)]
  const perDegree = 111_320
  return props.path.map((p) => ({
    east: (p.lon - lon) * perDegree * Math.cos((lat * Math.PI) / 180),
    north: (p.lat - lat) * perDegree,
  }))
})
const drawn = computed(() => {
  const span = (of: 'east' | 'north') => {
    const values = metres.value.map((m) => m[of])
    return [values.reduce((a, b) => Math.min(a, b)), values.reduce((a, b) => Math.max(a, b))] as const
  }
  const [[west, east], [south, north]] = [span('east'), span('north')]
  const room = { x: Math.max(1, width.value - 2 * EDGE), y: HEIGHT - 2 * EDGE }
  const scale = Math.min(room.x / Math.max(1, east - west), room.y / Math.max(1, north - south))
  const x = (m: number) => EDGE + (m - west) * scale + (room.x - (east - west) * scale) / 2
  const y = (m: number) => HEIGHT - EDGE - (m - south) * scale - (room.y - (north - south) * scale) / 2
  const points = metres.value.map((m) => ({ x: x(m.east), y: y(m.north) }))
  const round = [1, 2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000, 5000, 10_000, 50_000]
  const unit = findUnit(unitShown('m'))!
  const bar = round.findLast((n) => n * unit.factor * scale <= 160) ?? 1
  return { points, bar: `${bar} ${unit.symbol}`, barWidth: bar * unit.factor * scale }
})
</script>

<template>
  <div ref="box" class="map">
    <svg
      v-if="width > 0 && path.length > 1"
      :width="width"
      :height="HEIGHT"
      role="img"
      :aria-label="`The line from above, ${showMetres(path.at(-1)!.station, 1)} long`"
    >
      <polyline
        :points="drawn.points.map((p) => `${p.x},${p.y}`).join(' ')"
        fill="none"
        stroke="var(--line)"
        stroke-width="3"
        stroke-linejoin="round"
      />
      <circle
        :cx="drawn.points[0]!.x"
        :cy="drawn.points[0]!.y"
        r="6"
        fill="var(--paper)"
        stroke="var(--ink)"
        stroke-width="2"
      />
      <circle :cx="drawn.points.at(-1)!.x" :cy="drawn.points.at(-1)!.y" r="6" fill="var(--ink)" />
      <text :x="drawn.points[0]!.x + 10" :y="drawn.points[0]!.y - 8">{{ showMetres(0, 0) }}</text>
      <text :x="drawn.points.at(-1)!.x + 10" :y="drawn.points.at(-1)!.y - 8">
        {{ showMetres(path.at(-1)!.station, 1) }}
      </text>
      <g :transform="`translate(${EDGE} ${HEIGHT - 8})`">
        <path :d="`M0 -5v5h${drawn.barWidth}v-5`" fill="none" stroke="var(--muted)" stroke-width="1.5" />
        <text :x="drawn.barWidth + 8" y="1">{{ drawn.bar }}</text>
      </g>
      <g :transform="`translate(${width - 26} 34)`">
        <path d="M0 14V-14m-6 8l6 -8l6 8" fill="none" stroke="var(--muted)" stroke-width="1.5" />
        <text x="0" y="28" text-anchor="middle">N</text>
      </g>
    </svg>
  </div>
</template>

<style scoped>
.map {
  width: 100%;
}
text {
  font-size: 13px;
  fill: var(--ink);
}
</style>
