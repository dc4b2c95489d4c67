<script setup lang="ts">
import { computed } from 'vue'
import { layTrace } from '#core/tracing/graph'
import { stateColour } from './strip-runs'
import { traceGraph, type Trace } from './trace-graph'

/** A trace as a graph: columns from what came in to where it lies. Each node leads to its own sheet. */
const props = defineProps<{ trace: Trace; width: number }>()
const NODE = { w: 190, h: 38 }
const layout = computed(() => {
  const { nodes, edges } = traceGraph(props.trace)
  const columns = new Set(nodes.map((n) => n.column)).size
  return layTrace(nodes, edges, { x: Math.max(NODE.w + 40, props.width / Math.max(1, columns)), y: 46 })
})
const height = computed(() => Math.max(160, layout.value.height))
const kinds: Record<string, string> = {
  delivery: 'Delivery',
  lot: 'Lot',
  instrument: 'Instrument',
  person: 'Operator',
  crew: 'Crew',
  procedure: 'Procedure',
  joint: 'Joint',
  yard: 'Yard',
  reach: 'Reach',
  pack: 'Test pack',
  origin: '',
}
const colour = (state: string | null) =>
  state && state in stateColour ? stateColour[state as keyof typeof stateColour] : 'var(--muted)'
const clip = (text: string) => (text.length > 23 ? `${text.slice(0, 22)}…` : text)
</script>

<template>
  <svg
    :viewBox="`0 0 ${layout.width} ${height}`"
    :width="layout.width"
    :height="height"
    class="graph"
    role="group"
    aria-label="What this touches; the list below reads the same"
  >
    <path
      v-for="(e, i) in layout.edges"
      :key="i"
      fill="none"
      stroke="var(--line)"
      stroke-opacity="0.55"
      :stroke-width="Math.min(9, 1.2 + Math.log2(e.count))"
      :d="
        `M${e.from.x + NODE.w / 2} ${e.from.y}C${(e.from.x + e.to.x) / 2} ${e.from.y} ` +
        `${(e.from.x + e.to.x) / 2} ${e.to.y} ${e.to.x - NODE.w / 2} ${e.to.y}`
      "
    />
    <component
      :is="n.to ? 'a' : 'g'"
      v-for="n in layout.nodes"
      :key="n.id"
      :href="n.to ?? undefined"
      :aria-label="`${kinds[n.kind]} ${n.label}`"
      @click="
        (event: MouseEvent) => {
          if (n.to) {
            event.preventDefault()
            navigateTo(n.to)
          }
        }
      "
    >
      <rect
        :x="n.x - NODE.w / 2"
        :y="n.y - NODE.h / 2"
        :width="NODE.w"
        :height="NODE.h"
        rx="3"
        :fill="n.kind === 'origin' ? 'var(--line)' : 'var(--card)'"
        :stroke="n.kind === 'origin' ? 'var(--line)' : 'var(--hair)'"
        stroke-width="1.5"
      />
      <rect
        v-if="n.kind !== 'origin'"
        :x="n.x - NODE.w / 2"
        :y="n.y - NODE.h / 2"
        width="5"
        :height="NODE.h"
        :fill="colour(n.state)"
      />
      <text :x="n.x - NODE.w / 2 + 14" :y="n.y + 6" :class="{ origin: n.kind === 'origin', leads: n.to }">
        {{ clip(n.label) }}
      </text>
    </component>
  </svg>
</template>

<style scoped>
.graph {
  display: block;
}
text {
  font-size: 15px;
  fill: var(--ink);
}
text.leads {
  text-decoration: underline;
  text-decoration-color: var(--muted);
}
text.origin {
  fill: var(--on-line);
  font-weight: 650;
}
</style>
