<script setup lang="ts">
import { definitionOf, isAnswered } from '#core/checks/registry'
import { slotsOf } from '#core/judgement/slots'
import { speaksAgainst } from '#core/judgement/release'
import { standing } from '#core/judgement/standing'
import type { Judgement, StepJudgement } from '#core/judgement/types'
import type { CompiledProcedure } from '#core/procedure/compile'
import type { Entry } from '#core/record/entry'
import { showQuantity, showTaped } from '#core/quantity/show'
import { barsOf } from '~/checks/bars'
import type { Answer, CheckForm } from '~/checks/form'
import { checkForms } from '~/checks/forms'
import { failureWords, pointWords } from '~/words'
import type { Decision, Sheet } from '~/composables/useWorksheet'
import { useSession } from '~/stores/session'

/** The one check being done: what, why, the answer, and what the criterion says of it. */
const props = defineProps<{
  compiled: CompiledProcedure
  sheet: Sheet
  entries: Entry[]
  judged: StepJudgement
  judgement: Judgement
  now: number
  mayRecord: boolean
  mayRelease: boolean
  mayWaive: boolean
  mayAnswer: boolean
  busy: boolean
  draft?: string[]
}>()
const emit = defineEmits<{
  answer: [Answer[]]
  ready: [Answer | null]
  live: [number[] | null]
  release: [Decision]
  witness: [kind: 'invitation' | 'reply' | 'attendance', payload: Record<string, unknown>]
  read: [kind: 'review' | 'query' | 'watch', payload: Record<string, unknown>]
  respond: [payload: Record<string, unknown>]
  submit: []
  draft: [string[]]
}>()

const session = useSession()
const compiledStep = computed(() => props.compiled.steps[props.compiled.stepIndex.get(props.judged.key)!]!)
const step = computed(() => compiledStep.value.step)
const check = computed(() => step.value.check)
const form = ref<CheckForm | null>(null)
const checkForm = computed(() => checkForms[check.value.kind])
const slots = computed(() =>
  slotsOf(props.compiled, props.sheet.subject.facts, props.entries, props.sheet.schools),
)

const bars = computed(() => barsOf(props.judged))
/** answered already; a further answer is asked for, so that no tap too many writes one */
const closed = computed(
  () =>
    props.judged.entry !== null &&
    props.judged.between.length === 0 &&
    // What is queried is answered below, not once more.
    (['accepted', 'rejected'].includes(props.judged.state) ||
      props.judged.asked.some((q) => q.answer === null)) &&
    definitionOf(check.value).plain === true,
)
const anew = ref(false)
watch(
  () => props.judged.entry,
  () => (anew.value = false),
)
const isHold = computed(() => props.judged.point === 'H')
/** a hold point that asks whether all is ready is answered by asking for its release */
const readyByAsking = computed(() => isHold.value && definitionOf(check.value).takes.has('confirmation'))
const mayAnswerHere = computed(() => props.mayRecord && !readyByAsking.value)
/** whoever releases has what was found before him, not the form for it */
const found = computed(
  () => closed.value || (isHold.value && props.mayRelease && props.judged.entry !== null),
)
const offered = computed(() => mayAnswerHere.value && (!found.value || anew.value))
/** what has to be measured or chosen at a hold point comes before anybody is asked to release it */
const lacksAnswer = computed(
  () => isHold.value && !readyByAsking.value && isAnswered(check.value) && props.judged.entry === null,
)
const usedLot = computed(() =>
  String(
    standing(props.entries).findLast((e) => e.step === props.judged.key && e.kind === 'lot')?.payload.lot ??
      '',
  ),
)
const request = () =>
  emit('answer', [
    ...(readyByAsking.value ? [{ kind: 'confirmation' as const, payload: { answer: 'yes' } }] : []),
    { kind: 'request', payload: {} },
  ])
/** A rejected lot may be used past its date by a waiver that names it. */
const lotMayBeWaived = computed(
  () => props.judged.waivable && props.judged.state === 'rejected' && !props.judged.ncr,
)
const wasPassed = computed(() =>
  props.judgement.drafts.some((d) => d.step === props.judged.key && d.kind === 'past-hold'),
)
const inspectorDecides = computed(
  () =>
    props.mayRelease &&
    ['differs', 'too-close', 'rejected', 'held'].includes(props.judged.state) &&
    !props.judged.ncr &&
    // Of a hold point its own answer is decided, not that it waits or was passed.
    (!isHold.value || (speaksAgainst(props.judged) && !wasPassed.value)),
)
defineExpose({
  clear: () => form.value?.clear?.(),
  put: (texts: string[]) => form.value?.put?.(texts),
  say: (answer: 'yes' | 'no') => void (offered.value && form.value?.say?.(answer)),
  choose: (index: number) => void (offered.value && form.value?.choose?.(index)),
  request,
  replace: (entry: string) => form.value?.replace?.(entry),
})
</script>

