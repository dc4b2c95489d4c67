<script setup lang="ts">
import Papa from 'papaparse'
import { countedBy, pareto, weekly, type Counted, type CountedBy } from '#core/ncr/analysis'
import type { Cause } from '#core/ncr/causes'
import { useSession } from '~/stores/session'
import { causeWords } from '~/words'

/** What goes wrong most often, at which step, by whom, why, and whether it grows less. */
const session = useSession()
const times = useTimes()
const { data, problem, loading, load } = useLoad(() => api<Counted[]>(`${session.base}/ncrs/counts`))
onMounted(load)
useFeed(session.projectKey, (rows) => rows.some((r) => r.subjectType === 'ncr') && void load())
const address = useAddress('by')
const by = computed<CountedBy>({
  get: () => (countedBy.includes(address.value as CountedBy) ? (address.value as CountedBy) : 'step'),
  set: (key) => (address.value = key),
})
const titles: Record<CountedBy, string> = { step: 'Step', crew: 'Crew', system: 'Procedure', cause: 'Cause' }
const bars = computed(() => pareto(data.value ?? [], by.value))
const weeks = computed(() => weekly(data.value ?? []))
const most = computed(() => Math.max(1, ...bars.value.map((b) => b.count)))
const high = computed(() => Math.max(1, ...weeks.value.map((w) => w.count)))
const name = (key: string) =>
  by.value === 'cause' ? (key ? (causeWords[key as Cause] ?? key) : 'Nobody has said') : key
const file = computed(
  () =>
    `data:text/csv;charset=utf-8,${encodeURIComponent(
      Papa.unparse(
        (data.value ?? []).map(({ id: _id, ...row }) => row),
        { escapeFormulae: true },
      ),
    )}`,
)
</script>

<template>
  <div class="page">
    <NcrTabs />
    <h1 class="visually-hidden">What nonconformances come to</h1>
    <Notice v-if="problem && !data" :problem="problem" @again="load" />
    <Notice v-else-if="!data" :loading="loading" />
    <Notice v-else-if="data.length === 0" empty="No nonconformance" hint="There is nothing to count yet." />
    <template v-else>
      <div class="head">
        <ElRadioGroup v-model="by" size="large" aria-label="Counted by">
          <ElRadioButton v-for="k in countedBy" :key="k" :value="k">{{ titles[k] }}</ElRadioButton>
        </ElRadioGroup>
        <span class="muted grow">{{ data.length }} reports</span>
        <a :href="file" download="nonconformances.csv">Take as CSV</a>
      </div>
      <table class="figures pareto">
        <caption class="visually-hidden">
          Reports by
          {{
            titles[by].toLowerCase()
          }}
        </caption>
        <thead>
          <tr>
            <th>{{ titles[by] }}</th>
            <th>How often</th>
            <th class="number">Up to here</th>
            <th>Reports</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="b in bars" :key="b.key">
            <th scope="row">{{ name(b.key) }}</th>
            <td class="bar">
              <span :style="{ width: `calc(${b.count / most} * (100% - 44px))` }" /><strong>{{
                b.count
              }}</strong>
            </td>
            <td class="number">{{ Math.round(b.reached * 100) }} %</td>
            <td class="reports">
              <NuxtLink v-for="r in b.reports.slice(0, 6)" :key="r.id" :to="`/ncrs/${r.id}`">{{
                r.number
              }}</NuxtLink><span v-if="b.reports.length > 6" class="muted"
                >and {{ b.reports.length - 6 }} more</span
              >
            </td>
          </tr>
        </tbody>
      </table>
      <h2>Week by week</h2>
      <ol class="weeks" tabindex="0" aria-label="Reports raised in each week">
        <li v-for="w in weeks" :key="w.week">
          <span class="count">{{ w.count }}</span>
          <span class="column" :style="{ height: `${(w.count / high) * 120}px` }" />
          <span class="muted small">{{ times.date(w.week).replace(/ \d{4}$/, '') }}</span>
        </li>
      </ol>
    </template>
  </div>
</template>

<style scoped>
.head {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 18px;
  margin-bottom: 14px;
}
.pareto th[scope='row'] {
  text-align: left;
  font-weight: 400;
  color: var(--ink);
  font-size: var(--s16);
  width: 34%;
}
.pareto td,
.pareto th {
  vertical-align: middle;
}
.bar {
  width: 34%;
}
.bar span {
  display: inline-block;
  height: 18px;
  margin-right: 10px;
  background: var(--rejected);
  vertical-align: middle;
}
.reports a {
  white-space: nowrap;

  margin-right: 10px;
}
h2 {
  margin: 28px 0 8px;
}
.weeks {
  list-style: none;
  display: flex;
  align-items: flex-end;
  gap: 14px;
  margin: 0;
  padding: 0;
  overflow-x: auto;
}
.weeks li {
  display: flex;
  flex-direction: column;
  align-items: center;
  min-width: 62px;
}
.column {
  width: 40px;
  min-height: 2px;
  background: var(--line);
}
.count {
  font-weight: 600;
}
</style>
