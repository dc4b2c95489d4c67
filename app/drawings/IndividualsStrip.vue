<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import { scaleLinear } from 'd3-scale'
import { individuals } from '#core/calculators/individuals'
import { showNumber } from '#core/quantity/show'

/** One figure after the other with its mean and three-sigma limits; what the run rules say is marked. */
const props = defineProps<{
  title: string
  values: readonly { name: string; value: number }[]
  unit: string
  here?: string | null
}>()
const box = ref<HTMLElement | null>(null)
const { width } = useElementSize(box)
const HEIGHT = 170
const LEFT = 52
const chart = computed(() => individuals(props.values.map((v) => v.value)))
const x = computed(() =>
  scaleLinear()
    .domain([0, Math.max(1, props.values.length - 1)])
    .range([LEFT + 10, Math.max(LEFT + 20, width.value - 14)]),
)
const y = computed(() => {
  const all = [...props.values.map((v) => v.value), chart.value.upper, chart.value.lower]
  const [low, high] = [all.reduce((a, b) => Math.min(a, b)), all.reduce((a, b) => Math.max(a, b))]
  const room = (high - low || 1) * 0.08
  return scaleLinear()
    .domain([low - room, high + room])
    .range([HEIGHT - 16, 10])
})
const rules: Record<string, string> = {
  beyond: 'outside three sigma',
  run: 'nine in a row on one side',
  trend: 'six in a row going one way',
}
const signals = computed(() =>
  chart.value.signals.map((s) => {
    const [at, rule] = s.split(':') as [string, string]
    return { at: Number(at) - 1, rule: rules[rule] ?? rule }
  }),
)
const marked = computed(() => new Set(signals.value.map((s) => s.at)))
const line = computed(() => props.values.map((v, i) => `${x.value(i)},${y.value(v.value)}`).join(' '))
const said = computed(() => {
  const last = signals.value.at(-1)
  return last ? `${props.values[last.at]!.name}: ${last.rule}.` : 'No signal: it runs as it did.'
})
</script>

<template>
  <figure ref="box" class="individuals">
    <figcaption>
      <strong>{{ title }}</strong> <span :class="{ signal: signals.length > 0 }">{{ said }}</span>
    </figcaption>
    <svg v-if="width > 0" :width="width" :height="HEIGHT" role="img" :aria-label="`${title}. ${said}`">
      <g v-for="l in ['upper', 'mean', 'lower'] as const" :key="l">
        <line
          :x1="LEFT"
          :x2="width - 6"
          :y1="y(chart[l])"
          :y2="y(chart[l])"
          :stroke="l === 'mean' ? 'var(--ink)' : 'var(--muted)'"
          :stroke-dasharray="l === 'mean' ? undefined : '6 5'"
          stroke-width="1"
        />
        <text :x="LEFT - 6" :y="y(chart[l]) + 5" text-anchor="end">
          {{ showNumber(chart[l], 3) }}
        </text>
      </g>
      <polyline :points="line" fill="none" stroke="var(--muted)" stroke-width="1.5" />
      <circle
        v-for="(v, i) in values"
        :key="v.name"
        :cx="x(i)"
        :cy="y(v.value)"
        :r="marked.has(i) ? 6 : v.name === here ? 5.5 : 3.5"
        :fill="marked.has(i) ? 'var(--held)' : 'var(--line)'"
        :stroke="v.name === here ? 'var(--ink)' : 'none'"
        stroke-width="2.5"
      >
        <title>{{ v.name }}: {{ showNumber(v.value, 3) }} {{ unit }}</title>
      </circle>
    </svg>
  </figure>
</template>

<style scoped>
.individuals {
  margin: 16px 0 0;
  width: 100%;
}
figcaption {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  margin-bottom: 4px;
}
.signal {
  color: var(--held);
  font-weight: 600;
}
svg {
  display: block;
}
text {
  font-size: 13px;
  fill: var(--muted);
}
</style>
