import type { Knex } from 'knex'
import type { Occasion } from '#core/plan/occasions'
import type { Outcome } from '#core/plan/points'

/** A SET of the database as a list. */
export const readOccasions = (stored: string): Occasion[] =>
  stored === '' ? [] : (stored.split(',') as Occasion[])

export interface Begun {
  at: Date
  occasions: readonly Occasion[]
  /** rules for new crews that the crew had worked its way out of */
  passed: readonly string[]
}

/** Keeps when a subject was begun: the first who says so is right. */
export async function saveBegun(
  db: Knex,
  table: 'joints' | 'reaches',
  id: string,
  { at, occasions, passed }: Begun,
): Promise<void> {
  await db(table)
    .where({ id })
    .whereNull('begun_at')
    .update({ begun_at: at, occasions: occasions.join(','), passed: JSON.stringify(passed) })
}

/**
 * What a crew began by a procedure last before a moment, and whether that stands rejected or anything of the
 * crew's by this procedure was reported since.
 */
export async function begunBefore(
  db: Knex,
  table: 'joints' | 'reaches',
  { project, crew, system }: { project: string; crew: string; system: string },
  at: Date,
): Promise<{ at: Date; rejected: boolean } | null> {
  const last = (await db(table)
    .where({ project, crew, system })
    .where('begun_at', '<', at)
    .orderBy('begun_at', 'desc')
    .first('begun_at', 'state')) as { begun_at: Date; state: string } | undefined
  if (!last) return null
  const reported = await db('ncrs')
    .join(table, `${table}.id`, 'ncrs.subject')
    .where(`${table}.project`, project)
    .where(`${table}.crew`, crew)
    .where(`${table}.system`, system)
    .where('ncrs.raised_at', '>=', last.begun_at)
    .where('ncrs.raised_at', '<', at)
    .first('ncrs.id')
  return { at: last.begun_at, rejected: last.state === 'rejected' || reported !== undefined }
}

/** More of a crew's work is not looked back over. */
const MOST = 200

/** What came of what a crew began by a procedure between two moments, the latest first. */
export async function outcomes(
  db: Knex,
  table: 'joints' | 'reaches',
  { project, crew, system }: { project: string; crew: string; system: string },
  since: Date,
  before: Date,
): Promise<Outcome[]> {
  const rows = (await db(`${table} as t`)
    .where({ project, crew, system })
    .where('begun_at', '>=', since)
    .where('begun_at', '<', before)
    .orderBy('begun_at', 'desc')
    .limit(MOST)
    .select('state')
    .select(db.raw('EXISTS (SELECT 1 FROM ncrs n WHERE n.subject = t.id) AS reported'))) as {
    state: Outcome['state']
    reported: number
  }[]
  return rows.map((r) => ({ state: r.state, reported: r.reported === 1 }))
}
