<script setup lang="ts">
import type { Ncr } from '../../../server/db/ncrs'
import { useSession } from '~/stores/session'
import { dispositionWords, ncrStateWords } from '~/words'

const session = useSession()
const times = useTimes()
const now = useNow(30_000)
const { data, problem, loading, load } = useLoad(() => api<Ncr[]>(`${session.base}/ncrs`))
onMounted(load)
useFeed(session.projectKey, (rows) => rows.some((r) => r.subjectType === 'ncr') && void load())
const states = ['open', 'disposed', 'reworked', 'closed'] as const
const waitsFor: Record<string, string> = {
  open: 'the engineer',
  disposed: 'the crew',
  reworked: 'an inspector',
  closed: '',
}
</script>

<template>
  <div class="page">
    <NcrTabs />
    <div class="page-head"><h1>Nonconformances</h1></div>
    <Notice v-if="problem && !data" :problem="problem" @again="load" />
    <Notice v-else-if="!data" :loading="loading" />
    <Notice
      v-else-if="data.length === 0"
      empty="No nonconformance"
      hint="They are drafted at the step where a criterion is not met, and raised there."
    />
    <div v-else class="columns">
      <section v-for="s in states" :key="s" :aria-label="ncrStateWords[s]">
        <header>
          <h2>{{ ncrStateWords[s] }}</h2>
          <span class="muted">{{ data.filter((n) => n.state === s).length }}</span>
        </header>
        <p class="muted small">{{ waitsFor[s] ? `Waits for ${waitsFor[s]}` : 'Done' }}</p>
        <NuxtLink
          v-for="n in data.filter((x) => x.state === s)"
          :key="n.id"
          :to="`/ncrs/${n.id}`"
          class="ncr"
        >
          <span class="row"
            ><StateGlyph :state="n.state === 'closed' ? 'accepted' : 'rejected'" :size="26" /><strong>{{
              n.number
            }}</strong
            ><span class="muted small age">{{
              n.state === 'closed' ? times.moment(n.closedAt!) : times.span(now - Date.parse(n.raisedAt))
            }}</span></span
          >
          <span>{{ n.place }}</span>
          <span class="muted small">{{ n.criterion }} – found {{ n.reading }}</span>
          <span v-if="n.disposition" class="small"
            >{{ dispositionWords[n.disposition]
            }}<template v-if="n.state === 'disposed' && n.due"
              >,
              <span :class="{ late: times.overdue(n.due, now) }"
                >{{ times.overdue(n.due, now) ? 'overdue since' : 'until' }} {{ times.date(n.due) }}</span
              ></template
            ></span
          >
        </NuxtLink>
      </section>
    </div>
  </div>
</template>

<style scoped>
.late {
  color: var(--rejected);
  font-weight: 600;
}
.columns {
  display: grid;
  grid-template-columns: repeat(4, minmax(0, 1fr));
  gap: 24px;
}
header {
  display: flex;
  align-items: baseline;
  gap: 10px;
  border-bottom: 3px solid var(--ink);
  padding-bottom: 8px;
  margin-bottom: 6px;
}
.ncr {
  display: flex;
  flex-direction: column;
  gap: 2px;
  padding: 12px 2px;
  border-bottom: 1px solid var(--hair);
  color: inherit;
  text-decoration: none;
  overflow-wrap: anywhere;
}
.row {
  gap: 10px;
}
.age {
  margin-left: auto;
}
@media (max-width: 1000px) {
  .columns {
    grid-template-columns: minmax(0, 1fr);
    gap: 28px;
  }
}
</style>
