<script setup lang="ts">
import { computed } from 'vue'
import { ovality } from '#core/calculators/pipe-end'
import { showIn } from '#core/quantity/show'

/** Diameters at their angles, the difference exaggerated, with the long axis. Lengths in metres, angles in degrees. */
const props = defineProps<{ od: number; diameters: number[] | null; angles: number[] }>()
const C = 202
const M = 150
const R = 92
const result = computed(() => (props.diameters && props.diameters.length === props.angles.length ? ovality.compute({ diameters: props.diameters, angles: props.angles }).outputs : null))
const mean = computed(() => (result.value?.mean as number) ?? props.od)
/** out-of-roundness drawn as up to a quarter of the radius */
const gain = computed(() => {
  const most = props.diameters ? Math.max(...props.diameters.map((d) => Math.abs(d - mean.value))) : 0
  return most > 0 ? (R * 0.22) / most : 0
})
const at = (angle: number, radius: number) => ({ x: C + radius * Math.sin((angle * Math.PI) / 180), y: M - radius * Math.cos((angle * Math.PI) / 180) })
const spokes = computed(() => props.angles.map((angle, i) => {
  const d = props.diameters?.[i]
  const radius = R + (d === undefined ? 0 : (d - mean.value) * gain.value)
  return { angle, a: at(angle, radius), b: at(angle + 180, radius), label: at(angle, R + 34), d }
}))
const outline = computed(() => {
  const all = [...spokes.value.map((s) => s.a), ...spokes.value.map((s) => s.b)]
  return `M${all.map((p) => `${p.x} ${p.y}`).join('L')}Z`
})
const axis = computed(() => {
  const angle = result.value?.longAxis as number | null | undefined
  return angle === null || angle === undefined ? null : { a: at(angle, R + 22), b: at(angle + 180, R + 22), angle }
})
</script>

<template>
  <svg viewBox="0 0 404 330" class="rose" role="img" :aria-label="result ? `Out of roundness ${showIn(result.outOfRoundness as number, 'mm')} mm` : 'Diameters to measure'">
    <circle :cx="C" :cy="M" :r="R" fill="var(--pipe)" stroke="var(--muted)" stroke-dasharray="4 4" />
    <path v-if="diameters" :d="outline" fill="none" stroke="var(--ink)" stroke-width="2.5" stroke-linejoin="round" />
    <g v-for="s in spokes" :key="s.angle">
      <line :x1="s.a.x" :y1="s.a.y" :x2="s.b.x" :y2="s.b.y" stroke="var(--muted)" />
      <text :x="s.label.x" :y="s.label.y + 5" text-anchor="middle">{{ s.d === undefined ? `${s.angle}°` : showIn(s.d, 'mm', 5) }}</text>
    </g>
    <line v-if="axis" :x1="axis.a.x" :y1="axis.a.y" :x2="axis.b.x" :y2="axis.b.y" stroke="var(--line)" stroke-width="3" stroke-dasharray="10 5" />
    <g v-if="result">
      <text :x="C" y="300" text-anchor="middle" class="sum">{{ showIn(result.outOfRoundness as number, 'mm') }} mm out of round</text>
      <text :x="C" y="324" text-anchor="middle" class="muted">{{ showIn(result.percent as number, '', 3) }} %{{ axis ? `, long axis at ${showIn(axis.angle, '', 3)}°` : '' }} (exaggerated)</text>
    </g>
  </svg>
</template>

<style scoped>
.rose {
  display: block;
  width: 100%;
  height: auto;
}
text {
  font-size: 15px;
  fill: var(--ink);
}
.sum {
  font-size: 22px;
  font-weight: 650;
}
.muted {
  fill: var(--muted);
}
</style>
