<script setup lang="ts">
import type { lotSheet } from '../../../server/services/lots'
import { useSession } from '~/stores/session'
import { itemStateWords } from '~/words'

/** One lot: its dates, where its pieces stand, and whether it may be used. */
const props = defineProps<{ lotId: string }>()
const emit = defineEmits<{ changed: [] }>()
const session = useSession()
const times = useTimes()
const { glyph, word } = useLotAge()
const path = (id: string) => `${session.base}/lots/${id}`
const { data, problem, loading, load } = useLoad(() =>
  api<Awaited<ReturnType<typeof lotSheet>>>(path(props.lotId)),
)
const lot = computed(() => data.value?.lot ?? null)
/** What is done is done to the lot that is shown, also while another is on its way. */
const shown = () => path(lot.value!.id)

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
const done = ref('')
const { busy, words: fault, send, clear } = useSending()
watch(
  () => props.lotId,
  () => {
    done.value = ''
    clear()
    void load()
  },
  { immediate: true },
)
async function enter(act: () => Promise<string>) {
  done.value = ''
  const id = lot.value!.id
  const said = await send(act)
  if (said === null) return
  await load()
  if (lot.value!.id === id) done.value = said
  emit('changed')
}
const saveDates = () =>
  enter(async () => {
    const { judgedAnew } = await api<{ judgedAnew: number }>(`${shown()}/dates`, {
      body: Object.fromEntries(Object.entries(dates).map(([k, v]) => [k, v || null])),
    })
    return judgedAnew ? `Entered. ${judgedAnew} joints were judged anew.` : 'Entered.'
  })
const asking = ref(false)
const setQuarantine = (reason: string) =>
  enter(async () => {
    const on = !lot.value!.quarantinedAt
    await api(`${shown()}/quarantine`, { body: { on, reason } })
    return on ? 'In quarantine from now on.' : 'Out of quarantine.'
  })
const printing = ref(false)
const inspector = computed(() => session.can('date-lot'))
const mayQuarantine = computed(() => session.can(lot.value?.quarantinedAt ? 'end-quarantine' : 'quarantine'))
</script>

<template>
  <Notice v-if="!lot" :problem="problem" :loading="loading" @again="load" />
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
    <p v-else-if="lot.shelf === 'expired'" class="warn">Not used in a step without a waiver that names it.</p>
    <p v-if="done" class="fine" role="status">{{ done }}</p>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <dl class="facts">
      <template v-for="(n, s) in data!.counts" :key="s"
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
    <AskDialog
      v-model="asking"
      :title="lot.quarantinedAt ? `Take lot ${lot.lot} out of quarantine` : `Quarantine lot ${lot.lot}`"
      label="Why?"
      :action="lot.quarantinedAt ? 'Take out' : 'Quarantine'"
      :send="setQuarantine"
    />
    <LabelPrint
      v-model="printing"
      :content="{ gtin: lot.gtin, lot: lot.lot, made: lot.made, expires: lot.expires }"
      :title="lot.title ?? lot.lot"
    />
  </template>
</template>

<style scoped>
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
@media (max-width: 720px) {
  .facts {
    grid-template-columns: 120px 1fr;
  }
  .dates {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
