<script setup lang="ts">
import { useDebounceFn, useVirtualList } from '@vueuse/core'
import type { Label } from '#core/delivery/gs1'
import type { listLots, lotSheet } from '../../../server/services/lots'
import { useSession } from '~/stores/session'
import { itemStateWords, shelfWords } from '~/words'

/** Lots with their age: what is near its end, past it, or in quarantine; labels read and printed. */
type Row = Awaited<ReturnType<typeof listLots>>['lots'][number]
type Sheet = Awaited<ReturnType<typeof lotSheet>>
const session = useSession()
const times = useTimes()
const route = useRoute()
const search = ref('')
const paged = usePaged<Row>(async (from, count) => {
  const { total, lots } = await api<{ total: number; lots: Row[] }>(`${session.base}/lots`, {
    query: { search: search.value, from: String(from), count: String(count) },
  })
  return { total, items: lots }
})
const { list, containerProps, wrapperProps } = useVirtualList(paged.rows, { itemHeight: 56, overscan: 10 })
watch(list, (l) => l.length && paged.want(l[0]!.index, l.at(-1)!.index))
watch(search, useDebounceFn(paged.restart, 200))
const chosen = ref<string | null>(typeof route.query.lot === 'string' ? route.query.lot : null)
const sheet = useLoad(async () => (chosen.value ? api<Sheet>(`${session.base}/lots/${chosen.value}`) : null))
watch(chosen, sheet.load)
const started = ref(false)
onMounted(async () => {
  await Promise.all([paged.restart(), sheet.load()])
  started.value = true
})
const lot = computed(() => sheet.data.value?.lot ?? null)
const glyph = (l: Pick<Row, 'shelf' | 'quarantinedAt'>) =>
  l.quarantinedAt
    ? 'rejected'
    : l.shelf === 'expired'
      ? 'rejected'
      : l.shelf === 'soon'
        ? 'too-close'
        : l.shelf === 'good'
          ? 'accepted'
          : 'not-applicable'
const word = (l: Pick<Row, 'shelf' | 'quarantinedAt' | 'end'>) =>
  l.quarantinedAt
    ? 'Quarantined'
    : l.end
      ? `${shelfWords[l.shelf]} ${times.day(l.end.at)}`
      : shelfWords.unlimited

const dates = reactive({ made: '', expires: '', opened: '' })
watch(
  lot,
  (l) => l && Object.assign(dates, { made: l.made ?? '', expires: l.expires ?? '', opened: l.opened ?? '' }),
)
const changed = computed(
  () =>
    lot.value !== null &&
    (['made', 'expires', 'opened'] as const).some((k) => (lot.value![k] ?? '') !== dates[k]),
)
const fault = ref('')
const done = ref('')
const busy = ref(false)
async function send(act: () => Promise<string>) {
  busy.value = true
  fault.value = ''
  done.value = ''
  try {
    done.value = await act()
    await Promise.all([paged.restart(), sheet.load()])
  } catch (error) {
    if (!(error instanceof ApiProblem)) throw error
    fault.value = error.message
  } finally {
    busy.value = false
  }
}
const saveDates = () =>
  send(async () => {
    const { judgedAnew } = await api<{ judgedAnew: number }>(`${session.base}/lots/${chosen.value}/dates`, {
      body: Object.fromEntries(Object.entries(dates).map(([k, v]) => [k, v || null])),
    })
    return judgedAnew ? `Entered. ${judgedAnew} joints were judged anew.` : 'Entered.'
  })
const asking = ref(false)
const setQuarantine = async (reason: string) =>
  send(async () => {
    await api(`${session.base}/lots/${chosen.value}/quarantine`, {
      body: { on: !lot.value!.quarantinedAt, reason },
    })
    return lot.value!.quarantinedAt ? 'Out of quarantine.' : 'In quarantine from now on.'
  })
