import type { Knex } from 'knex'
import { entriesOf, type StoredEntry } from './entries'

/** Records kept in memory, the least lately used first. */
const MOST = 400
const known = new Map<string, StoredEntry[]>()

/** Remembers a subject's record as it stands, or as it will stand when the unit of work is committed. */
export function rememberEntries(subject: string, entries: StoredEntry[]): void {
  known.delete(subject)
  known.set(subject, entries)
  if (known.size > MOST) known.delete(known.keys().next().value!)
}

/**
 * A subject's record, read only when it is not the one that is remembered. The head of the chain
 * says so: its hash holds all that came before, so that a list with the same head is the same list.
 */
export async function knownEntriesOf(db: Knex, subject: string): Promise<StoredEntry[]> {
  const remembered = known.get(subject)
  if (remembered) {
    const head = await db('chains')
      .where({ subject })
      .first<{ seq: number; hash: string } | undefined>('seq', 'hash')
    if (head && head.seq === remembered.length && head.hash === remembered.at(-1)?.hash) return remembered
  }
  const entries = await entriesOf(db, subject)
  rememberEntries(subject, entries)
  return entries
}
