<script setup lang="ts">
import { showMetres, showQuantity } from '#core/quantity/show'

/** A line between two plugs, for a test with air: its length, its bore and what pushes on each plug. */
const props = defineProps<{ from: number; to: number; thrust: number; diameter: number; pressure: number }>()
const [W, H] = [760, 190]
const [A, B] = [150, 610]
const [TOP, FOOT] = [50, 118]
const force = computed(() => showQuantity(props.thrust, 'force', 'kN', 3))
const label = computed(
  () =>
    `Air between plugs at ${showMetres(props.from, 1)} and ${showMetres(props.to, 1)}; ${force.value} on each`,
)
</script>

<template>
  <svg :viewBox="`0 0 ${W} ${H}`" class="plugs" role="img" :aria-label="label">
    <rect :x="A" :y="TOP" :width="B - A" :height="FOOT - TOP" class="air" />
    <path :d="`M${A - 60} ${TOP} H${B + 60} M${A - 60} ${FOOT} H${B + 60}`" class="wall" />
    <g v-for="[x, way] in [[A, -1] as const, [B, 1] as const]" :key="x">
      <rect :x="x - 14" :y="TOP + 1" width="28" :height="FOOT - TOP - 2" rx="10" class="plug" />
      <path
        :d="`M${x + way * 20} ${(TOP + FOOT) / 2} h${way * 62} m0 -9 l${way * 16} 9 l${-way * 16} 9`"
        class="push"
      />
      <text :x="x" :y="FOOT + 30" text-anchor="middle">{{ showMetres(way < 0 ? from : to, 1) }}</text>
      <text :x="x + way * 56" :y="TOP - 14" text-anchor="middle" class="force">{{ force }}</text>
      <path :d="`M${x + way * 100} ${TOP} v${FOOT - TOP}`" class="nobody" />
    </g>
    <text :x="W / 2" :y="(TOP + FOOT) / 2 + 7" text-anchor="middle">
      {{ showQuantity(pressure, 'pressure', 'kPa', 3) }} of air, bore
      {{ showQuantity(diameter, 'length', 'mm', 3) }}
    </text>
    <text :x="W / 2" :y="FOOT + 58" text-anchor="middle" class="muted">
      Plugs braced; nobody in line with them
    </text>
  </svg>
</template>

<style scoped>
.plugs {
  width: 100%;
  max-height: 200px;
}
.air {
  fill: var(--wash);
}
.wall {
  stroke: var(--ink);
  stroke-width: 3;
}
.plug {
  fill: var(--line);
}
.push {
  fill: none;
  stroke: var(--ink);
  stroke-width: 3;
}
.nobody {
  stroke: var(--held);
  stroke-width: 2;
  stroke-dasharray: 6 5;
}
text {
  fill: var(--ink);
  font-size: 17px;
}
.force {
  font-weight: 600;
}
.muted {
  fill: var(--muted);
  font-size: 15px;
}
</style>
