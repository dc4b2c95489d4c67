<script setup lang="ts">
import { uuidv7 } from 'uuidv7'
import IconCamera from '~icons/lucide/camera'
import IconRemark from '~icons/lucide/message-square'
import IconStrike from '~icons/lucide/strikethrough'
import { useSession } from '~/stores/session'
import type { Decision, JointAtWork } from '~/composables/useJointSheet'
import { answering } from '#core/judgement/decisions'
import { needsReason } from '#core/judgement/again'
import { standing } from '#core/judgement/standing'
import { smallPicture } from '~/composables/smallPicture'
import type { Answer } from './StepCheck.vue'
import type StepCheck from './StepCheck.vue'

/** The joint sheet at work: spine, the one check, drawing; the next thing to do at the bottom right. */
const props = defineProps<{ id: string; joint: JointAtWork }>()
const session = useSession()
const { sheet, compiled, entries, judgement, now, record } = props.joint

const { current, go, goOn: replaceStep } = useStepAddress(() => props.joint.dry)
/** what is unfolded where the sheet is narrow */
const open = ref<'steps' | 'drawing' | null>(null)
const fold = (part: 'steps' | 'drawing') => (open.value = open.value === part ? null : part)
function choose(step: string) {
  open.value = null
  go(step)
}
const ready = ref<Answer | null>(null)
const live = ref<number[] | null>(null)
/** steps with an answer on its way */
const sending = ref<ReadonlySet<string>>(new Set())
const busy = computed(() => current.value !== null && sending.value.has(current.value))
/** readings typed and not recorded yet, by step: looking at another step loses none */
const drafts = reactive(new Map<string, string[]>())
const check = ref<InstanceType<typeof StepCheck> | null>(null)
const steps = computed(() => judgement.value?.steps.filter((s) => s.state !== 'not-applicable') ?? [])
const judged = computed(() => judgement.value?.steps.find((s) => s.key === current.value) ?? null)
watch(
  judgement,
  (j) => {
    if (!j || j.steps.some((s) => s.key === current.value && s.state !== 'not-applicable')) return
    const first = j.next ?? steps.value.at(-1)?.key
    if (first) replaceStep(first)
  },
  { immediate: true },
)

// What was ready for one step is never recorded at another.
watch(
  current,
  () => {
    ready.value = null
    live.value = null
  },
  { flush: 'sync' },
)

// On a made-up joint anybody may try everything.
const mayRecord = computed(() => props.joint.dry || session.may('inspector', 'crew-lead'))
const mayRelease = computed(() => props.joint.dry || session.may('inspector'))
const mayTrace = computed(() => !props.joint.dry && session.may('inspector', 'engineer', 'witness'))
const mayWaive = computed(() => props.joint.dry || session.may('inspector', 'engineer'))
const ofStep = computed(() =>
  entries.value.filter(
    (e) =>
      e.step === current.value ||
      (e.kind === 'correction' &&
        entries.value.some((x) => x.id === e.payload.strikes && x.step === current.value)),
  ),
)
const currentCheck = computed(
  () => compiled.value?.steps[compiled.value.stepIndex.get(current.value ?? '') ?? 0]?.step.check ?? null,
)
const next = computed(() => judgement.value?.next ?? null)
const nextTitle = computed(() =>
  next.value ? compiled.value!.steps[compiled.value!.stepIndex.get(next.value)!]!.step.title : null,
)

/**
 * Answers that are judged at once and need no second look: the next step opens without waiting for the
 * server.
 */
