<script setup lang="ts">
import { useDrawn, type DrawnEmits, type DrawnProps } from '../useDrawn'

/**
 * The sealant round a joint, seen along the flow, and where its ends may meet. Readings: angle from 3 or
 * 9 o'clock, above it positive.
 */
const props = defineProps<DrawnProps>()
defineEmits<DrawnEmits>()
const { num, word, tappable, strong, show } = useDrawn(props)
const C = 202
const M = 152
const R = 104
const school = computed(() => word('school'))
/** how far from there they may meet, if the procedure says so */
const off = computed(() => num('off'))
const seam = computed(() => props.readings?.[0] ?? null)
/** degrees clockwise from 12 */
const at = (angle: number, radius: number) => ({
  x: C + radius * Math.sin((angle * Math.PI) / 180),
  y: M - radius * Math.cos((angle * Math.PI) / 180),
})
const arc = (from: number, to: number, radius: number) => {
  const [a, b] = [at(from, radius), at(to, radius)]
  return `M${a.x} ${a.y}A${radius} ${radius} 0 ${to - from > 180 ? 1 : 0} 1 ${b.x} ${b.y}`
}
const halves = computed(() => ['bitumen'].includes(school.value))
const joinAt = computed(() => 90 - (seam.value ?? 0))
const on = strong('seam')
const fine = computed(() => seam.value === null || off.value === null || Math.abs(seam.value) <= off.value)
const title = computed(
  () =>
    ({
      bitumen: 'Top of the spigot, bottom of the bell',
      trowelled: 'Over the whole spigot',
      overlap: 'Slight overlap',
    })[school.value] ?? 'Ends meet, no stretch, no overlap',
)
</script>

<template>
  <svg
    viewBox="0 0 404 330"
    class="drawing"
    role="img"
    :aria-label="`${title}${seam === null ? '' : `, seam ${show(seam, 'angle')} from 3 o'clock`}`"
  >
    <circle :cx="C" :cy="M" :r="R + 26" fill="var(--pipe)" stroke="var(--ink)" stroke-width="1.5" />
    <circle :cx="C" :cy="M" :r="R - 18" fill="var(--paper)" stroke="var(--ink)" stroke-width="1.5" />
    <template v-if="off !== null && !halves && school !== 'trowelled'">
      <path
        v-for="side in [90, 270]"
        :key="side"
        :d="arc(side - off, side + off, R + 14)"
        fill="none"
        stroke="var(--accepted)"
        stroke-width="10"
        opacity="0.55"
      />
    </template>
    <path v-if="halves" :d="arc(270, 450, R)" fill="none" stroke="var(--fitting)" stroke-width="13" />
    <path v-if="halves" :d="arc(90, 270, R + 6)" fill="none" stroke="var(--lube)" stroke-width="13" />
    <circle
      v-else
      :cx="C"
      :cy="M"
      :r="R"
      fill="none"
      stroke="var(--fitting)"
      :stroke-width="school === 'trowelled' ? 26 : 13"
    />
    <g v-if="!halves && school !== 'trowelled'">
      <line
        :x1="at(joinAt, R - 12).x"
        :y1="at(joinAt, R - 12).y"
        :x2="at(joinAt, R + 28).x"
        :y2="at(joinAt, R + 28).y"
        :stroke="fine ? 'var(--line)' : 'var(--rejected)'"
        stroke-width="5"
        :class="{ tap: tappable('readings') }"
        @click="$emit('tap', 'readings')"
      />
    </g>
    <text
      v-for="h in [
        { a: 0, t: '12' },
        { a: 90, t: '3' },
        { a: 180, t: '6' },
        { a: 270, t: '9' },
      ]"
      :key="h.t"
      :x="at(h.a, R - 36).x"
      :y="at(h.a, R - 36).y + 5"
      text-anchor="middle"
      class="name"
    >
      {{ h.t }}
    </text>
    <text v-if="seam !== null" :x="C" :y="M + 8" text-anchor="middle" class="sum">
      {{ show(seam, 'angle', '°') }}
    </text>
    <text :x="C" y="322" text-anchor="middle" :font-weight="on ? 650 : 400">{{ title }}</text>
  </svg>
</template>
