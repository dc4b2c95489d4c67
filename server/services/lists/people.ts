import { crewList, peopleList } from '#core/plan/lists/people'
import { signInKey } from '#core/record/names'
import { uuidv7 } from 'uuidv7'
import { insertCrew, membersOf } from '../../db/people'
import { crewsOf } from '../../db/projects'
import { joinPerson } from '../people'
import { noteChange } from '../changes'
import { nameOf, type Keeper, type RowsOf } from './keeper'

export const crews: Keeper<RowsOf<typeof crewList>> = {
  list: crewList,
  cells: async (db, project) => (await crewsOf(db, project.id)).map((c) => ({ name: c.name })),
  async keep(trx, project, actor, rows) {
    for (const { name } of rows) {
      const id = uuidv7()
      await insertCrew(trx, { id, name, project: project.id })
      await noteChange(trx, actor, 'keep-people', { what: 'crew', crew: id, name })
    }
    return []
  },
}

export const people: Keeper<RowsOf<typeof peopleList>> = {
  list: peopleList,
  async cells(db, project, { crewIds }) {
    const crewName = nameOf(crewIds)
    return (await membersOf(db, project.id)).map((m) => ({
      name: m.name,
      signIn: m.signIn,
      roles: m.roles.map((r) => r.role).join('; '),
      crew: crewName(m.roles.find((r) => r.crew)?.crew ?? null),
    }))
  },
  async keep(trx, project, actor, rows, { crewIds }) {
    const links: { name: string; token: string }[] = []
    for (const row of rows) {
      const roles = row.roles.map((role) => ({
        role,
        crew: role === 'crew-lead' ? crewIds.get(row.crew!)! : null,
      }))
      const { token } = await joinPerson(trx, project, actor, {
        id: uuidv7(),
        name: row.name,
        signIn: signInKey(row.signIn),
        roles,
      })
      if (token) links.push({ name: row.name, token })
    }
    return links
  },
}