const PLAIN = ['confirmation', 'choice', 'clock']
const goOn = (from: string) => {
  const result = judgement.value?.steps.find((s) => s.key === from)
  if (current.value === from && result?.state === 'accepted' && next.value) replaceStep(next.value)
}
/** answered once more after a rejection that nobody has decided about: with its reason */
const again = ref<Answer[] | null>(null)
const againOpen = computed({
  get: () => again.value !== null,
  set: (now) => void (now || (again.value = null)),
})
const titleOf = (key: string) => compiled.value!.steps[compiled.value!.stepIndex.get(key)!]!.step.title
async function answerAgain(reason: string) {
  const answers = again.value!.map((a) =>
    answering.has(a.kind) ? { ...a, payload: { ...a.payload, reason } } : a,
  )
  again.value = null
  await recordAnswers(answers)
}
function answer(answers: Answer[]): Promise<void> | void {
  if (needsReason(judged.value, ofStep.value)) {
    again.value = answers
    return
  }
  return recordAnswers(answers)
}
async function recordAnswers(answers: Answer[]) {
  const at = current.value
  if (!at || sending.value.has(at)) return
  const { kind } = answers[0]!
  const typed = drafts.get(at) ?? []
  sending.value = new Set([...sending.value, at])
  try {
    const sent = record(
      answers.map((a) => ({ kind: a.kind, step: at, payload: a.payload, instrument: a.instrument })),
    )
    // The places are free at once: what is typed while the reading is on its way is the next one.
    if (kind === 'reading') check.value?.clear()
    if (PLAIN.includes(kind)) goOn(at)
    await sent
    // A measured verdict stays to be read.
    if (kind !== 'reading') goOn(at)
  } catch (error) {
    const message = error instanceof ApiProblem ? error.message : 'This was not recorded.'
    const kept = kind !== 'reading' || giveBack(at, typed)
    // Back to what was not recorded.
    replaceStep(at)
    ElMessage({
      type: 'error',
      message: kept ? message : `${message} Not recorded: ${typed.join('; ')}.`,
      duration: kept ? 6000 : 0,
      showClose: true,
    })
    if (!(error instanceof ApiProblem)) console.error(error)
  } finally {
    sending.value = new Set([...sending.value].filter((s) => s !== at))
  }
}
/** Readings that were refused stand in their places again, unless others were typed there meanwhile. */
function giveBack(at: string, typed: string[]): boolean {
  if (drafts.get(at)?.some((t) => t.trim() !== '')) return false
  drafts.set(at, typed)
  if (current.value === at) check.value?.put(typed)
  return true
}
/** A picture of a drawing chosen as the answer of the step at hand. */
function chooseAnswer(choice: string) {
  const check = currentCheck.value
  if (mayRecord.value && check?.kind === 'choice' && check.choices.some((c) => c.key === choice))
    void answer([{ kind: 'choice', payload: { choice } }])
}
const primary = computed(() => {
  if (ready.value) return { text: 'Record', act: () => answer([ready.value!]) }
  if (next.value && next.value !== current.value)
    return { text: `Next: ${nextTitle.value}`, act: () => choose(next.value!) }
  return null
})
const move = (by: number) => {
  const i = steps.value.findIndex((s) => s.key === current.value)
  const to = steps.value[Math.min(steps.value.length - 1, Math.max(0, i + by))]
  if (to) choose(to.key)
}

const strikeOpen = ref(false)
const strikable = computed(
  () =>
    standing(ofStep.value)
      .filter((e) => answering.has(e.kind) && (e.person === session.person?.id || mayRelease.value))
      .at(-1) ?? null,
)
const strike = (reason: string) =>
  record([{ kind: 'correction', step: current.value, payload: { strikes: strikable.value!.id, reason } }])
const remarkOpen = ref(false)
const remark = (text: string) => record([{ kind: 'remark', step: current.value, payload: { text } }])
const photoInput = ref<HTMLInputElement | null>(null)
async function photo(event: Event) {
  const file = (event.target as HTMLInputElement).files?.[0]
  if (!file) return
  try {
    const { id } = await api<{ id: string }>(`${session.base}/files`, { body: await smallPicture(file) })
    await record([
      { kind: 'photo', step: current.value, payload: { file: id, name: file.name.slice(0, 200) } },
    ])
  } catch (error) {
    ElMessage({
      type: 'error',
      message: error instanceof ApiProblem ? error.message : 'This is not a picture that can be read.',
      duration: 6000,
      showClose: true,
    })
  } finally {
    if (photoInput.value) photoInput.value.value = ''
  }
}

