/** What somebody is qualified for, by one certificate. Days are calendar days. */
export interface Qualification {
  person: string
  /** key of the procedure */
  procedure: string
  since: string
  /** the last day on which it counts; null for ever */
  until: string | null
  /** who gave it */
  by: string
}

export type QualifiedState = 'valid' | 'expired' | 'not-yet' | 'none'
export interface Qualified {
  state: QualifiedState
  /** the day that says it: the last of a valid or expired one, the first of one to come */
  day: string | null
}

/** What the project does about a crew lead who is not qualified: it says so, or takes no answer. */
export const qualifyModes = ['say', 'block'] as const
export type QualifyMode = (typeof qualifyModes)[number]

/**
 * Whether somebody is qualified for a procedure on a day. Of several certificates the best counts: a valid one
 * over one that is to come, that over one that ran out.
 */
export function qualifiedOn(all: readonly Qualification[], procedure: string, day: string): Qualified {
  const own = all.filter((q) => q.procedure === procedure)
  const valid = own.filter((q) => q.since <= day && (q.until === null || day <= q.until))
  if (valid.length > 0) {
    const last = valid.some((q) => q.until === null)
      ? null
      : valid
          .map((q) => q.until!)
          .sort()
          .at(-1)!
    return { state: 'valid', day: last }
  }
  const coming = own.filter((q) => q.since > day).map((q) => q.since)
  if (coming.length > 0) return { state: 'not-yet', day: coming.sort()[0]! }
  const past = own.flatMap((q) => (q.until === null ? [] : [q.until]))
  return past.length > 0 ? { state: 'expired', day: past.sort().at(-1)! } : { state: 'none', day: null }
}

/** What the register says for somebody who is qualified; null where it does not know that. */
export function knownQualified({ state, day }: Qualified): string | null {
  if (state !== 'valid') return null
  return day === null ? 'qualified, without an end.' : `qualified until ${day}.`
}

/** In a sentence; null while it is valid. */
export function lacksQualification({ state, day }: Qualified, title: string): string | null {
  if (state === 'valid') return null
  if (state === 'expired') return `Your qualification for ${title} ended on ${day}.`
  if (state === 'not-yet') return `Your qualification for ${title} begins on ${day}.`
  return `You have no qualification for ${title}.`
}
