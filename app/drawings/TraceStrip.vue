<script setup lang="ts">
/** Where the touched joints lie on each line, one thread a line. */
const props = defineProps<{
  lines: { id: string; name: string; from: number; to: number; stations: number[] }[]
  width: number
}>()
const LEFT = 170
const x = (l: { from: number; to: number }, s: number) =>
  LEFT + ((s - l.from) / Math.max(1, l.to - l.from)) * Math.max(10, props.width - LEFT - 20)
/** neighbours that share a pixel are one mark */
const marks = (l: (typeof props.lines)[number]) => [
  ...new Set(l.stations.map((s) => Math.round(x(l, s) / 2) * 2)),
]
</script>

<template>
  <svg
    v-if="width > 0"
    :width="width"
    :height="lines.length * 44"
    role="img"
    :aria-label="lines.map((l) => `${l.name}: ${l.stations.length} joints`).join(', ')"
  >
    <g v-for="(l, i) in lines" :key="l.id" :transform="`translate(0 ${i * 44})`">
      <text x="0" y="20">{{ l.name }}</text>
      <text x="0" y="37" class="muted">
        {{ l.stations.length }} {{ l.stations.length === 1 ? 'joint' : 'joints' }}
      </text>
      <line :x1="LEFT" :x2="width - 20" y1="22" y2="22" stroke="var(--muted)" stroke-width="2" />
      <rect v-for="m in marks(l)" :key="m" :x="m - 1.5" y="12" width="3" height="20" fill="var(--line)" />
    </g>
  </svg>
</template>

<style scoped>
text {
  font-size: 15px;
  fill: var(--ink);
}
text.muted {
  font-size: 13px;
  fill: var(--muted);
}
</style>