const signing = ref<Decision>({ kind: 'release' })
const signOpen = ref(false)
const signWords = {
  release: ['Release', 'Release'],
  refusal: ['Refuse', 'Refuse the release'],
  waiver: ['Waive', 'Waive the hold point'],
  decision: ['Accept', 'Accept against the criterion'],
} as const
const signWord = computed(() =>
  signing.value.verdict === 'again'
    ? 'Measure again'
    : signing.value.stands
      ? 'It stands'
      : signWords[signing.value.kind][0],
)
const beginSign = (decision: Decision) => {
  signing.value = decision
  if (props.joint.dry && decision.kind === 'release')
    void props.joint.decide(current.value!, decision, '', '')
  else signOpen.value = true
}
const signTitle = computed(() => {
  const { kind, lot, verdict, stands } = signing.value
  if (lot) return `Use lot ${lot} by waiver`
  if (verdict === 'again') return 'None of it stands: measure again'
  return stands ? 'This answer stands' : signWords[kind][1]
})
const sign = (secret: string, reason: string) =>
  props.joint.decide(current.value!, signing.value, reason, secret)

const draft = computed(() => judgement.value?.drafts.find((d) => d.step === current.value) ?? null)
async function raise() {
  const picture = ofStep.value.filter((e) => e.kind === 'photo').at(-1)
  try {
    const { id } = await api<{ id: string }>(`${session.base}/ncrs`, {
      body: {
        id: uuidv7(),
        subjectType: 'joint',
        subject: props.id,
        step: current.value,
        criterion: draft.value!.criterion,
        reading: draft.value!.reading,
        photo: picture ? String(picture.payload.file) : null,
      },
    })
    await navigateTo(`/ncrs/${id}`)
  } catch (error) {
    ElMessage({
      type: 'error',
      message: error instanceof ApiProblem ? error.message : 'This was not raised.',
      duration: 6000,
    })
  }
}

useKeys({
  y: () => check.value?.say('yes'),
  n: () => check.value?.say('no'),
  ...Object.fromEntries(
    Array.from({ length: 9 }, (_v, i) => [
      String(i + 1),
      () => {
        const check = currentCheck.value
        if (check?.kind === 'choice' && check.choices[i]) choose(check.choices[i].key)
      },
    ]),
  ),
  u: () => strikable.value && (strikeOpen.value = true),
  Enter: () => primary.value?.act(),
  ArrowDown: () => move(1),
  ArrowUp: () => move(-1),
})
</script>

