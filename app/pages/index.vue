<script setup lang="ts">
import { uuidv7 } from 'uuidv7'
import type { TodayItem } from '../../server/services/today'
import { useSession } from '~/stores/session'
import { useStrip } from '~/stores/strip'

const session = useSession()
const strip = useStrip()
const now = useNow()
const times = useTimes()
const { data, problem, loading, load } = useLoad(() => api<TodayItem[]>(`${session.base}/today`))

const folders = { joint: 'joints', reach: 'embedment', pack: 'tests' }
const sheet = (i: TodayItem) => `/${folders[i.of ?? 'joint']}/${i.subject}?step=${i.step}`
const paths: Record<TodayItem['kind'], (i: TodayItem) => string> = {
  hold: sheet,
  coming: sheet,
  invitation: sheet,
  draft: sheet,
  clock: sheet,
  action: sheet,
  query: sheet,
  concession: (i) => `/ncrs/${i.subject}`,
  ncr: (i) => `/ncrs/${i.subject}`,
  test: (i) => `/tests/${i.subject}`,
  delivery: (i) => `/deliveries/${i.subject}`,
  lot: (i) => `/deliveries/lots?lot=${i.subject}`,
  round: (i) => `/deliveries/yard?place=${i.subject}`,
}
const groups = computed(() => {
  const items = data.value ?? []
  const of = (...kinds: TodayItem['kind'][]) => items.filter((i) => kinds.includes(i.kind))
  const lead = !session.can('see-office')
  const standing = {
    key: 'now',
    title: lead ? 'You wait for' : 'Crews standing',
    hint: 'Nobody waits for a release.',
    items: of('hold'),
  }
  const coming = {
    key: 'coming',
    title: 'In the next two hours',
    hint: 'No crew is about to come to a point.',
    items: of('invitation', 'coming'),
  }
  if (!session.can('record') && !session.can('write-procedure'))
    return [
      coming,
      { key: 'next', title: 'To sign', hint: 'No concession waits for you.', items: of('concession') },
      { key: 'clocks', title: 'Tests', hint: 'No test is due.', items: of('test') },
    ]
  return [
    standing,
    coming,
    {
      key: 'next',
      title: 'To do now',
      hint: 'No clock has run out.',
      items: of('action', 'query', 'draft', 'ncr', 'delivery', 'round', 'lot'),
    },
    {
      key: 'clocks',
      title: 'Clocks and tests',
      hint: 'Nothing is cooling and no test is due.',
      items: of('test', 'clock').sort((a, b) => (a.due ?? 0) - (b.due ?? 0)),
    },
  ]
})
const glyph: Record<
  TodayItem['kind'],
  'held' | 'rejected' | 'waiting' | 'in-work' | 'not-started' | 'too-close'
> = {
  hold: 'held',
  coming: 'in-work',
  invitation: 'waiting',
  draft: 'rejected',
  ncr: 'rejected',
  clock: 'waiting',
  action: 'in-work',
  query: 'held',
  concession: 'held',
  test: 'waiting',
  delivery: 'not-started',
  lot: 'too-close',
  round: 'not-started',
}
const measure = (i: TodayItem) => {
  if (i.kind === 'clock' || i.kind === 'coming' || i.kind === 'invitation')
    return i.due! - now.value < 3_600_000
      ? i.due! - now.value < 45_000
        ? 'now'
        : `in ${times.span(i.due! - now.value)}`
      : `at ${times.moment(i.due!)}`
  if (i.kind === 'test') return `at ${times.moment(i.due!)}`
  if (i.kind === 'ncr' && i.due !== null)
    return i.due < now.value ? `overdue for ${times.span(now.value - i.due)}` : `until ${times.day(i.due)}`
  return i.since ? `for ${times.span(now.value - i.since)}` : ''
}

/** holds chosen to be released by one word; null while nobody chooses */
const chosen = ref<string[] | null>(null)
const keyOf = (i: TodayItem) => `${i.subject} ${i.step}`
const several = computed(
  () =>
    session.can('release-hold') &&
    (data.value ?? []).filter((i) => i.kind === 'hold' && i.of === undefined).length > 1,
)
const signing = ref(false)
async function release(secret: string, note: string) {
  const holds = (data.value ?? [])
    .filter((i) => i.kind === 'hold' && chosen.value?.includes(keyOf(i)))
    .map((i) => ({ id: uuidv7(), joint: i.subject, step: i.step! }))
  await api(`${session.base}/holds`, { body: { secret, note, holds } })
  chosen.value = null
  await load()
}

/** what an inspector or a witness is called for while looking elsewhere */
const calls = computed(
  () =>
    data.value &&
    data.value
      .filter((i) => (i.kind === 'hold' && session.can('release-hold')) || i.kind === 'invitation')
      .map((i) => ({ key: `${i.kind} ${keyOf(i)}`, says: `${i.place}: ${i.title}` })),
)
const called = computed(() => session.can('release-hold') || session.can('answer-invitation'))
const { on: calling, turn: call } = useChime(calls)
if (session.can('see-site')) {
  onMounted(load)
  useFeed(session.projectKey, () => void load())
}
// A clock that has just run out changes its place; what a crew is about to reach is foreseen anew.
useDue(
  now,
  () =>
    (data.value ?? [])
      .filter((i) => i.kind === 'clock' || i.kind === 'coming')
      .map((i) => ({ key: i.kind === 'clock' ? `${keyOf(i)} ${i.due}` : `coming ${keyOf(i)}`, at: i.due })),
  () => void load(),
)
onMounted(() => (strip.station = null))
</script>

