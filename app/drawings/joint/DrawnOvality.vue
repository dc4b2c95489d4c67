<script setup lang="ts">
import { ovality } from '#core/calculators/pipe-end'
import { showBare, showIn } from '#core/quantity/show'
import { useDrawn, type DrawnEmits, type DrawnProps } from '../useDrawn'

/** Diameters at their angles, the difference exaggerated, with the long axis. */
const props = defineProps<DrawnProps>()
defineEmits<DrawnEmits>()
const { num, tappable, strong, len } = useDrawn(props)
const C = 202
const M = 142
const R = 88
const angles = computed(() => props.angles ?? [0, 45, 90, 135])
const diameters = computed(() => (props.readings?.length === angles.value.length ? props.readings : null))
const result = computed(() =>
  diameters.value ? ovality.compute({ diameters: diameters.value, angles: angles.value }).outputs : null,
)
const mean = computed(() => (result.value?.mean as number | undefined) ?? num('od') ?? 0.1)
/** out-of-roundness drawn as up to a quarter of the radius */
const gain = computed(() => {
  const most = diameters.value ? Math.max(...diameters.value.map((d) => Math.abs(d - mean.value))) : 0
  return most > 0 ? (R * 0.22) / most : 0
})
const at = (angle: number, radius: number) => ({
  x: C + radius * Math.sin((angle * Math.PI) / 180),
  y: M - radius * Math.cos((angle * Math.PI) / 180),
})
const spokes = computed(() =>
  angles.value.map((angle, i) => {
    const d = diameters.value?.[i]
    const radius = R + (d === undefined ? 0 : (d - mean.value) * gain.value)
    return { angle, a: at(angle, radius), b: at(angle + 180, radius), label: at(angle, R + 32), d }
  }),
)
const outline = computed(
  () =>
    `M${[...spokes.value.map((s) => s.a), ...spokes.value.map((s) => s.b)].map((p) => `${p.x} ${p.y}`).join('L')}Z`,
)
const axis = computed(() => {
  const angle = result.value?.longAxis as number | null | undefined
  return angle === null || angle === undefined
    ? null
    : { a: at(angle, R + 18), b: at(angle + 180, R + 18), angle }
})
const strut = computed(() => num('strut'))
const onStrut = strong('strut')
</script>

<template>
  <svg
    viewBox="0 0 404 330"
    class="drawing"
    role="img"
    :aria-label="result ? `Out of roundness ${len(result.outOfRoundness as number)}` : 'Diameters to measure'"
  >
    <circle :cx="C" :cy="M" :r="R" fill="var(--pipe)" stroke="var(--muted)" stroke-dasharray="4 4" />
    <path
      v-if="diameters"
      :d="outline"
      fill="none"
      stroke="var(--ink)"
      stroke-width="2.5"
      stroke-linejoin="round"
    />
    <g v-if="strut !== null">
      <line
        :x1="C"
        :x2="C"
        :y1="M - R"
        :y2="M + R"
        :stroke="onStrut ? 'var(--line)' : 'var(--ink)'"
        stroke-width="7"
      />
    </g>
    <g v-for="s in spokes" :key="s.angle">
      <line :x1="s.a.x" :y1="s.a.y" :x2="s.b.x" :y2="s.b.y" stroke="var(--muted)" />
      <text :x="s.label.x" :y="s.label.y + 5" text-anchor="middle">
        {{ s.d === undefined ? `${s.angle}°` : showBare(s.d, 'mm', 5) }}
      </text>
    </g>
    <line
      v-if="axis"
      :x1="axis.a.x"
      :y1="axis.a.y"
      :x2="axis.b.x"
      :y2="axis.b.y"
      stroke="var(--line)"
      stroke-width="3"
      stroke-dasharray="10 5"
    />
    <g v-if="result">
      <text :x="C" y="296" text-anchor="middle" class="sum">
        {{ len(result.outOfRoundness as number) }} out of round
      </text>
      <text :x="C" y="320" text-anchor="middle" class="name">
        {{ showIn(result.percent as number, '', 3) }} %{{
          axis ? `, long axis at ${showIn(axis.angle, '', 3)}°` : ''
        }}
        (exaggerated)
      </text>
    </g>
    <text
      v-if="strut !== null"
      x="6"
      y="20"
      class="name"
      :class="{ tap: tappable('strut') }"
      @click="$emit('tap', 'strut')"
    >
      strut {{ len(strut) }}
    </text>
  </svg>
</template>
