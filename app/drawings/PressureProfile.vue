<script setup lang="ts">
import { computed } from 'vue'
import type { PackPlan } from '#core/pressure/pack'
import { showMetres, showQuantity } from '#core/quantity/show'

/**
 * The section's profile with the pressure at every point while testing: enough at the top, not too much
 * at the bottom.
 */
const props = defineProps<{ plan: PackPlan; rating: number; required: number }>()
const W = 700
const H = 196
const first = computed(() => props.plan.points[0]!.station)
const last = computed(() => props.plan.points.at(-1)!.station)
const x = (s: number) => 14 + ((s - first.value) / (last.value - first.value)) * (W - 28)
const y = (z: number) =>
  H -
  46 -
  ((z - props.plan.lowest.elevation) /
    Math.max(0.5, props.plan.highest.elevation - props.plan.lowest.elevation)) *
    (H - 110)
const ground = computed(() => props.plan.points.map((p) => `${x(p.station)},${y(p.elevation)}`).join(' '))
const marks = computed(() => [
  {
    p: props.plan.highest,
    ok: props.plan.highOk,
    rule: `at least ${showQuantity(props.required, 'pressure', 'kPa')}`,
    dy: -14,
  },
  {
    p: props.plan.lowest,
    ok: props.plan.lowOk,
    rule: `at most ${showQuantity(props.rating, 'pressure', 'kPa')}`,
    dy: 24,
  },
])
const anchor = (s: number) => (x(s) < W * 0.28 ? 'start' : x(s) > W * 0.72 ? 'end' : 'middle')
</script>

<template>
  <svg
    :viewBox="`0 0 ${W} ${H}`"
    role="img"
    :aria-label="
      marks
        .map(
          (m) =>
            `${showQuantity(m.p.pressure, 'pressure', 'kPa')} at station ${showMetres(m.p.station, 0)}, ${m.rule}`,
        )
        .join('; ')
    "
  >
    <path
      :d="`M${x(first)} ${H}L${ground.replaceAll(' ', 'L').replaceAll(',', ' ')}L${x(last)} ${H}Z`"
      fill="var(--soil)"
      opacity="0.55"
    />
    <polyline :points="ground" fill="none" stroke="var(--ink)" stroke-width="4" stroke-linejoin="round" />
    <g v-for="m in marks" :key="m.rule">
      <circle
        :cx="x(m.p.station)"
        :cy="y(m.p.elevation)"
        r="7"
        :fill="m.ok ? 'var(--accepted)' : 'var(--rejected)'"
        stroke="var(--card)"
        stroke-width="2"
      />
      <text :x="x(m.p.station)" :y="y(m.p.elevation) + m.dy" :text-anchor="anchor(m.p.station)" class="value">
        {{ showQuantity(m.p.pressure, 'pressure', 'kPa') }}
      </text>
      <text
        :x="x(m.p.station)"
        :y="y(m.p.elevation) + m.dy + (m.dy < 0 ? -22 : 17)"
        :text-anchor="anchor(m.p.station)"
        class="rule"
      >
        {{ m.rule }}{{ m.ok ? '' : ' – not met' }}
      </text>
    </g>
  </svg>
</template>

<style scoped>
svg {
  display: block;
  width: 100%;
  height: auto;
}
.value {
  font-size: 20px;
  font-weight: 650;
  fill: var(--ink);
}
.rule {
  font-size: 14px;
  fill: var(--muted);
}
</style>
