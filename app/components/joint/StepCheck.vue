<script setup lang="ts">
import type { Label } from '#core/delivery/gs1'
import { shelfEnd } from '#core/delivery/shelf-life'
import { judgeReadings } from '#core/judgement/measure'
import { slotsOf } from '#core/judgement/slots'
import { registeredLot } from '#core/judgement/step'
import { openBefore } from '#core/judgement/release'
import { standing } from '#core/judgement/standing'
import type { JointJudgement, StepJudgement } from '#core/judgement/types'
import type { CompiledProcedure } from '#core/procedure/compile'
import type { Entry, EntryKind } from '#core/record/entry'
import { showDuration, showQuantity } from '#core/quantity/show'
import { failureWords, pointWords } from '~/words'
import type { Decision, JointSheet } from '~/composables/useJointSheet'
import { useSession } from '~/stores/session'
import type ReadingEntry from './ReadingEntry.vue'

/** The one check being done: what, why, the answer, and what the criterion says of it. */
export interface Answer {
  kind: EntryKind
  payload: Record<string, unknown>
  instrument?: string | null
}
const props = defineProps<{
  compiled: CompiledProcedure
  sheet: JointSheet
  entries: Entry[]
  judged: StepJudgement
  judgement: JointJudgement
  now: number
  mayRecord: boolean
  mayRelease: boolean
  mayWaive: boolean
  busy: boolean
  draft?: string[]
}>()
const emit = defineEmits<{
  answer: [Answer[]]
  ready: [Answer | null]
  live: [number[] | null]
  release: [Decision]
  submit: []
  draft: [string[]]
}>()

const session = useSession()
const times = useTimes()
const compiledStep = computed(() => props.compiled.steps[props.compiled.stepIndex.get(props.judged.key)!]!)
const step = computed(() => compiledStep.value.step)
const check = computed(() => step.value.check)
const values = ref<{ values: number[]; typed: string[]; instrument: string | null } | null>(null)
const entry = ref<InstanceType<typeof ReadingEntry> | null>(null)
const slots = computed(() =>
  slotsOf(props.compiled, props.sheet.joint.facts, props.entries, props.sheet.schools),
)

function change(v: typeof values.value) {
  values.value = v
  emit('live', v?.values ?? null)
  emit(
    'ready',
    v ? { kind: 'reading', payload: { values: v.values, typed: v.typed }, instrument: v.instrument } : null,
  )
}
/** judged while typing, before anything is recorded */
const live = computed(() => {
  if (!values.value) return null
  const tool = props.sheet.instruments.find((i) => i.id === values.value!.instrument)
  const own = compiledStep.value.uncertainty?.evaluate(slots.value)
  return judgeReadings(
    compiledStep.value,
    slots.value,
    values.value.values,
    tool ? tool.uncertainty : typeof own === 'number' ? own : 0,
    props.sheet.rule,
  )
})
const bars = computed(
  () =>
    live.value ??
    (props.judged.findings.length > 0
      ? props.judged.findings
      : props.judged.limits.map((l) => ({ ...l, value: null, uncertainty: 0, verdict: null }))),
)
const answered = computed(() => ['accepted', 'rejected', 'too-close', 'differs'].includes(props.judged.state))
const isHold = computed(() => props.judged.point === 'H')
/** what is not done before a hold point */
const open = computed(() =>
  isHold.value
    ? openBefore(props.compiled, props.judgement, standing(props.entries), props.judged.key).filter(
        (k) => k !== props.judged.key,
      )
    : [],
)
const titleOf = (key: string) => props.compiled.steps[props.compiled.stepIndex.get(key)!]!.step.title
const usedLot = computed(() =>
  String(
    standing(props.entries).findLast((e) => e.step === props.judged.key && e.kind === 'lot')?.payload.lot ??
      '',
  ),
)
const released = computed(() => ['released', 'waived'].includes(props.judged.release.state))
const say = (answer: 'yes' | 'no') =>
  emit('answer', [{ kind: check.value.kind === 'clock' ? 'clock' : 'confirmation', payload: { answer } }])
