import type { Knex } from 'knex'
import type { SubjectState } from '#core/judgement/types'

export type ProcedureState = 'draft' | 'in-review' | 'reviewed' | 'issued' | 'superseded'

export interface ProcedureRow {
  id: string
  key: string
  revision: string
  title: string
  system: string
  material: string
  state: ProcedureState
  source: string
  sha256: string
  /** rises with every save; who saves over somebody else's is told */
  version: number
  draftedBy: string | null
  reviewedBy: string | null
  reviewedAt: string | null
  issuedAt: string | null
  issuedBy: string | null
}

interface Row {
  id: string
  procedure_key: string
  revision: string
  title: string
  system: string
  material: string
  state: ProcedureState
  source: string
  sha256: string
  version: number
  drafted_by: string | null
  reviewed_by: string | null
  reviewed_at: Date | null
  issued_at: Date | null
  issued_by: string | null
}

const columns = [
  'id',
  'procedure_key',
  'revision',
  'title',
  'system',
  'material',
  'state',
  'source',
  'sha256',
  'version',
  'drafted_by',
  'reviewed_by',
  'reviewed_at',
  'issued_at',
  'issued_by',
]
const procedure = (r: Row): ProcedureRow => ({
  id: r.id,
  key: r.procedure_key,
  revision: r.revision,
  title: r.title,
  system: r.system,
  material: r.material,
  state: r.state,
  source: r.source,
  sha256: r.sha256,
  version: r.version,
  draftedBy: r.drafted_by,
  reviewedBy: r.reviewed_by,
  reviewedAt: r.reviewed_at?.toISOString() ?? null,
  issuedAt: r.issued_at?.toISOString() ?? null,
  issuedBy: r.issued_by,
})

/** All revisions of a project, without their documents. */
export async function proceduresOf(db: Knex, project: string): Promise<Omit<ProcedureRow, 'source'>[]> {
  const rows = await db('procedures')
    .select(columns.filter((c) => c !== 'source'))
    .where({ project })
    .orderBy(['material', 'title', 'revision'])
  return rows.map((r: Row) => {
    const { source: _source, ...rest } = procedure(r)
    return rest
  })
}

export async function findProcedure(db: Knex, project: string, id: string): Promise<ProcedureRow | null> {
  const row = (await db('procedures').select(columns).where({ project, id }).first()) as Row | undefined
  return row ? procedure(row) : null
}

export async function findRevision(
  db: Knex,
  project: string,
  key: string,
  revision: string,
): Promise<ProcedureRow | null> {
  const row = (await db('procedures')
    .select(columns)
    .where({ project, procedure_key: key, revision })
    .first()) as Row | undefined
  return row ? procedure(row) : null
}

export async function issuedProcedure(db: Knex, project: string, key: string): Promise<ProcedureRow | null> {
  const row = (await db('procedures')
    .select(columns)
    .where({ project, procedure_key: key, state: 'issued' })
    .orderBy('issued_at', 'desc')
    .first()) as Row | undefined
  return row ? procedure(row) : null
}

/** The revision of every procedure by which work begins now, by title. */
export async function issuedProcedures(
  db: Knex,
  project: string,
): Promise<{ id: string; key: string; title: string }[]> {
  const rows = (await db('procedures')
    .where({ project, state: 'issued' })
    .orderBy([{ column: 'title' }, { column: 'issued_at', order: 'desc' }])
    .select('id', 'title', { key: 'procedure_key' })) as { id: string; key: string; title: string }[]
  return rows.filter((r, i) => rows.findIndex((o) => o.key === r.key) === i)
}

export interface ProcedureDraft {
  id: string
  key: string
  revision: string
  title: string
  system: string
  material: string
  source: string
  sha256: string
  draftedBy: string
}

const drafted = (d: ProcedureDraft) => ({
  procedure_key: d.key,
  revision: d.revision,
  title: d.title,
  system: d.system,
  material: d.material,
  source: d.source,
  sha256: d.sha256,
  drafted_by: d.draftedBy,
  drafted_at: new Date(),
})

export const insertProcedure = async (db: Knex, project: string, d: ProcedureDraft): Promise<void> =>
  void (await db('procedures').insert({ id: d.id, project, state: 'draft', ...drafted(d) }))

/** Writes a draft over; false when somebody saved since `version` was read. */
export const updateDraft = async (db: Knex, d: ProcedureDraft, version: number): Promise<boolean> =>
  (await db('procedures')
    .where({ id: d.id, version, state: 'draft' })
    .update({ ...drafted(d), version: version + 1 })) === 1

export interface ProcedureProjection {
  state: ProcedureState
  reviewedBy: string | null
  reviewedAt: Date | null
  issuedBy: string | null
  issuedAt: Date | null
}

export const saveProcedureProjection = async (db: Knex, id: string, p: ProcedureProjection): Promise<void> =>
  void (await db('procedures').where({ id }).update({
    state: p.state,
    reviewed_by: p.reviewedBy,
    reviewed_at: p.reviewedAt,
    issued_by: p.issuedBy,
    issued_at: p.issuedAt,
  }))

/** Joints pinned to any revision of a procedure, by id after `after`. */
export async function jointsOfProcedure(
  db: Knex,
  project: string,
  key: string,
  after: string,
  limit: number,
): Promise<
  {
    id: string
    number: string
    station: number
    state: SubjectState
    until_at: Date | null
    then_state: SubjectState | null
    summary: string
    facts: string
    revision: string
  }[]
> {
  return db('joints as j')
    .join('procedures as p', 'p.id', 'j.procedure_id')
    .select(
      'j.id',
      'j.number',
      'j.station',
      'j.state',
      'j.until_at',
      'j.then_state',
      'j.summary',
      'j.facts',
      'p.revision',
    )
    .where('j.project', project)
    .where('p.procedure_key', key)
    .where('j.id', '>', after)
    .orderBy('j.id')
    .limit(limit)
}

export async function jointCounts(db: Knex, project: string): Promise<Map<string, number>> {
  const rows = await db('joints')
    .select('procedure_id')
    .count<{ procedure_id: string; n: number }[]>('* as n')
    .where({ project })
    .whereNotNull('procedure_id')
    .groupBy('procedure_id')
  return new Map(rows.map((r) => [r.procedure_id, Number(r.n)]))
}
