import { computed, reactive, ref, type Ref } from 'vue'
import { needsReason } from '#core/judgement/again'
import { answering } from '#core/checks/registry'
import type { StepJudgement } from '#core/judgement/types'
import type { Entry } from '#core/record/entry'
import type { Answer, CheckForm } from '~/checks/form'
import type { AtWork } from '~/composables/useWorksheet'

interface Sheet {
  record: AtWork['record']
  current: Ref<string | null>
  judged: Ref<StepJudgement | null>
  /** entries of the step at hand */
  ofStep: Ref<Entry[]>
  /** its check asks a plain question */
  plain: Ref<boolean>
  form: Ref<CheckForm | null>
  /** opens the next step when the answered one is accepted */
  goOn: (from: string) => void
  /** back to what was not recorded */
  back: (step: string) => void
}

/** Recording the answer of the step at hand; what is refused goes back to where it was typed. */
export function useAnswering({ record, current, judged, ofStep, plain, form, goOn, back }: Sheet) {
  /** steps with an answer on its way */
  const sending = ref<ReadonlySet<string>>(new Set())
  /** readings typed and not recorded yet, by step: looking at another step loses none */
  const drafts = reactive(new Map<string, string[]>())
  /** answered once more after a rejection that nobody has decided about: with its reason */
  const again = ref<Answer[] | null>(null)

  /** Readings that were refused stand in their places again, unless others were typed there meanwhile. */
  function giveBack(at: string, typed: string[]): boolean {
    if (drafts.get(at)?.some((t) => t.trim() !== '')) return false
    drafts.set(at, typed)
    if (current.value === at) form.value?.put?.(typed)
    return true
  }

  function refused(error: unknown, at: string, kind: string, typed: string[]) {
    const { message } = problemOf(error, 'This was not recorded.')
    const kept = kind !== 'reading' || giveBack(at, typed)
    back(at)
    ElMessage({
      type: 'error',
      message: kept ? message : `${message} Not recorded: ${typed.join('; ')}.`,
      duration: kept ? 6000 : 0,
      showClose: true,
    })
  }

  async function recordAnswers(answers: Answer[]) {
    const at = current.value
    if (!at || sending.value.has(at)) return
    const { kind } = answers[0]!
    const typed = drafts.get(at) ?? []
    sending.value = new Set([...sending.value, at])
    try {
      const sent = record(answers.map((a) => ({ step: at, ...a })))
      // The places are free at once: what is typed while the reading is on its way is the next one.
      if (kind === 'reading') form.value?.clear?.()
      // A plain answer needs no second look: the next step opens without waiting for the server.
      if (plain.value) goOn(at)
      await sent
      // A measured verdict stays to be read.
      if (kind !== 'reading') goOn(at)
    } catch (error) {
      refused(error, at, kind, typed)
    } finally {
      sending.value = new Set([...sending.value].filter((s) => s !== at))
    }
  }

  return {
    drafts,
    busy: computed(() => current.value !== null && sending.value.has(current.value)),
    againOpen: computed({
      get: () => again.value !== null,
      set: (open) => void (open || (again.value = null)),
    }),
    answer(answers: Answer[]): Promise<void> | void {
      if (!needsReason(judged.value, ofStep.value)) return recordAnswers(answers)
      again.value = answers
    },
    /** the answer that waited for its reason */
    async answerAgain(reason: string) {
      const answers = again.value!.map((a) =>
        answering.has(a.kind) ? { ...a, payload: { ...a.payload, reason } } : a,
      )
      again.value = null
      await recordAnswers(answers)
    },
  }
}