const request = () =>
  emit('answer', [
    { kind: 'confirmation', payload: { answer: 'yes' } },
    { kind: 'request', payload: {} },
  ])
const left = computed(() => (props.judged.until === null ? null : (props.judged.until - props.now) / 1000))
const lot = reactive({ lot: '', made: '', expires: '', opened: '' })
const scanning = ref(false)
const registered = computed(() => registeredLot(props.sheet.lots, lot.lot) ?? null)
const registerSays = computed(() => {
  const known = registered.value
  if (!known) return ''
  if (known.quarantinedAt !== null) return `In quarantine: ${known.reason}. Take another lot.`
  const end = shelfEnd(known)
  if (!end) return ''
  const past = end.at < props.now ? ' It is past its date: take another lot.' : ''
  return `The register says: good until ${times.date(new Date(end.at).toISOString())} (${end.why}).${past}`
})
const readLot = (label: Label) =>
  Object.assign(lot, {
    lot: label.lot ?? lot.lot,
    made: label.made ?? '',
    expires: label.expires ?? label.bestBefore ?? '',
  })
/** A rejected lot may be used past its date by a waiver that names it. */
const lotMayBeWaived = computed(
  () => props.judged.waivable && props.judged.state === 'rejected' && !props.judged.ncr,
)
const lotEntry = (): Answer => ({
  kind: 'lot',
  payload: Object.fromEntries(
    Object.entries(lot)
      .map(([k, v]) => [k, v.trim()])
      .filter(([, v]) => v),
  ),
})
const counted = ref('')
const inspectorDecides = computed(
  () =>
    props.mayRelease &&
    ['differs', 'too-close', 'rejected', 'held'].includes(props.judged.state) &&
    !props.judged.ncr &&
    !isHold.value,
)
defineExpose({
  clear: () => entry.value?.clear(),
  put: (texts: string[]) => entry.value?.put(texts),
  say,
  request,
})
</script>

