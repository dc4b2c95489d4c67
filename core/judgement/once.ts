import type { FactValue } from '../formula/formula'
import type { CompiledProcedure, CompiledStep } from '../procedure/compile'
import type { Entry, EntryKind } from '../record/entry'
import { inOrder } from '../record/order'
import { judge } from './judge'
import { standing, type OnceAnswered } from './standing'
import type { JudgeOptions } from './types'

/** Another subject of the same crew, day, line and issued revision, whose answers may stand here. */
export interface AnsweredBefore {
  subject: string
  name: string
  entries: readonly Entry[]
}

/** An answer to be entered at this subject, by the person who gave it at another. */
export interface StandingAnswer {
  step: string
  kind: EntryKind
  payload: Record<string, unknown> & { once: OnceAnswered }
}

interface Found {
  answer: Entry
  stands: boolean
  at: AnsweredBefore
}

const answers = ({ key, definition }: CompiledStep, entry: Entry) =>
  entry.step === key && definition.takes.has(entry.kind)

/**
 * The newest answer of a step, wherever it was given. One that was struck since asks the step anew,
 * instead of letting an older one through.
 */
function newest(step: CompiledStep, earlier: readonly AnsweredBefore[]): Found | undefined {
  return earlier
    .flatMap((at) => {
      const answer = inOrder(at.entries).findLast((e) => answers(step, e))
      return answer ? [{ answer, at, stands: standing(at.entries).includes(answer) }] : []
    })
    .reduce<Found | undefined>((a, b) => (a && a.answer.recordedAt >= b.answer.recordedAt ? a : b), undefined)
}

/** The lot that was in use where an answer was given. */
function lotBeside(lot: CompiledStep, { at }: Found): string | null {
  const entry = standing(at.entries).findLast((e) => answers(lot, e))
  return entry ? String(entry.payload.lot) : null
}

/** An answer with its origin, however often it has been carried on since; null where its lot is not known. */
function carried(compiled: CompiledProcedure, step: CompiledStep, found: Found): StandingAnswer | null {
  const { once: before, reason: _, ...said } = found.answer.payload
  const { entry, subject, at, answeredAt } = (before as OnceAnswered | undefined) ?? {
    entry: found.answer.id,
    subject: found.at.subject,
    at: found.at.name,
    answeredAt: found.answer.recordedAt,
  }
  const once: OnceAnswered = { entry, subject, at, answeredAt }
  const lot = step.once!.lot === null ? null : compiled.steps[step.once!.lot]!
  if (lot) {
    const name = lotBeside(lot, found)
    if (name === null) return null
    once.rests = { step: lot.step.key, lot: name }
  }
  return { step: step.step.key, kind: found.answer.kind, payload: { ...said, once } }
}

/** What would be in the record if the answers stood, with the lots that they rest on. */
function supposed(given: readonly StandingAnswer[], person: string, now: number): Entry[] {
  const entry = (step: string, kind: EntryKind, payload: Record<string, unknown>): Entry => ({
    id: `${step} ${kind}`,
    kind,
    step,
    payload,
    person,
    role: 'crew-lead',
    crew: null,
    instrument: null,
    recordedAt: now,
  })
  const lots = given.flatMap(({ payload: { once } }) => (once.rests ? [once.rests] : []))
  return [
    ...lots.map(({ step, lot }) => entry(step, 'lot', { lot })),
    ...given.map(({ step, kind, payload }) => entry(step, kind, payload)),
  ]
}

/**
 * What was asked once this shift and stands at a subject that is opened now: of each step `once` its
 * newest answer, if the same person gave it and it conforms here too. Nothing stands that was answered
 * otherwise or struck, or where the project's plan makes somebody come and look.
 *
 * @param person who opens the subject; somebody else is asked anew
 * @param now ms
 * @param earlier subjects of the same crew, day, line and issued revision
 */
export function standingAnswers(
  compiled: CompiledProcedure,
  facts: Record<string, FactValue>,
  person: string,
  now: number,
  earlier: readonly AnsweredBefore[],
  options: JudgeOptions = {},
): StandingAnswer[] {
  const watched = ({ step }: CompiledStep) => ['H', 'W'].includes(options.plan?.[step.key] ?? '')
  const given = compiled.steps.flatMap((step) => {
    if (!step.once || watched(step)) return []
    const found = newest(step, earlier)
    if (!found?.stands || found.answer.person !== person) return []
    return carried(compiled, step, found) ?? []
  })
  if (given.length === 0) return []
  const { steps } = judge(compiled, facts, supposed(given, person, now), now, options)
  return given.filter(({ step }) => steps[compiled.stepIndex.get(step)!]!.state === 'accepted')
}
