<script setup lang="ts">
import { useSession } from '~/stores/session'
import { definitionOf } from '#core/checks/registry'
import type { AtWork } from '~/composables/useWorksheet'
import type { Answer } from '~/checks/form'
import type WorkBar from './WorkBar.vue'
import type StepCheck from './StepCheck.vue'

/** The joint sheet at work: spine, the one check, drawing; the next thing to do at the bottom right. */
const props = defineProps<{ id: string; work: AtWork }>()
const session = useSession()
const { sheet, compiled, entries, judgement, now, record } = props.work

const {
  current,
  go,
  goOn: replaceStep,
  steps,
  judged,
  titleOf,
  ofStep,
  currentCheck,
  ...atHand
} = useStepAtHand(props.work)
const { next, nextTitle, laterSteps, beside } = atHand
/** what is unfolded where the sheet is narrow */
const open = ref<'steps' | 'drawing' | null>(null)
const fold = (part: 'steps' | 'drawing') => (open.value = open.value === part ? null : part)
function choose(step: string) {
  open.value = null
  go(step)
}
const ready = ref<Answer | null>(null)
const live = ref<number[] | null>(null)
const check = ref<InstanceType<typeof StepCheck> | null>(null)
/** of a step that takes many entries: the one looked at */
const entry = ref<string | null>(null)
/** An entry tapped in the drawing. */
function look(step: string, id: string) {
  choose(step)
  entry.value = id
}
// What was ready for one step is never recorded at another.
watch(
  current,
  () => {
    ready.value = null
    live.value = null
    entry.value = null
  },
  { flush: 'sync' },
)

// On a made-up joint anybody may try everything.
const mayRecord = computed(
  () =>
    !withdrawn.value && (props.work.dry || (session.can('record') && !sheet.value?.qualification?.blocks)),
)
const withdrawn = computed(() => judgement.value?.state === 'withdrawn')
/** An inspector strikes the word that took it out of the job. */
const bringBack = (strikes: string, reason: string) =>
  record([{ kind: 'correction', step: null, payload: { strikes, reason } }])
const mayRelease = computed(() => props.work.dry || session.can('release-hold'))
const mayWaive = computed(() => props.work.dry || session.can('waive'))
const mayAnswer = computed(() => !props.work.dry && session.can('answer-invitation'))
/** Says something at the step at hand; what is refused is told. */
async function say(act: () => Promise<unknown>) {
  try {
    await act()
  } catch (error) {
    tell(error, 'This was not sent.')
  }
}
const { drafts, busy, againOpen, answer, answerAgain } = useAnswering({
  record,
  current,
  judged,
  ofStep,
  plain: computed(() => currentCheck.value !== null && definitionOf(currentCheck.value).plain === true),
  form: check,
  goOn(from) {
    const result = judgement.value?.steps.find((s) => s.key === from)
    if (current.value === from && result?.state === 'accepted' && next.value) replaceStep(next.value)
  },
  back: replaceStep,
})
const { together, both, otherEnd, atBothEnds } = useTogether(props.work, current)
/** Answers one of them: it becomes the step at hand, so that an exception opens below its line. */
function answerOf(key: string, said: 'yes' | 'no') {
  replaceStep(key)
  void answer(atBothEnds([{ kind: 'confirmation', payload: { answer: said } }]))
}
const signOff = useSignOff(props.work, current)
/** A picture of a drawing chosen as the answer of the step at hand. */
function chooseAnswer(choice: string) {
  const check = currentCheck.value
  if (mayRecord.value && check?.kind === 'choice' && check.choices.some((c) => c.key === choice))
    void answer(atBothEnds([{ kind: 'choice', payload: { choice } }]))
}
const primary = computed(() => {
  if (ready.value) return { text: 'Record', act: () => answer([ready.value!]) }
  if (next.value && next.value !== current.value)
    return { text: `Next: ${nextTitle.value}`, act: () => choose(next.value!) }
  return null
})
const move = (by: number) => {
  const to = beside(by)
  if (to) choose(to)
}

const bar = ref<InstanceType<typeof WorkBar> | null>(null)

