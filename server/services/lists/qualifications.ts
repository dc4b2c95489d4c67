import { qualificationList } from '#core/plan/lists/qualifications'
import { uuidv7 } from 'uuidv7'
import { insertQualifications, qualificationsOf } from '../../db/qualifications'
import { noteChange } from '../changes'
import { nameOf, type Keeper, type RowsOf } from './keeper'

export const qualifications: Keeper<RowsOf<typeof qualificationList>> = {
  list: qualificationList,
  async cells(db, project, { personIds }) {
    const signIn = nameOf(personIds)
    return (await qualificationsOf(db, project.id)).map((q) => ({ ...q, person: signIn(q.person) }))
  },
  async keep(trx, project, actor, rows, { personIds }) {
    await insertQualifications(
      trx,
      project.id,
      rows.map((r) => ({ ...r, id: uuidv7(), person: personIds.get(r.person)! })),
    )
    for (const r of rows)
      await noteChange(trx, actor, 'keep-people', {
        what: 'qualification',
        ...r,
        person: personIds.get(r.person)!,
      })
    return []
  },
}
