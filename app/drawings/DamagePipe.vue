<script setup lang="ts">
import { computed } from 'vue'
import { showIn, showQuantity } from '#core/quantity/show'

/**
 * A delivered pipe with its damage: along its length, and round it as on a clock. A tap places it.
 * Metres.
 */
const props = defineProps<{
  length: number
  clock: number
  fromEnd: number
  damage: number
  depth: number
  wall: number
  editable: boolean
}>()
const emit = defineEmits<{ place: [{ clock?: number; fromEnd?: number }] }>()
const W = 560
const x = computed(() => 20 + (props.fromEnd / props.length) * (W - 40))
const w = computed(() => Math.max(6, (props.damage / props.length) * (W - 40)))
const C = { x: 86, y: 176, r: 62 }
const angle = computed(() => ((props.clock % 12) / 12) * 2 * Math.PI)
const at = computed(() => ({ x: C.x + Math.sin(angle.value) * C.r, y: C.y - Math.cos(angle.value) * C.r }))
const share = computed(() => (props.wall > 0 ? props.depth / props.wall : 0))
const point = (e: MouseEvent) => {
  const svg = (e.currentTarget as SVGElement).closest('svg')!
  const box = svg.getBoundingClientRect()
  return { x: ((e.clientX - box.left) / box.width) * W, y: ((e.clientY - box.top) / box.height) * 260 }
}
function along(e: MouseEvent) {
  if (props.editable)
    emit('place', {
      fromEnd:
        Math.round(Math.min(props.length, Math.max(0, ((point(e).x - 20) / (W - 40)) * props.length)) * 20) /
        20,
    })
}
function round(e: MouseEvent) {
  if (!props.editable) return
  const p = point(e)
  const hours = (Math.atan2(p.x - C.x, C.y - p.y) / (2 * Math.PI)) * 12
  emit('place', { clock: Math.round(((hours + 12) % 12) * 2) / 2 || 12 })
}
const label = computed(
  () =>
    `Damage ${showQuantity(props.fromEnd, 'length', 'm')} from the end, ` +
    `at ${props.clock} o'clock, ${showQuantity(props.depth, 'length', 'mm')} deep`,
)
</script>

<template>
  <svg :viewBox="`0 0 ${W} 260`" class="pipe" role="img" :aria-label="label">
    <g @click="along">
      <rect
        x="20"
        y="24"
        :width="W - 40"
        height="52"
        fill="var(--pipe)"
        stroke="var(--ink)"
        stroke-width="1.5"
        rx="2"
      />
      <ellipse cx="20" cy="50" rx="7" ry="26" fill="var(--pipe-dark)" stroke="var(--ink)" />
    </g>
    <rect :x="x" y="42" :width="w" height="12" fill="var(--rejected)" pointer-events="none" />
    <text :x="Math.min(W - 90, Math.max(20, x))" y="16">
      {{ showQuantity(fromEnd, 'length', 'm') }} from the end
    </text>
    <g @click="round">
      <circle :cx="C.x" :cy="C.y" :r="C.r" fill="none" stroke="var(--pipe-dark)" stroke-width="18" />
      <circle :cx="C.x" :cy="C.y" :r="C.r + 26" fill="transparent" />
    </g>
    <g pointer-events="none">
      <text
        v-for="[h, dx, dy] in [
          [12, 0, -34],
          [3, 38, 5],
          [6, 0, 46],
          [9, -38, 5],
        ]"
        :key="h"
        :x="C.x + dx"
        :y="C.y + dy"
        text-anchor="middle"
        class="muted"
      >
        {{ h }}
      </text>
      <circle :cx="at.x" :cy="at.y" r="10" fill="var(--rejected)" stroke="var(--card)" stroke-width="2" />
      <text :x="C.x" :y="C.y + 5" text-anchor="middle">{{ clock }} h</text>
      <!-- the wall cut open: how deep -->
      <rect x="230" y="130" width="300" height="84" fill="var(--pipe)" stroke="var(--ink)" />
      <path
        :d="`M360 130l20 ${Math.min(1, share) * 84}l20 ${-Math.min(1, share) * 84}z`"
        fill="var(--card)"
        stroke="var(--rejected)"
        stroke-width="2"
      />
      <line x1="230" x2="530" y1="138.4" y2="138.4" stroke="var(--ink)" stroke-dasharray="5 4" />
      <text x="526" y="154" text-anchor="end" class="muted">
        a tenth of {{ showQuantity(wall, 'length', 'mm') }}
      </text>
      <text x="380" y="240" text-anchor="middle" class="sum">{{ showIn(share * 100, '', 3) }} % of wall</text>
    </g>
  </svg>
</template>

<style scoped>
.pipe {
  display: block;
  width: 100%;
}
text {
  font-size: 15px;
  fill: var(--ink);
}
.muted {
  fill: var(--muted);
}
.sum {
  font-size: 20px;
  font-weight: 650;
}
g {
  cursor: crosshair;
}
</style>
