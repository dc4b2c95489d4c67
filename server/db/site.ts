import type { Knex } from 'knex'
import type { PackDesign } from '#core/pressure/pack'

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

export type PackState = 'planned' | 'running' | 'evaluated' | 'signed' | 'failed' | 'withdrawn'

export interface Pack {
  id: string
  alignment: string
  number: string
  from: number
  to: number
  method: string
  design: PackDesign & {
    parameters: Record<string, unknown> & { gaugeUncertainty: number }
    methodMaterial: string
    /** of a method that is meant for another material */
    methodReason?: string | null
  }
  gauge: string | null
  dueAt: string | null
  state: PackState
  logFile: string | null
  verdict: string | null
  signedBy: string | null
  signedAt: string | null
}

const packColumns = [
  'id',
  'alignment',
  'number',
  'from_station',
  'to_station',
  'method',
  'design',
  'gauge',
  'due_at',
  'state',
  'log_file',
  'verdict',
  'signed_by',
  'signed_at',
]
const pack = (r: {
  id: string
  alignment: string
  number: string
  from_station: number
  to_station: number
  method: string
  design: string
  gauge: string | null
  due_at: Date | null
  state: PackState
  log_file: string | null
  verdict: string | null
  signed_by: string | null
  signed_at: Date | null
}): Pack => ({
  id: r.id,
  alignment: r.alignment,
  number: r.number,
  from: r.from_station,
  to: r.to_station,
  method: r.method,
  design: JSON.parse(r.design),
  gauge: r.gauge,
  dueAt: r.due_at?.toISOString() ?? null,
  state: r.state,
  logFile: r.log_file,
  verdict: r.verdict,
  signedBy: r.signed_by,
  signedAt: r.signed_at?.toISOString() ?? null,
})

export const packsOf = async (db: Knex, project: string): Promise<Pack[]> =>
  (await db('packs').select(packColumns).where({ project }).orderBy('number')).map(pack)

export async function findPack(db: Knex, project: string, id: string): Promise<Pack | null> {
  const row = await db('packs').select(packColumns).where({ project, id }).first()
  return row ? pack(row) : null
}

export interface PackProjection {
  state: PackState
  logFile: string | null
  verdict: string | null
  signedBy: string | null
  signedAt: Date | null
}

/**
 * When a test by one of these methods over a station was accepted first, ms; null where tests are planned there and none is
 * accepted, undefined where none is planned.
 */
export async function testedOver(
  db: Knex,
  project: string,
  alignment: string,
  station: number,
  methods: readonly string[],
): Promise<number | null | undefined> {
  const packs = await db('packs')
    .where({ project, alignment })
    .whereIn('method', methods)
    .whereNot({ state: 'withdrawn' })
    .where('from_station', '<=', station)
    .where('to_station', '>=', station)
    .pluck('id')
  if (packs.length === 0) return undefined
  const found = await db('entries')
    .whereIn('subject', packs)
    .where({ kind: 'evaluation' })
    .whereRaw("JSON_VALUE(payload, '$.verdict') = 'accept'")
    .min('recorded_at as at')
    .first<{ at: Date | null } | undefined>()
  return found?.at?.getTime() ?? null
}

export const savePack = async (db: Knex, id: string, p: PackProjection): Promise<void> =>
  void (await db('packs').where({ id }).update({
    state: p.state,
    log_file: p.logFile,
    verdict: p.verdict,
    signed_by: p.signedBy,
    signed_at: p.signedAt,
  }))

export interface NewPack {
  id: string
  alignment: string
  number: string
  from: number
  to: number
  method: string
  design: Pack['design']
  gauge: string | null
  dueAt: Date | null
}

export const insertPack = async (db: Knex, project: string, p: NewPack): Promise<void> =>
  void (await db('packs').insert({
    id: p.id,
    project,
    alignment: p.alignment,
    number: p.number,
    from_station: p.from,
    to_station: p.to,
    method: p.method,
    design: JSON.stringify(p.design),
    gauge: p.gauge,
    due_at: p.dueAt,
  }))

export interface SampleRow {
  at: Date
  pressure: number
  pipe: number | null
  air: number | null
  makeup: number | null
}

/** Readings of a running test in order of time, each with when it arrived. */
export const samplesOf = async (db: Knex, pack: string): Promise<(SampleRow & { receivedAt: Date })[]> =>
  db('samples')
    .select('at', 'pressure', 'pipe', 'air', 'makeup', { receivedAt: 'received_at' })
    .where({ pack })
    .orderBy('at')

/** How many readings there are, and when the newest arrived: whether there is anything new. */
export async function samplesMark(db: Knex, pack: string): Promise<{ count: number; received: number }> {
  const row = (await db('samples')
    .where({ pack })
    .count({ n: '*' })
    .max({ received: 'received_at' })
    .first()) as { n: number; received: Date | null } | undefined
  return { count: Number(row?.n ?? 0), received: row?.received?.getTime() ?? 0 }
}

/** The number of the pack whose record names a log of this digest. */
export async function packOfLog(db: Knex, project: string, digest: string): Promise<string | null> {
  const query = db('entries as e')
    .join('packs as p', 'p.id', 'e.subject')
    .where({ 'e.project': project, 'e.subject_type': 'pack', 'e.kind': 'run' })
  return (
    (await query.whereRaw("JSON_VALUE(e.payload, '$.sha256') = ?", [digest]).first('p.number'))?.number ??
    null
  )
}

/** Adds samples; one with a time already taken is the same sample sent again. */
export async function insertSamples(db: Knex, pack: string, samples: SampleRow[]): Promise<void> {
  const received = new Date()
  for (let i = 0; i < samples.length; i += 200)
    await db('samples')
      .insert(samples.slice(i, i + 200).map((s) => ({ pack, ...s, received_at: received })))
      .onConflict()
      .ignore()
}
