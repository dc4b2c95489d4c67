<script setup lang="ts">
import type { ncrSheet } from '../../../server/services/ncrs'
import { useSession } from '~/stores/session'
import { LOOKED_BACK } from '#core/ncr/causes'
import { dispositionWords, ncrStateWords } from '~/words'

type Sheet = Awaited<ReturnType<typeof ncrSheet>>
const session = useSession()
const times = useTimes()
const id = useRoute().params.id as string
const { data, problem, loading, load } = useLoad(() => api<Sheet>(`${session.base}/ncrs/${id}`))
onMounted(load)
useFeed(session.projectKey, (rows) => rows.some((r) => r.subject === id) && void load())
const ncr = computed(() => data.value!.ncr)
const path: Record<string, string> = { joint: '/joints/', reach: '/embedment/', pack: '/tests/' }
const stages = ['open', 'disposed', 'reworked', 'closed'] as const
const at = computed(() => stages.indexOf(ncr.value.state))
const photo = computed(
  () => data.value?.entries.find((e) => e.kind === 'raise')?.payload.photo as string | null,
)

const after = computed(
  () => (data.value?.entries.findLast((e) => e.kind === 'rework')?.payload.photo ?? null) as string | null,
)
const photos = computed(() =>
  [
    { word: 'Before', alt: 'Photo of the nonconformance', file: photo.value },
    { word: 'After', alt: 'Photo of the rework', file: after.value },
  ].filter((p) => p.file),
)

const ordinal = (n: number) => ['', 'First', 'Second', 'Third', 'Fourth', 'Fifth'][n] ?? `${n}th`
const now = useNow(60_000)
const overdue = computed(() => ncr.value.due !== null && times.overdue(ncr.value.due, now.value))
</script>

<template>
  <Notice v-if="problem && !data" :problem="problem" @again="load" />
  <Notice v-else-if="!data" :loading="loading" />
  <div v-else class="page">
    <div class="page-head">
      <h1>{{ ncr.number }}</h1>
      <StateGlyph :state="ncr.state === 'closed' ? 'accepted' : 'rejected'" :size="28" /><strong>{{
        ncrStateWords[ncr.state]
      }}</strong>
      <NuxtLink
        :to="`${path[ncr.subjectType]}${ncr.subject}${ncr.step ? `?step=${ncr.step}` : ''}`"
        class="grow"
        >{{ ncr.place }}</NuxtLink
      >
      <a :href="`/api/${session.base}/ncrs/${id}/print`" target="_blank" class="print">Print (PDF)</a>
    </div>
    <p v-if="data.repeat.times > 1" class="repeat">
      <strong>{{ ordinal(data.repeat.times) }} time at this step</strong> within the crew’s last
      {{ LOOKED_BACK }} joints: before it
      <NuxtLink v-for="b in data.repeat.before" :key="b.id" :to="`/ncrs/${b.id}`">{{
        b.number
      }}</NuxtLink><template v-if="data.repeat.asksForAction && data.actions.length === 0"
        >. A corrective action with an owner and a day is due before it can be closed.</template
      >
    </p>
    <ol class="stages" aria-label="Progress">
      <li
        v-for="(s, i) in ['Raised', 'Disposition', 'Rework', 'Verified']"
        :key="s"
        :class="{ done: i <= at }"
      >
        {{ s }}
      </li>
    </ol>
    <div class="two">
      <section class="sheet facts">
        <h2>Criterion against reading</h2>
        <p class="muted small">Must be</p>
        <p class="big">{{ ncr.criterion }}</p>
        <p class="muted small">Was</p>
        <p class="big bad">{{ ncr.reading }}</p>
        <div v-if="photo || after" class="photos">
          <figure v-for="p in photos" :key="p.word">
            <img :src="`/api/${session.base}/files/${p.file}`" :alt="p.alt" />
            <figcaption class="muted small">{{ p.word }}</figcaption>
          </figure>
        </div>
        <NcrStory :entries="data.entries" :people="data.people" />
      </section>
      <section class="act">
        <NcrDisposition
          v-if="ncr.state === 'open' || (ncr.state === 'disposed' && session.can('dispose-ncr'))"
          :ncr="id"
          @done="load"
        />
        <template v-if="ncr.state === 'disposed'">
          <h2>{{ dispositionWords[ncr.disposition!] }}</h2>
          <p v-if="ncr.due" :class="{ late: overdue }">
            To be done until <strong>{{ times.date(ncr.due) }}</strong><template v-if="overdue"
              >: overdue</template
            >.
          </p>
          <NcrRework v-if="session.can('answer-ncr')" :ncr="id" @done="load" />
          <p v-else class="muted">The crew answers when it is done.</p>
        </template>
        <ClientConcession
          v-if="data.client && ncr.state !== 'open'"
          :ncr="id"
          :word="data.client.word"
          :people="data.people"
          @done="load"
        />
        <NcrVerification
          v-if="ncr.state === 'reworked'"
          :ncr="id"
          :own="ncr.reworkedBy === session.person?.id"
          @done="load"
        />
        <CorrectiveActions
          v-if="data.actions.length > 0 || (data.repeat.times > 1 && session.can('ask-action'))"
          :ncr="id"
          :actions="data.actions"
          :people="data.people"
          @done="load"
        />
        <template v-if="ncr.state === 'closed'"
          ><h2>Closed</h2>
          <p class="muted">{{ times.moment(ncr.closedAt!) }}. The record stays as it is.</p></template
        >
      </section>
    </div>
  </div>
</template>

<style scoped>
.late {
  color: var(--rejected);
}
.print {
  align-self: flex-start;
  min-height: 44px;
  display: inline-flex;
  align-items: center;
}
.photos {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 12px;
}
figure {
  margin: 0;
}
figure img {
  width: 100%;
}
.repeat {
  border-left: 4px solid var(--held);
  padding: 6px 14px;
  margin-bottom: 20px;
}
.repeat a {
  margin-left: 6px;
}
.stages {
  list-style: none;
  display: grid;
  grid-template-columns: repeat(4, 1fr);
  margin: 0 0 20px;
  padding: 0;
}
.stages li {
  border-top: 5px solid var(--hair);
  padding-top: 8px;
  color: var(--muted);
}
.stages .done {
  border-color: var(--line);
  color: var(--ink);
  font-weight: 600;
}
.two {
  display: grid;
  grid-template-columns: 1.3fr 1fr;
  gap: 28px;
}
.facts {
  padding: 18px 20px;
  display: flex;
  flex-direction: column;
  gap: 4px;
}
.big {
  font-size: var(--s22);
  font-weight: 600;
  overflow-wrap: anywhere;
}
.bad {
  color: var(--rejected);
}
img {
  max-width: 100%;
  max-height: 260px;
  object-fit: contain;
  margin-top: 10px;
}
.act {
  display: flex;
  flex-direction: column;
  gap: 14px;
  align-items: stretch;
}
@media (max-width: 1000px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
  .stages {
    grid-template-columns: repeat(2, 1fr);
    row-gap: 10px;
  }
}
</style>
