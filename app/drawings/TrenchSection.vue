<script setup lang="ts">
import { showSteps, showMetres } from '#core/quantity/show'
import { computed } from 'vue'
import type { Fill, Plant } from '#core/checks/lifts'
import { boxFootNow, type Trench } from '#core/embedment/trench'

/**
 * The trench cut across, to scale: ground, walls as they are held, bed, pipe, and the lifts as they were
 * laid on each side. Metres. Each part leads to the step that asks for it.
 */
const props = defineProps<{
  od: number
  fill: Fill
  target: number
  hand: number
  trench: Trench
  chosen: string | null
}>()
const emit = defineEmits<{ choose: [string]; step: [string] }>()
const W = 560
/** the tallest it is drawn */
const TALL = 590
const MARGIN = 12
const bed = computed(() => props.trench.bed ?? 0.1)
/** ground over the outside bottom of the pipe */
const ground = computed(() =>
  Math.max(
    (props.trench.depth ?? 0) - bed.value,
    props.target,
    props.fill.left,
    props.fill.right,
    props.od * 1.1,
  ),
)
const half = computed(() => Math.max(props.trench.width ?? 0, props.od + 0.4) / 2)
const slope = computed(() => (props.trench.support === 'sloped' ? ground.value - props.od : 0))
const under = computed(() => bed.value + (props.trench.stones ? 0.15 : 0) + 0.12)
/** spoil lies at least a metre back: it is drawn where it fits on the sheet */
const across = computed(() => 2 * (half.value + slope.value) + 0.9)
const scale = computed(() =>
  Math.min((TALL - 52) / (ground.value + under.value), (W - 2 * MARGIN) / across.value),
)
const H = computed(() => Math.round(52 + (ground.value + under.value) * scale.value))
const base = computed(() => 40 + ground.value * scale.value)
const mid = W / 2
const y = (m: number) => base.value - m * scale.value
const px = (m: number) => m * scale.value
const left = computed(() => mid - px(half.value))
const right = computed(() => mid + px(half.value))
const walls = computed(() => {
  const floor = y(-bed.value)
  const [top, bend] = [y(ground.value), y(props.od)]
  const out = px(slope.value)
  return out > 0
    ? `M0 ${top}H${left.value - out}L${left.value} ${bend}V${floor}H${right.value}V${bend}L${right.value + out} ${top}H${W}`
    : `M0 ${top}H${left.value}V${floor}H${right.value}V${top}H${W}`
})
const soil = computed(() => `${walls.value}V${H.value}H0Z`)
const bands = computed(() =>
  props.fill.lifts.flatMap((l) => [
    ...(l.left ? [{ lift: l, side: 'left', range: l.left }] : []),
    ...(l.right ? [{ lift: l, side: 'right', range: l.right }] : []),
  ]),
)
const whole = (m: number) => showSteps(m, 'mm')
/** which levels are told apart on the sheet */
const levels = computed(() => {
  const all = [
    { m: props.od / 2, name: 'springline' },
    { m: props.od, name: 'crown' },
    { m: props.od + props.hand, name: 'hand plant to' },
    ...(Math.abs(props.target - props.od - props.hand) > 0.01
      ? [{ m: props.target, name: 'fill to here' }]
      : []),
  ]
  return all.filter((l, i) => i === 0 || px(l.m - all[i - 1]!.m) >= 17)
})
const boxFoot = computed(() => boxFootNow(props.trench, props.fill, bed.value))
const struck = computed(() => props.trench.struts === 'in')
const last = computed(() => props.fill.lifts.at(-1))
const machines: Partial<Record<Plant, { name: string; wide: number; high: number }>> = {
  plate: { name: 'plate', wide: 0.45, high: 0.3 },
  roller: { name: 'roller', wide: 0.8, high: 0.6 },
  vehicle: { name: 'vehicle', wide: 1.6, high: 0.9 },
}
/** the plant of the last lift, on top of it */
const plant = computed(() => {
  const lift = last.value
  const kind = lift && machines[lift.payload.plant]
  if (!kind) return null
  const level = Math.max(lift.left?.[1] ?? 0, lift.right?.[1] ?? 0)
  const middle = lift.payload.side === 'both' ? 0 : (lift.payload.side === 'left' ? -1 : 1) * (half.value / 2)
  const wide = Math.min(kind.wide, half.value * 1.6)
  return {
    ...kind,
    x: mid + px(middle - wide / 2),
    y: y(level + kind.high),
    wide: px(wide),
    high: px(kind.high),
  }
})
</script>

