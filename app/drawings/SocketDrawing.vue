<script setup lang="ts">
import { computed } from 'vue'
import { showIn } from '#core/quantity/show'

/** A socket joint to scale: two pipes in their coupler, with the marks worked out for them. Lengths in metres. */
const props = defineProps<{ od: number; wall: number; width: number; stab: number | null; scrape: number | null; gaps?: [number, number] | null; highlight?: string }>()

const W = 404
const H = 330
const pad = 12
const reach = computed(() => Math.max(props.width / 2, props.scrape ?? 0) * 1.3 + 0.01)
const scale = computed(() => Math.min((W - 2 * pad) / (2 * reach.value), (H - 150) / (props.od * 1.14)))
const mid = W / 2
const axis = 148
const px = (m: number) => m * scale.value
const half = computed(() => px(props.width / 2))
const radius = computed(() => px(props.od / 2))
const shell = computed(() => Math.max(7, px(props.wall) * 0.9))
const mm = (m: number) => showIn(m, 'mm')
/** Where the ends stand: measured mark-to-edge moves each pipe out of its place. */
const ends = computed(() => {
  const [a, b] = props.gaps ?? [0, 0]
  const inner = (props.stab ?? props.width / 2) - props.width / 2
  return { left: mid + px(inner - a), right: mid - px(inner - b) }
})
const sides = computed(() => [
  { key: 'left', end: ends.value.left, sign: -1 },
  { key: 'right', end: ends.value.right, sign: 1 },
])
const base = computed(() => axis + radius.value + shell.value)
</script>

<template>
  <svg :viewBox="`0 0 ${W} ${H}`" class="drawing" role="img" :aria-label="`Coupler ${mm(width)} mm wide on pipe ${mm(od)} mm${stab ? `, stab mark at ${mm(stab)} mm` : ''}${scrape ? `, scraped to ${mm(scrape)} mm` : ''}`">
    <defs>
      <pattern id="peeled" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)"><rect width="5" height="5" fill="var(--card)" /><rect width="1.6" height="5" fill="var(--muted)" /></pattern>
    </defs>
    <g v-for="s in sides" :key="s.key">
      <rect :x="s.sign < 0 ? -4 : s.end" :y="axis - radius" :width="s.sign < 0 ? s.end + 4 : W - s.end + 4" :height="2 * radius" fill="var(--pipe)" stroke="var(--ink)" stroke-width="1.5" />
      <rect v-if="scrape" :x="s.sign < 0 ? s.end - px(scrape) : s.end" :y="axis - radius" :width="px(scrape)" :height="2 * radius" fill="url(#peeled)" stroke="var(--ink)" stroke-width="1" />
      <line v-if="stab" :x1="s.end + s.sign * px(stab)" :x2="s.end + s.sign * px(stab)" :y1="axis - radius - shell - 12" :y2="axis + radius" :stroke="highlight === 'stab' ? 'var(--line)' : 'var(--ink)'" :stroke-width="highlight === 'stab' ? 4 : 2.5" />
    </g>
    <rect :x="mid - half" :y="axis - radius - shell" :width="2 * half" :height="shell" fill="var(--fitting)" />
    <rect :x="mid - half" :y="axis + radius" :width="2 * half" :height="shell" fill="var(--fitting)" />
    <rect :x="mid - half" :y="axis - radius" :width="2 * half" :height="2 * radius" fill="var(--fitting)" opacity="0.1" />
    <line x1="0" :x2="W" :y1="axis" :y2="axis" stroke="var(--muted)" stroke-dasharray="12 4 2 4" stroke-width="1" />
    <!-- overall width above -->
    <g class="dimension">
      <path :d="`M${mid - half} ${axis - radius - shell - 16}V18M${mid + half} ${axis - radius - shell - 16}V18M${mid - half} 22H${mid + half}`" />
      <text :x="mid" y="15" text-anchor="middle">{{ mm(width) }}</text>
    </g>
    <!-- marks below, each from its pipe end -->
    <g v-if="stab" class="dimension" :class="{ strong: highlight === 'stab' }">
      <path :d="`M${ends.left} ${axis}V${base + 30}M${ends.left - px(stab)} ${base + 4}V${base + 30}M${ends.left - px(stab)} ${base + 26}H${ends.left}`" />
      <text :x="ends.left - px(stab) - 8" :y="base + 32" text-anchor="end">stab {{ mm(stab) }}</text>
    </g>
    <g v-if="scrape" class="dimension" :class="{ strong: highlight === 'scrape' }">
      <path :d="`M${ends.right} ${axis}V${base + 64}M${ends.right + px(scrape)} ${axis + radius}V${base + 64}M${ends.right} ${base + 60}H${ends.right + px(scrape)}`" />
      <text :x="ends.right + px(scrape) + 8" :y="base + 66" text-anchor="start">scrape {{ mm(scrape) }}</text>
    </g>
    <text x="6" :y="axis - radius + 20" class="name">⌀ {{ mm(od) }}</text>
    <text :x="W - 4" :y="H - 4" text-anchor="end" class="name">mm, to scale</text>
  </svg>
</template>

<style scoped>
.drawing {
  display: block;
  width: 100%;
  height: auto;
}
.dimension path {
  fill: none;
  stroke: var(--muted);
  stroke-width: 1;
}
.dimension text {
  font-size: 17px;
  font-weight: 650;
  fill: var(--ink);
  paint-order: stroke;
  stroke: var(--paper);
  stroke-width: 4px;
}
.dimension.strong path {
  stroke: var(--line);
  stroke-width: 2;
}
.dimension.strong text {
  fill: var(--line);
  font-size: 22px;
}
.name {
  font-size: 14px;
  fill: var(--muted);
}
</style>
