import type { Knex } from 'knex'
import type { ChainedEntry } from '#core/record/chain'
import type { Role } from '#core/access'
import type { Entry, EntryKind } from '#core/record/entry'

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
  device_number: number | null
  stamp_at: Date | null
  late: string | null
  recorded_at: Date
  received_at: Date
  prev: string
  hash: string
}

const columns = [
  ...[
    'feed',
    'id',
    'project',
    'subject_type',
    'subject',
    'seq',
    'kind',
    'step',
    'payload',
    'instrument',
    'person',
    'role',
    'crew',
  ],
  ...['device', 'device_number', 'stamp_at', 'late', 'recorded_at', 'received_at', 'prev', 'hash'],
]

const stored = (r: Row): StoredEntry => ({
  feed: r.feed,
  id: r.id,
  project: r.project,
  subjectType: r.subject_type,
  subject: r.subject,
  seq: r.seq,
  kind: r.kind,
  step: r.step,
  payload: r.payload,
  instrument: r.instrument,
  person: r.person,
  role: r.role,
  crew: r.crew,
  device: r.device,
  deviceNumber: r.device_number,
  stampAt: r.stamp_at?.toISOString() ?? null,
  late: r.late,
  recordedAt: r.recorded_at.toISOString(),
  receivedAt: r.received_at.toISOString(),
  prev: r.prev,
  hash: r.hash,
})

/** Entries are ink: each is read for the core once. */
const read = new WeakMap<StoredEntry, Entry>()

/** As the core judges it. */
export function forCore(e: StoredEntry): Entry {
  const known = read.get(e)
  if (known) return known
  const entry = asEntry(e)
  read.set(e, entry)
  return entry
}

const asEntry = (e: StoredEntry): Entry => ({
  id: e.id,
  kind: e.kind as EntryKind,
  step: e.step,
  payload: JSON.parse(e.payload) as Record<string, unknown>,
  person: e.person,
  role: e.role as Role,
  crew: e.crew,
  instrument: e.instrument,
  recordedAt: Date.parse(e.recordedAt),
  ...(e.late === null ? {} : { late: true, receivedAt: Date.parse(e.receivedAt) }),
})

export async function entriesOf(db: Knex, subject: string): Promise<StoredEntry[]> {
  const rows = (await db('entries').select(columns).where({ subject }).orderBy('seq')) as Row[]
  return rows.map(stored)
}

export async function entriesOfMany(db: Knex, subjects: string[]): Promise<Map<string, StoredEntry[]>> {
  const out = new Map<string, StoredEntry[]>()
  for (let i = 0; i < subjects.length; i += 500) {
    const rows = (await db('entries')
      .select(columns)
      .whereIn('subject', subjects.slice(i, i + 500))
      .orderBy(['subject', 'seq'])) as Row[]
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
      id: e.id,
      project: e.project,
      subject_type: e.subjectType,
      subject: e.subject,
      seq: e.seq,
      kind: e.kind,
      step: e.step,
      payload: e.payload,
      instrument: e.instrument,
      person: e.person,
      role: e.role,
      crew: e.crew,
      device: e.device,
      device_number: e.deviceNumber,
      stamp_at: e.stampAt === null ? null : new Date(e.stampAt),
      late: e.late,
      recorded_at: new Date(e.recordedAt),
      received_at: new Date(e.receivedAt),
      prev: e.prev,
      hash: e.hash,
    })),
  )
}

export interface FeedRow {
  feed: number
  subjectType: string
  subject: string
  kind: string
  step: string | null
  /** the crew that the subject belongs to */
  crew: string | null
}

/**
 * What came in after a place in the feed, oldest first. Places grow in the order of commits: none is ever
 * filled later.
 */
export async function feedAfter(db: Knex, project: string, after: number, limit = 500): Promise<FeedRow[]> {
  const rows = await db('entries as e')
    .leftJoin('joints as j', 'j.id', 'e.subject')
    .leftJoin('reaches as r', 'r.id', 'e.subject')
    .leftJoin('ncrs as n', 'n.id', 'e.subject')
    .select(
      'e.feed',
      'e.subject_type as subjectType',
      'e.subject',
      'e.kind',
      'e.step',
      db.raw('COALESCE(j.crew, r.crew, n.crew) as crew'),
    )
    .where('e.project', project)
    .where('e.feed', '>', after)
    .orderBy('e.feed')
    .limit(limit)
  return rows as FeedRow[]
}

/** The last place of a project's feed. */
export async function feedEnd(db: Knex, project: string): Promise<number> {
  const row = await db('feeds').where({ project }).first<{ place: number } | undefined>('place')
  return row?.place ?? 0
}

export interface ChainHead {
  subject: string
  subjectType: string
  project: string
  seq: number
  hash: string
}

/** Heads of a project's chains in order of their subjects, those without entries too. */
export async function chainHeads(
  db: Knex,
  project: string,
  after: string,
  limit = 200,
): Promise<ChainHead[]> {
  return db('chains')
    .select('subject', 'subject_type as subjectType', 'project', 'seq', 'hash')
    .where({ project })
    .where('subject', '>', after)
    .where('seq', '>', 0)
    .orderBy('subject')
    .limit(limit)
}
