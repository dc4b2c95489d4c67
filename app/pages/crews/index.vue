<script setup lang="ts">
import type { CrewLine } from '../../../server/services/crews'
import { useSession } from '~/stores/session'

/** Every crew at a glance: where it is, what it waits for, how it works. */
const session = useSession()
const now = useNow()
const times = useTimes()
const { data, problem, loading, load } = useLoad(() => api<CrewLine[]>(`${session.base}/crews`))
onMounted(load)
useFeed(session.projectKey, () => void load())
const crews = computed(() =>
  [...(data.value ?? [])].sort(
    (a, b) => b.waits.length - a.waits.length || a.name.localeCompare(b.name, 'en'),
  ),
)
const sum = (c: CrewLine) => Object.values(c.standing).reduce((a, b) => a + b, 0)
const most = computed(() => Math.max(1, ...crews.value.map(sum)))
</script>

<template>
  <div class="page">
    <TodayTabs />
    <h1 class="visually-hidden">Crews</h1>
    <Notice v-if="problem && !data" :problem="problem" @again="load" />
    <Notice v-else-if="!data" :loading="loading" />
    <Notice v-else-if="crews.length === 0" empty="There is no crew yet" hint="Setup adds the first one." />
    <div v-else class="crews">
      <NuxtLink v-for="c in crews" :key="c.id" :to="`/crews/${c.id}`" class="crew sheet">
        <div class="name">
          <strong>{{ c.name }}</strong>
          <span class="muted small">{{ c.leads.join(', ') || 'no lead' }}</span>
        </div>
        <div class="now">
          <template v-if="c.now">
            <StateGlyph :state="c.now.state" :size="28" />
            <span
              ><strong>{{ c.now.number }}</strong
              ><br /><span class="muted small">{{ c.now.step ?? 'done but for the time' }}</span></span
            >
          </template>
          <span v-else class="muted">Nothing is being made</span>
        </div>
        <div class="waits">
          <template v-if="c.waits.length > 0">
            <strong class="held"
              >waits for {{ times.span(now - Math.min(...c.waits.map((w) => w.since))) }}</strong
            >
            <span class="muted small">{{ c.waits.map((w) => `${w.number}, ${w.title}`).join('; ') }}</span>
          </template>
          <template v-else-if="c.coming[0]">
            <strong>{{ c.coming[0].title }}</strong>
            <span class="muted small"
              >about {{ times.clock(c.coming[0].forecast.at) }}, {{ c.coming[0].number }}</span
            >
          </template>
          <span v-else class="muted small">waits for nobody</span>
        </div>
        <div>
          <span class="label">Accepted today</span>
          <strong class="big">{{ c.today }}</strong>
          <span v-if="c.usual !== null" class="muted small"> usually {{ c.usual.toFixed(1) }} a day</span>
        </div>
        <div>
          <span class="label">Right at the first try, 4 weeks</span>
          <ShareBar :share="c.right" label="Right at the first try" />
        </div>
        <div>
          <span class="label">Stood in 7 days</span>
          <StandingBar :standing="c.standing" :most="most" />
        </div>
      </NuxtLink>
    </div>
  </div>
</template>

<style scoped>
.crews {
  display: flex;
  flex-direction: column;
  gap: 12px;
}
.crew {
  display: grid;
  grid-template-columns: 150px minmax(150px, 1fr) minmax(170px, 1.2fr) 120px 210px minmax(150px, 1fr);
  align-items: center;
  gap: 20px;
  min-height: 96px;
  padding: 14px 18px;
  color: inherit;
  text-decoration: none;
}
.name,
.waits {
  display: flex;
  flex-direction: column;
}
.now {
  display: flex;
  align-items: center;
  gap: 12px;
}
.label {
  display: block;
  font-size: var(--s14);
  color: var(--muted);
}
.big {
  font-size: var(--s22);
}
.held {
  color: var(--held);
}
@media (max-width: 1100px) {
  .crew {
    grid-template-columns: 1fr 1fr;
  }
}
@media (max-width: 720px) {
  .crew {
    grid-template-columns: 1fr;
    gap: 12px;
  }
}
</style>
