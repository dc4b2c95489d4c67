import { Problem } from '#core/problem'
import type { StoredEntry } from '../db/entries'
import type { Actor, NewEntry } from './record'

/** A device's clock may run a little ahead. */
const AHEAD = 5 * 60_000
const NEVER_STRUCK = ['release', 'refusal', 'waiver', 'ncr', 'signature']

/** Entries come from devices with clocks of their own: none is dated after it arrives. */
export function notInFuture(news: readonly NewEntry[]): void {
  const latest = Date.now() + AHEAD
  if (news.some((e) => e.recordedAt.getTime() > latest))
    throw new Problem(
      'future',
      'This entry is dated in the future: set the clock of the device.',
      'recordedAt',
    )
}

/** What is struck must be in the record, be one's own or be struck by an inspector, and be no sign-off. */
export function checkStrikes(entries: readonly StoredEntry[], news: readonly NewEntry[], actor: Actor): void {
  for (const entry of news.filter((e) => e.kind === 'correction')) {
    const struck = entries.find((e) => e.id === entry.payload.strikes)
    if (!struck) throw new Problem('not-found', 'The entry to strike is not in this record.', 'strikes')
    if (NEVER_STRUCK.includes(struck.kind))
      throw new Problem(
        'not-struck',
        `A ${struck.kind} is not struck; record what follows from it.`,
        'strikes',
      )
    if (struck.person !== actor.person && !actor.roles.includes('inspector'))
      throw new Problem(
        'forbidden',
        'Only the person who wrote an entry, or an inspector, strikes it.',
        'strikes',
      )
  }
}

/** An entry that takes the place of another, or answers another, names one of the same record and kind. */
export function checkNames(entries: readonly StoredEntry[], news: readonly NewEntry[]): void {
  for (const { kind, payload } of news)
    for (const field of ['replaces', 'retestOf']) {
      const named = payload[field]
      if (named !== undefined && ![...entries, ...news].some((e) => e.id === named && e.kind === kind))
        throw new Problem('not-found', `There is no such ${kind} in this record.`, field)
    }
}
