<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, useTemplateRef } from 'vue'
import type { DimensionKey } from '#core/quantity/dimension'
import { howSure } from '#core/checks/readings'
import type { Finding } from '#core/checks/verdict'
import { showBare, showQuantity } from '#core/quantity/show'

/** Limits, the strip where it is too close to call, and the reading with its uncertainty. SI in. */
const props = defineProps<{
  title: string
  dimension: DimensionKey
  unit: string
  min: number | null
  max: number | null
  value?: number | null
  uncertainty?: number
  reading?: Finding['reading']
  verdict?: string | null
}>()

const figure = useTemplateRef<HTMLElement>('figure')
const { width } = useElementSize(figure)
/** drawn at the width it has, so that its figures keep their size */
const W = computed(() => Math.max(220, Math.min(620, width.value || 560)))
const span = computed(() => {
  const { min, max, value } = props
  const u = props.uncertainty ?? 0
  const known = [
    min,
    max,
    value === undefined || value === null ? null : value - u,
    value === undefined || value === null ? null : value + u,
  ].filter((v): v is number => v !== null)
  let low = Math.min(...known)
  let high = Math.max(...known)
  if (min === null && low >= 0) low = Math.min(low, 0)
  if (high === low)
    [low, high] = [low - Math.max(1, Math.abs(low) * 0.1), high + Math.max(1, Math.abs(high) * 0.1)]
  const pad = (high - low) * 0.12
  return { low: min === null && low === 0 ? 0 : low - pad, high: high + pad }
})
const x = (v: number) => ((v - span.value.low) / (span.value.high - span.value.low)) * (W.value - 24) + 12
const left = computed(() => (props.min === null ? 0 : x(props.min)))
const right = computed(() => (props.max === null ? W.value : x(props.max)))
const guard = computed(() => {
  const u = props.uncertainty ?? 0
  if (u === 0) return []
  return [props.min, props.max]
    .filter((v): v is number => v !== null)
    .map((v) => ({ x: x(v - u), width: x(v + u) - x(v - u) }))
})
const colour = computed(
  () =>
    ({ accept: 'var(--accepted)', reject: 'var(--rejected)', 'too-close': 'var(--too-close)' })[
      props.verdict ?? ''
    ] ?? 'var(--ink)',
)
const shown = computed(() => (props.value === null || props.value === undefined ? null : x(props.value)))
const label = computed(() => {
  const show = (v: number) => showQuantity(v, props.dimension, props.unit)
  const range =
    props.min !== null && props.max !== null
      ? props.min === props.max
        ? `exactly ${show(props.min)}`
        : `${show(props.min)} to ${show(props.max)}`
      : props.max !== null
        ? `at most ${show(props.max)}`
        : `at least ${show(props.min!)}`
  return `${props.title}: ${range}`
})
</script>

<template>
  <figure ref="figure" class="bar">
    <figcaption>
      {{ label
      }}<span v-if="uncertainty" class="muted">
        · {{ howSure({ uncertainty, dimension, unit, reading: reading ?? null }) }}</span
      >
    </figcaption>
    <svg :viewBox="`0 0 ${W} 66`" role="img" :aria-label="label">
      <defs>
        <pattern id="guard" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <rect width="6" height="6" fill="var(--card)" />
          <rect width="2.5" height="6" fill="var(--too-close)" />
        </pattern>
      </defs>
      <rect x="0" y="22" :width="W" height="14" fill="color-mix(in srgb, var(--rejected) 22%, var(--card))" />
      <rect
        :x="left"
        y="22"
        :width="Math.max(2, right - left)"
        height="14"
        fill="color-mix(in srgb, var(--accepted) 45%, var(--card))"
      />
      <rect v-for="g in guard" :key="g.x" :x="g.x" y="22" :width="g.width" height="14" fill="url(#guard)" />
      <g v-for="limit in [min, max === min ? null : max]" :key="String(limit)">
        <template v-if="limit !== null">
          <line :x1="x(limit)" :x2="x(limit)" y1="18" y2="42" stroke="var(--ink)" stroke-width="2" />
          <text
            :x="Math.min(W - 4, Math.max(4, x(limit)))"
            y="58"
            :text-anchor="x(limit) > W - 40 ? 'end' : x(limit) < 40 ? 'start' : 'middle'"
            font-size="15"
            fill="var(--muted)"
          >
            {{ showBare(limit, unit) }}
          </text>
        </template>
      </g>
      <g v-if="shown !== null" :stroke="colour" :fill="colour">
        <line
          v-if="uncertainty"
          :x1="x(value! - uncertainty)"
          :x2="x(value! + uncertainty)"
          y1="11"
          y2="11"
          stroke-width="3"
        />
        <path :d="`M${shown} 34l-9 -20h18z`" stroke="var(--card)" stroke-width="1.5" />
      </g>
    </svg>
  </figure>
</template>

<style scoped>
.bar {
  margin: 0;
}
figcaption {
  font-size: var(--s16);
  margin-bottom: 2px;
}
svg {
  display: block;
  width: 100%;
  max-width: 620px;
  height: auto;
}
</style>
