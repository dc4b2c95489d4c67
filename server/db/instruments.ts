import type { Knex } from 'knex'
import type { RegisteredInstrument } from '#core/judgement/instruments'

interface Row {
  id: string
  name: string
  kind: string
  quantity: string
  range_min: number
  range_max: number
  resolution: number
  uncertainty: number
}

export async function instrumentsOf(db: Knex, project: string): Promise<RegisteredInstrument[]> {
  const [rows, calibrations] = await Promise.all([
    db('instruments').select('id', 'name', 'kind', 'quantity', 'range_min', 'range_max', 'resolution', 'uncertainty').where({ project }).orderBy('name'),
    db('calibrations').select('instrument', 'from_at', 'until_at', 'certificate').where({ project }).orderBy('until_at'),
  ])
  const by = new Map<string, { from_at: Date; until_at: Date; certificate: string | null }[]>()
  for (const c of calibrations as { instrument: string; from_at: Date; until_at: Date; certificate: string | null }[]) by.set(c.instrument, [...(by.get(c.instrument) ?? []), c])
  return (rows as Row[]).map((r) => {
    const own = (by.get(r.id) ?? []).map((c) => ({ from: c.from_at.toISOString(), until: c.until_at.toISOString(), certificate: c.certificate }))
    return { id: r.id, name: r.name, kind: r.kind, quantity: r.quantity, min: r.range_min, max: r.range_max, resolution: r.resolution, uncertainty: r.uncertainty, calibrations: own, calibratedUntil: own.at(-1)?.until ?? new Date(0).toISOString() }
  })
}

export const findInstrument = async (db: Knex, project: string, id: string): Promise<RegisteredInstrument | null> => (await instrumentsOf(db, project)).find((i) => i.id === id) ?? null

export interface NewInstrument {
  id: string
  name: string
  kind: string
  quantity: string
  min: number
  max: number
  resolution: number
  uncertainty: number
}

export const insertInstrument = async (db: Knex, project: string, i: NewInstrument): Promise<void> =>
  void (await db('instruments').insert({ id: i.id, project, name: i.name, kind: i.kind, quantity: i.quantity, range_min: i.min, range_max: i.max, resolution: i.resolution, uncertainty: i.uncertainty }))

export interface NewCalibration {
  id: string
  instrument: string
  from: Date
  until: Date
  certificate: string | null
}

export const insertCalibration = async (db: Knex, project: string, c: NewCalibration): Promise<void> =>
  void (await db('calibrations').insert({ id: c.id, project, instrument: c.instrument, from_at: c.from, until_at: c.until, certificate: c.certificate }))

/** Joints with a reading by an instrument. */
export const jointsReadWith = async (db: Knex, project: string, instrument: string): Promise<string[]> => db('entries').distinct('subject').where({ project, instrument, subject_type: 'joint' }).pluck('subject')