<template>
  <section class="check" :aria-label="step.title">
    <header>
      <h1>{{ step.title }}</h1>
      <span v-if="judged.point" class="point muted">{{ pointWords[judged.point] }}</span>
    </header>
    <p class="instruction">{{ step.instruction }}</p>
    <p v-if="step.why" class="muted why">{{ step.why }}</p>
    <ul v-if="step.cautions?.length" class="cautions">
      <li v-for="c in step.cautions" :key="c">{{ c }}</li>
    </ul>

    <p v-if="judged.value !== null" class="mark">
      <span class="reading">{{
        showQuantity(
          judged.value,
          check.kind === 'calculated' ? check.quantity : 'length',
          'unit' in check ? check.unit : 'mm',
        )
      }}</span><span v-if="check.kind === 'mark'" class="muted"> from the {{ check.from }}</span>
    </p>

    <div v-if="judged.sentence" class="verdict" :class="judged.state">
      <StateGlyph :state="judged.state" :size="32" word />
      <p>{{ judged.sentence }}</p>
      <p v-if="judged.state === 'rejected' && step.onFailure && !judged.ncr" class="next">
        <strong>{{ failureWords[step.onFailure.action] }}.</strong> {{ step.onFailure.words }}
      </p>
      <NuxtLink v-if="judged.ncr" to="/ncrs">{{ judged.ncr.number }}</NuxtLink>
      <p v-if="judged.computed" class="muted small">The criterion gave: {{ judged.computed }}.</p>
    </div>

    <StepDecision
      v-if="inspectorDecides && !lotMayBeWaived"
      :judged="judged"
      :check="check"
      :entries="entries"
      :people="sheet.people"
      :me="session.person?.id ?? ''"
      @decide="(d) => $emit('release', d)"
    />

    <div v-if="isHold" class="hold">
      <template v-if="!released">
        <ElButton
          v-if="mayRecord && !mayRelease && judged.release.state !== 'requested'"
          type="primary"
          size="large"
          class="big"
          :loading="busy"
          @click="request"
          >Everything is ready: request release</ElButton
        >
        <p v-if="open.length > 0" class="muted small">
          Still open before it: {{ open.map(titleOf).join('; ') }}.<template v-if="mayRelease">
            A waiver names them.</template
          >
        </p>
        <p v-if="judged.release.state === 'requested'">
          Requested at {{ times.clock(judged.release.at!) }} by {{ sheet.people[judged.release.by!] }},
          {{ times.span(now - judged.release.at!) }} ago.
        </p>
        <div v-if="mayRelease" class="row wrap">
          <ElButton
            type="primary"
            size="large"
            class="big"
            :disabled="open.length > 0 || judged.release.state !== 'requested'"
            @click="$emit('release', { kind: 'release' })"
            >Release</ElButton
          >
          <ElButton
            type="danger"
            plain
            size="large"
            class="big"
            @click="$emit('release', { kind: 'refusal' })"
            >Refuse</ElButton
          >
          <ElButton size="large" @click="$emit('release', { kind: 'waiver', waives: open })">Waive</ElButton>
        </div>
      </template>
      <p v-else class="muted">
        {{ judged.release.state === 'waived' ? 'Waived' : 'Released' }} at
        {{ times.clock(judged.release.at!) }} by {{ sheet.people[judged.release.by!] }}.
      </p>
    </div>

    <template v-else-if="mayRecord">
      <template v-if="check.kind === 'confirm' || check.kind === 'mark'">
        <p class="question">{{ check.question }}</p>
        <div class="row wrap">
          <ElButton size="large" type="primary" class="big" :loading="busy" @click="say('yes')">Yes</ElButton>
          <ElButton size="large" class="big" :disabled="busy" @click="say('no')">No</ElButton>
        </div>
      </template>
      <template v-else-if="check.kind === 'choice'">
        <p class="question">{{ check.question }}</p>
        <div class="choices">
          <ElButton
            v-for="(c, i) in check.choices"
            :key="c.key"
            size="large"
            class="big"
            :disabled="busy"
            :aria-keyshortcuts="String(i + 1)"
            @click="$emit('answer', [{ kind: 'choice', payload: { choice: c.key } }])"
            >{{ c.title }}</ElButton
          >
        </div>
      </template>
      <template v-else-if="check.kind === 'measure' || check.kind === 'environment'">
        <ReadingEntry
          ref="entry"
          :check="check"
          :count="judged.readings ?? 1"
          :instruments="sheet.instruments"
          :now="now"
          :draft="draft"
          @change="change"
          @draft="(t) => $emit('draft', t)"
          @submit="$emit('submit')"
        >
          <ToleranceBar v-for="b in bars" :key="b.of + b.title" v-bind="b" />
        </ReadingEntry>
      </template>
      <template v-else-if="check.kind === 'clock'">
        <template v-if="judged.startedAt !== null && !answered">
          <p v-if="left !== null && left > 0" class="count" role="timer">
            <span class="big-number">{{ showDuration(left) }}</span>
            <span class="muted">until {{ times.moment(judged.until!) }}</span>
          </p>
          <p v-else-if="check.action" class="question">{{ check.action }}?</p>
        </template>
        <div v-if="check.action && judged.startedAt !== null && judged.state !== 'accepted'" class="row wrap">
          <ElButton
            size="large"
            :type="left !== null && left > 0 ? 'default' : 'primary'"
            class="big"
            :loading="busy"
            @click="say('yes')"
            >{{ check.action }}</ElButton
          >
          <ElButton size="large" class="big" :disabled="busy" @click="say('no')">It failed</ElButton>
        </div>
        <p v-if="left !== null && left > 0 && check.action" class="muted small">
          Recorded now it would be {{ showDuration(left) }} too early, and rejected.
        </p>
      </template>
      <form v-else-if="check.kind === 'lot'" class="lot" @submit.prevent="$emit('answer', [lotEntry()])">
        <div class="wide row">
          <label class="grow"
            >{{ check.question }}<ElInput v-model="lot.lot" size="large" maxlength="80" /></label
          ><ElButton size="large" class="scan" @click="scanning = true">Read a label</ElButton>
        </div>
        <p
          v-if="registerSays"
          class="wide"
          :class="
            registered && (registered.quarantinedAt !== null || registerSays.includes('past its date'))
              ? 'bad'
              : 'muted'
          "
          role="status"
        >
          {{ registerSays }}
        </p>
        <label v-if="check.shelfLife"
          >Production date<ElInput v-model="lot.made" type="date" size="large"
        /></label>
        <label>Printed expiry<ElInput v-model="lot.expires" type="date" size="large" /></label>
        <label v-if="check.openedLife"
          >Opened on<ElInput v-model="lot.opened" type="date" size="large"
        /></label>
        <ElButton
          size="large"
          type="primary"
          native-type="submit"
          class="big"
          :disabled="!lot.lot.trim()"
          :loading="busy"
          >Record</ElButton
        >
      </form>
      <form
        v-else-if="check.kind === 'count'"
        class="row wrap"
        @submit.prevent="
          $emit('answer', [{ kind: 'count', payload: { count: Number(counted.replace(',', '.')) } }])
        "
      >
        <ElInput
          v-model="counted"
          size="large"
          inputmode="decimal"
          :placeholder="check.question"
          :aria-label="check.question"
          class="grow"
        /><ElButton
          size="large"
          type="primary"
          native-type="submit"
          :disabled="!/^\d+([.,]\d+)?$/.test(counted)"
          >Record</ElButton
        >
      </form>
    </template>
    <div v-if="(!mayRecord || check.kind === 'calculated') && bars.length > 0">
      <ToleranceBar v-for="b in bars" :key="b.of + b.title" v-bind="b" />
    </div>
    <StepAid
      v-for="aid in compiledStep.aids"
      :key="`${judged.key} ${aid.calculator}`"
      :aid="aid"
      :slots="slots"
    />
    <LabelScanner v-model="scanning" @read="readLot" />
    <ElButton
      v-if="mayWaive && lotMayBeWaived"
      size="large"
      @click="$emit('release', { kind: 'waiver', lot: usedLot })"
      >Use it by waiver …</ElButton
    >
    <slot />
  </section>
