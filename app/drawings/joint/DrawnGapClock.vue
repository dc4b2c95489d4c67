<script setup lang="ts">
import { jointGap } from '#core/calculators/joint'
import { useDrawn, type DrawnEmits, type DrawnProps } from '../useDrawn'

/**
 * Four gaps round a joint seen along the flow, drawn larger than they are, with the joint angle and
 * toward where it opens.
 */
const props = defineProps<DrawnProps>()
defineEmits<DrawnEmits>()
const { num, mm, tappable, show, len } = useDrawn(props)
const C = 202
const M = 140
const R = 78
const gaps = computed(() => (props.readings?.length === 4 ? props.readings : null))
const result = computed(() =>
  gaps.value && num('diameter') && gaps.value.every((g) => g >= 0)
    ? jointGap.compute({ gaps: gaps.value, diameter: num('diameter') }).outputs
    : null,
)
const at = (angle: number, radius: number) => ({
  x: C + radius * Math.sin((angle * Math.PI) / 180),
  y: M - radius * Math.cos((angle * Math.PI) / 180),
})
const gain = computed(() => (gaps.value ? 30 / Math.max(1e-6, ...gaps.value) : 0))
const places = computed(() =>
  [0, 90, 180, 270].map((angle, i) => ({
    angle,
    gap: gaps.value?.[i] ?? null,
    size: gaps.value ? Math.max(2, gaps.value[i]! * gain.value) : 14,
    label: at(angle, R + 46),
  })),
)
/** the outer ring bends out by the gap at each place */
const outline = computed(() => {
  const points = Array.from({ length: 72 }, (_v, k) => {
    const angle = k * 5
    const i = Math.floor(angle / 90)
    const t = (angle % 90) / 90
    const size = places.value[i]!.size * (1 - t) + places.value[(i + 1) % 4]!.size * t
    return at(angle, R + size)
  })
  return `M${points.map((p) => `${p.x.toFixed(1)} ${p.y.toFixed(1)}`).join('L')}Z`
})
const direction = computed(() => (result.value?.direction as number | null | undefined) ?? null)
</script>

<template>
  <svg
    viewBox="0 0 404 350"
    class="drawing"
    role="img"
    :aria-label="
      result
        ? `Mean gap ${len(result.mean as number)}, joint angle ${show(result.angle as number, 'angle')}`
        : 'Four gaps to measure'
    "
  >
    <path
      :d="outline"
      fill="var(--wash)"
      stroke="var(--ink)"
      stroke-width="1.5"
      :stroke-dasharray="gaps ? undefined : '4 4'"
    />
    <circle :cx="C" :cy="M" :r="R" class="body" />
    <g
      v-for="(p, i) in places"
      :key="p.angle"
      :class="{ tap: tappable('readings') }"
      @click="$emit('tap', 'readings')"
    >
      <line
        :x1="at(p.angle, R).x"
        :y1="at(p.angle, R).y"
        :x2="at(p.angle, R + p.size).x"
        :y2="at(p.angle, R + p.size).y"
        stroke="var(--line)"
        stroke-width="4"
      />
      <text :x="p.label.x" :y="p.label.y + 6" text-anchor="middle" font-weight="650">
        {{ p.gap === null ? [12, 3, 6, 9][i] : mm(p.gap) }}
      </text>
    </g>
    <g v-if="direction !== null">
      <line
        :x1="C"
        :y1="M"
        :x2="at(direction, R - 16).x"
        :y2="at(direction, R - 16).y"
        stroke="var(--line)"
        stroke-width="4"
      />
      <circle :cx="at(direction, R - 16).x" :cy="at(direction, R - 16).y" r="8" fill="var(--line)" />
    </g>
    <template v-if="result">
      <text :x="C" y="302" text-anchor="middle" class="sum">
        {{ show(result.angle as number, 'angle', '°', 3) }} in the joint
      </text>
      <text :x="C" y="324" text-anchor="middle" class="name">
        mean {{ len(result.mean as number)
        }}{{ direction === null ? '' : `, wider toward ${show(direction, 'angle', '°', 3)} from 12` }}
      </text>
      <text :x="C" y="345" text-anchor="middle" class="name">gaps drawn larger</text>
    </template>
    <text v-else :x="C" y="318" text-anchor="middle" class="name">
      12, 3, 6, 9 o'clock, looking along the flow
    </text>
  </svg>
</template>
