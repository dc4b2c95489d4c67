import type { Knex } from 'knex'
import type { ChainedEntry } from '#core/record/chain'
import type { Entry, EntryKind, Role } from '#core/record/entry'

/** An entry as stored: what is hashed, its hash, and its place in the feed. */
export interface StoredEntry extends ChainedEntry {
  feed: number
  hash: string
}

interface Row {
  feed: number
  id: string
  project: string
  subject_type: string
  subject: string
  seq: number
  kind: string
  step: string | null
  payload: string
  instrument: string | null
  person: string
  role: string
  crew: string | null
  device: string | null
  recorded_at: Date
  received_at: Date
  prev: string
  hash: string
}

const columns = ['feed', 'id', 'project', 'subject_type', 'subject', 'seq', 'kind', 'step', 'payload', 'instrument', 'person', 'role', 'crew', 'device', 'recorded_at', 'received_at', 'prev', 'hash']

const stored = (r: Row): StoredEntry => ({
  feed: r.feed, id: r.id, project: r.project, subjectType: r.subject_type, subject: r.subject, seq: r.seq, kind: r.kind, step: r.step, payload: r.payload, instrument: r.instrument,
  person: r.person, role: r.role, crew: r.crew, device: r.device, recordedAt: r.recorded_at.toISOString(), receivedAt: r.received_at.toISOString(), prev: r.prev, hash: r.hash,
})

/** As the core judges it. */
export const forCore = (e: StoredEntry): Entry => ({
  id: e.id, kind: e.kind as EntryKind, step: e.step, payload: JSON.parse(e.payload) as Record<string, unknown>, person: e.person, role: e.role as Role, crew: e.crew, instrument: e.instrument, recordedAt: Date.parse(e.recordedAt),
})

export async function entriesOf(db: Knex, subject: string): Promise<StoredEntry[]> {
  const rows = (await db('entries').select(columns).where({ subject }).orderBy('seq')) as Row[]
  return rows.map(stored)
}

export async function entriesOfMany(db: Knex, subjects: string[]): Promise<Map<string, StoredEntry[]>> {
  const out = new Map<string, StoredEntry[]>()
  for (let i = 0; i < subjects.length; i += 500) {
    const rows = (await db('entries').select(columns).whereIn('subject', subjects.slice(i, i + 500)).orderBy(['subject', 'seq'])) as Row[]
    for (const row of rows) out.set(row.subject, [...(out.get(row.subject) ?? []), stored(row)])
  }
  return out
}

/** The subject that an entry id belongs to, wherever it is. */
export async function findEntry(db: Knex, id: string): Promise<StoredEntry | null> {
  const row = (await db('entries').select(columns).where({ id }).first()) as Row | undefined
  return row ? stored(row) : null
}

/** Adds rows in one statement; the trigger refuses them unless they follow the chain's head. */
export async function insertEntries(trx: Knex, entries: Omit<StoredEntry, 'feed'>[]): Promise<void> {
  await trx('entries').insert(
    entries.map((e) => ({
      id: e.id, project: e.project, subject_type: e.subjectType, subject: e.subject, seq: e.seq, kind: e.kind, step: e.step, payload: e.payload, instrument: e.instrument, person: e.person, role: e.role,
      crew: e.crew, device: e.device, recorded_at: new Date(e.recordedAt), received_at: new Date(e.receivedAt), prev: e.prev, hash: e.hash,
    })),
  )
}

export interface FeedRow {
  feed: number
  subjectType: string
  subject: string
  kind: string
  step: string | null
  crew: string | null
}

/** What came in after a place in the feed, oldest first. */
export async function feedAfter(db: Knex, project: string, after: number, limit = 500): Promise<FeedRow[]> {
  const rows = await db('entries').select('feed', 'subject_type', 'subject', 'kind', 'step', 'crew').where({ project }).where('feed', '>', after).orderBy('feed').limit(limit)
  return rows.map((r: { feed: number; subject_type: string; subject: string; kind: string; step: string | null; crew: string | null }) => ({ feed: r.feed, subjectType: r.subject_type, subject: r.subject, kind: r.kind, step: r.step, crew: r.crew }))
}

export async function feedEnd(db: Knex, project: string): Promise<number> {
  const row = await db('entries').where({ project }).max<{ end: number | null }>('feed as end').first()
  return row?.end ?? 0
}

export interface ChainHead {
  subject: string
  subjectType: string
  seq: number
  hash: string
}

export async function chainHeads(db: Knex, after: string, limit = 200): Promise<ChainHead[]> {
  const rows = await db('chains').select('subject', 'subject_type', 'seq', 'hash').where('subject', '>', after).orderBy('subject').limit(limit)
  return rows.map((r: { subject: string; subject_type: string; seq: number; hash: string }) => ({ subject: r.subject, subjectType: r.subject_type, seq: r.seq, hash: r.hash }))
}

/** Subjects that have entries but no chain head: a head was removed. */
export async function headless(db: Knex): Promise<{ subject: string; subjectType: string }[]> {
  const rows = await db('entries as e').leftJoin('chains as c', 'c.subject', 'e.subject').whereNull('c.subject').distinct('e.subject', 'e.subject_type')
  return rows.map((r: { subject: string; subject_type: string }) => ({ subject: r.subject, subjectType: r.subject_type }))
}