<template>
  <div v-if="sheet && judgement && compiled" class="joint">
    <header class="head">
      <h2>{{ sheet.joint.number }}</h2>
      <StateGlyph :state="judgement.state" :size="28" word />
      <span class="muted grow"
        ><template v-if="!joint.dry"
          >station {{ sheet.joint.station.toFixed(1) }} m ·
          {{ session.crewName(sheet.joint.crew) }} · </template
        >{{ compiled.procedure.title }}, revision {{ compiled.procedure.revision }}</span
      >
      <NuxtLink v-if="mayTrace" :to="`/deliveries/trace?kind=joint&value=${sheet.joint.id}`" class="quiet"
        >Made with</NuxtLink
      >
      <span class="muted count">{{ judgement.done }} of {{ judgement.applicable }}</span>
    </header>
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
    <JointSpine
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
      :busy="busy"
      :draft="drafts.get(judged.key)"
      @draft="(t) => drafts.set(judged!.key, t)"
      @answer="answer"
      @ready="(a) => (ready = a)"
      @live="(v) => (live = v)"
      @release="beginSign"
      @submit="primary?.act()"
    >
      <div v-if="draft" class="draft">
        <p><strong>Nonconformance drafted.</strong> {{ draft.criterion }} – found: {{ draft.reading }}</p>
        <ElButton v-if="!joint.dry" type="danger" size="large" @click="raise">Raise it</ElButton>
      </div>
      <StepRecord
        :entries="ofStep"
        :check="currentCheck!"
        :people="sheet.people"
        :project="session.projectKey"
      />
    </StepCheck>
    <JointFigure
      class="figure-part"
      :class="{ unfolded: open === 'drawing' }"
      :compiled="compiled"
      :facts="sheet.joint.facts"
      :schools="sheet.schools"
      :judgement="judgement"
      :entries="entries"
      :step="current"
      :live="live"
      :now="now"
      @step="choose"
      @choose="chooseAnswer"
    />
    <footer class="bar">
      <ElButton
        size="large"
        aria-label="Strike"
        :disabled="!strikable || !mayRecord"
        @click="strikeOpen = true"
        ><IconStrike aria-hidden="true" /><span class="word">Strike</span></ElButton
      >
      <ElButton size="large" aria-label="Remark" :disabled="!mayRecord" @click="remarkOpen = true"
        ><IconRemark aria-hidden="true" /><span class="word">Remark</span></ElButton
      >
      <ElButton
        size="large"
        aria-label="Photo"
        :disabled="!mayRecord || joint.dry"
        @click="photoInput?.click()"
        ><IconCamera aria-hidden="true" /><span class="word">Photo</span></ElButton
      >
      <input
        ref="photoInput"
        type="file"
        accept="image/*"
        capture="environment"
        class="visually-hidden"
        tabindex="-1"
        aria-label="Photo"
        @change="photo"
      />
      <span class="grow" />
      <ElButton
        type="primary"
        size="large"
        class="primary"
        :disabled="!primary"
        :loading="busy"
        @click="primary?.act()"
        >{{ primary?.text ?? (next ? 'Answer above' : 'Nothing left to do') }}</ElButton
      >
    </footer>
    <AskDialog
      v-model="strikeOpen"
      title="Strike the last entry"
      label="Why is it struck?"
      action="Strike"
      :send="strike"
      ><p class="muted">It stays readable, struck through, with your reason.</p></AskDialog
    >
    <AskDialog v-model="remarkOpen" title="Remark" label="Remark" action="Record" :send="remark" />
    <SecretDialog
      v-model="signOpen"
      :title="signTitle"
      :action="signWord"
      :danger="signing.kind === 'refusal'"
      :reason-label="signing.kind === 'release' ? 'Note (not needed)' : 'Why?'"
      :reason-required="signing.kind !== 'release'"
      :send="sign"
    >
      <p v-if="signing.waives?.length" class="muted">
        It leaves open: {{ signing.waives.map(titleOf).join('; ') }}.
      </p>
    </SecretDialog>
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
.joint {
  height: 100%;
  display: grid;
  grid-template: 52px minmax(0, 1fr) 72px / 262px minmax(0, 1fr) minmax(400px, 36%);
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
  display: flex;
  align-items: center;
  gap: 18px;
  padding: 0 20px;
  border-bottom: 1px solid var(--hair);
  white-space: nowrap;
}
.head .grow {
  overflow: hidden;
  text-overflow: ellipsis;
}
.bar {
  grid-area: bar;
  display: flex;
  align-items: center;
  gap: 10px;
  padding: 0 16px;
  border-top: 1px solid var(--hair);
  background: var(--card);
}
.word {
  margin-left: 8px;
}
.primary {
  min-width: 260px;
  --el-button-size: 56px;
  font-size: var(--s18);
}
.draft {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 16px;
  border: 1.5px solid var(--rejected);
  border-radius: var(--corner);
  padding: 12px 16px;
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
  .head {
    gap: 10px;
    padding: 0 14px;
  }
  .head .grow,
  .head .count {
    display: none;
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
  .bar {
    gap: 6px;
    padding: 0 8px;
  }
  .bar .grow {
    display: none;
  }
  .bar .primary {
    flex: 1;
    min-width: 0;
    white-space: normal;
    line-height: 1.15;
  }
  .bar .word {
    display: none;
  }
  .bar .el-button + .el-button {
    margin-left: 0;
  }
}
</style>
