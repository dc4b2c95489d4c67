<script setup lang="ts">
import { uuidv7 } from 'uuidv7'
import type { packSheet } from '../../../server/services/pack-sheet'
import { testMethods } from '#core/pressure/methods/registry'
import { showDuration, showQuantity } from '#core/quantity/show'
import { useSession } from '~/stores/session'
import { useStrip } from '~/stores/strip'
import { packStateWords } from '~/words'

type Sheet = Awaited<ReturnType<typeof packSheet>>
const session = useSession()
const strip = useStrip()
const now = useNow()
const times = useTimes()
const id = useRoute().params.id as string
const { data, problem, loading, load } = useLoad(() => api<Sheet>(`${session.base}/packs/${id}`))
useLineOf(() => data.value?.pack.alignment)
onMounted(load)
useFeed(
  session.projectKey,
  (rows) => rows.some((r) => r.subject === id || r.subjectType === 'joint') && void load(),
)
// Samples of a running test come beside the feed.
const poll = setInterval(() => data.value?.pack.state === 'running' && void load(), 2000)
onBeforeUnmount(() => clearInterval(poll))
watch(data, (d) => d && (strip.station = d.pack.from))
onBeforeUnmount(() => (strip.station = null))

const fault = ref('')
const busy = ref(false)
const mayRun = computed(() => session.can('run-test'))
const open = computed(() => data.value?.ready.filter((r) => r.state === 'open') ?? [])
const pack = computed(() => data.value!.pack)
/** share of the pressure that the hold may stray by, where the method has one */
const band = computed(() => {
  const given = data.value?.pack.design.parameters.band
  return typeof given === 'number' ? given : data.value?.pack.method === 'pe-expansion' ? 0.05 : 0
})
/** the trend of the hold as it is drawn: over the phase it was taken from */
const trend = computed(() => {
  const a = data.value?.analysis
  return a?.slope ? { from: a.from, to: a.to, ...a.slope } : null
})
const method = computed(() => testMethods.get(data.value?.pack.method ?? ''))
const phase = computed(() => data.value?.evaluation?.phases.at(-1) ?? null)
const paths: Record<string, string> = { joint: '/joints/', ncr: '/ncrs/', reach: '/embedment/' }
const glyph: Record<string, 'accepted' | 'rejected' | 'too-close' | 'waiting'> = {
  accept: 'accepted',
  reject: 'rejected',
  'too-close': 'too-close',
  incomplete: 'waiting',
}
const verdictWords: Record<string, string> = {
  accept: 'Accepted',
  reject: 'Not accepted',
  'too-close': 'Too close to call',
  incomplete: 'Not complete',
}

async function act(path: string, body: unknown) {
  busy.value = true
  fault.value = ''
  try {
    await api(`${session.base}/packs/${id}/${path}`, { method: 'POST', body })
    await load()
  } catch (error) {
    fault.value = error instanceof ApiProblem ? error.message : 'This was not done.'
  } finally {
    busy.value = false
  }
}
const reasonOpen = ref(false)
async function startWith(reason: string) {
  await api(`${session.base}/packs/${id}/start`, { body: { reason } })
  await load()
}
const begin = () => (open.value.length === 0 ? act('start', {}) : (reasonOpen.value = true))
async function takeLog(event: Event) {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (!file) return
  await evaluateRun(await file.text())
}
/** Ends the run with the log of a file, or with what the logger has sent. */
async function evaluateRun(csv: string | null) {
  busy.value = true
  fault.value = ''
  try {
    await sendLog(csv, '')
  } catch (error) {
    // A log of another time belongs to this run only by an engineer's word.
    if (error instanceof ApiProblem && error.code === 'other-time' && session.can('take-foreign-log'))
      foreignLog.value = { csv, sentence: error.message }
    else fault.value = error instanceof ApiProblem ? error.message : 'The log was not taken.'
  } finally {
    busy.value = false
  }
}
const foreignLog = ref<{ csv: string | null; sentence: string } | null>(null)
const foreignOpen = computed({
  get: () => foreignLog.value !== null,
  set: (now) => void (now || (foreignLog.value = null)),
})
async function sendLog(csv: string | null, reason: string) {
  await api(`${session.base}/packs/${id}/${csv === null ? 'finish' : 'log'}`, {
    body: csv === null ? { reason } : { csv, reason },
  })
  await load()
}
const signOpen = ref(false)
async function sign(body: { image: string; secret: string }) {
  await api(`${session.base}/packs/${id}/sign`, { body })
  await load()
}
async function raise() {
  busy.value = true
  try {
    const { id: ncr } = await api<{ id: string }>(`${session.base}/ncrs`, {
      body: {
        id: uuidv7(),
        subjectType: 'pack',
        subject: id,
      },
    })
    await navigateTo(`/ncrs/${ncr}`)
  } catch (error) {
    fault.value = error instanceof ApiProblem ? error.message : 'This was not raised.'
  } finally {
    busy.value = false
  }
}
const fileInput = ref<HTMLInputElement | null>(null)
</script>

