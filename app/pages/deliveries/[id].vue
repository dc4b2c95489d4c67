<script setup lang="ts">
import { showCount } from '#core/quantity/show'
import { useDebounceFn, useVirtualList } from '@vueuse/core'
import type { Item } from '../../../server/db/items'
import type { deliverySheet, itemSheet } from '../../../server/services/delivery-sheet'
import { useSession } from '~/stores/session'
import { itemStateWords } from '~/words'

/** One note: what it brought against the order, its items one by one, and its signature. */
type Sheet = Awaited<ReturnType<typeof deliverySheet>>
type ItemSheet = Awaited<ReturnType<typeof itemSheet>>
const session = useSession()
const times = useTimes()
const route = useRoute()
const id = route.params.id as string
const base = `${session.base}/deliveries/${id}`
const { data, problem, loading, load } = useLoad(() => api<Sheet>(base))
const may = computed(() => session.can('receive-goods'))

const search = ref('')
const show = ref<'all' | 'waiting' | 'sampled' | 'bad'>('all')
const paged = usePaged<Item>((from, count) =>
  api(`${base}/items`, {
    query: { search: search.value, show: show.value, from: String(from), count: String(count) },
  }),
)
const { list, containerProps, wrapperProps, scrollTo } = useVirtualList(paged.rows, {
  itemHeight: 56,
  overscan: 10,
})
watch(list, (l) => l.length && paged.want(l[0]!.index, l.at(-1)!.index))
const again = useDebounceFn(async () => {
  scrollTo(0)
  await paged.restart()
}, 200)
watch([search, show], again)

const chosen = ref<string | null>(typeof route.query.item === 'string' ? route.query.item : null)
const item = useLoad(async () => (chosen.value ? api<ItemSheet>(`${base}/items/${chosen.value}`) : null))
watch(chosen, item.load)
onMounted(() => Promise.all([load(), paged.restart(), item.load()]))
const state = (s: string) =>
  s === 'accepted' || s === 'remark' ? 'accepted' : s === 'received' ? 'not-started' : 'rejected'

async function inspect(body: unknown) {
  const at = paged.rows.value.findIndex((r) => r?.id === chosen.value)
  await api(`${base}/items/${chosen.value}`, { body })
  const [, page] = await Promise.all([
    load(),
    api<{ items: Item[] }>(`${base}/items`, {
      query: { show: show.value === 'sampled' ? 'sampled' : 'waiting', from: '0', count: '1' },
    }),
    paged.restart(),
  ])
  const next =
    show.value === 'waiting'
      ? page.items[0]
      : (paged.rows.value.slice(at + 1).find((r) => r?.state === 'received') ?? page.items[0])
  if (next && next.state === 'received') chosen.value = next.id
  await item.load()
}
const { accepting, accept, stop } = useAccepting(base)
async function acceptRest() {
  await accept(data.value!.acceptable)
  await Promise.all([load(), paged.restart(), item.load()])
}
const signOpen = ref(false)
async function sign(secret: string) {
  await api(`${base}/sign`, { body: { secret } })
  await load()
}
const side = ref<'item' | 'sample'>('item')
const sampleOf = ref('')
function openSample(article: string) {
  sampleOf.value = article
  side.value = 'sample'
}
async function draw(article: string) {
  await api(`${base}/sample`, { body: { item: article } })
  show.value = 'sampled'
  await Promise.all([load(), paged.restart()])
}
const { data: places, load: loadPlaces } = useLoad(() =>
  api<{ id: string; name: string }[]>(`${session.base}/yard`),
)
onMounted(loadPlaces)
async function store(article: string, place: string) {
  await api(`${base}/store`, { body: { item: article, place } })
  await load()
}
const choose = (itemId: string) => {
  chosen.value = itemId
  side.value = 'item'
}
const article = computed(
  () => data.value?.articles.find((a) => a.item === sampleOf.value) ?? data.value?.articles[0] ?? null,
)
const words = computed(() => {
  const d = data.value!
  if (d.delivery.state === 'signed') return `Signed ${times.moment(d.delivery.signedAt!)}.`
  const open = d.articles.filter((a) => a.sampling && a.sampling.accepted === null)
  if (open.length > 0)
    return `${open.reduce((s, a) => s + a.sampling!.open, 0)} of the sample to look at; the rest waits for it.`
  return d.waiting > 0
    ? `${showCount(d.waiting)} of ${showCount(d.total)} items to look at before the note is signed.`
    : 'Every item was looked at. The note can be signed.'
})
</script>

