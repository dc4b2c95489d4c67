<script setup lang="ts">
import { unitShown } from '#core/quantity/site-units'
import { useDrawn, type DrawnEmits, type DrawnProps } from '../useDrawn'

/**
 * Section of a sleeve coupling: pipe ends and their gap, sleeve, end rings, gaskets, and the marks at
 * half its width.
 */
const props = defineProps<DrawnProps>()
defineEmits<DrawnEmits>()
const { num, mm, tappable, strong, len } = useDrawn(props)
const W = 404
const mid = W / 2
const top = 112
const width = computed(() => num('width') ?? 0.2)
const scale = computed(() => 236 / width.value)
const px = (m: number) => m * scale.value
const gap = computed(() => num('gap'))
const g = computed(() => Math.max(4, px(gap.value ?? width.value * 0.08)))
const half = computed(() => px(width.value / 2))
const mark = computed(() => num('mark'))
const [onMark, onRings, onGasket, onSleeve] = [
  strong('mark'),
  strong('rings'),
  strong('gasket'),
  strong('sleeve'),
]
const sides = [-1, 1]
/** measured mark to sleeve shifts the sleeve toward the larger distance */
const shift = computed(() =>
  props.readings?.length === 2 ? px((props.readings[1]! - props.readings[0]!) / 2) : 0,
)
</script>

<template>
  <svg
    :viewBox="`0 0 ${W} 330`"
    class="drawing"
    role="group"
    :aria-label="`Coupling ${len(width)} wide${gap ? `, gap ${len(gap)}` : ''}`"
  >
    <g v-for="s in sides" :key="s">
      <rect class="body" :x="s < 0 ? -4 : mid + g / 2" :y="top" :width="mid - g / 2 + 4" height="24" />
      <line
        v-if="mark !== null"
        :x1="mid + s * (g / 2 + px(mark))"
        :x2="mid + s * (g / 2 + px(mark))"
        :y1="top - 22"
        :y2="top + 34"
        :stroke="onMark || onSleeve ? 'var(--line)' : 'var(--ink)'"
        :stroke-width="onMark ? 4 : 2.5"
      />
      <!-- gasket: the thick side faces its ring -->
      <path
        :d="`M${mid + shift + s * (half - 26)} ${top}h${s * 22}v-20l${-s * 22} 14z`"
        fill="var(--held)"
        :stroke="onGasket ? 'var(--line)' : 'none'"
        stroke-width="4"
      />
      <path
        class="fitting"
        :d="`M${mid + shift + s * (half - 4)} ${top - 2}h${s * 16}v-62h${-s * 16}v30l${-s * 14} 10v8l${s * 14} 2z`"
        :stroke="onRings ? 'var(--line)' : 'none'"
        stroke-width="4"
      />
    </g>
    <path
      class="fitting"
      :d="`M${mid + shift - half + 26} ${top - 8}v-14h${2 * half - 52}v14z`"
      opacity="0.75"
      :stroke="onSleeve ? 'var(--line)' : 'none'"
      stroke-width="4"
    />
    <path
      :d="`M${mid + shift - half - 22} ${top - 50}H${mid + shift + half + 22}`"
      stroke="var(--ink)"
      stroke-width="5"
    />
    <line class="centre" x1="0" :x2="W" :y1="top + 92" :y2="top + 92" />
    <DrawnDimension
      :x1="mid - half"
      :x2="mid + half"
      :y="26"
      :from="top - 64"
      :label="`coupling ${mm(width)}`"
    />
    <DrawnDimension
      :x1="mid - g / 2"
      :x2="mid + g / 2"
      :y="top + 52"
      :from="top + 26"
      :label="gap === null ? 'setting gap' : `gap ${mm(gap)}`"
      place="right"
      :tap="tappable('gap')"
      @tap="$emit('tap', 'gap')"
    />
    <DrawnDimension
      v-if="mark !== null"
      :x1="mid - g / 2 - px(mark)"
      :x2="mid - g / 2"
      :y="top + 128"
      :from="top + 30"
      :label="`mark ${mm(mark)}`"
      :strong="onMark"
      :tap="tappable('mark')"
      @tap="$emit('tap', 'mark')"
    />
    <text
      v-if="readings?.length === 2"
      :x="mid"
      :y="top + 178"
      text-anchor="middle"
      class="sum"
      :class="{ tap: tappable('readings') }"
      @click="$emit('tap', 'readings')"
    >
      mark to sleeve {{ mm(readings[0]!) }} | {{ mm(readings[1]!) }}
    </text>
    <text x="6" :y="top + 86" class="name">⌀ {{ mm(num('od')) }}</text>
    <text :x="W - 4" y="326" text-anchor="end" class="name">
      section; widths in {{ unitShown('mm') }}, to scale
    </text>
  </svg>
</template>
