<script setup lang="ts">
import { typedQuantity } from '~/checks/typed'
import { unitShown } from '#core/quantity/site-units'
import { showCount } from '#core/quantity/show'
import { uuidv7 } from 'uuidv7'
import type { StoredKind } from '#core/yard/storage'
import type { placeSheet, yard } from '../../../server/services/yard'
import { useSession } from '~/stores/session'
import { storedWords } from '~/words'

/** Where goods lie, the rounds through it, and the two planners of the yard. */
type Places = Awaited<ReturnType<typeof yard>>
const session = useSession()
const times = useTimes()
const now = useNow()
const route = useRoute()
const view = ref<'places' | 'stack' | 'lift'>(
  route.query.view === 'stack' || route.query.view === 'lift' ? route.query.view : 'places',
)
const { data, problem, loading, load } = useLoad(() => api<Places>(`${session.base}/yard`))
const chosen = ref<string | null>(typeof route.query.place === 'string' ? route.query.place : null)
const sheet = useLoad(async () =>
  chosen.value ? api<Awaited<ReturnType<typeof placeSheet>>>(`${session.base}/yard/${chosen.value}`) : null,
)
watch(chosen, sheet.load)
onMounted(async () => {
  await load()
  chosen.value ??= data.value?.[0]?.id ?? null
  await sheet.load()
})
const inspector = computed(() => session.can('keep-yard'))
async function record(body: unknown) {
  await api(`${session.base}/yard/${chosen.value}/rounds`, { body })
  await Promise.all([load(), sheet.load()])
}
const adding = ref(false)
const fresh = reactive({ name: '', kind: 'plastic pipe' as StoredKind, min: '', max: '', every: '7' })
const fault = ref('')
async function add() {
  fault.value = ''
  const [min, max] = [fresh.min, fresh.max].map((text) => typedQuantity(text, 'temperature', '°C'))
  if ((min === null && fresh.min.trim()) || (max === null && fresh.max.trim()))
    return void (fault.value = `Temperatures are numbers in ${unitShown('°C')}.`)
  try {
    const { id } = await api<{ id: string }>(`${session.base}/yard`, {
      body: {
        id: uuidv7(),
        name: fresh.name,
        kind: fresh.kind,
        min,
        max,
        everyDays: Number(fresh.every) || 0,
      },
    })
    adding.value = false
    Object.assign(fresh, { name: '', min: '', max: '' })
    await load()
    chosen.value = id
  } catch (error) {
    fault.value = problemOf(error, 'The place was not added.').message
  }
}
const days = (ms: number) => (ms < 86_400_000 ? times.span(ms) : `${Math.ceil(ms / 86_400_000)} days`)
const due = (p: Places[number]) =>
  p.due < now.value
    ? p.lastRound
      ? `round due since ${times.span(now.value - p.due)}`
      : 'round due'
    : `next round in ${days(p.due - now.value)}`
</script>

<template>
  <div class="page" tabindex="0" role="region" aria-label="Yard">
    <DeliveryTabs />
    <div class="page-head">
      <h1>Yard</h1>
      <ElRadioGroup v-model="view" aria-label="View of the yard" class="grow"
        ><ElRadioButton value="places">Places and rounds</ElRadioButton
        ><ElRadioButton value="stack">Plan a stack</ElRadioButton
        ><ElRadioButton value="lift">Plan a lift</ElRadioButton></ElRadioGroup
      >
      <ElButton v-if="view === 'places' && inspector" size="large" @click="adding = true"
        >Add a place</ElButton
      >
    </div>
    <StackPlanner v-if="view === 'stack'" />
    <LiftPlanner v-else-if="view === 'lift'" />
    <Notice v-else-if="problem && !data" :problem="problem" @again="load" />
    <Notice v-else-if="!data" :loading="loading" />
    <Notice
      v-else-if="data.length === 0"
      empty="No place yet"
      hint="Say where stacks, fittings and seals lie; each place gets its round."
    />
    <div v-else class="two">
      <div class="sheet list" role="listbox" aria-label="Places">
        <button
          v-for="p in data"
          :key="p.id"
          type="button"
          role="option"
          class="pick one"
          :class="{ here: p.id === chosen }"
          :aria-selected="p.id === chosen"
          @click="chosen = p.id"
        >
          <StateGlyph
            :state="p.findings.length ? 'rejected' : p.due < now ? 'waiting' : 'accepted'"
            :size="28"
          />
          <span class="grow"
            ><strong>{{ p.name }}</strong
            ><span class="muted small">{{ storedWords[p.kind] }}, {{ showCount(p.items) }} pieces</span></span
          >
          <span class="small" :class="p.findings.length ? 'fault' : 'muted'">{{
            p.findings.length
              ? `${p.findings.length} ${p.findings.length === 1 ? 'finding' : 'findings'}`
              : due(p)
          }}</span>
        </button>
      </div>
      <div class="sheet right">
        <PlaceSheet
          v-if="sheet.data.value"
          :sheet="sheet.data.value"
          :may="inspector"
          :record="record"
        /><Notice v-else empty="Choose a place" />
      </div>
    </div>
    <ElDialog v-model="adding" title="Add a place" width="560px" align-center>
      <form class="form" @submit.prevent="add">
        <label class="wide">Name<ElInput v-model="fresh.name" size="large" maxlength="80" /></label>
        <div class="field">
          What lies there<ElSelect v-model="fresh.kind" size="large" aria-label="What lies there"
            ><ElOption v-for="(word, key) in storedWords" :key="key" :value="key" :label="word"
          /></ElSelect>
        </div>
        <label>A round every … days<ElInput v-model="fresh.every" size="large" inputmode="numeric" /></label>
        <label
          >Not below, {{ unitShown('°C') }}<ElInput v-model="fresh.min" size="large" placeholder="any"
        /></label>
        <label
          >Not over, {{ unitShown('°C') }}<ElInput v-model="fresh.max" size="large" placeholder="any"
        /></label>
        <p v-if="fault" class="fault wide" role="alert">{{ fault }}</p>
        <div class="wide actions">
          <ElButton size="large" @click="adding = false">Back</ElButton
          ><ElButton type="primary" size="large" native-type="submit" :disabled="!fresh.name.trim()"
            >Add</ElButton
          >
        </div>
      </form>
    </ElDialog>
  </div>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1.15fr);
  gap: 24px;
  align-items: start;
}
.one {
  height: 64px;
}
.one:last-child {
  border-bottom: 0;
}
.one .small {
  display: block;
}
.right {
  padding: 18px 20px;
}
.form {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 12px 14px;
}
.wide {
  grid-column: 1 / -1;
}
.form label,
.field {
  font-size: var(--s14);
  color: var(--muted);
}
@media (max-width: 1000px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
  .one {
    height: auto;
    min-height: 64px;
  }
}
@media (max-width: 720px) {
  .form {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
