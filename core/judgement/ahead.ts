import type { CompiledProcedure } from '../procedure/compile'
import type { FactValue } from '../formula/formula'
import type { Entry } from '../record/entry'
import { judge } from './judge'
import type { Judgement, SubjectState, JudgeOptions } from './types'

/** A state that a joint comes into by time alone, and when (ms since 1970). */
export interface Change {
  at: number
  state: SubjectState
}

/**
 * The judgement and, where clocks run, when and into what the joint's state changes by
 * time alone, the next change first: what is stored of a joint is this, so that no server
 * needs to wake up for it.
 */
export function judgeAhead(
  compiled: CompiledProcedure,
  facts: Record<string, FactValue>,
  entries: readonly Entry[],
  now: number,
  options: JudgeOptions = {},
): { judgement: Judgement; changes: Change[] } {
  const judgement = judge(compiled, facts, entries, now, options)
  // The latest time itself is still in time.
  const moments = judgement.clocks
    .flatMap((c) => [c.until, ...(c.latest === null ? [] : [c.latest + 1])])
    .filter((t) => t > now)
  const changes: Change[] = []
  let { state } = judgement
  for (const at of [...new Set(moments)].sort((a, b) => a - b)) {
    const later = judge(compiled, facts, entries, at, { ...options, brief: true }).state
    if (later === state) continue
    state = later
    changes.push({ at, state })
  }
  return { judgement, changes }
}

/** The state shown at `now` from what is stored. */
export const stateAt = (
  stored: { state: SubjectState; changes: readonly Change[] },
  now: number,
): SubjectState => stored.changes.findLast((c) => now >= c.at)?.state ?? stored.state
