<script setup lang="ts">
import type { ShiftPage } from '#core/crew/shift-signing'
import type { shiftDays } from '../../../../server/services/shift-reports'
import { useSession } from '~/stores/session'
import { standingWords } from '#core/crew/standing-time'
import { stateWords } from '~/words'

definePageMeta({ key: (route) => route.params.id as string })
/** The report of a crew and a day, made by the record, and signed by the crew lead and an inspector. */
const session = useSession()
const times = useTimes()
const id = useRoute().params.id as string
const base = `${session.base}/crews/${id}/shifts`
const asked = useAddress('day')
const day = computed({ get: () => asked.value || times.today(), set: (to: string) => (asked.value = to) })
const days = useLoad(() => api<Awaited<ReturnType<typeof shiftDays>>>(base))
const { data: read, problem, loading, load } = useLoad(() => api<ShiftPage>(`${base}/${day.value}`))
/** never the day before it: what is on the screen is what is signed */
const data = computed(() => (read.value?.report.day === day.value ? read.value : null))
onMounted(() => Promise.all([days.load(), load()]))
watch(day, load)
const report = computed(() => data.value!.report)
const joints = computed(() => report.value.work.filter((w) => w.of === 'joint'))
const reaches = computed(() => report.value.work.filter((w) => w.of === 'reach'))
const stood = computed(() => Object.entries(report.value.standing).filter(([, ms]) => ms >= 60_000))

const weather = ref('')
const words = ref('')
/** rain in the night, as it was said on Today, until it is said otherwise */
const rain = useRainTonight()
const signOpen = ref(false)
const forCrew = computed(() => session.roles.includes('crew-lead'))
const maySign = computed(() => {
  if (!data.value || report.value.work.length === 0 || !session.can('sign-shift')) return false
  const { signed, moved } = data.value
  return forCrew.value ? !signed.lead || moved : signed.lead !== null && !moved && signed.inspector === null
})
async function sign(body: { image: string; secret: string }) {
  const { digest, until } = data.value!
  await api(`${base}/${day.value}/sign`, {
    body: {
      ...body,
      report: digest,
      until,
      weather: weather.value,
      words: words.value,
      rain: rain.value ?? null,
    },
  })
  await Promise.all([load(), days.load()])
}
/** the day is over: the report is of all of it */
const whole = computed(() => times.clock(data.value!.until) === '00:00')
const glyphs = { open: 'not-started', led: 'in-work', signed: 'accepted' } as const
const dayWords = { open: 'not signed', led: 'signed by the crew', signed: 'signed by both' } as const
const span = (s: { from: number; to: number | null }) => times.span((s.to ?? data.value!.until) - s.from)
</script>

