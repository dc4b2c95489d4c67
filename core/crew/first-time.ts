import type { Entry } from '../record/entry'
import type { Judgement } from '../judgement/types'

/** z of a two-sided 95 % interval. */
const Z = 1.959963984540054

export interface Share {
  of: number
  right: number
  /** right ÷ of; null of none */
  share: number | null
  /** Wilson's interval at 95 %; 0 to 1 of none */
  low: number
  high: number
}

/**
 * A share with Wilson's score interval: honest for few cases, and never outside 0 to 1.
 *
 * @param right cases, at most `of`
 * @throws RangeError where the counts make no share
 */
export function wilson(right: number, of: number): Share {
  if (!Number.isInteger(right) || !Number.isInteger(of) || right < 0 || right > of)
    throw new RangeError(`${right} of ${of} is no share`)
  if (of === 0) return { of, right, share: null, low: 0, high: 1 }
  const p = right / of
  const z2 = Z * Z
  const middle = (p + z2 / (2 * of)) / (1 + z2 / of)
  const half = (Z / (1 + z2 / of)) * Math.sqrt((p * (1 - p)) / of + z2 / (4 * of * of))
  return { of, right, share: p, low: Math.max(0, middle - half), high: Math.min(1, middle + half) }
}

/**
 * Made right at the first try: nothing of it was ever rejected and no nonconformance was raised. A decision
 * that accepts what was too close to call is no fault of the crew.
 *
 * @param judgement of the record as it stands
 * @param entries all of it
 */
export function rightFirstTime(judgement: Judgement, entries: readonly Entry[]): boolean {
  if (judgement.drafts.length > 0 || judgement.state === 'rejected') return false
  if (judgement.steps.some((s) => s.ncr !== null || s.computed === 'rejected' || s.state === 'rejected'))
    return false
  return !entries.some(
    (e) =>
      e.kind === 'ncr' ||
      e.kind === 'refusal' ||
      (e.kind === 'decision' && (e.payload.verdict === 'again' || e.payload.verdict === 'reject')),
  )
}
