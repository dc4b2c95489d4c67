<script setup lang="ts">
import { computed, ref } from 'vue'

/**
 * How often a lot of a given share of bad items is accepted, with the two promises of the plan marked.
 * Readable as a table.
 */
const props = defineProps<{
  points: { share: number; accepted: number }[]
  plan: { catches: number; consumerRisk: number; producerRisk: number }
}>()
const [W, H, L, B, T, R] = [430, 230, 46, 40, 12, 14]
const most = 0.3
const x = (share: number) => L + (share / most) * (W - L - R)
const y = (accepted: number) => H - B - accepted * (H - B - T)
const line = computed(() =>
  props.points.map((p, i) => `${i ? 'L' : 'M'}${x(p.share).toFixed(1)} ${y(p.accepted).toFixed(1)}`).join(''),
)
const ticks = [0, 0.1, 0.2, 0.3]
const table = ref(false)
</script>

<template>
  <figure>
    <svg
      v-if="!table"
      :viewBox="`0 0 ${W} ${H}`"
      role="img"
      aria-label="Operating characteristic: chance of acceptance by share of bad items"
    >
      <g v-for="a in [0, 0.5, 1]" :key="a">
        <line :x1="L" :x2="W - R" :y1="y(a)" :y2="y(a)" stroke="var(--hair)" />
        <text :x="L - 8" :y="y(a) + 5" text-anchor="end" class="muted">{{ a * 100 }}</text>
      </g>
      <text v-for="t in ticks" :key="t" :x="x(t)" :y="H - B + 18" text-anchor="middle" class="muted">
        {{ (t * 100).toFixed(0) }}
      </text>
      <text :x="(L + W - R) / 2" :y="H - 4" text-anchor="middle" class="muted">% bad in the lot</text>
      <text :x="L + 6" :y="T + 8" class="muted" dy="10">% accepted</text>
      <path
        :d="`M${x(plan.catches)} ${y(0)}V${y(plan.consumerRisk)}H${L}`"
        fill="none"
        stroke="var(--rejected)"
        stroke-dasharray="5 4"
      />
      <path :d="line" fill="none" stroke="var(--line)" stroke-width="3" />
      <circle
        :cx="x(plan.catches)"
        :cy="y(plan.consumerRisk)"
        r="6"
        fill="var(--rejected)"
        stroke="var(--card)"
        stroke-width="2"
      />
    </svg>
    <div v-else class="scroll" tabindex="0" role="region" aria-label="Chance of acceptance">
      <table class="figures">
        <thead>
          <tr>
            <th class="number">% bad</th>
            <th class="number">% accepted</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="p in points" :key="p.share">
            <td class="number">{{ (p.share * 100).toFixed(2) }}</td>
            <td class="number">{{ (p.accepted * 100).toFixed(2) }}</td>
          </tr>
        </tbody>
      </table>
    </div>
    <button type="button" class="swap" @click="table = !table">
      {{ table ? 'As a curve' : 'As a table' }}
    </button>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
}
svg {
  display: block;
  width: 100%;
}
text {
  font-size: 14px;
  fill: var(--ink);
}
text.muted {
  fill: var(--muted);
}
.scroll {
  height: 230px;
  overflow: auto;
}
.swap {
  min-height: 44px;
  padding: 0;
  border: 0;
  background: none;
  color: var(--line);
  font-weight: 600;
  text-decoration: underline;
  cursor: pointer;
}
</style>