const draft = computed(() => judgement.value?.drafts.find((d) => d.step === current.value) ?? null)
useKeys({
  y: () => check.value?.say('yes'),
  n: () => check.value?.say('no'),
  ...Object.fromEntries(Array.from({ length: 9 }, (_v, i) => [String(i + 1), () => check.value?.choose(i)])),
  u: () => bar.value?.strike(),
  Enter: () => primary.value?.act(),
  ArrowDown: () => move(1),
  ArrowUp: () => move(-1),
})
</script>

<template>
  <div v-if="sheet && judgement && compiled" class="joint">
    <WorkHead class="head" :work="work" :withdrawn="withdrawn" />
    <div class="folds">
      <button type="button" :aria-expanded="open === 'steps'" @click="fold('steps')">
        Steps<span class="muted">{{ judgement.done }} of {{ judgement.applicable }}</span>
      </button>
      <button type="button" :aria-expanded="open === 'drawing'" @click="fold('drawing')">
        Drawing<span v-if="judgement.clocks.length > 0" class="muted">{{
          judgement.clocks.length === 1 ? 'a clock runs' : `${judgement.clocks.length} clocks run`
        }}</span>
      </button>
    </div>
    <StepList
      class="spine-part"
      :class="{ unfolded: open === 'steps' }"
      :procedure="compiled.procedure"
      :judgement="judgement"
      :current="current"
      @choose="choose"
    />
    <StepCheck
      v-if="judged"
      ref="check"
      :key="judged.key"
      :compiled="compiled"
      :sheet="sheet"
      :entries="entries"
      :judged="judged"
      :judgement="judgement"
      :now="now"
      :may-record="mayRecord"
      :may-release="mayRelease"
      :may-waive="mayWaive"
      :may-answer="mayAnswer"
      :busy="busy"
      :draft="drafts.get(judged.key)"
      @draft="(t) => drafts.set(judged!.key, t)"
      @answer="(a) => answer(atBothEnds(a))"
      @ready="(a) => (ready = a)"
      @live="(v) => (live = v)"
      @release="signOff.begin"
      @witness="(kind, payload) => say(() => work.witness(current!, kind, payload))"
      @read="(kind, payload) => say(() => work.read(current!, kind, payload))"
      @respond="(payload) => say(() => record([{ kind: 'response', step: current!, payload }]))"
      @submit="primary?.act()"
    >
      <template v-if="otherEnd && mayRecord" #ends>
        <ElRadioGroup v-model="both" size="large" aria-label="Answered for" class="ends">
          <ElRadioButton :value="false">This end</ElRadioButton>
          <ElRadioButton :value="true">Both ends</ElRadioButton>
        </ElRadioGroup>
      </template>
      <template v-if="!work.dry && mayRecord && !mayRelease" #hold="{ open: before }">
        <ReleaseHere
          v-if="judged.release.state === 'requested'"
          :title="titleOf(judged.key)"
          :open="before"
          :send="(given) => work.releaseHere({ step: judged!.key, ...given })"
        />
      </template>
      <template v-if="together.before.length > 0" #before>
        <TogetherRows
          :rows="together.before"
          :may-record="mayRecord"
          :busy="busy"
          @choose="choose"
          @answer="answerOf"
        />
      </template>
      <template v-if="together.after.length > 0" #after>
        <TogetherRows
          :rows="together.after"
          :may-record="mayRecord"
          :busy="busy"
          @choose="choose"
          @answer="answerOf"
        />
      </template>
      <WithdrawnNote
        v-if="withdrawn"
        :entries="entries"
        :people="sheet.people"
        :back="session.can('release-hold') ? bringBack : undefined"
      />
      <p v-if="sheet.qualification" class="lacks" role="status">
        {{ sheet.qualification.sentence }}
        <template v-if="sheet.qualification.blocks">The plan takes no answer without it.</template>
      </p>
      <DraftedReport v-if="draft" :id="id" :work="work" :step="current" :draft="draft" :of-step="ofStep" />
      <StepRecord
        :faults="judged.faults"
        :chosen="entry"
        :may="mayRecord"
        :entries="ofStep"
        :check="currentCheck!"
        :people="sheet.people"
        :project="session.projectKey"
        @choose="(e) => (entry = e)"
        @again="(e) => check?.replace(e)"
        @strike="(e) => bar?.strike(e)"
      />
    </StepCheck>
    <WorkFigure
      :id="id"
      class="figure-part"
      :class="{ unfolded: open === 'drawing' }"
      :compiled="compiled"
      :type="sheet.subject.type"
      :facts="sheet.subject.facts"
      :schools="sheet.schools"
      :judgement="judgement"
      :entries="entries"
      :step="current"
      :live="live"
      :rule="sheet.rule"
      :machines="sheet.plants ?? []"
      :now="now"
      :entry="entry"
      @step="choose"
      @choose="chooseAnswer"
      @entry="look"
    />
    <WorkBar
      ref="bar"
      :step="current"
      :of-step="ofStep"
      :record="record"
      :dry="work.dry"
      :may-record="mayRecord"
      :may-strike-all="mayRelease"
      :busy="busy"
      :primary="primary"
      :idle="withdrawn ? 'Withdrawn' : next ? 'Answer above' : 'Nothing left to do'"
    />
    <SignOffDialog :sign-off="signOff" :later-steps="laterSteps" :title-of="titleOf" :dry="work.dry" />
    <AskDialog
      v-model="againOpen"
      title="Once more after a rejection"
      label="Why is it measured or done again?"
      action="Record"
      :send="answerAgain"
      ><p class="muted">The rejection stays until an inspector has decided about it.</p></AskDialog
    >
  </div>
