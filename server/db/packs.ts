import type { Knex } from 'knex'
import type { PackDesign } from '#core/pressure/pack'

/** Nonconformance reports, test packs and files: one small repository each. */
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
