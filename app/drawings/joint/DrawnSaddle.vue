<script setup lang="ts">
import { unitShown } from '#core/quantity/site-units'
import { useDrawn, type DrawnEmits, type DrawnProps } from '../useDrawn'

/**
 * A saddle on its main, to scale: the washed length, the peeled band past both marks, and where its edge
 * comes.
 */
const props = defineProps<DrawnProps>()
defineEmits<DrawnEmits>()
const { num, mm, tappable, strong, len } = useDrawn(props)
const W = 404
const axis = 172
const od = computed(() => num('od') ?? 0.1)
const width = computed(() => num('width') ?? 0.1)
const washed = computed(() => num('washed') ?? props.readings?.[0] ?? null)
const scale = computed(() =>
  Math.min((W - 30) / Math.max(3.4 * width.value, (washed.value ?? 0) * 1.08), 150 / od.value),
)
const px = (m: number) => m * scale.value
const mid = W / 2
const r = computed(() => px(od.value / 2))
const half = computed(() => px(width.value / 2))
const band = computed(() => half.value + 8)
const outlet = computed(() => Math.max(14, px(num('outlet') ?? od.value / 4)))
const [onWashed, onBand, onPosition] = [strong('washed'), strong('band'), strong('position')]
</script>

<template>
  <svg
    :viewBox="`0 0 ${W} 330`"
    class="drawing"
    role="group"
    :aria-label="`Saddle ${len(width)} wide${washed ? `, washed ${len(washed)}` : ''}`"
  >
    <defs>
      <pattern id="band" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <rect width="5" height="5" fill="var(--card)" />
        <rect width="1.6" height="5" fill="var(--muted)" />
      </pattern>
    </defs>
    <rect class="body" x="-4" :y="axis - r" :width="W + 8" :height="2 * r" />
    <rect
      v-if="washed"
      :x="mid - px(washed) / 2"
      :y="axis - r"
      :width="px(washed)"
      :height="2 * r"
      fill="color-mix(in srgb, var(--waiting) 16%, var(--card))"
      stroke="var(--waiting)"
      stroke-dasharray="5 4"
    />
    <rect
      :x="mid - band"
      :y="axis - r"
      :width="2 * band"
      :height="2 * r"
      fill="url(#band)"
      :stroke="onBand ? 'var(--line)' : 'var(--ink)'"
      :stroke-width="onBand ? 4 : 1"
    />
    <path
      class="fitting"
      :d="
        `M${mid - half} ${axis - r * 0.2}V${axis - r - 12}H${mid - outlet / 2 - 6}V` +
        `${axis - r - 60}H${mid + outlet / 2 + 6}V${axis - r - 12}H${mid + half}V` +
        `${axis - r * 0.2}Z`
      "
      opacity="0.88"
    />
    <rect :x="mid - outlet / 2" :y="axis - r - 60" :width="outlet" height="26" fill="var(--paper)" />
    <line class="centre" x1="0" :x2="W" :y1="axis" :y2="axis" />
    <g v-if="onPosition">
      <line
        v-for="s in [-1, 1]"
        :key="s"
        :x1="mid + s * half"
        :x2="mid + s * half"
        :y1="axis - r - 8"
        :y2="axis + r + 8"
        stroke="var(--line)"
        stroke-width="4"
      />
    </g>
    <DrawnDimension
      :x1="mid - half"
      :x2="mid + half"
      :y="24"
      :from="axis - r - 70"
      :label="`saddle ${mm(width)}`"
    />
    <DrawnDimension
      v-if="washed"
      :x1="mid - px(washed) / 2"
      :x2="mid + px(washed) / 2"
      :y="axis + r + 34"
      :from="axis + r"
      :label="`washed ${mm(washed)}`"
      :strong="onWashed"
      :tap="tappable('washed')"
      @tap="$emit('tap', 'washed')"
    />
    <text x="6" :y="axis + r - 8" class="name">⌀ {{ mm(od) }}</text>
    <text :x="W - 4" y="326" text-anchor="end" class="name">
      {{ unitShown('mm') }}, to scale; three times the saddle is washed
    </text>
  </svg>
</template>