</template>

<style scoped>
.lacks {
  border-left: 4px solid var(--too-close);
  padding: 8px 14px;
}
.joint {
  height: 100%;
  display: grid;
  grid-template: 52px minmax(0, 1fr) 72px / 262px minmax(0, 1fr) minmax(420px, 41%);
  grid-template-areas: 'head head head' 'spine figure check' 'bar bar bar';
}
.spine-part {
  grid-area: spine;
}
.figure-part {
  grid-area: figure;
}
.joint > .check {
  grid-area: check;
  border-left: 1px solid var(--hair);
}
.folds {
  display: none;
}
.head {
  grid-area: head;
}
@media (max-width: 1100px) {
  /* Upright: the drawing over the check, the steps folded. */
  .joint {
    grid-template: 52px 48px minmax(0, 40fr) minmax(0, 60fr) 72px / minmax(0, 1fr);
    grid-template-areas: 'head' 'folds' 'figure' 'check' 'bar';
  }
  .folds {
    grid-area: folds;
    display: flex;
    border-bottom: 1px solid var(--hair);
    background: var(--card);
  }
  .folds button {
    flex: 1;
    display: flex;
    align-items: center;
    justify-content: center;
    gap: 8px;
    border: 0;
    border-bottom: 4px solid transparent;
    background: none;
    color: inherit;
    font-size: var(--s16);
    font-weight: 600;
    cursor: pointer;
  }
  .folds button[aria-expanded='true'] {
    border-bottom-color: var(--line);
  }
  .folds .muted {
    font-weight: 400;
  }
  .folds button:last-child {
    display: none;
  }
  .spine-part {
    display: none;
  }
  .spine-part.unfolded {
    display: block;
    grid-row: figure-start / check-end;
    grid-column: 1;
    z-index: 3;
    border-right: 0;
  }
  .joint > .check {
    border-left: 0;
    border-top: 1px solid var(--hair);
  }
}
@media (max-width: 720px) {
  /* A phone: one thing at a time; steps and drawing unfold over it. */
  .joint {
    grid-template: 44px 48px minmax(0, 1fr) 68px / minmax(0, 1fr);
    grid-template-areas: 'head' 'folds' 'check' 'bar';
  }
  .folds button:last-child {
    display: flex;
  }
  .figure-part {
    display: none;
  }
  .figure-part.unfolded,
  .spine-part.unfolded {
    display: block;
    grid-area: check;
    z-index: 3;
    background: var(--paper);
  }
}
</style>
