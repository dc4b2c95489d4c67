import { compactionCurveList, writePoints } from '#core/plan/lists/soil'
import { uuidv7 } from 'uuidv7'
import { curvesOf, insertCurves } from '../../db/curves'
import { noteChange } from '../changes'
import type { Keeper, RowsOf } from './keeper'

export const curves: Keeper<RowsOf<typeof compactionCurveList>> = {
  list: compactionCurveList,
  cells: async (db, project) =>
    (await curvesOf(db, project.id)).map((c) => ({ ...c, points: writePoints(c.points) })),
  async keep(trx, project, actor, rows) {
    await insertCurves(
      trx,
      project.id,
      rows.map((r) => ({ ...r, id: uuidv7() })),
    )
    await noteChange(trx, actor, 'plan-work', { what: 'curves', names: rows.map((r) => r.name) })
    return []
  },
}
