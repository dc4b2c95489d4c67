<script setup lang="ts">
import { showMetres } from '#core/quantity/show'
import { computed } from 'vue'
import type { StackPlan } from '#core/yard/stack'

/**
 * A stack to scale: from its end, with chocks and timbers; and from the side, sockets of each layer all
 * one way where there are any.
 */
const props = defineProps<{ plan: StackPlan; od: number; length: number; sockets: boolean }>()
const [W, H] = [640, 420]
const scale = computed(() =>
  Math.min((W - 60) / Math.max(props.plan.width + props.od, 1), 190 / props.plan.height),
)
const base = 226
const x = (v: number) => W / 2 + v * scale.value
const r = computed(() => (props.od / 2) * scale.value)
const half = computed(() => (props.plan.width / 2) * scale.value)
/** side view */
const side = computed(() => Math.min((W - 120) / props.length, 100 / props.plan.height))
const sx = (v: number) => 60 + v * side.value
const rows = computed(() =>
  props.plan.perLayer.map((n, layer) => ({
    n,
    layer,
    y: 400 - (props.od / 2 + layer * props.plan.rise) * side.value,
    h: props.od * side.value,
    socket: layer % 2 === 0 ? 'left' : 'right',
  })),
)
</script>

<template>
  <svg
    :viewBox="`0 0 ${W} ${H}`"
    class="drawing"
    role="img"
    :aria-label="`Stack of ${plan.pipes.length} in ${plan.layers} layers, ${showMetres(plan.height, 2)} high`"
  >
    <line x1="10" :x2="W - 10" :y1="base + 10" :y2="base + 10" stroke="var(--ink)" stroke-width="2" />
    <rect
      :x="W / 2 - half - 16"
      :y="base"
      :width="half * 2 + 32"
      height="10"
      fill="var(--pipe-dark)"
      stroke="var(--ink)"
    />
    <path :d="`M${W / 2 - half - 3} ${base}h-22v-4l22 -${Math.min(24, r)}z`" fill="var(--held)" />
    <path :d="`M${W / 2 + half + 3} ${base}h22v-4l-22 -${Math.min(24, r)}z`" fill="var(--held)" />
    <g v-for="(p, i) in plan.pipes" :key="i">
      <circle
        :cx="x(p.x)"
        :cy="base - p.y * scale"
        :r="r"
        fill="var(--pipe)"
        stroke="var(--ink)"
        stroke-width="1.5"
      />
      <circle
        :cx="x(p.x)"
        :cy="base - p.y * scale"
        :r="r * (sockets && p.socket === 'left' ? 0.86 : 0.76)"
        :fill="sockets && p.socket === 'left' ? 'none' : 'var(--card)'"
        stroke="var(--ink)"
        stroke-width="1"
      />
    </g>
    <text :x="W / 2" y="20" text-anchor="middle" class="name">
      from the end · {{ showMetres(plan.width, 2) }} wide, {{ showMetres(plan.height, 2) }} high
    </text>
    <text :x="W / 2" y="272" text-anchor="middle" class="name">
      from the side{{ sockets ? ' · sockets of a layer all one way, the next the other' : '' }}
    </text>
    <g v-for="row in rows" :key="row.layer">
      <rect
        :x="sx(0)"
        :y="row.y - row.h / 2"
        :width="length * side"
        :height="row.h"
        fill="var(--pipe)"
        stroke="var(--ink)"
        stroke-width="1.2"
      />
      <rect
        v-if="sockets"
        :x="row.socket === 'left' ? sx(0) - 10 : sx(length) - 8"
        :y="row.y - row.h / 2 - 2"
        width="18"
        :height="row.h + 4"
        fill="var(--pipe-dark)"
        stroke="var(--ink)"
        stroke-width="1.2"
      />
    </g>
    <rect
      v-for="t in plan.timbers"
      :key="t"
      :x="sx(t) - 9"
      y="400"
      width="18"
      height="9"
      fill="var(--held)"
    />
    <line x1="10" :x2="W - 10" y1="410" y2="410" stroke="var(--ink)" stroke-width="2" />
  </svg>
</template>
