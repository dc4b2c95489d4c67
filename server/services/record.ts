import { createHash } from 'node:crypto'
import type { Knex } from 'knex'
import { checkStorable } from '#core/record/canonical'
import { canonicalEntry, CHAIN_START } from '#core/record/chain'
import { NO_CREW, rolesFor, type Action, type Role } from '#core/access'
import type { EntryKind, SubjectType } from '#core/record/entry'
import type { LateReason } from '#core/record/late'
import { Problem } from '#core/problem'
import { attach } from '../db/files'
import { entriesOf, findEntry, insertEntries, type StoredEntry } from '../db/entries'

/** Who acts, in which role, on which project. Made by the access check, never by a caller's body. */
export interface Actor {
  person: string
  name: string
  project: string
  roles: Role[]
  /** the crew that a crew lead is bound to; null sees every crew */
  crew: string | null
}

export interface NewEntry {
  id: string
  kind: EntryKind
  step?: string | null
  payload: Record<string, unknown>
  instrument?: string | null
  device?: string | null
  /** the device's running number, and its stamp as checked */
  number?: number | null
  stampAt?: Date | null
  /** its device's clock was moved between two contacts */
  moved?: boolean
  /** whose device it was recorded on, where that is somebody else */
  carrier?: string
  /** why its time proves nothing, by `lateness` */
  late?: LateReason | null
  recordedAt: Date
  receivedAt?: Date
}

export const sha256 = (data: string | Uint8Array) => createHash('sha256').update(data).digest('hex')
/** A digest as the bytes that tables keep it in. */
export const digestOf = (text: string): Buffer => createHash('sha256').update(text).digest()

/** The role under which an act is entered: the first of those that may do all of it. */
export function actingRole(actor: Actor, ...acts: Action[]): Role {
  const allowed = acts.map(rolesFor).reduce((a, b) => a.filter((r) => b.includes(r)))
  const role = allowed.find((r) => actor.roles.includes(r))
  if (!role) throw new Problem('forbidden', `Only ${allowed.join(' or ')} may do this.`)
  return role
}

const sameEntry = (a: StoredEntry, subject: string, b: NewEntry, person: string) =>
  a.subject === subject &&
  a.kind === b.kind &&
  a.step === (b.step ?? null) &&
  a.payload === JSON.stringify(b.payload) &&
  a.instrument === (b.instrument ?? null) &&
  a.person === person &&
  a.recordedAt === b.recordedAt.toISOString()

export interface Appended {
  /** every entry of the subject, the new ones last */
  entries: StoredEntry[]
  fresh: number
}

/** Entries as they will stand in their chain, not written yet. */
export interface Chained extends Appended {
  rows: Omit<StoredEntry, 'feed'>[]
}

/**
 * Lays new entries on a subject's chain. The same id with the same content is the same
 * entry and is passed over; a different content under a known id is refused.
 */
export function chainEntries(
  actor: Actor,
  role: Role,
  subjectType: SubjectType,
  subject: string,
  news: NewEntry[],
  before: StoredEntry[],
): Chained {
  const byId = new Map(before.map((e) => [e.id, e]))
  const rows: Omit<StoredEntry, 'feed'>[] = []
  let prev = before.at(-1)?.hash ?? CHAIN_START
  let seq = before.length
  for (const entry of news) {
    const same = byId.get(entry.id)
    if (same) {
      if (!sameEntry(same, subject, entry, actor.person))
        throw new Problem('id-taken', 'This entry id is already used for something else.', 'id')
      continue
    }
    checkStorable(entry)
    const row = {
      id: entry.id,
      project: actor.project,
      subjectType,
      subject,
      seq: ++seq,
      kind: entry.kind,
      step: entry.step ?? null,
      payload: JSON.stringify(entry.payload),
      instrument: entry.instrument ?? null,
      person: actor.person,
      role,
      crew: actor.crew === NO_CREW ? null : actor.crew,
      device: entry.device ?? null,
      deviceNumber: entry.number ?? null,
      stampAt: entry.stampAt?.toISOString() ?? null,
      late: entry.late ?? null,
      recordedAt: entry.recordedAt.toISOString(),
      receivedAt: (entry.receivedAt ?? new Date()).toISOString(),
      prev,
    }
    const hash = sha256(canonicalEntry(row))
    rows.push({ ...row, hash })
    byId.set(row.id, { ...row, hash, feed: 0 })
    prev = hash
  }
  return { rows, entries: [...before, ...rows.map((r) => ({ ...r, feed: 0 }))], fresh: rows.length }
}

/**
 * Writes chained entries. From here to the commit nobody else writes to the project's feed, so
 * whatever else belongs to the unit of work is best written before.
 */
export async function keepEntries(trx: Knex, subject: string, rows: Chained['rows']): Promise<void> {
  if (rows.length === 0) return
  await attach(
    trx,
    subject,
    rows.flatMap((r) => filesOf(r.payload)),
  )
  await insertOrExplain(trx, rows)
}

/**
 * Appends entries to a subject's chain and writes them.
 *
 * @param known entries of the subject when the caller has just read them
 */
export async function appendEntries(
  trx: Knex,
  actor: Actor,
  role: Role,
  subjectType: SubjectType,
  subject: string,
  news: NewEntry[],
  known?: StoredEntry[],
): Promise<Appended> {
  const chained = chainEntries(
    actor,
    role,
    subjectType,
    subject,
    news,
    known ?? (await entriesOf(trx, subject)),
  )
  await keepEntries(trx, subject, chained.rows)
  return chained
}

/**
 * Appends after a look at the subject's record, in the transaction that writes: of two who
 * act at once, the second sees what the first did and is refused by `check`. What an
 * earlier attempt wrote unheard is known by the id of the first entry.
 */
export async function appendAfter(
  trx: Knex,
  actor: Actor,
  role: Role,
  subjectType: SubjectType,
  subject: string,
  news: NewEntry[],
  check: (before: StoredEntry[]) => void,
): Promise<Appended> {
  const before = await entriesOf(trx, subject)
  if (!before.some((e) => e.id === news[0]?.id)) check(before)
  return appendEntries(trx, actor, role, subjectType, subject, news, before)
}

/** Files that an entry names: who may see its subject may see them. */
function filesOf(payload: string): string[] {
  const { file, photo, photos } = JSON.parse(payload) as Record<string, unknown>
  return [file, photo, ...(Array.isArray(photos) ? (photos as unknown[]) : [])].filter(
    (f): f is string => typeof f === 'string',
  )
}

async function insertOrExplain(trx: Knex, rows: Omit<StoredEntry, 'feed'>[]) {
  try {
    await insertEntries(trx, rows)
  } catch (error) {
    // 1062: the id exists under another subject.
    if (
      (error as { errno?: number }).errno === 1062 &&
      (await Promise.all(rows.map((r) => findEntry(trx, r.id)))).some(Boolean)
    )
      throw new Problem('id-taken', 'This entry id is already used for something else.', 'id')
    throw error
  }
}
