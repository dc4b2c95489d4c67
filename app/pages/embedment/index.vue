<script setup lang="ts">
import { showStretch, showSteps } from '#core/quantity/show'
import type { Reach } from '../../../server/db/reaches'
import type { StepState } from '#core/checks/verdict'
import { useSession } from '~/stores/session'

const session = useSession()
const { data, problem, loading, load } = useLoad(() => api<Reach[]>(`${session.base}/reaches`))
onMounted(load)
useFeed(session.projectKey, (rows) => rows.some((r) => r.subjectType === 'reach') && void load())
const rank: Record<string, number> = {
  rejected: 0,
  'too-close': 1,
  'in-work': 2,
  'not-started': 3,
  accepted: 4,
  withdrawn: 5,
}
const figure = (r: Reach, key: 'left' | 'right' | 'target' | 'od') =>
  key === 'od' ? Number(r.facts['pipe.od'] ?? 0.1) : (r.summary.figures[key] ?? 0)
const top = (r: Reach) =>
  Math.max(figure(r, 'target'), figure(r, 'left'), figure(r, 'right'), figure(r, 'od') + 0.3)
const { lines } = useLinesOf(data)
const on = (line: string) =>
  (data.value ?? [])
    .filter((r) => r.alignment === line)
    .sort((a, b) => rank[a.state]! - rank[b.state]! || b.from - a.from)
</script>

<template>
  <div class="page">
    <div class="page-head"><h1>Embedment</h1></div>
    <Notice v-if="problem && !data" :problem="problem" @again="load" />
    <Notice v-else-if="!data" :loading="loading" />
    <Notice v-else-if="data.length === 0" empty="No reach is laid out here" />
    <section v-for="line in lines" v-else :key="line.id" class="line">
      <h2>{{ line.name }}</h2>
      <div class="reaches">
        <NuxtLink v-for="r in on(line.id)" :key="r.id" :to="`/embedment/${r.id}`" class="reach sheet">
          <StateGlyph :state="r.state as StepState" :size="34" />
          <span class="grow"
            ><strong>{{ r.name }}</strong
            ><br /><span class="muted small"
              >{{ showStretch(r.from, r.to) }} · {{ session.crewName(r.crew) }}</span
            ></span
          >
          <svg width="64" height="48" viewBox="0 0 64 48" aria-hidden="true">
            <rect x="4" y="2" width="56" height="44" fill="none" stroke="var(--hair)" />
            <rect
              x="4"
              :y="46 - (figure(r, 'left') / top(r)) * 42"
              width="28"
              :height="(figure(r, 'left') / top(r)) * 42"
              fill="var(--soil)"
            />
            <rect
              x="32"
              :y="46 - (figure(r, 'right') / top(r)) * 42"
              width="28"
              :height="(figure(r, 'right') / top(r)) * 42"
              fill="var(--soil)"
            />
            <circle
              cx="32"
              :cy="46 - (figure(r, 'od') / 2 / top(r)) * 42"
              :r="(figure(r, 'od') / 2 / top(r)) * 42"
              fill="var(--card)"
              stroke="var(--ink)"
              stroke-width="1.5"
            />
          </svg>
          <span class="muted small level"
            >left {{ Math.round(figure(r, 'left') * 1000) }}<br />right
            {{ showSteps(figure(r, 'right'), 'mm') }}</span
          >
        </NuxtLink>
      </div>
    </section>
  </div>
</template>

<style scoped>
.line {
  margin-bottom: 24px;
}
h2 {
  margin-bottom: 8px;
}
.reaches {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(370px, 1fr));
  gap: 10px;
}
.reach {
  display: flex;
  align-items: center;
  gap: 14px;
  padding: 10px 14px;
  min-height: 72px;
  color: inherit;
  text-decoration: none;
}
.level {
  width: 92px;
}
@media (max-width: 720px) {
  .reaches {
    grid-template-columns: minmax(0, 1fr);
  }
  .reach {
    gap: 10px;
    padding: 10px;
  }
  .level {
    width: auto;
  }
}
</style>
