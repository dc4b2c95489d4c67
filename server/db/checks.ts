import type { Knex } from 'knex'
import { AS_RECORDED } from '#core/embedment/as-recorded'

/** Questions that only a check of the whole record asks; all read only. */
export const subjectTables: Record<string, string> = {
  joint: 'joints',
  delivery: 'deliveries',
  item: 'items',
  reach: 'reaches',
  pack: 'packs',
  ncr: 'ncrs',
  procedure: 'procedures',
  instrument: 'instruments',
  order: 'orders',
  lot: 'lots',
  place: 'places',
  shift: 'shifts',
  project: 'projects',
}

export interface Stray {
  subject: string
  subjectType: string
}

/** Subjects whose chain was removed, or belongs to another project or kind now. */
export async function withoutChain(db: Knex, project: string): Promise<Stray[]> {
  const out: Stray[] = []
  for (const [type, table] of Object.entries(subjectTables)) {
    const own = type === 'project' ? 't.id' : 't.project'
    const query = db(`${table} as t`).leftJoin(
      'chains as c',
      (on) => void on.on('c.subject', 't.id').andOn('c.project', own).andOnVal('c.subject_type', type),
    )
    const ids: string[] = await query.where(own, project).whereNull('c.subject').pluck('t.id')
    out.push(...ids.map((subject) => ({ subject, subjectType: type })))
  }
  return out
}

/** Chains that no subject of their kind in their project stands for. */
export async function chainsOfNothing(db: Knex, project: string): Promise<Stray[]> {
  const out: Stray[] = []
  for (const [type, table] of Object.entries(subjectTables)) {
    const query = db('chains as c')
      .leftJoin(`${table} as t`, 't.id', 'c.subject')
      .where({ 'c.project': project, 'c.subject_type': type })
    const foreign =
      type === 'project'
        ? query.whereNull('t.id')
        : query.where((q) => void q.whereNull('t.id').orWhereRaw('t.project <> c.project'))
    const ids: string[] = await foreign.pluck('c.subject')
    out.push(...ids.map((subject) => ({ subject, subjectType: type })))
  }
  const kinds = Object.keys(subjectTables)
  return [
    ...out,
    ...(await db('chains')
      .select('subject', 'subject_type as subjectType')
      .where({ project })
      .whereNotIn('subject_type', kinds)),
  ]
}

/** Subjects of entries whose chain head was removed, set back to its beginning, or is of something else. */
export const beheaded = async (db: Knex, project: string): Promise<Stray[]> =>
  db('entries as e')
    .leftJoin('chains as c', 'c.subject', 'e.subject')
    .where('e.project', project)
    .where(
      (q) =>
        void q
          .whereNull('c.subject')
          .orWhere('c.seq', 0)
          .orWhereRaw('c.project <> e.project')
          .orWhereRaw('c.subject_type <> e.subject_type'),
    )
    .distinct('e.subject as subject', 'e.subject_type as subjectType')

export interface Untouched extends Stray {
  field: string
  stored: unknown
  rebuilt: unknown
}

/** What stands of a subject that nobody has recorded anything at, where it is more than a beginning. */
const beginnings: [type: string, table: string, field: string, rebuilt: unknown, more: string][] = [
  ['item', 'items', 'state', 'received', "t.state <> 'received'"],
  [
    'reach',
    'reaches',
    'state',
    'not-started',
    "t.state <> 'not-started' OR t.held_since IS NOT NULL OR t.drafts <> 0",
  ],
  [
    'pack',
    'packs',
    'state',
    'planned',
    "t.state <> 'planned' OR t.verdict IS NOT NULL OR t.signed_by IS NOT NULL",
  ],
  ['lot', 'lots', 'quarantined_at', null, 't.quarantined_at IS NOT NULL'],
  ['delivery', 'deliveries', 'state', null, 'TRUE'],
  ['order', 'orders', 'number', null, 'TRUE'],
  ['ncr', 'ncrs', 'state', null, 'TRUE'],
  [
    'procedure',
    'procedures',
    'state',
    null,
    // What was made of earlier criteria has no record of its own.
    `t.procedure_key <> '${AS_RECORDED}' OR t.state <> 'superseded' OR SHA2(t.source, 256) <> t.sha256`,
  ],
  [
    'joint',
    'joints',
    'state',
    'not-started',
    "t.procedure_id IS NULL AND (t.state <> 'not-started' OR t.done <> 0 OR t.drafts <> 0 " +
      'OR t.held_since IS NOT NULL OR t.testable_at IS NOT NULL)',
  ],
]

export async function movedUnrecorded(db: Knex, project: string): Promise<Untouched[]> {
  const out: Untouched[] = []
  for (const [type, table, field, rebuilt, more] of beginnings) {
    const query = db(`${table} as t`)
      .join('chains as c', 'c.subject', 't.id')
      .where({ 't.project': project, 'c.seq': 0 })
      .whereRaw(`(${more})`)
    const rows: { subject: string; stored: unknown }[] = await query.select(
      't.id as subject',
      `t.${field} as stored`,
    )
    out.push(...rows.map((r) => ({ ...r, subjectType: type, field, rebuilt })))
  }
  return out
}

/** Joints that are open and at which nothing is recorded yet. */
export const openedUnrecorded = async (db: Knex, project: string): Promise<string[]> =>
  db('joints as t')
    .join('chains as c', 'c.subject', 't.id')
    .where({ 't.project': project, 'c.seq': 0 })
    .whereNotNull('t.procedure_id')
    .pluck('t.id')

/** When the record began to keep what devices say of time. */
export const timeKeptSince = async (db: Knex): Promise<Date | null> =>
  (await db('migrations').where({ name: '005-trust' }).first('migration_time'))?.migration_time ?? null

export interface TimedRow {
  id: string
  subject: string
  subjectType: string
  seq: number
  feed: number
  kind: string
  person: string
  device: string | null
  number: number | null
  stampAt: Date | null
  recordedAt: Date
  receivedAt: Date
  late: string | null
}

/** Entries as their times were told, in the order they came. */
export const timedEntries = async (
  db: Knex,
  project: string,
  after: number,
  limit: number,
): Promise<TimedRow[]> =>
  db('entries')
    .select(
      'id',
      'subject',
      'subject_type as subjectType',
      'seq',
      'feed',
      'kind',
      'person',
      'device',
      'device_number as number',
      'stamp_at as stampAt',
      'recorded_at as recordedAt',
      'received_at as receivedAt',
      'late',
    )
    .where({ project })
    .where('feed', '>', after)
    .orderBy('feed')
    .limit(limit)
