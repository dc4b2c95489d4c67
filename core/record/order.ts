import type { Entry } from './entry'

/** Which of two entries comes first: by the time recorded; of two of one time by their ids. */
export const byTime = (a: Entry, b: Entry): number =>
  a.recordedAt - b.recordedAt || (a.id < b.id ? -1 : a.id > b.id ? 1 : 0)

/** Entries in the order they were recorded, whatever order they arrived in. */
export function inOrder(entries: readonly Entry[]): readonly Entry[] {
  // They nearly always come in order; looking is cheaper than sorting.
  for (let i = 1; i < entries.length; i++)
    if (byTime(entries[i - 1]!, entries[i]!) > 0) return [...entries].sort(byTime)
  return entries
}