<template>
  <div class="page">
    <TodayTabs />
    <div class="days" role="group" aria-label="Days">
      <button
        v-for="d in days.data.value ?? []"
        :key="d.day"
        type="button"
        :aria-pressed="d.day === day"
        :aria-label="`${times.date(d.day)}: ${dayWords[d.state]}`"
        @click="day = d.day"
      >
        <StateGlyph :state="glyphs[d.state]" :size="18" />{{ times.date(d.day).slice(0, -5) }}
      </button>
    </div>
    <Notice v-if="problem && !data" :problem="problem" @again="load" />
    <Notice v-else-if="!data" :loading="loading" />
    <template v-else>
      <div class="page-head">
        <h1>{{ report.crew.name }}, {{ times.date(report.day) }}</h1>
        <span class="muted grow"
          >{{ whole ? 'the whole day' : `up to ${times.clock(data.until)}` }},
          {{ dayWords[data.state] }}</span
        >
        <a :href="`/api/${base}/${day}/print`" target="_blank" class="link">Print (PDF)</a>
        <ElButton v-if="maySign" type="primary" size="large" @click="signOpen = true">Sign the day</ElButton>
      </div>
      <p v-if="data.moved" class="moved" role="status">
        The crew has worked on since it signed: this is the day as it is now, to be signed anew.
      </p>
      <Notice
        v-if="report.work.length === 0"
        empty="Nothing was recorded on this day"
        hint="Choose another day above."
      />
      <div v-else class="grid">
        <section class="sheet" aria-label="Work">
          <h2>Worked at</h2>
          <table class="figures">
            <thead>
              <tr>
                <th scope="col">Where</th>
                <th scope="col">State</th>
                <th scope="col">At the first try</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="w in joints" :key="w.id">
                <td>
                  <NuxtLink :to="`/joints/${w.id}`">{{ w.name }}</NuxtLink><br /><span class="muted small">{{
                    w.procedure
                  }}</span>
                </td>
                <td class="tight">
                  <StateGlyph :state="w.state as never" :size="20" /> {{ stateWords[w.state as never] }}
                </td>
                <td>
                  <template v-if="w.right === true">yes</template>
                  <template v-else-if="w.right === false"
                    >no<template v-if="w.faults.length">: {{ w.faults.join(', ') }}</template></template
                  >
                  <span v-else class="muted">in work</span>
                </td>
              </tr>
              <tr v-for="w in reaches" :key="w.id">
                <td>
                  <NuxtLink :to="`/embedment/${w.id}`">{{ w.name }}</NuxtLink><br /><span
                    class="muted small"
                    >{{ w.procedure }}</span
                  >
                </td>
                <td colspan="2">{{ w.lifts }} lifts, {{ w.answers }} answers</td>
              </tr>
            </tbody>
          </table>
        </section>
        <div class="column">
          <section class="sheet" aria-label="Standing">
            <h2>Stood still</h2>
            <p v-if="stood.length === 0" class="muted">The crew waited for nobody.</p>
            <ul v-else class="plain">
              <li v-for="[cause, ms] in stood" :key="cause">
                <strong>{{ times.span(ms) }}</strong> {{ standingWords[cause as keyof typeof standingWords] }}
              </li>
            </ul>
            <ul class="plain muted small">
              <li v-for="s in report.stands" :key="`${s.at} ${s.from}`">
                {{ s.at }}<template v-if="s.step">, {{ s.step }}</template
                >: from {{ times.clock(s.from) }}, {{ span(s) }}
              </li>
            </ul>
          </section>
          <section class="sheet" aria-label="Also">
            <h2>Also</h2>
            <dl>
              <dt>Lots used</dt>
              <dd>{{ report.lots.join(', ') || 'none named' }}</dd>
              <dt>Nonconformances raised</dt>
              <dd>{{ report.ncrs.join(', ') || 'none' }}</dd>
              <dt>Photos</dt>
              <dd>{{ report.photos }}</dd>
              <template v-if="report.late > 0">
                <dt>Came late, proves no time</dt>
                <dd>{{ report.late }}</dd>
              </template>
              <template v-if="report.left && report.left.length > 0">
                <dt>Left open</dt>
                <dd>
                  <ul class="plain left">
                    <li v-for="l in report.left" :key="`${l.id} ${l.step}`">{{ l.name }}: {{ l.says }}</li>
                  </ul>
                </dd>
              </template>
              <template v-if="data.signed.lead && data.signed.lead.rain !== null">
                <dt>Rain in the night</dt>
                <dd>{{ data.signed.lead.rain ? 'expected' : 'not expected' }}</dd>
              </template>
              <template v-if="data.signed.lead?.weather">
                <dt>Weather</dt>
                <dd>{{ data.signed.lead.weather }}</dd>
              </template>
            </dl>
            <p v-if="data.signed.lead?.words">“{{ data.signed.lead.words }}”</p>
          </section>
          <section class="sheet" aria-label="Signed">
            <h2>Signed</h2>
            <p v-if="!data.signed.lead" class="muted">Nobody yet. The crew lead signs first.</p>
            <div
              v-for="s in [data.signed.lead, data.signed.inspector].filter((x) => x !== null)"
              :key="s.at"
              class="signature"
            >
              <img :src="s.image" :alt="`Signature of ${s.name}`" /><span
                ><strong>{{ s.name }}</strong
                ><br /><span class="muted small"
                  >{{ s.role === 'crew-lead' ? 'for the crew' : 'for the inspection' }},
                  {{ times.moment(s.at) }}</span
                ></span
              >
            </div>
          </section>
        </div>
      </div>
      <SignPad
        v-model="signOpen"
        title="Sign the day"
        :name="session.person?.name ?? ''"
        :digest="data.digest"
        :send="sign"
      >
        <template v-if="forCrew">
          <FormField label="Weather"
            ><ElInput v-model="weather" maxlength="200" placeholder="Dry, 11 °C, wind"
          /></FormField>
          <div class="label beside">
            <span id="rain-tonight">Rain in the night</span>
            <ElRadioGroup v-model="rain" aria-labelledby="rain-tonight">
              <ElRadioButton :value="true">Expected</ElRadioButton>
              <ElRadioButton :value="false">Not expected</ElRadioButton>
            </ElRadioGroup>
          </div>
          <FormField label="Words, if any"
            ><ElInput v-model="words" type="textarea" :rows="2" maxlength="2000"
          /></FormField>
        </template>
      </SignPad>
    </template>
  </div>
</template>

<style scoped>
.sheet {
  padding: 14px 18px;
  min-width: 0;
}
.sheet h2 {
  margin: 0 0 6px;
}
.page-head {
  margin-top: 10px;
}
.days {
  display: flex;
  gap: 6px;
  overflow-x: auto;
  padding: 4px 0;
}
.days button {
  flex: none;
  display: inline-flex;
  align-items: center;
  gap: 8px;
  min-height: 44px;
  padding: 0 12px;
  border: 1px solid var(--hair);
  border-radius: var(--corner);
  background: var(--card);
  color: var(--ink);
  cursor: pointer;
}
.days button[aria-pressed='true'] {
  border-color: var(--line);
  font-weight: 600;
}
.moved {
  border-left: 4px solid var(--too-close);
  padding: 8px 14px;
}
.grid {
  display: grid;
  grid-template-columns: minmax(0, 1.4fr) minmax(300px, 1fr);
  gap: 16px;
  align-items: start;
}
.column {
  display: flex;
  flex-direction: column;
  gap: 16px;
}
.plain {
  list-style: none;
  margin: 0 0 6px;
  padding: 0;
}
dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 4px 16px;
  margin: 0;
}
dt {
  color: var(--muted);
}
dd {
  margin: 0;
}
.signature {
  display: flex;
  gap: 14px;
  align-items: center;
}
.signature img {
  height: 48px;
  background: #fff;
  border: 1px solid var(--hair);
}
.label {
  font-size: var(--s14);
  color: var(--muted);
}
.beside {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 14px;
}
.link {
  min-height: 44px;
  display: inline-flex;
  align-items: center;
}
@media (max-width: 900px) {
  .grid {
    grid-template-columns: 1fr;
  }
}
@media (max-width: 640px) {
  /* The state of each joint stands beside it, so that nobody has to push the table. */
  .figures td:first-child,
  .figures td:last-child {
    white-space: normal;
    min-width: 160px;
  }
}
</style>