const scanning = ref(false)
const printing = ref(false)
const read = (label: Label) =>
  send(async () => {
    if (!label.lot) throw new ApiProblem('missing', 'This label names no lot.', 'lot', 422)
    const article = session.overview?.articles.find((a) => a.gtin && a.gtin === label.gtin)
    const { id } = await api<{ id: string }>(`${session.base}/lots`, {
      body: {
        lot: label.lot,
        item: article?.item ?? null,
        made: label.made,
        expires: label.expires ?? label.bestBefore,
      },
    })
    chosen.value = id
    return `Lot ${label.lot} is in the register.`
  })
const inspector = computed(() => session.can('date-lot'))
const mayQuarantine = computed(() => session.can(lot.value?.quarantinedAt ? 'end-quarantine' : 'quarantine'))
</script>

<template>
  <div class="lots">
    <section class="left">
      <DeliveryTabs />
      <div class="page-head">
        <h1 class="grow">Lots</h1>
        <a class="quiet" :href="`/api/${session.base}/lots/export`" download>CSV</a
        ><ElButton v-if="inspector" type="primary" size="large" @click="scanning = true"
          >Read a label</ElButton
        >
      </div>
      <ElInput v-model="search" size="large" clearable placeholder="Lot or item" aria-label="Find a lot" />
      <Notice
        v-if="paged.problem.value && !paged.total.value"
        :problem="paged.problem.value"
        @again="paged.restart"
      />
      <Notice v-else-if="!started" loading />
      <Notice
        v-else-if="paged.total.value === 0"
        :empty="search ? 'No lot like that' : 'No lot yet'"
        hint="Lots come with delivery notes, or from labels."
      />
      <div v-else v-bind="containerProps" class="list sheet" role="listbox" aria-label="Lots" tabindex="0">
        <div v-bind="wrapperProps">
          <button
            v-for="{ data: l, index } in list"
            :key="index"
            type="button"
            role="option"
            class="pick"
            :class="{ here: l && l.id === chosen }"
            :aria-selected="l !== undefined && l.id === chosen"
            :disabled="!l"
            @click="l && (chosen = l.id)"
          >
            <template v-if="l"
              ><StateGlyph :state="glyph(l)" :size="26" /><strong class="name">{{ l.lot }}</strong
              ><span class="muted grow clip">{{ l.title ?? l.item ?? 'item not known' }}</span
              ><span class="muted pieces">{{ l.items || '' }}</span
              ><span class="age">{{ word(l) }}</span></template
            >
            <span v-else class="muted">…</span>
          </button>
        </div>
      </div>
    </section>
    <section class="right" tabindex="0" role="region" aria-label="Lot">
      <Notice
        v-if="!lot"
        empty="Choose a lot"
        hint="Its dates, where its pieces stand, and every joint made with it."
      />
      <template v-else>
        <header>
          <h2>{{ lot.lot }}</h2>
          <span class="muted">{{ lot.title ?? 'item not known' }}</span>
        </header>
        <p class="state">
          <StateGlyph :state="glyph(lot)" :size="32" /><strong>{{ word(lot) }}</strong
          ><span v-if="lot.end && !lot.quarantinedAt" class="muted">{{ lot.end.why }}</span>
        </p>
        <p v-if="lot.quarantinedAt" class="warn">
          {{ lot.reason }} – since {{ times.moment(lot.quarantinedAt) }}.
        </p>
        <p v-else-if="lot.shelf === 'expired'" class="warn">
          Not used in a step without a waiver that names it.
        </p>
        <p v-if="done" class="fine" role="status">{{ done }}</p>
        <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
        <dl class="facts">
          <template v-for="(n, s) in sheet.data.value!.counts" :key="s"
            ><dt class="muted">{{ itemStateWords[s] }}</dt>
            <dd>{{ n }}</dd></template
          >
          <template v-if="lot.shelfMonths"
            ><dt class="muted">Shelf life</dt>
            <dd>{{ lot.shelfMonths }} months</dd></template
          >
          <template v-if="lot.openedDays"
            ><dt class="muted">Once opened</dt>
            <dd>{{ lot.openedDays }} days</dd></template
          >
          <template v-if="lot.gtin"
            ><dt class="muted">Article</dt>
            <dd>{{ lot.gtin }}</dd></template
          >
        </dl>
        <form class="dates" @submit.prevent="saveDates">
          <DayField v-model="dates.made" label="Produced" :disabled="!inspector" />
          <DayField v-model="dates.expires" label="Printed expiry" :disabled="!inspector" />
          <DayField v-model="dates.opened" label="Opened" :disabled="!inspector" />
          <ElButton v-if="inspector" native-type="submit" size="large" :disabled="!changed" :loading="busy"
            >Enter the dates</ElButton
          >
        </form>
        <div class="do">
          <ElButton
            type="primary"
            size="large"
            @click="navigateTo(`/deliveries/trace?kind=lot&value=${encodeURIComponent(lot.lot)}`)"
            >Trace this lot</ElButton
          >
          <ElButton size="large" @click="printing = true">Label</ElButton>
          <ElButton
            v-if="mayQuarantine"
            size="large"
            :type="lot.quarantinedAt ? 'default' : 'danger'"
            plain
            @click="asking = true"
            >{{ lot.quarantinedAt ? 'Take out of quarantine' : 'Quarantine' }}</ElButton
          >
        </div>
      </template>
    </section>
    <AskDialog
      v-model="asking"
      :title="
        lot?.quarantinedAt ? `Take lot ${lot.lot} out of quarantine` : `Quarantine lot ${lot?.lot ?? ''}`
      "
      label="Why?"
      :action="lot?.quarantinedAt ? 'Take out' : 'Quarantine'"
      :send="setQuarantine"
    />
    <LabelScanner v-model="scanning" @read="read" />
    <LabelPrint
      v-if="lot"
      v-model="printing"
      :content="{ gtin: lot.gtin, lot: lot.lot, made: lot.made, expires: lot.expires }"
      :title="lot.title ?? lot.lot"
    />
  </div>
