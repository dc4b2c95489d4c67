import type { Entry } from '../record/entry'
import { answering } from '../checks/registry'

/** How one joint went: when each of its steps was first answered, ms. */
export type Walk = ReadonlyMap<string, number>

/** A time that is foreseen, ms, with the span that holds four of five. */
export interface Forecast {
  at: number
  from: number
  to: number
  /** how many joints it rests on */
  of: number
}

/** Fewer tell too little. */
export const LEAST = 4
/** What a crew did longer ago says little of how it works now. */
export const LAST = 12
/** A pause longer than this is a night or another job, and no pace, ms. */
const PAUSE = 4 * 3_600_000

/** When each step of a record was first answered, by its key. A late entry tells no time. */
export function walkOf(entries: readonly Entry[]): Map<string, number> {
  const out = new Map<string, number>()
  for (const e of entries) {
    if (e.step === null || e.late === true || !(answering.has(e.kind) || e.kind === 'request')) continue
    const before = out.get(e.step)
    if (before === undefined || e.recordedAt < before) out.set(e.step, e.recordedAt)
  }
  return out
}

/** A value below which a share of sorted numbers lies, between neighbours in proportion. */
export function quantile(sorted: readonly number[], share: number): number {
  const at = (sorted.length - 1) * share
  const [low, high] = [Math.floor(at), Math.ceil(at)]
  return sorted[low]! + (sorted[high]! - sorted[low]!) * (at - low)
}

/**
 * When a crew will come to a point, from how long its last joints took from the same step to that point.
 * Median, and the span from the first to the ninth tenth, widened for how few they are.
 *
 * @param past the crew's finished joints by the same procedure, the latest first
 * @param step the last step answered at the joint at work, and when, ms
 * @param point the step that is asked for
 * @param now ms: what should have come by now comes as soon as can be
 * @returns null while fewer than four joints tell
 */
export function forecast(
  past: readonly Walk[],
  step: { key: string; at: number },
  point: string,
  now: number,
): Forecast | null {
  const spans = past
    .flatMap((walk) => {
      const [from, to] = [walk.get(step.key), walk.get(point)]
      return from === undefined || to === undefined || to < from || to - from > PAUSE ? [] : [to - from]
    })
    .slice(0, LAST)
    .sort((a, b) => a - b)
  if (spans.length < LEAST) return null
  // Of few joints the outermost tenths lie beyond what was seen: a span is widened by one part of its count.
  const [low, middle, high] = [0.1, 0.5, 0.9].map((q) => quantile(spans, q)) as [number, number, number]
  const wider = 1 + 4 / spans.length
  const at = Math.max(now, step.at + middle)
  return {
    at,
    from: Math.max(now, step.at + Math.max(0, middle - (middle - low) * wider)),
    to: Math.max(at, step.at + middle + (high - middle) * wider),
    of: spans.length,
  }
}
