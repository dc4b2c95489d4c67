<script setup lang="ts">
import { computed } from 'vue'
import type { Fill } from '#core/checks/lifts'

/** The reach cut across: lifts as they were laid on each side of the pipe, to scale. Metres. */
const props = defineProps<{ od: number; fill: Fill; target: number; hand: number; chosen: string | null }>()
const emit = defineEmits<{ choose: [string] }>()
const W = 560
const H = 440
const floor = H - 34
const top = computed(() => Math.max(props.target, props.fill.left, props.fill.right) * 1.12 + 0.05)
const scale = computed(() => Math.min((floor - 16) / top.value, 240 / (props.od / 2 + 0.3)))
const y = (m: number) => floor - m * scale.value
const half = computed(() => Math.min(250, (props.od / 2 + 0.3) * scale.value))
const mid = W / 2
const bands = computed(() =>
  props.fill.lifts.flatMap((l) => [
    ...(l.left ? [{ lift: l, side: 'left', range: l.left }] : []),
    ...(l.right ? [{ lift: l, side: 'right', range: l.right }] : []),
  ]),
)
const whole = (m: number) => `${Math.round(m * 1000)} mm`
const levels = computed(() => [
  { m: props.od / 2, name: 'springline' },
  { m: props.od, name: 'crown' },
  { m: props.od + props.hand, name: 'hand plant up to here' },
  ...(Math.abs(props.target - props.od - props.hand) > 0.01
    ? [{ m: props.target, name: 'fill to here' }]
    : []),
])
</script>

<template>
  <svg
    :viewBox="`0 0 ${W} ${H}`"
    class="section"
    role="img"
    :aria-label="`Fill ${whole(fill.left)} left, ${whole(fill.right)} right of ${whole(target)}`"
  >
    <rect :x="mid - half" :y="floor" :width="half * 2" height="22" fill="var(--soil)" />
    <text :x="mid" :y="floor + 17" text-anchor="middle" class="muted">bedding</text>
    <path
      :d="`M${mid - half} 4V${floor + 22}H${mid + half}V4`"
      fill="none"
      stroke="var(--ink)"
      stroke-width="2"
    />
    <g
      v-for="b in bands"
      :key="b.lift.entry + b.side"
      class="lift"
      :class="{ bad: b.lift.faults.length > 0, here: b.lift.entry === chosen }"
      @click="emit('choose', b.lift.entry)"
    >
      <rect
        :x="b.side === 'left' ? mid - half + 1 : mid"
        :y="y(b.range[1])"
        :width="half - 1"
        :height="(b.range[1] - b.range[0]) * scale"
      />
      <text
        v-if="(b.range[1] - b.range[0]) * scale > 20"
        :x="b.side === 'left' ? mid - half + 10 : mid + half - 10"
        :y="y((b.range[0] + b.range[1]) / 2) + 5"
        :text-anchor="b.side === 'left' ? 'start' : 'end'"
      >
        {{ Math.round(b.lift.rise * 1000) }} mm · {{ b.lift.payload.passes }}×
      </text>
    </g>
    <circle
      :cx="mid"
      :cy="y(od / 2)"
      :r="(od / 2) * scale"
      fill="var(--card)"
      stroke="var(--ink)"
      stroke-width="5"
    />
    <g v-for="l in levels" :key="l.name">
      <line
        :x1="mid - half - 14"
        :x2="mid + half + 14"
        :y1="y(l.m)"
        :y2="y(l.m)"
        stroke="var(--muted)"
        stroke-dasharray="6 5"
      />
      <text :x="mid" :y="y(l.m) - 5" text-anchor="middle" class="level">
        {{ l.name }} {{ Math.round(l.m * 1000) }}
      </text>
    </g>
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
.muted,
.level {
  fill: var(--muted);
}
.level {
  paint-order: stroke;
  stroke: var(--card);
  stroke-width: 4px;
  font-size: 16px;
}
.lift rect {
  fill: var(--soil);
  stroke: var(--card);
  stroke-width: 1.5;
  cursor: pointer;
}
.lift.bad rect {
  fill: color-mix(in srgb, var(--rejected) 30%, var(--soil));
  stroke: var(--rejected);
  stroke-width: 2.5;
}
.lift.here rect {
  stroke: var(--ink);
  stroke-width: 3;
}
@media (min-width: 721px) and (max-width: 1100px) {
  .section {
    max-height: 24vh;
  }
}
</style>