</template>

<style scoped>
.lots {
  height: 100%;
  display: grid;
  grid-template-columns: minmax(0, 1.35fr) minmax(400px, 1fr);
}
.left {
  padding: 8px 24px 20px;
  display: flex;
  flex-direction: column;
  gap: 10px;
  min-height: 0;
}
.page-head {
  margin: 0;
}
.tabs {
  margin-bottom: 4px;
}
.right {
  border-left: 1px solid var(--hair);
  background: var(--card);
  padding: 20px 24px;
  overflow-y: auto;
  display: flex;
  flex-direction: column;
  gap: 14px;
}
.list {
  flex: 1;
  min-height: 120px;
}
.name {
  min-width: 76px;
}
.pieces {
  min-width: 40px;
  text-align: right;
}
.age {
  min-width: 176px;
}
.state {
  display: flex;
  align-items: center;
  gap: 12px;
}
.facts {
  display: grid;
  grid-template-columns: 160px 1fr;
  gap: 4px 12px;
  margin: 0;
}
dd {
  margin: 0;
  font-weight: 600;
}
.dates {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px 14px;
  align-items: end;
}
.dates label {
  font-size: var(--s14);
  color: var(--muted);
}
.do {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
}
.warn {
  padding: 10px 14px;
  border-left: 4px solid var(--rejected);
  background: color-mix(in srgb, var(--rejected) 8%, var(--card));
}
@media (max-width: 1000px) {
  .lots {
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
  .list {
    height: 46vh;
    flex: none;
  }
}
@media (max-width: 720px) {
  .facts {
    grid-template-columns: 120px 1fr;
  }
  .dates {
    grid-template-columns: minmax(0, 1fr);
  }
  .age {
    min-width: 0;
  }
}
</style>
