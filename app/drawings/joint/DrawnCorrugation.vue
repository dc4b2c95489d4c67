<script setup lang="ts">
import { unitShown } from '#core/quantity/site-units'
import { useDrawn, type DrawnEmits, type DrawnProps } from '../useDrawn'

/** Corrugations around the cut: the wanted length, and the middle of the valley where it is cut. */
const props = defineProps<DrawnProps>()
defineEmits<DrawnEmits>()
const { num, mm, tappable, strong, len } = useDrawn(props)
const W = 404
const top = 120
const pitch = computed(() => num('pitch') ?? 0.1)
const first = computed(() => num('first') ?? 0)
const wanted = computed(() => num('wanted') ?? 1)
const cut = computed(() => num('cut'))
const centre = computed(() => cut.value ?? wanted.value)
/** three corrugations to each side of the cut fill the width */
const scale = computed(() => (W - 40) / (pitch.value * 6))
const x = (m: number) => W / 2 + (m - centre.value) * scale.value
const valleys = computed(() =>
  Array.from(
    { length: 9 },
    (_v, k) => first.value + (Math.round((centre.value - first.value) / pitch.value) - 4 + k) * pitch.value,
  ),
)
const profile = computed(() => {
  const half = pitch.value / 2
  return valleys.value
    .map(
      (v) =>
        `L${x(v - half * 0.35)} ${top + 20}L${x(v + half * 0.35)} ${top + 20}L` +
        `${x(v + half * 0.65)} ${top}L${x(v + 2 * half - half * 0.65)} ${top}`,
    )
    .join('')
    .replace(/^L/, 'M')
})
const on = strong('cut')
</script>

<template>
  <svg
    :viewBox="`0 0 ${W} 330`"
    class="drawing"
    role="group"
    :aria-label="
      cut === null
        ? 'Valleys of the corrugation'
        : `Cut at ${len(cut, 6)}, ${len(cut - wanted)} from the wanted ${len(wanted, 6)}`
    "
  >
    <path :d="`${profile}V${top + 110}H${x(valleys[0]!)}Z`" class="body" />
    <line
      v-for="v in valleys"
      :key="v"
      :x1="x(v)"
      :x2="x(v)"
      :y1="top + 24"
      :y2="top + 108"
      stroke="var(--pipe-dark)"
      stroke-dasharray="3 4"
    />
    <line class="centre" x1="0" :x2="W" :y1="top + 110" :y2="top + 110" />
    <g v-if="cut !== null" :class="{ tap: tappable('cut') }" @click="$emit('tap', 'cut')">
      <line
        :x1="x(cut)"
        :x2="x(cut)"
        y1="56"
        :y2="top + 140"
        :stroke="on ? 'var(--line)' : 'var(--ink)'"
        :stroke-width="on ? 4 : 3"
      />
      <text :x="x(cut)" y="46" text-anchor="middle" class="sum">cut {{ mm(cut, 6) }}</text>
    </g>
    <line
      :x1="x(wanted)"
      :x2="x(wanted)"
      y1="84"
      :y2="top + 146"
      stroke="var(--too-close)"
      stroke-width="2.5"
      stroke-dasharray="7 4"
    />
    <text :x="x(wanted) + (cut !== null && cut > wanted ? -150 : 12)" :y="top + 186" text-anchor="start">
      wanted {{ mm(wanted, 6) }}
    </text>
    <DrawnDimension
      v-if="cut !== null && Math.abs(cut - wanted) > 1e-6"
      :x1="x(wanted)"
      :x2="x(cut)"
      :y="top + 158"
      :from="top + 130"
      :label="mm(cut - wanted)"
      place="left"
      strong
    />
    <text :x="W - 4" y="326" text-anchor="end" class="name">
      {{ unitShown('mm') }} from the pipe end; pitch {{ mm(pitch) }}, to scale
    </text>
  </svg>
</template>
