<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { scaleLinear } from 'd3-scale'
import { computed, ref } from 'vue'
import type { GroutLog } from '#core/embedment/grout-log'
import { showDuration, showQuantity } from '#core/quantity/show'
import { unitShown } from '#core/quantity/site-units'
import { siteTicks } from '~/drawings/site-ticks'

/** How the grout pressed at the invert as it was pumped, against what the pipe bears; and what went in. */
const props = defineProps<{ log: GroutLog }>()
const box = ref<HTMLElement | null>(null)
const { width } = useElementSize(box)
const HEIGHT = 220
const [LEFT, RIGHT, TOP, FOOT] = [58, 14, 22, 30]
const last = computed(() => props.log.readings.at(-1)!)
const x = computed(() =>
  scaleLinear()
    .domain([0, Math.max(60, last.value.t)])
    .range([LEFT, Math.max(LEFT + 40, width.value - RIGHT)]),
)
const y = computed(() =>
  scaleLinear()
    .domain([0, Math.max(props.log.limit, ...props.log.readings.map((r) => r.there)) * 1.08])
    .range([HEIGHT - FOOT, TOP]),
)
/** what went in, over the same time; the room around the pipe is the height of the limit */
const filled = computed(() => {
  const { readings, room, limit } = props.log
  if (room === null) return ''
  const points = readings.map((r) => `${x.value(r.t)},${y.value(Math.min(1.05, r.volume / room) * limit)}`)
  return `${x.value(readings[0]!.t)},${HEIGHT - FOOT} ${points.join(' ')} ${x.value(last.value.t)},${HEIGHT - FOOT}`
})
const line = computed(() => props.log.readings.map((r) => `${x.value(r.t)},${y.value(r.there)}`).join(' '))
const over = computed(() => props.log.readings.filter((r) => r.there > props.log.limit))
const kPa = (v: number) => showQuantity(v, 'pressure', 'kPa', 2)
const said = computed(
  () =>
    `${kPa(last.value.there)} at the invert after ${showDuration(last.value.t)}, the pipe bears ${kPa(props.log.limit)}`,
)
</script>

<template>
  <figure ref="box" class="grout">
    <svg v-if="width > 0" :width="width" :height="HEIGHT" role="img" :aria-label="said">
      <polygon v-if="filled" :points="filled" fill="var(--soil)" opacity="0.55" />
      <g v-for="t in siteTicks(0, y.domain()[1]!, 4, 'kPa')" :key="t.at">
        <line :x1="LEFT" :x2="width - RIGHT" :y1="y(t.at)" :y2="y(t.at)" stroke="var(--hair)" />
        <text :x="LEFT - 6" :y="y(t.at) + 5" text-anchor="end">{{ t.text }}</text>
      </g>
      <line
        :x1="LEFT"
        :x2="width - RIGHT"
        :y1="y(log.limit)"
        :y2="y(log.limit)"
        stroke="var(--rejected)"
        stroke-width="2"
      />
      <text :x="width - RIGHT" :y="y(log.limit) - 6" text-anchor="end" class="limit">
        the pipe bears {{ kPa(log.limit) }}
      </text>
      <line
        :x1="LEFT"
        :x2="width - RIGHT"
        :y1="y(log.warn)"
        :y2="y(log.warn)"
        stroke="var(--held)"
        stroke-width="1.5"
        stroke-dasharray="6 5"
      />
      <polyline :points="line" fill="none" stroke="var(--ink)" stroke-width="2.5" />
      <circle v-for="r in over" :key="r.t" :cx="x(r.t)" :cy="y(r.there)" r="5" fill="var(--rejected)" />
      <circle :cx="x(last.t)" :cy="y(last.there)" r="4.5" fill="var(--ink)" />
      <text :x="LEFT" :y="HEIGHT - 8">start</text>
      <text :x="width - RIGHT" :y="HEIGHT - 8" text-anchor="end">
        after {{ showDuration(x.domain()[1]!) }}
      </text>
    </svg>
    <figcaption class="muted small">
      Pressure at the invert, {{ unitShown('kPa') }}; dashed: a caution is said from here.
      <template v-if="log.room !== null"
        >Shaded: {{ showQuantity(last.volume, 'volume', 'm³', 2) }} of
        {{ showQuantity(log.room, 'volume', 'm³', 2) }} around the pipe.</template
      >
    </figcaption>
  </figure>
</template>

<style scoped>
.grout {
  width: 100%;
  margin: 14px 0 0;
}
svg {
  display: block;
}
text {
  font-size: 14px;
  fill: var(--muted);
}
.limit {
  fill: var(--rejected);
  font-weight: 600;
}
figcaption {
  margin-top: 6px;
}
</style>
