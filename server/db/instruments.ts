import type { Knex } from 'knex'
import { nameKey } from '#core/record/names'
import type { RegisteredInstrument } from '#core/checks/instruments'

interface Row {
  id: string
  name: string
  kind: string
  quantity: string
  range_min: number
  range_max: number
  resolution: number
  uncertainty: number
  from_at: Date | null
  until_at: Date | null
  certificate: string | null
}

/**
 * The register of a project by name, each instrument with its calibrations in order.
 *
 * @param ids only these
 */
export async function instrumentsOf(
  db: Knex,
  project: string,
  ids?: readonly string[],
): Promise<RegisteredInstrument[]> {
  if (ids?.length === 0) return []
  const query = db('instruments as i')
    .leftJoin('calibrations as c', 'c.instrument', 'i.id')
    .where('i.project', project)
    .orderBy(['i.name', 'i.id', 'c.until_at'])
    .select(
      'i.id',
      'i.name',
      'i.kind',
      'i.quantity',
      'i.range_min',
      'i.range_max',
      'i.resolution',
      'i.uncertainty',
      'c.from_at',
      'c.until_at',
      'c.certificate',
    )
  if (ids) void query.whereIn('i.id', ids)
  const out = new Map<string, RegisteredInstrument>()
  for (const r of (await query) as Row[]) {
    const instrument = out.get(r.id) ?? {
      id: r.id,
      name: r.name,
      kind: r.kind,
      quantity: r.quantity,
      min: r.range_min,
      max: r.range_max,
      resolution: r.resolution,
      uncertainty: r.uncertainty,
      calibrations: [],
      calibratedUntil: new Date(0).toISOString(),
    }
    if (r.from_at && r.until_at) {
      instrument.calibrations.push({
        from: r.from_at.toISOString(),
        until: r.until_at.toISOString(),
        certificate: r.certificate,
      })
      instrument.calibratedUntil = r.until_at.toISOString()
    }
    out.set(r.id, instrument)
  }
  return [...out.values()]
}

export const findInstrument = async (
  db: Knex,
  project: string,
  id: string,
): Promise<RegisteredInstrument | null> => (await instrumentsOf(db, project)).find((i) => i.id === id) ?? null

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
  void (await db('instruments').insert({
    id: i.id,
    project,
    name: i.name,
    name_key: nameKey(i.name),
    kind: i.kind,
    quantity: i.quantity,
    range_min: i.min,
    range_max: i.max,
    resolution: i.resolution,
    uncertainty: i.uncertainty,
  }))

export interface NewCalibration {
  id: string
  instrument: string
  from: Date
  until: Date
  certificate: string | null
}

export const insertCalibration = async (db: Knex, project: string, c: NewCalibration): Promise<void> =>
  void (await db('calibrations').insert({
    id: c.id,
    project,
    instrument: c.instrument,
    from_at: c.from,
    until_at: c.until,
    certificate: c.certificate,
  }))

/** Joints with a reading by an instrument. */
export const jointsReadWith = async (db: Knex, project: string, instrument: string): Promise<string[]> =>
  db('entries').distinct('subject').where({ project, instrument, subject_type: 'joint' }).pluck('subject')
