<script setup lang="ts">
import type { ncrSheet } from '../../../server/services/ncrs'
import { useSession } from '~/stores/session'
import { LOOKED_BACK, type Cause } from '#core/ncr/causes'
import { causeWords, dispositionWords, entryWords, ncrStateWords } from '~/words'
import { smallPicture } from '~/composables/smallPicture'

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

const disposition = ref('rework')
const cause = ref<Cause | ''>('')
const due = ref('')
const ordinal = (n: number) => ['', 'First', 'Second', 'Third', 'Fourth', 'Fifth'][n] ?? `${n}th`
const disposeOpen = ref(false)
const now = useNow(60_000)
const overdue = computed(() => ncr.value.due !== null && times.overdue(ncr.value.due, now.value))
const verifyOpen = ref(false)
const accepted = ref(true)
const text = ref('')
const picture = ref<string | null>(null)
const fault = ref('')
const busy = ref(false)
const say = (e: Sheet['entries'][number]): string => {
  const p = e.payload
  if (e.kind === 'raise') return `${String(p.criterion)} – found ${String(p.reading)}`
  if (e.kind === 'disposition') {
    const why = p.cause ? ` Cause: ${causeWords[p.cause as Cause].toLowerCase()}.` : ''
    const until = p.due ? ` Until ${times.date(String(p.due))}.` : ''
    return `${dispositionWords[String(p.disposition)]}: ${String(p.reason)}${why}${until}`
  }
  if (e.kind === 'action')
    return `${String(p.text)} (${data.value!.people[String(p.owner)] ?? ''}, until ${times.date(String(p.due))})`
  if (e.kind === 'concession') return `${p.agrees ? 'Agrees' : 'Does not agree'}: ${String(p.text)}`
  if (e.kind === 'verification') return `${p.accepted ? 'Accepted' : 'Sent back'}: ${String(p.text)}`
  return String(p.text ?? '')
}
async function dispose(secret: string, reason: string) {
  await api(`${session.base}/ncrs/${id}/disposition`, {
    body: {
      ...{ disposition: disposition.value, reason, secret },
      ...(cause.value ? { cause: cause.value } : {}),
      ...(due.value ? { due: due.value } : {}),
    },
  })
  await load()
}
async function verify(secret: string, reason: string) {
  await api(`${session.base}/ncrs/${id}/verification`, {
    body: { accepted: accepted.value, text: reason, secret },
  })
  await load()
}
async function rework() {
  if (!text.value.trim()) return void (fault.value = 'Say what was done.')
  busy.value = true
  fault.value = ''
  try {
    await api(`${session.base}/ncrs/${id}/rework`, {
      body: { text: text.value.trim(), photo: picture.value },
    })
    text.value = ''
    await load()
  } catch (error) {
    fault.value = error instanceof ApiProblem ? error.message : 'This was not recorded.'
  } finally {
    busy.value = false
  }
}
async function take(event: Event) {
  const file = (event.target as HTMLInputElement).files?.[0]
  if (!file) return
  try {
    picture.value = (
      await api<{ id: string }>(`${session.base}/files`, { body: await smallPicture(file) })
    ).id
  } catch (error) {
    fault.value = error instanceof ApiProblem ? error.message : 'This is not a picture that can be read.'
  }
}
const ownWork = computed(() => ncr.value.reworkedBy === session.person?.id)
function ask(conforms: boolean) {
  accepted.value = conforms
  verifyOpen.value = true
}
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
        <ol class="log">
          <li v-for="e in data.entries" :key="e.id">
            <span class="muted small">{{ times.moment(e.recordedAt) }}</span><span
              ><strong>{{ entryWords[e.kind] }}</strong
              >, {{ data.people[e.person] }}<br />{{ say(e)
              }}<template v-if="e.kind === 'rework' && e.payload.photo"
                ><br /><a :href="`/api/${session.base}/files/${String(e.payload.photo)}`" target="_blank"
                  >picture</a
                ></template
              ></span
            >
          </li>
        </ol>
      </section>
      <section class="act">
        <template v-if="ncr.state === 'open' || (ncr.state === 'disposed' && session.can('dispose-ncr'))">
          <h2>Disposition</h2>
          <template v-if="session.can('dispose-ncr')">
            <div class="choices" role="radiogroup" aria-label="Disposition">
              <ElButton
                v-for="(w, d) in dispositionWords"
                :key="d"
                size="large"
                :type="disposition === d ? 'primary' : 'default'"
                role="radio"
                :aria-checked="disposition === d"
                @click="disposition = d"
                >{{ w }}</ElButton
              >
            </div>
            <label
              >Why was it so?<ElSelect
                v-model="cause"
                size="large"
                aria-label="Why was it so?"
                placeholder="cause"
              >
                <ElOption v-for="(w, c) in causeWords" :key="c" :value="c" :label="w" /></ElSelect
            ></label>
            <DayField v-model="due" label="To be done until" />
            <ElButton type="primary" size="large" @click="disposeOpen = true"
              >Decide: {{ dispositionWords[disposition] }}</ElButton
            >
          </template>
          <p v-else class="muted">The engineer decides what happens.</p>
        </template>
        <template v-if="ncr.state === 'disposed'">
          <h2>{{ dispositionWords[ncr.disposition!] }}</h2>
          <p v-if="ncr.due" :class="{ late: overdue }">
            To be done until <strong>{{ times.date(ncr.due) }}</strong><template v-if="overdue"
              >: overdue</template
            >.
          </p>
          <template v-if="session.can('answer-ncr')">
            <p class="muted">Do the work, take the new reading at the step, then say here what was done.</p>
            <label>What was done<ElInput v-model="text" type="textarea" :rows="4" maxlength="2000" /></label>
            <label
              >Photo<input type="file" accept="image/*" capture="environment" @change="take" /><span
                v-if="picture"
              >
                taken</span
              ></label
            >
            <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
            <ElButton type="primary" size="large" :loading="busy" @click="rework"
              >Record what was done</ElButton
            >
          </template>
          <p v-else class="muted">The crew answers when it is done.</p>
        </template>
        <ClientConcession
          v-if="data.client && ncr.state !== 'open'"
          :ncr="id"
          :word="data.client.word"
          :people="data.people"
          @done="load"
        />
        <template v-if="ncr.state === 'reworked'">
          <h2>Verification</h2>
          <p v-if="!session.can('verify-ncr')" class="muted">
            An inspector who did not do the work verifies it.
          </p>
          <p v-else-if="ownWork" class="muted">You answered this yourself: another inspector must look.</p>
          <div v-else class="choices">
            <ElButton type="primary" size="large" @click="ask(true)">It conforms now</ElButton>
            <ElButton type="danger" plain size="large" @click="ask(false)">Send it back</ElButton>
          </div>
        </template>
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
    <SecretDialog
      v-model="disposeOpen"
      :title="dispositionWords[disposition]!"
      action="Decide"
      reason-label="Reason and what is to be done"
      reason-required
      :send="dispose"
    />
    <SecretDialog
      v-model="verifyOpen"
      :title="accepted ? 'It conforms now' : 'Send it back'"
      :action="accepted ? 'Verify and close' : 'Send back'"
      :danger="!accepted"
      reason-label="What you saw"
      reason-required
      :send="verify"
    />
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
.log {
  list-style: none;
  margin: 16px 0 0;
  padding: 0;
}
.log li {
  display: grid;
  grid-template-columns: 92px 1fr;
  gap: 12px;
  padding: 10px 0;
  border-top: 1px solid var(--hair);
}
.act {
  display: flex;
  flex-direction: column;
  gap: 14px;
  align-items: stretch;
}
.choices {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px;
}
label {
  font-size: var(--s14);
  color: var(--muted);
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
