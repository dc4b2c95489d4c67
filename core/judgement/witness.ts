import type { Entry } from '../record/entry'
import { answering } from '../checks/registry'

export type WitnessState = 'not-invited' | 'invited' | 'accepted' | 'declined' | 'attended' | 'absent'

/** Where a witness point stands by its record. */
export interface WitnessJudgement {
  state: WitnessState
  /** when notice was given, and for when, ms */
  invitedAt: number | null
  for: number | null
  /** how long before, s */
  notice: number | null
  /** how long after the time he was invited for he came, s; null where he did not come, or was not late */
  late: number | null
  /** the notice was shorter than is asked: a remark on the crew, not on the witness */
  short: boolean
  /** who answered, came, or said that nobody had */
  by: string | null
  at: number | null
  /** the work was done before anybody was asked */
  unasked: boolean
  sentence: string
}

/** Who comes within so many seconds of the time comes in time. */
const IN_TIME = 300

/** Notice that is asked where nobody has said otherwise, s. */
export const USUAL_NOTICE = 2 * 3600

const numberOf = (v: unknown): number | null => {
  const at = typeof v === 'string' ? Date.parse(v) : NaN
  return Number.isFinite(at) ? at : null
}

/**
 * Where a witness point stands: who was invited and when, what the witness answered, and who came.
 *
 * @param entries standing entries of the step, in order
 * @param notice s that an invitation has to come before its time
 */
export function witnessOf(entries: readonly Entry[], notice = USUAL_NOTICE): WitnessJudgement {
  const done = entries.find((e) => answering.has(e.kind))
  const invited = entries.findLast((e) => e.kind === 'invitation')
  const since = invited?.recordedAt ?? -Infinity
  const last = entries.findLast(
    (e) => (e.kind === 'reply' || e.kind === 'attendance') && e.recordedAt >= since,
  )
  const wanted = invited ? numberOf(invited.payload.for) : null
  const before = invited && wanted !== null ? (wanted - invited.recordedAt) / 1000 : null
  const state: WitnessState =
    last?.kind === 'attendance'
      ? last.payload.present === true
        ? 'attended'
        : 'absent'
      : last
        ? last.payload.accepts === true
          ? 'accepted'
          : 'declined'
        : invited
          ? 'invited'
          : 'not-invited'
  const after = state === 'attended' && wanted !== null ? (last!.recordedAt - wanted) / 1000 : 0
  const late = after > IN_TIME ? after : null
  const words: Record<WitnessState, string> = {
    'not-invited': done ? 'Done without inviting the witness.' : 'The witness is not invited yet.',
    invited: 'The witness is invited, and has not answered.',
    accepted: 'The witness will come.',
    declined: 'The witness does not come: the crew may go on.',
    attended:
      late === null
        ? 'The witness was there.'
        : `The witness came ${Math.round(late / 60)} min after the time.`,
    absent: 'The witness was invited, and was not there.',
  }
  const short = before !== null && before < notice - 1
  return {
    state,
    invitedAt: invited?.recordedAt ?? null,
    for: wanted,
    notice: before,
    late,
    short,
    by: last?.person ?? invited?.person ?? null,
    at: last?.recordedAt ?? null,
    unasked: done !== undefined && (invited === undefined || invited.recordedAt > done.recordedAt),
    sentence: short ? `${words[state]} Notice was shorter than is asked.` : words[state],
  }
}
