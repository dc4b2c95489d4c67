<script setup lang="ts">
import { useDrawn, type DrawnEmits, type DrawnProps } from '../useDrawn'

/**
 * A gripper ring seen along the pipe: its segments, and the gaps between their handles with the bolts in
 * them.
 */
const props = defineProps<DrawnProps>()
defineEmits<DrawnEmits>()
const { num, mm, tappable, strong, len } = useDrawn(props)
const C = 202
const M = 150
const R = 96
const segments = computed(() => Math.max(1, Math.round(num('segments') ?? 2)))
const bolts = computed(() => Math.max(1, Math.round(num('bolts') ?? 2)))
const at = (angle: number, radius: number) => ({
  x: C + radius * Math.sin((angle * Math.PI) / 180),
  y: M - radius * Math.cos((angle * Math.PI) / 180),
})
const arc = (from: number, to: number, radius: number) => {
  const [a, b] = [at(from, radius), at(to, radius)]
  return `M${a.x} ${a.y}A${radius} ${radius} 0 ${to - from > 180 ? 1 : 0} 1 ${b.x} ${b.y}`
}
const parts = computed(() =>
  Array.from({ length: segments.value }, (_v, i) =>
    arc((i * 360) / segments.value + 5, ((i + 1) * 360) / segments.value - 5, R),
  ),
)
const gaps = computed(() =>
  Array.from({ length: bolts.value }, (_v, i) => {
    const angle = (i * 360) / bolts.value
    return { angle, at: at(angle, R + 16), label: at(angle, R + 46), gap: props.readings?.[i] ?? null }
  }),
)
const spread = computed(() =>
  props.readings && props.readings.length > 1
    ? Math.max(...props.readings) - Math.min(...props.readings)
    : null,
)
const [onSegments, onGaps] = [strong('segments'), strong('gaps')]
</script>

<template>
  <svg
    viewBox="0 0 404 330"
    class="drawing"
    role="img"
    :aria-label="`${segments} segments, ${bolts} bolts${spread === null ? '' : `, gaps differ by ${len(spread)}`}`"
  >
    <circle :cx="C" :cy="M" :r="R - 14" class="body" />
    <circle :cx="C" :cy="M" :r="R - 30" fill="var(--paper)" stroke="var(--ink)" stroke-width="1.5" />
    <path
      v-for="(d, i) in parts"
      :key="i"
      :d="d"
      fill="none"
      :stroke="onSegments ? 'var(--line)' : 'var(--fitting)'"
      stroke-width="18"
    />
    <g
      v-for="g in gaps"
      :key="g.angle"
      :class="{ tap: tappable('readings') }"
      @click="$emit('tap', 'readings')"
    >
      <circle
        :cx="g.at.x"
        :cy="g.at.y"
        r="10"
        :fill="onGaps ? 'var(--line)' : 'var(--card)'"
        stroke="var(--ink)"
        stroke-width="2"
      />
      <text :x="g.label.x" :y="g.label.y + 5" text-anchor="middle" font-weight="650">
        {{ g.gap === null ? '' : mm(g.gap) }}
      </text>
    </g>
    <text :x="C" :y="M + 8" text-anchor="middle" class="sum">{{ segments }} segments</text>
    <text :x="C" y="322" text-anchor="middle">
      {{ spread === null ? 'tighten alternately; gaps even' : `gaps differ by ${len(spread)}` }}
    </text>
  </svg>
</template>