<template>
  <div class="page">
    <TodayTabs>
      <ElButton v-if="called" size="large" :aria-pressed="calling" @click="call(!calling)">{{
        calling ? 'Calls are on' : 'Call me'
      }}</ElButton>
    </TodayTabs>
    <h1 class="visually-hidden">Today</h1>
    <Notice
      v-if="!session.can('see-site')"
      empty="Nothing on site needs an administrator"
      hint="What the project still misses before crews can work stands in the plan check."
    >
      <NuxtLink to="/setup/check">Plan check</NuxtLink>
    </Notice>
    <Notice v-else-if="problem && !data" :problem="problem" @again="load" />
    <Notice v-else-if="!data" :loading="loading" />
    <div v-else class="columns" :class="{ few: groups.length < 3 }">
      <section v-for="g in groups" :key="g.key" :aria-label="g.title" :class="g.key">
        <header>
          <h2>{{ g.title }}</h2>
          <span class="count">{{ g.items.length }}</span>
          <ElButton
            v-if="g.key === 'now' && several"
            class="choose"
            @click="chosen = chosen === null ? [] : null"
            >{{ chosen === null ? 'Release several' : 'One by one' }}</ElButton
          >
        </header>
        <ElCheckboxGroup v-if="g.key === 'now' && chosen !== null" v-model="chosen" class="several">
          <ElCheckbox
            v-for="i in g.items.filter((x) => x.of === undefined)"
            :key="keyOf(i)"
            :value="keyOf(i)"
          >
            {{ i.place }}, {{ i.title }}<template v-if="i.crew"> · {{ i.crew }}</template>
          </ElCheckbox>
          <ElButton type="primary" size="large" :disabled="chosen.length === 0" @click="signing = true">{{
            chosen.length < 2 ? 'Release it' : `Release these ${chosen.length}`
          }}</ElButton>
        </ElCheckboxGroup>
        <p v-if="g.items.length === 0" class="muted empty">{{ g.hint }}</p>
        <NuxtLink
          v-for="i in g.items"
          :key="`${i.kind} ${i.subject} ${i.step}`"
          :to="paths[i.kind](i)"
          class="item"
          :class="i.kind"
        >
          <StateGlyph :state="glyph[i.kind]" :size="30" />
          <span class="what">
            <strong>{{ i.place }}</strong>
            <span>{{ i.title }}</span>
            <span class="muted small"
              >{{ i.detail
              }}<template v-if="i.crew">
                · <span class="crew">{{ i.crew }}</span></template
              ><template v-if="i.span">
                · between {{ times.clock(i.span.from) }} and {{ times.clock(i.span.to) }}, by the last
                {{ i.span.of }} joints</template
              ></span
            >
          </span>
          <span class="when">{{ measure(i) }}</span>
        </NuxtLink>
      </section>
    </div>
    <SecretDialog
      v-model="signing"
      :title="`Release ${chosen?.length ?? 0} hold points`"
      action="Release"
      reason-label="Note (not needed)"
      :send="release"
    />
    <LeftOpen v-if="session.can('sign-shift')" />
    <ShiftAnswers v-if="session.can('record')" />
  </div>
</template>

<style scoped>
.columns {
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  grid-template-rows: auto 1fr;
  gap: 28px;
}
/* Who stands and who will soon stand are one column; the others are as long as they are. */
.now,
.coming {
  grid-column: 1;
}
.next {
  grid-area: 1 / 2 / 3;
}
.clocks {
  grid-area: 1 / 3 / 3;
}
.few > * {
  grid-area: auto;
}
/* As high as its button, with one and without: the columns begin on one line. */
header {
  display: flex;
  align-items: center;
  gap: 10px;
  min-height: 56px;
  padding-bottom: 8px;
  border-bottom: 3px solid var(--ink);
}
.count {
  color: var(--muted);
  font-size: var(--s18);
}
.item {
  display: flex;
  gap: 14px;
  align-items: flex-start;
  padding: 14px 4px;
  border-bottom: 1px solid var(--hair);
  color: inherit;
  text-decoration: none;
  min-height: 76px;
}
.item > .glyph {
  margin-top: 3px;
}
.what {
  display: flex;
  flex-direction: column;
  flex: 1;
  min-width: 0;
  overflow-wrap: anywhere;
}
/* A name of two words is not parted. */
.crew {
  display: inline-block;
}
.when {
  font-size: var(--s22);
  font-weight: 600;
  white-space: nowrap;
  text-align: right;
}
/* Overdue is a word and a long time: it takes two lines rather than the room of what it is about. */
.ncr .when {
  max-width: 9ch;
  white-space: normal;
}
.hold .when {
  color: var(--held);
}
.clock .when,
.test .when {
  color: var(--waiting);
}
.choose {
  margin-left: auto;
  min-height: 44px;
}
.several {
  display: flex;
  flex-direction: column;
  gap: 4px;
  padding: 10px 4px;
  border-bottom: 3px solid var(--hair);
}
.several .el-checkbox {
  height: 44px;
  margin: 0;
  white-space: normal;
}
.empty {
  padding: 18px 4px;
}
@media (max-width: 1000px) {
  .columns {
    grid-template-columns: 1fr;
    grid-template-rows: none;
  }
  .columns > * {
    grid-area: auto;
  }
}
</style>
