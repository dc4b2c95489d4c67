<script setup lang="ts">
import type { readingList, Watching } from '../../server/services/reading'
import { useSession } from '~/stores/session'

/** Records that wait to be read, what is asked and not answered, and what was watched of what was drawn. */
type List = Awaited<ReturnType<typeof readingList>>
const session = useSession()
const times = useTimes()
const now = useNow()
const { data, problem, loading, load } = useLoad(() => api<List>(`${session.base}/reading`))
const watching = useLoad(() => api<Watching[]>(`${session.base}/watching`))
const more = ref<List['rows']>([])
const next = ref<number | null>(null)
async function look() {
  await Promise.all([load(), watching.load()])
  more.value = []
  next.value = data.value?.next ?? null
}
async function further() {
  const page = await api<List>(`${session.base}/reading`, { query: { from: String(next.value) } })
  more.value = [...more.value, ...page.rows]
  next.value = page.next
}
onMounted(look)
useFeed(session.projectKey, () => void look())
const rows = computed(() => [...(data.value?.rows ?? []), ...more.value])
const to = (r: { of: 'joint' | 'reach'; id: string; step: string }) =>
  `/${r.of === 'joint' ? 'joints' : 'embedment'}/${r.id}?step=${r.step}`
const ago = (since: number) => `for ${times.span(now.value - since)}`
const most = computed(() =>
  (watching.data.value ?? []).flatMap((w) => w.crews.map((c) => c.done)).reduce((a, b) => Math.max(a, b), 1),
)
const lately = computed(() =>
  [...(watching.data.value ?? [])].sort((a, b) => short(b) - short(a) || b.next.length - a.next.length),
)
/** drawn and not watched */
const short = (w: Watching) => w.crews.reduce((sum, c) => sum + c.drawn - c.watched, 0)
const said = (c: Watching['crews'][number]) =>
  `${c.name}: ${c.watched} of ${c.drawn} drawn were watched, ${c.done} made` +
  (c.besides > 0 ? `, ${c.besides} watched besides` : '')
</script>

<template>
  <div class="page">
    <TodayTabs />
    <h1 class="visually-hidden">Read and watch</h1>
    <Notice v-if="problem && !data" :problem="problem" @again="look" />
    <Notice v-else-if="!data" :loading="loading" />
    <div v-else class="halves">
      <div class="column">
        <section v-if="data.asked.length > 0" aria-label="Asked, not answered">
          <header><h2>Asked, not answered</h2></header>
          <NuxtLink v-for="a in data.asked" :key="`${a.id} ${a.step} ${a.since}`" :to="to(a)" class="item">
            <StateGlyph state="held" :size="26" />
            <span class="what"
              ><strong>{{ a.name }}</strong> {{ a.title }}<br /><span class="muted small"
                >{{ a.kind === 'query' ? 'Query' : 'Condition' }}: {{ a.text }}</span
              ></span
            >
            <span class="when">{{ ago(a.since) }}</span>
          </NuxtLink>
        </section>
        <section aria-label="To be read">
          <header>
            <h2>To be read</h2>
            <span class="count">{{ data.total }}</span>
          </header>
          <p v-if="rows.length === 0" class="muted">No record waits to be read.</p>
          <NuxtLink v-for="r in rows" :key="`${r.id} ${r.step}`" :to="to(r)" class="item">
            <StateGlyph state="in-work" :size="26" />
            <span class="what"
              ><strong>{{ r.name }}</strong> {{ r.title }}<br /><span class="muted small">{{
                session.crewName(r.crew)
              }}</span></span
            >
            <span class="when">{{ ago(r.since) }}</span>
          </NuxtLink>
          <ElButton v-if="next !== null" size="large" class="further" @click="further">Older ones</ElButton>
        </section>
      </div>
      <section aria-label="Watched against what was drawn">
        <header><h2>Watched against what was drawn</h2></header>
        <p class="muted small">
          Each bar: joints made; the mark, those drawn; filled, those of them that were watched.
        </p>
        <div v-for="w in lately" :key="`${w.system} ${w.step}`" class="step">
          <p>
            <strong>{{ w.title }}</strong> <span class="muted small">{{ w.procedure }}</span>
          </p>
          <div v-for="c in w.crews" :key="c.crew" class="bar">
            <span class="small">{{ c.name }}</span>
            <svg viewBox="0 0 200 18" preserveAspectRatio="none" role="img" :aria-label="said(c)">
              <rect x="0" y="5" :width="(c.done / most) * 200" height="8" fill="var(--hair)" />
              <rect x="0" y="5" :width="(c.watched / most) * 200" height="8" fill="var(--line)" />
              <rect
                v-if="c.drawn > 0"
                :x="Math.max(0, (c.drawn / most) * 200 - 1.5)"
                y="1"
                width="3"
                height="16"
                fill="var(--ink)"
              />
            </svg>
            <span class="small figure">{{ c.watched }} of {{ c.drawn }}</span>
          </div>
          <p v-if="w.next.length > 0" class="next small">
            Drawn next:
            <NuxtLink v-for="n in w.next.slice(0, 6)" :key="n.id" :to="to({ ...n, step: w.step })">{{
              n.name
            }}</NuxtLink><template v-if="w.next.length > 6"> and {{ w.next.length - 6 }} more</template>
          </p>
        </div>
        <p v-if="lately.length === 0" class="muted">Nothing is under surveillance.</p>
      </section>
    </div>
  </div>
</template>

<style scoped>
.halves {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 32px;
}
.column {
  display: flex;
  flex-direction: column;
  gap: 28px;
}
header {
  display: flex;
  align-items: baseline;
  gap: 10px;
  padding-bottom: 8px;
  border-bottom: 3px solid var(--ink);
}
.count {
  color: var(--muted);
  font-size: var(--s18);
}
.item {
  display: flex;
  gap: 12px;
  align-items: center;
  min-height: 60px;
  padding: 8px 4px;
  border-bottom: 1px solid var(--hair);
  color: inherit;
  text-decoration: none;
}
.what {
  flex: 1;
  min-width: 0;
  overflow-wrap: anywhere;
}
.when {
  white-space: nowrap;
  font-weight: 600;
}
.further {
  margin-top: 12px;
}
.step {
  padding: 10px 0;
  border-bottom: 1px solid var(--hair);
}
.step p {
  margin: 0;
}
.bar {
  display: grid;
  grid-template-columns: 110px 1fr 76px;
  gap: 12px;
  align-items: center;
  min-height: 28px;
}
.bar svg {
  width: 100%;
  height: 18px;
}
.figure {
  text-align: right;
}
.next {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 12px;
  align-items: center;
}
.next a {
  display: inline-flex;
  align-items: center;
  min-height: 36px;
}
@media (max-width: 1000px) {
  .halves {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
