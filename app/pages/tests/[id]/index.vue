<script setup lang="ts">
import type { packSheet } from '../../../../server/services/pack-view'
import { showDuration, showQuantity, showStretch } from '#core/quantity/show'
import { useSession } from '~/stores/session'
import { useStrip } from '~/stores/strip'
import { packStateGlyphs, packStateWords } from '~/words'

/** A test pack: its section, its trace while it runs and after, what the log says, and what is left to do. */
type Sheet = Awaited<ReturnType<typeof packSheet>>
const session = useSession()
const strip = useStrip()
const times = useTimes()
const id = useRoute().params.id as string
const { data, problem, loading, load } = useLoad(() => api<Sheet>(`${session.base}/packs/${id}`))
const acts = useTestActions(id, load)
useLineOf(() => data.value?.pack.alignment)
onMounted(load)
useFeed(
  session.projectKey,
  (rows) => rows.some((r) => r.subject === id || r.subjectType === 'joint') && void load(),
)
watch(data, (d) => d && (strip.station = d.pack.from))
onBeforeUnmount(() => (strip.station = null))

const pack = computed(() => data.value!.pack)
const running = computed(() => data.value?.pack.state === 'running')
const live = useLiveTest(acts.path, running, load)
const mayRun = computed(() => session.can('run-test'))
const readings = computed(() => (running.value ? live.trace.value : (data.value?.log?.samples ?? [])))
const evaluation = computed(() =>
  running.value ? (live.run.value?.evaluation ?? null) : (data.value?.evaluation ?? null),
)
const shown = computed(() => traceShown(data.value!, running.value ? live : null))
const typeOpen = ref(false)
const { busy } = acts
</script>

<template>
  <Notice v-if="problem && !data" :problem="problem" @again="load" />
  <Notice v-else-if="!data" :loading="loading" />
  <div v-else class="pack">
    <div class="body">
      <section class="left" tabindex="0" aria-label="Section and trace">
        <div class="page-head">
          <h1>{{ pack.number }}</h1>
          <StateGlyph :state="packStateGlyphs[pack.state]!" :size="28" /><strong>{{
            packStateWords[pack.state]
          }}</strong>
          <span class="muted grow"
            >{{ data.method.title }} · {{ data.line.name }}, {{ showStretch(pack.from, pack.to) }}</span
          >
          <WithdrawAct
            v-if="(pack.state === 'planned' || pack.state === 'failed') && session.can('withdraw')"
            :address="acts.path"
            :what="pack.number"
            @withdrawn="load"
          />
        </div>
        <WithdrawnNote v-if="pack.state === 'withdrawn'" :entries="data.entries" :people="data.people" />
        <LivePanel
          v-if="running && live.run.value"
          :run="live.run.value"
          :marks="live.marks.value"
          :quiet="live.quiet.value"
          :may-mark="mayRun"
          :busy="busy"
          @mark="acts.mark"
          @unmark="acts.unmark"
          @type="typeOpen = true"
        />
        <PressureTrace v-if="readings.length > 0" :shown="shown" :name="pack.number" />
        <Notice
          v-else-if="running"
          empty="Waiting for the logger"
          hint="Readings show here as they come. Or type them, or take the log from a CSV file."
        />
        <PlugLine
          v-if="data.method.air"
          :from="pack.from"
          :to="pack.to"
          :thrust="data.plan.endThrust"
          :diameter="pack.design.section.insideDiameter"
          :pressure="pack.design.testPressure"
        />
        <PressureProfile
          v-else
          :plan="data.plan"
          :rating="pack.design.rating"
          :required="pack.design.required"
        />
        <dl class="facts">
          <div>
            <dt>At the gauge</dt>
            <dd>{{ showQuantity(pack.design.testPressure, 'pressure', 'kPa') }}</dd>
          </div>
          <div>
            <dt>Pushes on each closure</dt>
            <dd>{{ showQuantity(data.plan.endThrust, 'force', 'kN', 3) }}</dd>
          </div>
          <template v-if="!data.method.air">
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
        <LogAnalysis v-if="data.analysis && !running" :analysis="data.analysis" />
        <HalvingHelp v-if="pack.state === 'failed' && data.log" :key="pack.id" :pack="pack" />
        <EarlierRuns v-if="data.earlier.length > 0" :runs="data.earlier" :last="data.run" :pack="pack" />
      </section>
      <section class="right" tabindex="0" aria-label="Verdict and ready list">
        <template v-if="evaluation && readings.length > 0">
          <TestVerdict :evaluation="evaluation" />
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
        <AfterTest
          v-if="data.after.length > 0"
          :rows="data.after"
          :people="data.people"
          :may-answer="mayRun"
          :busy="busy"
          @answer="acts.answerAfter"
        />
        <ReadyList
          :rows="data.ready"
          :witness="data.witness"
          :people="data.people"
          :open="pack.state === 'planned' || pack.state === 'running'"
          :may-confirm="mayRun && pack.state !== 'signed' && pack.state !== 'withdrawn'"
          :busy="busy"
          @confirm="acts.confirm"
          @witness="acts.sayWitness"
        />
      </section>
    </div>
    <TestBar :sheet="data" :acts="acts" :has-readings="readings.length > 0" />
    <TypedReading v-model="typeOpen" :send="acts.typeReading" />
  </div>
</template>

<style scoped>
.pack {
  height: 100%;
  display: grid;
  grid-template-rows: minmax(0, 1fr) minmax(72px, auto);
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
  grid-template-columns: repeat(auto-fit, minmax(150px, 1fr));
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
</style>