<template>
  <section class="check" :aria-label="step.title">
    <slot name="before" />
    <header>
      <h1>{{ step.title }}</h1>
      <span v-if="judged.point" class="point muted">{{
        [judged.point, ...judged.beside].map((p) => pointWords[p]).join(', ')
      }}</span>
    </header>
    <p class="instruction">{{ step.instruction }}</p>
    <p v-if="step.why" class="muted why">{{ step.why }}</p>
    <ul v-if="step.cautions?.length" class="cautions">
      <li v-for="c in step.cautions" :key="c">{{ c }}</li>
    </ul>

    <p v-if="judged.value !== null" class="mark">
      <span class="reading">{{
        check.kind === 'calculated'
          ? showQuantity(judged.value, check.quantity, check.unit)
          : showTaped(judged.value, 'unit' in check ? (check.unit ?? 'mm') : 'mm')
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

    <WitnessPoint
      v-if="judged.witness"
      :witness="judged.witness"
      :people="sheet.people"
      :now="now"
      :may-record="mayRecord"
      :may-answer="mayAnswer"
      @say="(kind, payload) => $emit('witness', kind, payload)"
    />
    <slot v-if="offered" name="ends" />
    <component
      :is="checkForm"
      v-if="checkForm && offered"
      ref="form"
      :step="compiledStep"
      :judged="judged"
      :slots="slots"
      :sheet="sheet"
      :entries="entries"
      :now="now"
      :busy="busy"
      :draft="draft"
      @answer="(a: Answer[]) => $emit('answer', a)"
      @ready="(a: Answer | null) => $emit('ready', a)"
      @live="(v: number[] | null) => $emit('live', v)"
      @submit="$emit('submit')"
      @draft="(t: string[]) => $emit('draft', t)"
    />
    <ElButton v-else-if="found && mayAnswerHere" size="large" class="anew" @click="anew = true"
      >Answer again</ElButton
    >
    <StepHold
      v-if="isHold"
      :compiled="compiled"
      :entries="entries"
      :judged="judged"
      :judgement="judgement"
      :people="sheet.people"
      :now="now"
      :may-record="mayRecord"
      :may-release="mayRelease"
      :wanting="lacksAnswer"
      :busy="busy"
      @request="request"
      @release="(d) => $emit('release', d)"
    >
      <template #default="before"><slot name="hold" v-bind="before" /></template>
    </StepHold>
    <div v-if="(!mayRecord || check.kind === 'calculated') && bars.length > 0">
      <ToleranceBar v-for="b in bars" :key="b.of + b.title" v-bind="b" />
    </div>
    <StepAid
      v-for="aid in compiledStep.aids"
      :key="`${judged.key} ${aid.calculator}`"
      :aid="aid"
      :slots="slots"
    />
    <ElButton
      v-if="mayWaive && lotMayBeWaived"
      size="large"
      @click="$emit('release', { kind: 'waiver', lot: usedLot })"
      >Use it by waiver …</ElButton
    >
    <StepPoints
      :judged="judged"
      :people="sheet.people"
      :me="session.person?.id ?? ''"
      :may-read="session.can('read-record')"
      :may-record="mayRecord"
      :inspector="mayRelease"
      @read="(kind, payload) => $emit('read', kind, payload)"
      @respond="(payload) => $emit('respond', payload)"
    />
    <slot name="after" />
    <slot />
  </section>
</template>

<style scoped>
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
@media (max-width: 720px) {
  .check {
    padding: 16px 14px;
  }
}
.anew {
  align-self: flex-start;
}
.check :deep(.part) {
  display: flex;
  flex-direction: column;
  gap: 14px;
}
.check :deep(.two) {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 14px;
  align-items: end;
}
.check :deep(.field),
.check :deep(.part label:not([class])) {
  display: flex;
  flex-direction: column;
  gap: 4px;
  font-size: var(--s14);
  color: var(--muted);
}
.check :deep(.question) {
  font-size: var(--s22);
  font-weight: 600;
}
.check :deep(.wrap) {
  flex-wrap: wrap;
}
.check :deep(.big) {
  min-height: 64px;
  min-width: 150px;
  font-size: var(--s18);
  white-space: normal;
}
</style>
