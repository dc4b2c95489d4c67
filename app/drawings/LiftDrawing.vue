<script setup lang="ts">
import { computed } from 'vue'
import { showNumber, showQuantity } from '#core/quantity/show'
import type { LiftPlan } from '#core/yard/lift'

/** The lift as it hangs: hook, legs at their angle, the force in each, and the load. */
const props = defineProps<{ plan: LiftPlan; legs: number; angle: number; count: number; bad: boolean }>()
const W = 640
const hook = { x: W / 2, y: 44 }
const angle = computed(
  () => (props.legs === 1 ? 0 : Math.min(75, Math.max(0, props.angle))) * (Math.PI / 180),
)
const drop = 150
const reach = computed(() => Math.min(250, drop * Math.tan(angle.value)))
const ends = computed(() => (props.legs === 1 ? [0] : [-reach.value, reach.value]))
const colour = computed(() => (props.bad ? 'var(--rejected)' : 'var(--ink)'))
</script>

<template>
  <svg
    :viewBox="`0 0 ${W} 300`"
    class="drawing"
    role="img"
    :aria-label="`Lift of ${showQuantity(plan.total, 'mass', 'kg')} on ${legs} legs at ${angle.toFixed(0)} degrees`"
  >
    <path :d="`M${hook.x} 6v22m-10 8a10 10 0 1 0 20 0`" fill="none" stroke="var(--ink)" stroke-width="4" />
    <line
      v-for="e in ends"
      :key="e"
      :x1="hook.x"
      :y1="hook.y"
      :x2="hook.x + e"
      :y2="hook.y + drop"
      :stroke="colour"
      stroke-width="4"
    />
    <path
      v-if="legs > 1"
      :d="`M${hook.x} ${hook.y + 70}A70 70 0 0 0 ${hook.x + Math.sin(angle) * 70} ${hook.y + Math.cos(angle) * 70}`"
      fill="none"
      stroke="var(--muted)"
    />
    <line
      v-if="legs > 1"
      :x1="hook.x"
      :x2="hook.x"
      :y1="hook.y"
      :y2="hook.y + drop"
      stroke="var(--muted)"
      stroke-dasharray="4 4"
    />
    <text v-if="legs > 1" :x="hook.x + 10" :y="hook.y + 92" class="name">{{ showNumber(props.angle) }}°</text>
    <text v-if="!Number.isNaN(plan.perLeg)" :x="hook.x + (ends.at(-1) ?? 0) / 2 + 26" :y="hook.y + 58">
      {{ showQuantity(plan.perLeg, 'force', 'kN', 3) }} a leg
    </text>
    <rect
      :x="hook.x - 280"
      :y="hook.y + drop"
      width="560"
      height="46"
      fill="var(--pipe)"
      stroke="var(--ink)"
      stroke-width="1.5"
      rx="2"
    />
    <line
      v-for="i in Math.min(5, count - 1)"
      :key="i"
      :x1="hook.x - 280"
      :x2="hook.x + 280"
      :y1="hook.y + drop + (46 * i) / Math.min(6, count)"
      :y2="hook.y + drop + (46 * i) / Math.min(6, count)"
      stroke="var(--ink)"
    />
    <text :x="W / 2" :y="hook.y + drop + 78" text-anchor="middle" class="sum">
      {{ showQuantity(plan.total, 'mass', 'kg') }}
    </text>
  </svg>
</template>
