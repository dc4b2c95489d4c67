<script setup lang="ts">
import type { CrewPage } from '../../../../server/services/crews'
import { findUnit, fromSi } from '#core/quantity/units'
import { useSession } from '~/stores/session'
import { standingWords } from '#core/crew/standing-time'

definePageMeta({ key: (route) => route.params.id as string })
/** One crew: how it works by week, what it measures, where it stands and why. */
const session = useSession()
const id = useRoute().params.id as string
const now = useNow()
const times = useTimes()
const { data, problem, loading, load } = useLoad(() => api<CrewPage>(`${session.base}/crews/${id}`))
onMounted(load)
useFeed(session.projectKey, (rows) => rows.some((r) => r.crew === id) && void load())
const chosen = useAddress('reading')
const series = computed(() => data.value?.series ?? [])
const name = (s: CrewPage['series'][number]) => `${s.title} · ${s.procedure}`
const shown = computed(() => series.value.find((s) => name(s) === chosen.value) ?? series.value[0] ?? null)
const most = computed(() => Math.max(1, ...Object.values(data.value?.standing ?? {})))
/** a reading as it is read on site */
const inUnit = (si: number, unit: string) => {
  const found = findUnit(unit)
  return found ? fromSi(si, found) : si
}
const length = (s: { from: number; to: number | null }) => (s.to ?? now.value) - s.from
const qualified = computed(() =>
  (data.value?.qualified ?? []).flatMap((p) => p.procedures.map((q) => ({ ...q, person: p.person }))),
)
const qualifiedWords = ({ state, day }: { state: string; day: string | null }) =>
  state === 'valid'
    ? day
      ? `until ${times.date(day)}`
      : 'without an end'
    : state === 'expired'
      ? `ended on ${times.date(day!)}`
      : state === 'not-yet'
        ? `from ${times.date(day!)}`
        : 'none in the register'
const weekly = computed(() => data.value?.weeks.slice(-6) ?? [])
</script>

