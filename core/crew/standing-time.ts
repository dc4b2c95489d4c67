import type { Entry } from '../record/entry'

export const standingCauses = ['release', 'ncr', 'material', 'weather', 'other'] as const
export type StandingCause = (typeof standingCauses)[number]

/** Why a crew stood, on screens and on paper. */
export const standingWords: Record<StandingCause, string> = {
  release: 'for a release',
  ncr: 'for a nonconformance',
  material: 'for material',
  weather: 'for the weather',
  other: 'for something else',
}

/** A while in which a crew stood still. */
export interface Stand {
  cause: StandingCause
  subject: string
  step: string | null
  from: number
  /** null while it still stands */
  to: number | null
}

const ends = new Set(['release', 'refusal', 'waiver'])

/**
 * The whiles in which a record shows that its crew waited: from a request to its answer, and from a
 * nonconformance to its closing. What is struck does not count.
 *
 * @param entries of one subject, standing, in order
 */
export function standsOf(subject: string, entries: readonly Entry[]): Stand[] {
  const out: Stand[] = []
  const open = new Map<string, Stand>()
  const close = (key: string, at: number) => {
    const stand = open.get(key)
    if (stand) stand.to = at
    open.delete(key)
  }
  const start = (key: string, cause: StandingCause, e: Entry) => {
    if (open.has(key)) return
    const stand: Stand = { cause, subject, step: e.step, from: e.recordedAt, to: null }
    open.set(key, stand)
    out.push(stand)
  }
  for (const e of entries) {
    if (e.kind === 'request') start(`release ${e.step}`, 'release', e)
    else if (ends.has(e.kind)) close(`release ${e.step}`, e.recordedAt)
    else if (e.kind === 'ncr') {
      const key = `ncr ${String(e.payload.number)}`
      if (e.payload.event === 'raised') start(key, 'ncr', e)
      else if (e.payload.event === 'closed') close(key, e.recordedAt)
    }
  }
  return out
}

/**
 * How long a crew stood within a span, by cause, ms. Whiles that lie over each other count once, for the
 * cause that began first.
 *
 * @param until what still stands is counted up to here
 */
export function standingTime(
  stands: readonly Stand[],
  since: number,
  until: number,
): Record<StandingCause, number> {
  const total = Object.fromEntries(standingCauses.map((c) => [c, 0])) as Record<StandingCause, number>
  let reached = since
  for (const s of [...stands].sort((a, b) => a.from - b.from)) {
    const from = Math.max(s.from, reached)
    const to = Math.min(s.to ?? until, until)
    if (to <= from) continue
    total[s.cause] += to - from
    reached = to
  }
  return total
}
