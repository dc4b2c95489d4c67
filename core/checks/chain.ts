import type { Entry } from '../record/entry'
import { byTime } from '../record/order'

/** One of many entries of a step as it counts: what stands, and at whose place and time. */
export interface InPlace {
  entry: Entry
  /** the entry whose place it has taken; itself where it replaces none */
  place: Entry
}

export interface Chains {
  /** what is judged, in the order of the places */
  counted: readonly InPlace[]
  /** what stands for an entry: the last of its chain; undefined when it is struck or unknown */
  standsFor(id: string): InPlace | undefined
}

const replacedBy = ({ payload }: Entry): string | null =>
  typeof payload.replaces === 'string' ? payload.replaces : null

/**
 * Follows replacements: the last of a chain is judged, at the place and time of its first. Of two that
 * replace one the later counts; one that replaces a struck entry stands at its own time.
 *
 * @param entries standing entries of one step, in order
 */
export function chainsOf(entries: readonly Entry[]): Chains {
  if (!entries.some(replacedBy)) {
    const counted = entries.map((entry) => ({ entry, place: entry }))
    return { counted, standsFor: (id) => counted.find((c) => c.entry.id === id) }
  }
  const known = new Map(entries.map((e) => [e.id, e]))
  const replacement = new Map<string, Entry>()
  for (const e of entries) {
    const of = replacedBy(e)
    // A replacement is written after what it replaces; anything else would be a circle.
    if (of !== null && known.has(of) && byTime(known.get(of)!, e) < 0) replacement.set(of, e)
  }
  const replaces = (e: Entry) => {
    const of = replacedBy(e)
    return of !== null && known.has(of) && byTime(known.get(of)!, e) < 0
  }
  const last = (e: Entry): Entry => {
    const next = replacement.get(e.id)
    return next ? last(next) : e
  }
  const counted = entries.filter((e) => !replaces(e)).map((place) => ({ entry: last(place), place }))
  const first = (e: Entry): Entry => (replaces(e) ? first(known.get(replacedBy(e)!)!) : e)
  return {
    counted,
    standsFor(id) {
      const entry = known.get(id)
      return entry && counted.find((c) => c.place === first(entry))
    },
  }
}
