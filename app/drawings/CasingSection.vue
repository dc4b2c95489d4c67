<script setup lang="ts">
import { showSteps } from '#core/quantity/show'
import { computed } from 'vue'

/**
 * A pipe in its casing cut across, to scale: the grout as high as what was pumped reaches, and how near
 * its pressure is to what the pipe bears.
 */
const props = defineProps<{
  /** m */
  bore: number
  od: number
  /** share of the room around the pipe that is full; null while nothing is pumped */
  full: number | null
  /** share of the limit that the grout has reached at the invert; null where that is not known */
  reached: number | null
}>()
const W = 560
const H = 440
const R = 180
const cx = W / 2
const cy = 206
const r = computed(() => (props.od / props.bore) * R)

/** Area of a circle of radius a below a height over its lowest point. */
const segment = (a: number, h: number) => {
  const x = Math.min(2 * a, Math.max(0, h))
  return a * a * Math.acos((a - x) / a) - (a - x) * Math.sqrt(Math.max(0, 2 * a * x - x * x))
}
/** The height at which the room around the pipe is filled by a share, found by halving. */
const level = computed(() => {
  const { full } = props
  if (full === null) return 0
  if (full >= 1) return 2 * R
  const whole = Math.PI * (R * R - r.value * r.value)
  let [low, high] = [0, 2 * R]
  for (let i = 0; i < 40; i++) {
    const h = (low + high) / 2
    if (segment(R, h) - segment(r.value, h - (R - r.value)) < full * whole) low = h
    else high = h
  }
  return low
})
const percent = (share: number) => `${Math.round(share * 100)} %`
const said = computed(() =>
  props.full === null
    ? 'No grout pumped yet'
    : `Grout fills ${percent(Math.min(1, props.full))} of the room around the pipe`,
)
</script>

<template>
  <svg :viewBox="`0 0 ${W} ${H}`" class="section" role="img" :aria-label="said">
    <defs>
      <clipPath id="casing-grout">
        <rect :x="cx - R" :y="cy + R - level" :width="2 * R" :height="Math.max(0, level)" />
      </clipPath>
    </defs>
    <circle :cx="cx" :cy="cy" :r="R" fill="var(--paper)" />
    <circle :cx="cx" :cy="cy" :r="R" fill="var(--soil)" clip-path="url(#casing-grout)" />
    <circle :cx="cx" :cy="cy" :r="R" fill="none" stroke="var(--ink)" stroke-width="8" />
    <circle :cx="cx" :cy="cy" :r="r" fill="var(--card)" stroke="var(--ink)" stroke-width="5" />
    <text :x="cx" :y="cy - 4" text-anchor="middle">{{ showSteps(od, 'mm') }}</text>
    <text :x="cx" :y="cy + 20" text-anchor="middle" class="muted">in {{ showSteps(bore, 'mm') }}</text>
    <g v-if="reached !== null">
      <rect :x="cx - R" :y="408" :width="2 * R" height="12" fill="var(--paper)" stroke="var(--muted)" />
      <rect
        :x="cx - R"
        :y="408"
        :width="2 * R * Math.min(1, Math.max(0, reached))"
        height="12"
        :fill="reached > 1 ? 'var(--rejected)' : reached >= 0.9 ? 'var(--held)' : 'var(--line)'"
      />
      <text :x="cx" :y="436" text-anchor="middle" class="muted">
        {{ percent(reached) }} of what the pipe bears
      </text>
    </g>
    <text v-else :x="cx" :y="424" text-anchor="middle" class="muted">{{ said }}</text>
  </svg>
</template>

<style scoped>
.section {
  display: block;
  width: 100%;
  height: auto;
  max-height: 100%;
}
text {
  font-size: 18px;
  fill: var(--ink);
}
.muted {
  fill: var(--muted);
}
</style>
