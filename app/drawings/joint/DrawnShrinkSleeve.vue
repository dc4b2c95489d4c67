<script setup lang="ts">
import { unitShown } from '#core/quantity/site-units'
import { useDrawn, type DrawnEmits, type DrawnProps } from '../useDrawn'

/**
 * A shrink sleeve over a casing joint, to scale along the pipe: bare ends, preheat bands, edge lines, or
 * the wrap-around tape.
 */
const props = defineProps<DrawnProps>()
defineEmits<DrawnEmits>()
const { num, mm, tappable, strong, show, len } = useDrawn(props)
const W = 404
const mid = W / 2
const axis = 152
const jacket = computed(() => num('jacket') ?? 0.2)
const bare = computed(() => num('bare') ?? 0.2)
const length = computed(() => num('length') ?? bare.value * 3)
const scale = computed(() => Math.min((W - 40) / (length.value * 1.25), 150 / jacket.value))
const px = (m: number) => m * scale.value
const r = computed(() => px(jacket.value / 2))
const carrier = computed(() => px((num('carrier') ?? jacket.value * 0.55) / 2))
const line = computed(() => num('line'))
const wrap = computed(() => num('wrap'))
const [onPreheat, onEdge, onWrap] = [strong('preheat'), strong('edge'), strong('wrap')]
const readings = computed(() => props.readings ?? [])
</script>

<template>
  <svg
    :viewBox="`0 0 ${W} 330`"
    class="drawing"
    role="group"
    :aria-label="`Jacket ${len(jacket)}, bare ends ${len(bare)}, sleeve ${len(length)}`"
  >
    <rect
      x="-4"
      :y="axis - carrier"
      :width="W + 8"
      :height="2 * carrier"
      fill="var(--pipe-dark)"
      stroke="var(--ink)"
    />
    <g v-for="(s, i) in [-1, 1]" :key="s">
      <rect
        class="body"
        :x="s < 0 ? -4 : mid + px(bare)"
        :y="axis - r"
        :width="mid - px(bare) + 4"
        :height="2 * r"
      />
      <rect
        :x="s < 0 ? mid - px(length / 2) : mid + px(bare)"
        :y="axis - r"
        :width="Math.max(0, px(length / 2 - bare))"
        :height="2 * r"
        :fill="onPreheat ? 'var(--held)' : 'color-mix(in srgb, var(--held) 35%, var(--card))'"
        opacity="0.6"
      />
      <text
        v-if="readings[i] !== undefined"
        :x="mid + s * (px(length / 2) + 4)"
        :y="axis - r - 10"
        :text-anchor="s < 0 ? 'end' : 'start'"
        font-weight="650"
        :class="{ tap: tappable('readings') }"
        @click="$emit('tap', 'readings')"
      >
        {{ show(readings[i]!, 'temperature', '°C', 3) }}
      </text>
      <line
        v-if="line !== null"
        :x1="mid + s * px(line)"
        :x2="mid + s * px(line)"
        :y1="axis - r - 18"
        :y2="axis + r + 18"
        :stroke="onEdge ? 'var(--line)' : 'var(--ink)'"
        :stroke-width="onEdge ? 4 : 2"
      />
    </g>
    <line
      :x1="mid"
      :x2="mid"
      :y1="axis - carrier"
      :y2="axis + carrier"
      stroke="var(--ink)"
      stroke-width="4"
    />
    <rect
      :x="mid - px(length / 2)"
      :y="axis - r - 7"
      :width="px(length)"
      :height="2 * r + 14"
      fill="none"
      :stroke="onWrap ? 'var(--line)' : 'var(--fitting)'"
      stroke-width="6"
    />
    <line class="centre" x1="0" :x2="W" :y1="axis" :y2="axis" />
    <DrawnDimension
      :x1="mid - px(length / 2)"
      :x2="mid + px(length / 2)"
      :y="28"
      :from="axis - r - 10"
      :label="`sleeve ${mm(length)}`"
    />
    <DrawnDimension
      :x1="mid"
      :x2="mid + px(bare)"
      :y="axis + r + 40"
      :from="axis + carrier"
      :label="`bare ${mm(bare)}`"
    />
    <DrawnDimension
      v-if="line !== null"
      :x1="mid - px(line)"
      :x2="mid"
      :y="axis + r + 76"
      :from="axis + r + 20"
      :label="`edge line ${mm(line)}`"
      :strong="onEdge"
      :tap="tappable('line')"
      @tap="$emit('tap', 'line')"
    />
    <text
      v-if="wrap !== null"
      :x="mid"
      :y="axis + r + 90"
      text-anchor="middle"
      class="sum"
      :class="{ tap: tappable('wrap') }"
      @click="$emit('tap', 'wrap')"
    >
      tape {{ len(wrap) }} round ⌀ {{ mm(jacket) }}
    </text>
    <text :x="W - 4" y="326" text-anchor="end" class="name">
      shaded: warmed before shrinking; {{ unitShown('mm') }}, to scale
    </text>
  </svg>
</template>
