<script setup lang="ts">
import type { Analysis } from '#core/pressure/analysis'
import { showBare, showNumber, showQuantity } from '#core/quantity/show'

/** What a log says beyond its verdict, each with how it was worked out. */
const props = defineProps<{ analysis: Analysis }>()
const litres = (v: number, digits = 3) => showQuantity(v / 3.6e6, 'flow', 'L/h', digits)
const kPa = (v: number) => showQuantity(v, 'pressure', 'kPa', 3)
const rate = (perSecond: number) => `${showQuantity(perSecond * 3600, 'pressure', 'kPa', 3)}/h`
const rows = computed(() => {
  const a = props.analysis
  const out: { title: string; value: string; how: string; warn?: boolean }[] = []
  if (a.slope)
    out.push({
      title: 'Trend of the hold',
      value: `${rate(a.slope.slope)} ± ${showBare(a.slope.half * 3600, 'kPa', 2)}`,
      how: 'median of all slopes; 95 % interval, widened for readings that hang together',
    })
  if (a.temperature)
    out.push({
      title: 'What the temperature did',
      value: kPa(a.temperature.k * a.temperature.moved),
      how: 'Pa a kelvin × how far the water moved; taken out before the trend',
    })
  if (a.leak !== null && a.detectable !== null)
    out.push({
      title: a.leak < 0 ? 'Rises as if so much came in' : 'Falls as if so much was lost',
      value: `${litres(Math.abs(a.leak))} ± ${showBare(a.detectable / 3.6e6, 'L/h', 2)}`,
      how: 'trend × V·(1/K + c·D/(e·E))',
    })
  if (a.detectable !== null)
    out.push({
      title: 'Least that this log could show',
      value: litres(a.detectable, 2),
      how: 'half the interval: what is smaller is lost in it',
    })
  if (a.hole !== null)
    out.push({
      title: 'A round hole that would do it',
      value: showQuantity(a.hole, 'length', 'mm', 2),
      how: 'q = 0.61·A·√(2p/ρ)',
    })
  if (a.air)
    out.push({
      title: 'Air in the line',
      value: `${showQuantity(a.air.litres / 1000, 'volume', 'L', 3)}, ${showNumber(a.air.share * 100, 2)} %`,
      how: 'water added from a fifth to nine tenths of the pressure, by Boyle; over 2 % vent and begin again',
      warn: a.air.share > 0.02,
    })
  return out
})
const parts = computed(() => {
  const c = props.analysis.creep
  if (!c) return null
  const all = Math.max(1, Math.abs(c.creep) + Math.abs(c.leak) + c.half)
  return {
    sentence: c.sentence,
    bars: [
      {
        key: 'creep',
        title: c.creep < 0 ? 'Springs back' : 'Creep',
        value: c.creep,
        share: Math.abs(c.creep) / all,
        half: 0,
      },
      { key: 'leak', title: 'Steady fall', value: c.leak, share: Math.abs(c.leak) / all, half: c.half / all },
    ],
  }
})
</script>

<template>
  <section class="analysis" aria-label="What the log says">
    <h2>What the log says</h2>
    <dl>
      <div v-for="r in rows" :key="r.title" :class="{ warn: r.warn }">
        <dt>{{ r.title }}</dt>
        <dd>
          <strong>{{ r.value }}</strong><span class="muted small">{{ r.how }}</span>
        </dd>
      </div>
    </dl>
    <div v-if="parts && analysis.creep" class="creep">
      <p>
        <strong>{{ parts.sentence }}</strong>
      </p>
      <div v-for="b in parts.bars" :key="b.key" class="part">
        <span class="title">{{ b.title }}</span>
        <svg viewBox="0 0 100 16" preserveAspectRatio="none" aria-hidden="true">
          <rect x="0" y="3" :width="b.share * 100" height="10" :class="b.key" />
          <line
            v-if="b.half > 0"
            :x1="Math.max(0, (b.share - b.half) * 100)"
            :x2="(b.share + b.half) * 100"
            y1="8"
            y2="8"
            stroke="var(--ink)"
            stroke-width="2"
          />
        </svg>
        <span class="value"
          >{{ kPa(b.value)
          }}<template v-if="b.half > 0"> ± {{ showBare(analysis.creep.half, 'kPa', 2) }}</template></span
        >
      </div>
      <p class="muted small">
        By the end of the hold: p₀ − a·ln(1 + t/τ) and p₀ − b·t fitted together, τ
        {{ showNumber(analysis.creep.tau / 60, 2) }} min.
      </p>
    </div>
    <p v-for="l in analysis.lacks" :key="l" class="muted small">{{ l }}</p>
  </section>
</template>

<style scoped>
.analysis {
  margin-top: 20px;
}
h2 {
  margin: 0 0 8px;
}
dl {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(210px, 1fr));
  gap: 12px 24px;
  margin: 0;
}
dt {
  color: var(--muted);
  font-size: var(--s14);
}
dd {
  margin: 0;
  display: flex;
  flex-direction: column;
}
dd strong {
  font-size: var(--s18);
}
.warn strong {
  color: var(--held);
}
.creep {
  margin-top: 16px;
}
.part {
  display: grid;
  grid-template-columns: 90px 1fr 170px;
  align-items: center;
  gap: 12px;
  min-height: 30px;
}
.part svg {
  width: 100%;
  height: 16px;
}
rect.creep {
  fill: var(--muted);
}
rect.leak {
  fill: var(--rejected);
}
p {
  margin: 6px 0 0;
}
@media (max-width: 720px) {
  .part {
    grid-template-columns: 80px 1fr;
  }
  .part .value {
    grid-column: 2;
  }
}
</style>