<template>
  <Notice v-if="problem && !data" :problem="problem" @again="load" />
  <Notice v-else-if="!data" :loading="loading" />
  <div v-else class="pack">
    <div class="body">
      <section class="left" tabindex="0" aria-label="Section and trace">
        <div class="page-head">
          <h1>{{ pack.number }}</h1>
          <StateGlyph
            :state="
              pack.state === 'signed'
                ? 'accepted'
                : pack.state === 'failed'
                  ? 'rejected'
                  : pack.state === 'running'
                    ? 'waiting'
                    : pack.state === 'evaluated'
                      ? 'in-work'
                      : 'not-started'
            "
            :size="28"
          /><strong>{{ packStateWords[pack.state] }}</strong>
          <span class="muted grow"
            >{{ method?.title }} · {{ data.line.name }}, {{ pack.from.toFixed(0) }} to
            {{ pack.to.toFixed(0) }} m</span
          >
        </div>
        <PressureProfile :plan="data.plan" :rating="pack.design.rating" :required="pack.design.required" />
        <dl class="facts">
          <div>
            <dt>At the gauge</dt>
            <dd>{{ showQuantity(pack.design.testPressure, 'pressure', 'kPa') }}</dd>
          </div>
          <div>
            <dt>Pushes on each closure</dt>
            <dd>{{ showQuantity(data.plan.endThrust, 'force', 'kN', 3) }}</dd>
          </div>
          <template v-if="!method?.air">
            <div>
              <dt>Fill</dt>
              <dd>
                {{ showQuantity(data.plan.fillVolume, 'volume', 'm³', 3) }} in
                {{ showDuration(data.plan.fillTime) }}
              </dd>
            </div>
            <div>
              <dt>To raise</dt>
              <dd>{{ showQuantity(data.plan.waterToRaise, 'volume', 'L', 3) }}</dd>
            </div>
          </template>
        </dl>
        <p class="caution">
          <strong>Stored energy.</strong> Nobody over or in front of a closure; vent before loosening
          anything; depressurise slowly. Local rules and the engineer’s approved plan govern.
        </p>
        <template v-if="data.log">
          <PressureTrace
            :samples="data.log.samples"
            :evaluation="data.evaluation"
            :test-pressure="pack.design.testPressure"
            :band="band"
            :trend="trend"
          />
          <p v-if="pack.state === 'running' && data.log.last" class="live">
            <span class="reading">{{ showQuantity(data.log.last.pressure, 'pressure', 'kPa', 5) }}</span>
            {{ phase?.title
            }}<template v-if="data.evaluation?.needed"
              >, {{ showDuration(data.evaluation.needed) }} to go</template
            >
          </p>
          <LogAnalysis v-if="data.analysis" :analysis="data.analysis" />
          <p v-for="n in data.evaluation?.notes ?? []" :key="n.kind + n.t" class="muted small">
            {{ n.sentence }} ({{ n.count }})
          </p>
        </template>
        <HalvingHelp v-if="pack.state === 'failed' && data.log" :key="pack.id" :pack="pack" />
        <Notice
          v-if="!data.log && pack.state === 'running'"
          empty="Waiting for the logger"
          hint="Samples show here as they come. Or take the log from a CSV file."
        />
      </section>
      <section class="right" tabindex="0" aria-label="Verdict and ready list">
        <template v-if="data.evaluation && data.log">
          <div class="verdict" :class="data.evaluation.verdict">
            <StateGlyph :state="glyph[data.evaluation.verdict]!" :size="36" />
            <div>
              <strong class="word">{{ verdictWords[data.evaluation.verdict] }}</strong>
              <p>{{ data.evaluation.sentence }}</p>
            </div>
          </div>
          <table v-if="data.evaluation.numbers.length > 0" class="figures">
            <tbody>
              <tr v-for="n in data.evaluation.numbers" :key="n.key">
                <td>
                  {{ n.title }}<br /><span class="muted small">{{ n.formula }}</span>
                </td>
                <td class="number">
                  <strong>{{ n.text }}</strong>
                </td>
                <td><StateGlyph v-if="n.verdict" :state="glyph[n.verdict]!" :size="24" /></td>
              </tr>
            </tbody>
          </table>
          <div v-for="s in data.signatures" :key="s.at" class="signature">
            <img :src="s.image" :alt="`Signature of ${s.name}`" /><span
              ><strong>{{ s.name }}</strong
              ><br /><span class="muted small">{{ s.role }}, {{ times.moment(s.at) }}</span></span
            >
          </div>
          <p v-for="n in data.ncrs" :key="n.id">
            <NuxtLink :to="`/ncrs/${n.id}`">{{ n.number }}</NuxtLink> {{ n.state }}
          </p>
        </template>
        <h2>Ready to test?</h2>
        <ul class="ready">
          <li v-for="r in data.ready" :key="r.key" :class="r.state">
            <StateGlyph
              :state="r.state === 'met' ? 'accepted' : r.state === 'open' ? 'blocked' : 'not-applicable'"
              :size="26"
            />
            <span class="grow"
              ><strong>{{ r.title }}</strong
              ><br /><span class="small muted">{{ r.sentence }}</span
              ><span v-if="r.state === 'open' && r.evidence.length > 0" class="evidence"
                ><NuxtLink
                  v-for="e in r.evidence.filter((x) => paths[x.type])"
                  :key="e.id"
                  :to="paths[e.type] + e.id"
                  >{{ e.label }}</NuxtLink
                ></span
              ></span
            >
            <ElButton
              v-if="r.confirmable && r.state === 'open' && mayRun && pack.state !== 'signed'"
              :disabled="busy"
              @click="act('confirm', { row: r.key })"
              >Confirm</ElButton
            >
          </li>
        </ul>
      </section>
    </div>
    <footer class="bar">
      <p class="grow">
        <span v-if="fault" class="fault" role="alert">{{ fault }}</span><span
          v-else-if="data.deviations?.reason"
          class="muted"
          >Started with open rows: {{ data.deviations.reason }}</span
        ><span v-else-if="pack.dueAt && pack.state === 'planned'" class="muted"
          >Due {{ times.moment(pack.dueAt) }} · now {{ times.clock(now) }}</span
        >
      </p>
      <a v-if="data.log && pack.logFile" :href="`/api/${session.base}/packs/${id}/log`" download class="link"
        >Log as CSV</a
      >
      <a
        v-if="pack.logFile"
        :href="`/api/${session.base}/packs/${id}/certificate`"
        target="_blank"
        class="link"
        >Certificate (PDF)</a
      >
      <template v-if="mayRun">
        <ElButton
          v-if="pack.state === 'planned' || pack.state === 'failed'"
          type="primary"
          size="large"
          class="primary"
          :loading="busy"
          @click="begin"
          >{{ pack.state === 'failed' ? 'Start again' : 'Start the test' }}</ElButton
        >
        <template v-if="pack.state === 'running'">
          <ElButton v-if="data.log" size="large" :loading="busy" @click="evaluateRun(null)"
            >End the run and evaluate</ElButton
          >
          <ElButton type="primary" size="large" class="primary" :loading="busy" @click="fileInput?.click()"
            >Take the log from CSV</ElButton
          >
          <input
            ref="fileInput"
            type="file"
            accept=".csv,text/csv"
            class="visually-hidden"
            tabindex="-1"
            aria-label="Log as CSV"
            @change="takeLog"
          />
        </template>
        <ElButton
          v-if="pack.state === 'failed' && data.ncrs.length === 0"
          type="danger"
          size="large"
          :loading="busy"
          @click="raise"
          >Raise the nonconformance</ElButton
        >
      </template>
      <ElButton
        v-if="pack.state === 'evaluated' && session.can('sign-test')"
        type="primary"
        size="large"
        class="primary"
        @click="signOpen = true"
        >Sign</ElButton
      >
    </footer>
    <AskDialog
      v-model="reasonOpen"
      title="Start with open rows"
      label="Reason (an engineer’s)"
      action="Start the test"
      :send="startWith"
      ><ul>
        <li v-for="r in open" :key="r.key">{{ r.title }}: {{ r.sentence }}</li>
      </ul></AskDialog
    >
    <AskDialog
      v-model="foreignOpen"
      title="A log of another time"
      label="Why it is of this test all the same"
      action="Take the log"
      :send="(reason) => sendLog(foreignLog!.csv, reason)"
      ><p>{{ foreignLog?.sentence }}</p></AskDialog
    >
    <SignPad v-model="signOpen" :name="session.person?.name ?? ''" :digest="data.digest ?? ''" :send="sign" />
  </div>
