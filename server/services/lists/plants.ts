import { plantList } from '#core/plan/lists/plants'
import { uuidv7 } from 'uuidv7'
import { insertPlants, plantsOf } from '../../db/plants'
import { noteChange } from '../changes'
import { nameOf, type Keeper, type RowsOf } from './keeper'

export const plants: Keeper<RowsOf<typeof plantList>> = {
  list: plantList,
  async cells(db, project, { crewIds }) {
    const crewName = nameOf(crewIds)
    return (await plantsOf(db, project.id)).map((p) => ({
      ...p,
      crew: crewName(p.crew),
      // A bare number in that column is kN.
      wheelLoad: p.wheelLoad === null ? null : p.wheelLoad / 1000,
    }))
  },
  async keep(trx, project, actor, rows, { crewIds }) {
    await insertPlants(
      trx,
      project.id,
      rows.map((r) => ({ ...r, id: uuidv7(), crew: crewIds.get(r.crew)! })),
    )
    await noteChange(trx, actor, 'plan-work', { what: 'plants', names: rows.map((r) => r.name) })
    return []
  },
}
