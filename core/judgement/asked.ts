import { answering } from '../checks/registry'
import type { Entry } from '../record/entry'
import { releaseOf } from './decisions'
import type { StepState } from '../checks/verdict'
import type { Asked, Draft, ReviewJudgement, WatchJudgement } from './types'

/** A condition that a release carries: what a later step must show besides its own check. */
export interface Condition {
  step: string
  text: string
}

const text = (v: unknown) => (typeof v === 'string' ? v : '')

/** The conditions of a release, as far as they are some. */
export const conditionsOf = ({ payload }: Pick<Entry, 'payload'>): Condition[] =>
  (Array.isArray(payload.conditions) ? (payload.conditions as Partial<Condition>[]) : [])
    .map((c) => ({ step: text(c?.step), text: text(c?.text) }))
    .filter((c) => c.step !== '' && c.text !== '')

const answerTo = (given: readonly Entry[], id: string, index: number | null): Asked['answer'] => {
  const last = given.findLast(
    (e) => e.kind === 'response' && e.payload.to === id && (e.payload.index ?? null) === index,
  )
  return last
    ? {
        ...{ good: last.payload.good !== false, text: text(last.payload.text) },
        ...{ by: last.person, at: last.recordedAt, entry: last.id },
      }
    : null
}

/**
 * What is asked at a step: queries of whoever reads the record, and the conditions of releases that stand.
 *
 * @param entries standing entries of the step, in order
 * @param releases standing entries of each hold point
 */
export function askedAt(
  step: string,
  entries: readonly Entry[],
  releases: readonly (readonly Entry[])[],
): Asked[] {
  const queries = entries
    .filter((e) => e.kind === 'query')
    .map((e): Asked => ({
      ...{ id: e.id, kind: 'query', index: null, text: text(e.payload.text) },
      to: e.payload.to === 'inspector' ? 'inspector' : 'crew',
      ...{ by: e.person, at: e.recordedAt, answer: answerTo(entries, e.id, null) },
    }))
  const conditions = releases.flatMap((ofHold) => {
    const { state, at } = releaseOf(ofHold)
    const release = ofHold.findLast((e) => e.kind === 'release')
    // A release that was refused, asked for anew or waived since carries nothing any more.
    if (!release || state !== 'released' || at !== release.recordedAt) return []
    return conditionsOf(release).flatMap((c, index): Asked[] =>
      c.step === step
        ? [
            {
              ...{ id: release.id, kind: 'condition', index, text: c.text, to: 'crew' },
              ...{ by: release.person, at: release.recordedAt, answer: answerTo(entries, release.id, index) },
            },
          ]
        : [],
    )
  })
  return [...queries, ...conditions]
}

/**
 * What queries and conditions make of a step that its check has judged: an open one holds what is accepted,
 * a condition that is not met rejects.
 *
 * @returns null where the step stays as it is
 */
export function heldByAsked(
  state: StepState,
  asked: readonly Asked[],
): {
  state: StepState
  sentence: string
  draft: Pick<Draft, 'criterion' | 'reading' | 'entry'> | null
} | null {
  if (state === 'not-applicable') return null
  const unmet = asked.find((a) => a.kind === 'condition' && a.answer?.good === false)
  if (unmet && state !== 'rejected') {
    const { text, entry } = unmet.answer!
    return {
      state: 'rejected',
      sentence: `A condition of the release is not met: ${unmet.text} – ${text}`,
      draft: { criterion: `Condition of the release: ${unmet.text}`, reading: text, entry },
    }
  }
  const open = asked.find((a) => a.answer === null)
  if (!open || state !== 'accepted') return null
  const sentence =
    open.kind === 'query'
      ? `Queried: ${open.text} Acceptance waits for the answer.`
      : `Condition of the release: ${open.text} Acceptance waits for it.`
  return { state: 'held', sentence, draft: null }
}

/** @param entries standing entries of a step with a review point, in order */
export function reviewOf(entries: readonly Entry[]): ReviewJudgement {
  const answered = entries.findLast((e) => answering.has(e.kind))
  const read = entries.findLast((e) => e.kind === 'review')
  if (!answered) return { state: 'not-yet', by: null, at: null }
  // What was answered anew is read anew.
  if (!read || read.recordedAt < answered.recordedAt)
    return { state: 'due', by: null, at: answered.recordedAt }
  return { state: 'reviewed', by: read.person, at: read.recordedAt }
}

/** @param entries standing entries of a step under surveillance, in order */
export function watchOf(entries: readonly Entry[], drawn: boolean | null): WatchJudgement {
  const last = entries.findLast((e) => e.kind === 'watch')
  return {
    drawn,
    watched: last
      ? {
          ...{ good: last.payload.good !== false, note: text(last.payload.note) },
          ...{ by: last.person, at: last.recordedAt },
        }
      : null,
  }
}
