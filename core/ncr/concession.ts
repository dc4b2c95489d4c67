import type { Entry } from '../record/entry'

/** What the client says of a concession. */
export interface ClientWord {
  agrees: boolean
  text: string
  by: string
  at: number
}

/**
 * The client's word on the concession as it was decided last; null while there is none. A word on an earlier
 * decision says nothing of a later one.
 *
 * @param entries standing entries of a report, in order
 */
export function clientWord(entries: readonly Entry[]): ClientWord | null {
  const decided = entries.findLast((e) => e.kind === 'disposition')
  const said = entries.findLast((e) => e.kind === 'concession')
  if (!decided || !said || entries.indexOf(said) < entries.indexOf(decided)) return null
  return {
    ...{ agrees: said.payload.agrees === true, text: String(said.payload.text ?? '') },
    ...{ by: said.person, at: said.recordedAt },
  }
}
