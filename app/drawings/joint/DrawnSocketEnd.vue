<script setup lang="ts">
import { unitShown } from '#core/quantity/site-units'
import { useDrawn, type DrawnEmits, type DrawnProps } from '../useDrawn'

/** One pipe end and its socket to scale; a sight mark read after assembly shows how far the pipe went in. */
const props = defineProps<DrawnProps>()
defineEmits<DrawnEmits>()
const { num, mm, flag, tappable, strong, len } = useDrawn(props)
const W = 404
const H = 330
const axis = 150
const od = computed(() => num('od') ?? 0.1)
const depth = computed(() => num('depth') ?? 0.05)
const mark1 = computed(() => num('mark1'))
const mark2 = computed(() => num('mark2'))
const measured = computed(() => props.readings?.[0] ?? null)
/** how far the pipe stands in the socket: read from the sight mark, else drawn before assembly */
const inside = computed(() =>
  measured.value !== null && mark2.value !== null ? mark2.value - measured.value : null,
)
const scale = computed(() =>
  Math.min(170 / (od.value * 1.25), (W - 60) / (depth.value * 2 + (mark2.value ?? depth.value) + 0.02)),
)
const px = (m: number) => m * scale.value
const shell = computed(() => Math.max(8, px(num('wall') ?? 0.01)))
const radius = computed(() => px(od.value / 2))
/** the mouth of the socket */
const mouth = computed(() => W - 24 - px(depth.value) - shell.value)
const end = computed(() => mouth.value + (inside.value === null ? -24 : px(inside.value)))
const [onDepth, onSight] = [strong('depth'), strong('sight')]
</script>

<template>
  <svg
    :viewBox="`0 0 ${W} ${H}`"
    class="drawing"
    role="group"
    :aria-label="
      `Socket ${len(depth)} deep${mark2 ? `, sight mark at ${len(mark2)}` : ''}` +
      `${inside !== null ? `, pipe ${len(inside)} in` : ''}`
    "
  >
    <path
      class="fitting"
      :d="
        `M${mouth} ${axis - radius - shell}H${W - 8}V${axis + radius + shell}H${mouth}V` +
        `${axis + radius}H${mouth + px(depth)}V${axis - radius}H${mouth}Z`
      "
    />
    <rect
      class="body"
      x="-4"
      :y="axis - radius + 1.5"
      :width="end + 4"
      :height="2 * radius - 3"
      :opacity="0.94"
    />
    <g v-if="flag('inside')">
      <rect
        x="-4"
        :y="axis - radius + shell"
        :width="end - px(mark1 ?? 0) + 4"
        :height="2 * radius - 2 * shell"
        fill="var(--paper)"
        opacity="0.5"
      />
    </g>
    <line
      v-if="mark1"
      :x1="end - px(mark1)"
      :x2="end - px(mark1)"
      :y1="axis - radius"
      :y2="axis + radius"
      :stroke="onDepth ? 'var(--line)' : 'var(--ink)'"
      :stroke-width="onDepth ? 4 : 2.5"
      stroke-dasharray="7 4"
    />
    <line
      v-if="mark2"
      :x1="end - px(mark2)"
      :x2="end - px(mark2)"
      :y1="axis - radius - 10"
      :y2="axis + radius"
      :stroke="onSight ? 'var(--line)' : 'var(--ink)'"
      :stroke-width="onSight ? 4 : 2.5"
    />
    <line class="centre" x1="0" :x2="W" :y1="axis" :y2="axis" />
    <DrawnDimension
      :x1="mouth"
      :x2="mouth + px(depth)"
      :y="28"
      :from="axis - radius - shell"
      :label="`socket ${mm(depth)}`"
    />
    <DrawnDimension
      v-if="mark1"
      :x1="end - px(mark1)"
      :x2="end"
      :y="axis + radius + shell + 34"
      :from="axis + radius"
      :label="`depth ${mm(mark1)}`"
      place="left"
      :strong="onDepth"
      :tap="tappable('mark1')"
      @tap="$emit('tap', 'mark1')"
    />
    <DrawnDimension
      v-if="mark2"
      :x1="end - px(mark2)"
      :x2="end"
      :y="axis + radius + shell + 70"
      :from="axis + radius"
      :label="`sight ${mm(mark2)}`"
      :strong="onSight"
      :tap="tappable('mark2')"
      place="right"
      @tap="$emit('tap', 'mark2')"
    />
    <DrawnDimension
      v-if="measured !== null"
      :x1="end - px(mark2 ?? 0)"
      :x2="mouth"
      :y="axis - radius - shell - 8"
      :from="axis - radius"
      :label="mm(measured)"
      strong
      :tap="tappable('readings')"
      @tap="$emit('tap', 'readings')"
    />
    <text v-if="inside !== null" x="6" :y="H - 6" class="sum">{{ mm(inside) }} in of {{ mm(depth) }}</text>
    <text :x="W - 4" :y="H - 4" text-anchor="end" class="name">{{ unitShown('mm') }}, to scale</text>
  </svg>
</template>
