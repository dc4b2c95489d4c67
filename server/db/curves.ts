import type { Knex } from 'knex'
import type { CompactionCurve } from '#core/embedment/curve'
import type { CurvePoint } from '#core/plan/lists/soil'

/** @returns the newest of each material first */
export async function curvesOf(db: Knex, project: string): Promise<CompactionCurve[]> {
  const rows = (await db('compaction_curves')
    .where({ project })
    .orderBy([{ column: 'material' }, { column: 'dated', order: 'desc' }, { column: 'name' }])
    .select('name', 'material', 'source', db.raw("DATE_FORMAT(dated, '%Y-%m-%d') AS dated"), 'points')
    .select({ specificGravity: 'specific_gravity' })) as (Omit<CompactionCurve, 'points'> & {
    points: string
  })[]
  return rows.map((r) => ({ ...r, points: JSON.parse(r.points) as CurvePoint[] }))
}

export const insertCurves = async (
  db: Knex,
  project: string,
  rows: readonly (CompactionCurve & { id: string })[],
): Promise<void> =>
  void (await db('compaction_curves').insert(
    rows.map(({ points, specificGravity, ...row }) => ({
      ...row,
      project,
      points: JSON.stringify(points),
      specific_gravity: specificGravity,
    })),
  ))
