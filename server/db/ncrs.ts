import type { Knex } from 'knex'

/** Nonconformance reports, test packs and files: one small repository each. */
export type NcrState = 'open' | 'disposed' | 'reworked' | 'closed'
export type Disposition = 'rework' | 'repair' | 'use-as-is' | 'return' | 'scrap'

export interface Ncr {
  id: string
  number: string
  subjectType: string
  subject: string
  step: string | null
  crew: string | null
  place: string
  criterion: string
  reading: string
  state: NcrState
  disposition: Disposition | null
  /** until which day it is to be answered, as YYYY-MM-DD */
  due: string | null
  raisedBy: string
  reworkedBy: string | null
  raisedAt: string
  closedAt: string | null
}

const ncrColumns = [
  'id',
  'number',
  'subject_type',
  'subject',
  'step',
  'crew',
  'place',
  'criterion',
  'reading',
  'state',
  'disposition',
  'raised_by',
  'reworked_by',
  'raised_at',
  'closed_at',
]
const ncrSelect = (db: Knex) => [...ncrColumns, db.raw("DATE_FORMAT(due, '%Y-%m-%d') AS due")]
const ncr = (r: {
  id: string
  number: string
  subject_type: string
  subject: string
  step: string | null
  crew: string | null
  place: string
  criterion: string
  reading: string
  state: NcrState
  disposition: Disposition | null
  due: string | null
  raised_by: string
  reworked_by: string | null
  raised_at: Date
  closed_at: Date | null
}): Ncr => ({
  id: r.id,
  number: r.number,
  subjectType: r.subject_type,
  subject: r.subject,
  step: r.step,
  crew: r.crew,
  place: r.place,
  criterion: r.criterion,
  reading: r.reading,
  state: r.state,
  disposition: r.disposition,
  due: r.due,
  raisedBy: r.raised_by,
  reworkedBy: r.reworked_by,
  raisedAt: r.raised_at.toISOString(),
  closedAt: r.closed_at?.toISOString() ?? null,
})

export async function ncrsOf(
  db: Knex,
  project: string,
  filter: { crew?: string | null; subjects?: string[] } = {},
): Promise<Ncr[]> {
  if (filter.subjects && filter.subjects.length === 0) return []
  const query = db('ncrs').select(ncrSelect(db)).where({ project }).orderByRaw("state = 'closed', raised_at")
  if (filter.crew) void query.where({ crew: filter.crew })
  if (filter.subjects) void query.whereIn('subject', filter.subjects)
  return (await query).map(ncr)
}

export async function findNcr(db: Knex, project: string, id: string): Promise<Ncr | null> {
  const row = await db('ncrs').select(ncrSelect(db)).where({ project, id }).first()
  return row ? ncr(row) : null
}

/** The next number of a project; the row lock keeps it without gaps and without doubles. */
export async function nextNcrNumber(trx: Knex, project: string): Promise<string> {
  const { last_ncr: last } = await trx('projects').where({ id: project }).forUpdate().first('last_ncr')
  await trx('projects')
    .where({ id: project })
    .update({ last_ncr: last + 1 })
  return `NCR-${String(last + 1).padStart(4, '0')}`
}

export const insertNcr = async (
  db: Knex,
  project: string,
  n: Omit<Ncr, 'closedAt' | 'reworkedBy' | 'disposition' | 'due' | 'state'>,
): Promise<void> =>
  void (await db('ncrs').insert({
    id: n.id,
    project,
    number: n.number,
    subject_type: n.subjectType,
    subject: n.subject,
    step: n.step,
    crew: n.crew,
    place: n.place,
    criterion: n.criterion,
    reading: n.reading,
    state: 'open',
    raised_by: n.raisedBy,
    raised_at: new Date(n.raisedAt),
  }))

export interface NcrProjection {
  state: NcrState
  disposition: Disposition | null
  due: string | null
  reworkedBy: string | null
  closedAt: Date | null
}

export const saveNcr = async (db: Knex, id: string, p: NcrProjection): Promise<void> =>
  void (await db('ncrs')
    .where({ id })
    .update({
      ...{ state: p.state, disposition: p.disposition, due: p.due },
      ...{ reworked_by: p.reworkedBy, closed_at: p.closedAt },
    }))