</template>

<style scoped>
.pack {
  height: 100%;
  display: grid;
  grid-template-rows: minmax(0, 1fr) 72px;
}
.body {
  display: grid;
  grid-template-columns: minmax(0, 1.5fr) minmax(380px, 1fr);
  min-height: 0;
}
.left {
  padding: 16px 24px;
  overflow-y: auto;
  display: flex;
  flex-direction: column;
  gap: 12px;
}
.left > * {
  flex: none;
}
.page-head {
  margin: 0;
}
.right {
  border-left: 1px solid var(--hair);
  background: var(--card);
  padding: 16px 20px;
  overflow-y: auto;
  display: flex;
  flex-direction: column;
  gap: 12px;
}
.facts {
  display: grid;
  grid-template-columns: 1fr 1.2fr 1.2fr 0.8fr;
  gap: 12px;
  margin: 0;
}
dt {
  font-size: var(--s14);
  color: var(--muted);
}
dd {
  margin: 0;
  font-size: var(--s22);
  font-weight: 600;
}
.caution {
  border-left: 4px solid var(--held);
  background: color-mix(in srgb, var(--held) 9%, var(--card));
  padding: 8px 14px;
  font-size: var(--s14);
}
.live {
  display: flex;
  align-items: baseline;
  gap: 14px;
}
.verdict {
  display: flex;
  gap: 14px;
  align-items: flex-start;
}
.word {
  font-size: var(--s22);
}
.ready {
  list-style: none;
  margin: 0;
  padding: 0;
}
.ready li {
  display: flex;
  gap: 12px;
  align-items: flex-start;
  padding: 9px 0;
  border-top: 1px solid var(--hair);
}
.ready .glyph {
  margin-top: 3px;
}
.evidence {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
}
.evidence a {
  display: inline-block;
  padding: 8px 0;
}
.signature {
  display: flex;
  gap: 14px;
  align-items: center;
}
.signature img {
  height: 56px;
  background: #fff;
  border: 1px solid var(--hair);
}
.bar {
  display: flex;
  align-items: center;
  gap: 16px;
  padding: 0 16px 0 24px;
  border-top: 1px solid var(--hair);
  background: var(--card);
}
.link {
  min-height: 44px;
  display: inline-flex;
  align-items: center;
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
    padding: 12px 14px;
    overflow: visible;
  }
  .right {
    border-left: 0;
    border-top: 1px solid var(--hair);
    padding: 14px;
    overflow: visible;
  }
}
@media (max-width: 720px) {
  .facts {
    grid-template-columns: 1fr 1fr;
  }
  .bar {
    padding: 0 10px;
    gap: 10px;
  }
  .primary {
    min-width: 0;
    flex: 1;
  }
}
</style>