<template>
  <Notice v-if="problem && !data" :problem="problem" @again="load" />
  <Notice v-else-if="!data" :loading="loading" />
  <div v-else class="delivery">
    <div class="body">
      <section class="left">
        <div class="page-head">
          <h1>{{ data.delivery.number }}</h1>
          <span class="muted grow"
            >{{ data.delivery.supplier }}, order {{ data.delivery.orderNumber }},
            {{ times.moment(data.delivery.receivedAt) }}</span
          >
          <a class="quiet" :href="`/api/${base}/notice`" target="_blank">Notice to the supplier</a
          ><a class="quiet" :href="`/api/${base}/export`" download>CSV</a>
        </div>
        <div class="lines" tabindex="0" role="region" aria-label="Lines of the order">
          <ReconciledLines :lines="data.delivery.lines" brief />
        </div>
        <ArticleSamples
          :articles="data.articles"
          :chosen="side === 'sample' ? (article?.item ?? null) : null"
          @choose="openSample"
        />
        <div class="find">
          <ElInput
            v-model="search"
            clearable
            placeholder="Serial or lot"
            aria-label="Find an item"
            class="grow"
          />
          <ElSelect v-model="show" size="large" aria-label="Which items" class="which"
            ><ElOption value="all" label="All items" /><ElOption
              value="waiting"
              label="To inspect" /><ElOption value="sampled" label="In the sample" /><ElOption
              value="bad"
              label="Quarantined or returned"
          /></ElSelect>
        </div>
        <div v-bind="containerProps" class="items sheet" role="listbox" aria-label="Items" tabindex="0">
          <div v-bind="wrapperProps">
            <button
              v-for="{ data: i, index } in list"
              :key="index"
              type="button"
              role="option"
              :aria-selected="i !== undefined && i.id === chosen"
              class="pick"
              :class="{ here: i && i.id === chosen }"
              :disabled="!i"
              @click="i && choose(i.id)"
            >
              <template v-if="i"
                ><StateGlyph :state="state(i.state)" :size="26" /><strong class="serial">{{
                  i.serial
                }}</strong
                ><span class="muted grow clip">{{ i.item }} · lot {{ i.lot }}</span
                ><span v-if="i.sampled" class="muted small">sample</span
                ><span>{{ itemStateWords[i.state] }}</span></template
              >
              <span v-else class="muted">…</span>
            </button>
          </div>
          <p v-if="paged.total.value === 0" class="muted none">
            {{ search || show !== 'all' ? 'Nothing like that on this note.' : 'No items.' }}
          </p>
        </div>
      </section>
      <section
        class="right"
        tabindex="0"
        role="region"
        :aria-label="side === 'sample' ? 'Sample' : 'Inspection'"
      >
        <SamplePanel
          v-if="side === 'sample' && article"
          :key="article.item"
          :article="article"
          :may="may && data.delivery.state === 'open'"
          :places="places ?? []"
          :draw="draw"
          :store="store"
        />
        <ItemInspection v-else-if="item.data.value" :item="item.data.value" :may="may" :send="inspect" />
        <Notice
          v-else
          empty="Choose an item"
          hint="Look at ends, coating, distortion and stones; mark damage on the drawn pipe."
        />
      </section>
    </div>
    <footer class="bar">
      <p class="grow muted" role="status">
        {{ accepting ? `${accepting.done} of ${accepting.all} accepted …` : words }}
      </p>
      <ElButton v-if="accepting" size="large" @click="stop">Stop</ElButton>
      <ElButton v-else-if="may && data.acceptable > 0" size="large" @click="acceptRest"
        >Accept the other {{ showCount(data.acceptable) }}</ElButton
      >
      <ElButton
        v-if="may && data.delivery.state === 'open'"
        type="primary"
        size="large"
        class="primary"
        :disabled="data.waiting > 0"
        @click="signOpen = true"
        >Sign the note</ElButton
      >
    </footer>
    <SecretDialog v-model="signOpen" title="Sign the delivery note" action="Sign" :send="sign">
      <p v-if="data.delivery.lines.every((l) => l.result === 'right')">Everything is as ordered.</p>
      <ul v-else>
        <li v-for="l in data.delivery.lines.filter((x) => x.result !== 'right')" :key="l.item + l.result">
          {{ l.title }}: {{ l.sentence }}
        </li>
      </ul>
    </SecretDialog>
  </div>
</template>

<style scoped>
.delivery {
  height: 100%;
  display: grid;
  grid-template-rows: minmax(0, 1fr) 72px;
}
.body {
  display: grid;
  grid-template-columns: minmax(0, 1.45fr) minmax(400px, 1fr);
  min-height: 0;
}
.left {
  padding: 12px 24px 16px;
  display: flex;
  flex-direction: column;
  gap: 10px;
  min-height: 0;
}
.page-head {
  margin: 0;
}
.lines {
  max-height: 190px;
  overflow: auto;
  flex: none;
}
.find {
  display: flex;
  gap: 10px;
  flex: none;
}
.which {
  width: 210px;
}
.right {
  border-left: 1px solid var(--hair);
  padding: 16px 22px 0;
  overflow-y: auto;
  background: var(--card);
}
.items {
  flex: 1;
  min-height: 120px;
}
.serial {
  min-width: 90px;
}
.none {
  padding: 16px;
}
.bar {
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 0 16px 0 24px;
  border-top: 1px solid var(--hair);
  background: var(--card);
}
.primary {
  min-width: 220px;
  --el-button-size: 56px;
  font-size: var(--s18);
}
@media (max-width: 1000px) {
  .body {
    display: block;
    overflow-y: auto;
  }
  .left {
    padding: 8px 14px 14px;
  }
  .right {
    border-left: 0;
    border-top: 1px solid var(--hair);
    padding: 14px;
    overflow: visible;
  }
  .items {
    height: 46vh;
    flex: none;
  }
}
@media (max-width: 720px) {
  .find {
    flex-wrap: wrap;
  }
  .bar {
    padding: 0 10px;
    gap: 8px;
    overflow-x: auto;
  }
  .primary {
    min-width: 0;
  }
}
</style>