<template>
  <div class="page">
    <TodayTabs />
    <Notice v-if="problem && !data" :problem="problem" @again="load" />
    <Notice v-else-if="!data" :loading="loading" />
    <template v-else>
      <div class="page-head">
        <h1>{{ data.name }}</h1>
        <p class="muted grow">{{ data.leads.join(', ') || 'nobody leads it' }}</p>
        <NuxtLink :to="`/crews/${id}/shift`" class="link">Shift report</NuxtLink>
      </div>
      <div class="grid">
        <div class="column">
          <section class="sheet" aria-label="Now">
            <h2>Now</h2>
            <NuxtLink v-if="data.now" :to="`/joints/${data.now.joint}`" class="now">
              <StateGlyph :state="data.now.state" :size="34" />
              <span
                ><strong>{{ data.now.number }}</strong> {{ data.now.step ?? 'waits for the time to pass'
                }}<br /><span class="muted small">last answer {{ times.moment(data.now.since) }}</span></span
              >
            </NuxtLink>
            <p v-else class="muted">Nothing is being made.</p>
            <p v-for="w in data.waits" :key="`${w.joint} ${w.step}`" class="held">
              {{ w.number }} waits for {{ times.span(now - w.since) }}: {{ w.title }}
            </p>
            <p v-for="c in data.coming" :key="`${c.joint} ${c.step}`">
              <template v-if="c.forecast.to - now < 60_000"
                >{{ c.number }} should be at {{ c.title }} by now</template
              >
              <template v-else
                >{{ c.number }} comes to {{ c.title }} about {{ times.clock(c.forecast.at) }}
                <span class="muted small"
                  >between {{ times.clock(c.forecast.from) }} and {{ times.clock(c.forecast.to) }}, by its
                  last {{ c.forecast.of }} joints</span
                >
              </template>
            </p>
            <p>
              <strong class="big">{{ data.today }}</strong> accepted today<template v-if="data.usual !== null"
                >, usually {{ data.usual.toFixed(1) }} on a day of work</template
              >
            </p>
          </section>
          <section class="sheet" aria-label="Standing">
            <h2>Stood in the last seven days</h2>
            <StandingBar :standing="data.standing" :most="most" />
            <table v-if="data.stands.length > 0" class="figures">
              <thead>
                <tr>
                  <th>Where</th>
                  <th>Since</th>
                  <th>Why</th>
                  <th class="number">How long</th>
                </tr>
              </thead>
              <tbody>
                <tr v-for="s in data.stands.slice(0, 10)" :key="`${s.subject} ${s.from}`">
                  <td>
                    <NuxtLink :to="`/joints/${s.subject}`">{{ s.number }}</NuxtLink>
                  </td>
                  <td>{{ times.moment(s.from) }}</td>
                  <td>
                    {{ standingWords[s.cause] }}<template v-if="s.title">, {{ s.title }}</template>
                  </td>
                  <td class="number">
                    {{ times.span(length(s)) }}<template v-if="s.to === null"> so far</template>
                  </td>
                </tr>
              </tbody>
            </table>
            <p v-else class="muted">It waited for nobody in two weeks.</p>
          </section>
        </div>
        <section class="sheet" aria-label="Right at the first try">
          <h2>Right at the first try</h2>
          <ShareBar :share="data.right" label="Right at the first try in four weeks" />
          <table class="figures">
            <thead>
              <tr>
                <th>Week from</th>
                <th>Share, and where it may lie</th>
                <th class="number">Made</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="w in weekly" :key="w.from">
                <td class="tight">{{ times.date(w.from) }}</td>
                <td><ShareBar :share="w.share" :label="`Week from ${times.date(w.from)}`" /></td>
                <td class="number">{{ w.made }}</td>
              </tr>
            </tbody>
          </table>
          <template v-if="data.faults.length > 0">
            <h3>What was wrong</h3>
            <ul class="faults">
              <li v-for="f in data.faults.slice(0, 6)" :key="f.title">
                <span
                  class="bar"
                  :style="{ width: `${(f.joints.length / data.faults[0]!.joints.length) * 90}px` }"
                />
                <strong>{{ f.joints.length }}</strong> {{ f.title }}
                <NuxtLink
                  v-for="j in f.joints.slice(0, 4)"
                  :key="j.id"
                  :to="`/joints/${j.id}?step=${f.step}`"
                  >{{ j.number }}</NuxtLink
                >
              </li>
            </ul>
          </template>
        </section>
        <section class="sheet wide" aria-label="Qualifications">
          <h2>Qualifications</h2>
          <p v-if="qualified.length === 0" class="muted">
            Nothing is asked for, and nothing is in the register.
          </p>
          <ul v-else class="qualified">
            <li v-for="q in qualified" :key="`${q.person} ${q.key}`">
              <StateGlyph
                :state="q.state === 'valid' ? 'accepted' : q.mode === 'block' ? 'blocked' : 'too-close'"
                :size="24"
              />
              <span class="grow"
                ><strong>{{ q.title }}</strong> {{ q.person }}<br /><span class="muted small"
                  >{{ qualifiedWords(q)
                  }}<template v-if="q.state !== 'valid' && q.mode === 'block'"
                    >; no answer is taken without it</template
                  ></span
                ></span
              >
            </li>
          </ul>
        </section>
        <section class="sheet wide" aria-label="What it measures">
          <h2>What it measures</h2>
          <p v-if="!shown" class="muted">Five joints with the same reading make a chart.</p>
          <template v-else>
            <ElSelect
              :model-value="name(shown)"
              size="large"
              class="pick"
              aria-label="Which reading"
              @update:model-value="(v: string) => (chosen = v)"
            >
              <ElOption v-for="s in series" :key="name(s)" :value="name(s)" :label="name(s)" />
            </ElSelect>
            <IndividualsStrip
              :title="`${shown.title}, joint by joint`"
              :unit="shown.unit"
              :values="shown.points.map((p) => ({ name: p.number, value: inUnit(p.value, shown!.unit) }))"
            />
          </template>
        </section>
      </div>
    </template>
  </div>
</template>

<style scoped>
.qualified {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(260px, 1fr));
  gap: 4px 24px;
}
.qualified li {
  display: flex;
  gap: 10px;
  align-items: flex-start;
  padding: 6px 0;
}
.link {
  min-height: 44px;
  display: inline-flex;
  align-items: center;
}
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(460px, 1fr));
  gap: 16px;
  align-items: start;
}
section {
  padding: 16px 18px;
}
section > h2 {
  margin-bottom: 8px;
}
.column {
  display: flex;
  flex-direction: column;
  gap: 16px;
}
.tight,
.number,
td:first-child {
  white-space: nowrap;
}
.wide {
  grid-column: 1 / -1;
}
.now {
  display: flex;
  align-items: center;
  gap: 14px;
  min-height: 56px;
  color: inherit;
  text-decoration: none;
}
.held {
  color: var(--held);
  font-weight: 600;
}
.big {
  font-size: var(--s22);
}
.faults {
  list-style: none;
  margin: 0;
  padding: 0;
}
.faults li {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 10px;
  min-height: 44px;
  border-top: 1px solid var(--hair);
}
.bar {
  height: 12px;
  background: var(--rejected);
}
.pick {
  width: min(460px, 100%);
}
</style>
