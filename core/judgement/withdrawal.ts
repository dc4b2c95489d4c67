import { Problem } from '../problem'
import type { Entry } from '../record/entry'
import type { Judgement } from './types'

/**
 * Nothing that bears entries is deleted: it is withdrawn, with a reason, and its record stays. The word is
 * an entry of the same record; a correction that strikes it brings the subject back as it was.
 *
 * @param stands entries that no correction strikes
 */
export const withdrawalOf = (stands: readonly Entry[]): Entry | null =>
  stands.findLast((e) => e.kind === 'withdrawal') ?? null

/** What was withdrawn asks nobody for anything and holds nothing back; its steps still say what was found. */
export const asWithdrawn = (judgement: Judgement): Judgement => ({
  ...judgement,
  state: 'withdrawn',
  next: null,
  clocks: [],
  gates: {},
  test: { ready: false, gated: false, at: null },
  drafts: [],
})

/**
 * Nothing is recorded at what was withdrawn, but the correction that brings it back.
 *
 * @throws Problem `withdrawn`
 */
export function checkNotWithdrawn(
  stands: readonly Entry[],
  news: readonly Pick<Entry, 'kind' | 'payload'>[],
  title: string,
): void {
  const withdrawn = withdrawalOf(stands)
  if (!withdrawn) return
  if (news.every((e) => e.kind === 'correction' && e.payload.strikes === withdrawn.id)) return
  throw new Problem(
    'withdrawn',
    `${title} was withdrawn: ${String(withdrawn.payload.reason)} Nothing is recorded at it any more.`,
    'entries',
  )
}