</template>

<style scoped>
.lot {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 12px 16px;
  align-items: end;
  max-width: 560px;
}
.scan {
  align-self: flex-end;
}
.bad {
  color: var(--rejected);
  font-weight: 600;
}
.lot label {
  font-size: var(--s14);
  color: var(--muted);
}
.lot .wide {
  grid-column: 1 / -1;
}
.check {
  padding: 20px 24px;
  overflow-y: auto;
  display: flex;
  flex-direction: column;
  gap: 14px;
}
header {
  display: flex;
  align-items: baseline;
  gap: 14px;
}
h1 {
  font-size: var(--s28);
  line-height: 1.15;
}
.instruction {
  font-size: var(--s18);
  max-width: 60ch;
}
.why {
  max-width: 60ch;
  margin-top: -8px;
}
.cautions {
  margin: 0;
  padding: 10px 14px 10px 30px;
  border-left: 4px solid var(--held);
  background: color-mix(in srgb, var(--held) 9%, var(--card));
}
.verdict {
  border-left: 4px solid var(--hair);
  padding: 4px 0 4px 14px;
  display: flex;
  flex-direction: column;
  gap: 4px;
}
.verdict.rejected {
  border-color: var(--rejected);
}
.verdict.accepted {
  border-color: var(--accepted);
}
.verdict.too-close,
.verdict.differs {
  border-color: var(--too-close);
}
.verdict.held {
  border-color: var(--held);
}
.question {
  font-size: var(--s22);
  font-weight: 600;
}
.wrap {
  flex-wrap: wrap;
}
.big {
  min-height: 64px;
  min-width: 150px;
  font-size: var(--s18);
  white-space: normal;
}
.choices {
  display: grid;
  grid-template-columns: repeat(2, 1fr);
  gap: 10px;
}
.choices .big {
  height: auto;
}
.big-number {
  font-size: 3.25rem;
  font-weight: 650;
  color: var(--waiting);
}
.hold {
  display: flex;
  flex-direction: column;
  gap: 10px;
  align-items: flex-start;
}
@media (max-width: 720px) {
  .check {
    padding: 16px 14px;
  }
  .choices {
    grid-template-columns: minmax(0, 1fr);
  }
  .lot {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