<template>
  <svg
    :viewBox="`0 0 ${W} ${H}`"
    class="section"
    role="img"
    :aria-label="`Fill ${whole(fill.left)} left, ${whole(fill.right)} right of ${whole(target)}`"
  >
    <path :d="soil" fill="var(--wash)" />
    <path
      v-if="trench.depth !== null"
      :d="`M${right + px(slope) + 34} ${y(ground)}l22 -24 16 8 20 -12 26 28Z`"
      fill="var(--soil)"
      class="part"
      @click="emit('step', 'spoil')"
    />
    <g v-if="trench.stones" class="part" @click="emit('step', 'stone-layer')">
      <rect
        :x="left"
        :y="y(-bed)"
        :width="right - left"
        :height="px(0.15)"
        fill="var(--muted)"
        opacity="0.5"
      />
      <text v-if="px(0.15) > 15" :x="left + 8" :y="y(-bed - 0.075) + 5" class="small">stone</text>
    </g>
    <rect
      :x="left"
      :y="y(0)"
      :width="right - left"
      :height="px(bed)"
      fill="var(--soil)"
      class="part"
      @click="emit('step', 'bed-thickness')"
    />
    <text v-if="px(bed) > 15" :x="right - 8" :y="y(-bed / 2) + 5" text-anchor="end" class="small">
      bed {{ whole(bed) }}
    </text>
    <path
      :d="walls"
      fill="none"
      stroke="var(--ink)"
      stroke-width="2"
      class="part"
      @click="emit('step', 'support')"
    />
    <g v-if="trench.support === 'shored'" stroke="var(--ink)" class="part" @click="emit('step', 'support')">
      <line :x1="left + 4" :x2="left + 4" :y1="y(ground) - 8" :y2="y(-bed)" stroke-width="5" />
      <line :x1="right - 4" :x2="right - 4" :y1="y(ground) - 8" :y2="y(-bed)" stroke-width="5" />
      <line :x1="left" :x2="right" :y1="y(ground - 0.4)" :y2="y(ground - 0.4)" stroke-width="4" />
    </g>
    <g v-if="trench.support === 'box'" class="part" @click="emit('step', 'box-bottom')">
      <rect
        v-for="side in [left, right - 10]"
        :key="side"
        :x="side"
        :y="y(ground) - 10"
        width="10"
        :height="Math.max(12, px(ground + bed - boxFoot) + 10)"
        fill="var(--card)"
        stroke="var(--ink)"
        stroke-width="1.5"
      />
      <line
        :x1="left + 10"
        :x2="right - 10"
        :y1="y(ground) + 14"
        :y2="y(ground) + 14"
        stroke="var(--ink)"
        stroke-width="3"
      />
      <text :x="left - 8" :y="y(ground) + 22" text-anchor="end" class="small">box</text>
    </g>
    <g
      v-for="b in bands"
      :key="b.lift.entry + b.side"
      class="lift"
      :class="{ bad: b.lift.faults.length > 0, here: b.lift.entry === chosen }"
      @click="emit('choose', b.lift.entry)"
    >
      <rect
        :x="b.side === 'left' ? left + 1 : mid"
        :y="y(b.range[1])"
        :width="right - mid - 1"
        :height="px(b.range[1] - b.range[0])"
      />
      <text
        v-if="px(b.range[1] - b.range[0]) > 17 && (px(half - od / 2) > 84 || b.range[0] >= od - 0.02)"
        :x="b.side === 'left' ? left + 14 : right - 14"
        :y="y((b.range[0] + b.range[1]) / 2) + 5"
        :text-anchor="b.side === 'left' ? 'start' : 'end'"
      >
        {{ showSteps(b.lift.rise, 'mm', false, false) }} · {{ b.lift.payload.passes }}×
      </text>
    </g>
    <circle
      :cx="mid"
      :cy="y(od / 2)"
      :r="px(od / 2)"
      fill="var(--card)"
      stroke="var(--ink)"
      stroke-width="4"
    />
    <g v-if="struck" class="part" @click="emit('step', 'struts-out')">
      <line :x1="mid" :x2="mid" :y1="y(od) + 3" :y2="y(0) - 3" stroke="var(--held)" stroke-width="5" />
      <text :x="mid + 8" :y="y(od / 2) + 5" class="small">strut</text>
    </g>
    <g v-if="plant" class="part" @click="emit('choose', last!.entry)">
      <rect :x="plant.x" :y="plant.y" :width="plant.wide" :height="plant.high" rx="3" class="plant" />
      <text
        v-if="plant.wide > 44"
        :x="plant.x + plant.wide / 2"
        :y="plant.y + plant.high / 2 + 5"
        text-anchor="middle"
        class="small"
      >
        {{ plant.name }}
      </text>
    </g>
    <g v-for="l in levels" :key="l.name">
      <line
        :x1="left"
        :x2="right + 5"
        :y1="y(l.m)"
        :y2="y(l.m)"
        stroke="var(--muted)"
        stroke-dasharray="6 5"
      />
      <text :x="right + 8" :y="y(l.m) + 5" class="level">
        {{ l.name }} {{ showSteps(l.m, 'mm', false, false) }}
      </text>
    </g>
    <g v-if="trench.dry !== null" class="part" @click="emit('step', 'water')">
      <path
        :d="`M${left - 46} ${y(trench.dry ? -bed - 0.05 : 0.03)}h36`"
        :stroke="trench.dry ? 'var(--line)' : 'var(--rejected)'"
        stroke-width="2.5"
      />
      <text :x="left - 50" :y="y(trench.dry ? -bed - 0.05 : 0.03) + 5" text-anchor="end" class="small">
        water
      </text>
    </g>
    <text v-if="trench.depth !== null" x="8" :y="y(ground) - 8" class="small">
      {{ showMetres(trench.depth, 2) }} deep
    </text>
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
  font-size: 16px;
  fill: var(--ink);
}
.small,
.level {
  fill: var(--muted);
  font-size: 15px;
}
.part {
  cursor: pointer;
}
.plant {
  fill: var(--card);
  stroke: var(--ink);
  stroke-width: 2;
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
