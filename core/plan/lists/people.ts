import { roles, type Role } from '../../access'
import { Problem } from '../../problem'
import { crew, optional, words } from './columns'
import { defineList, type Column } from './define'

export const crewList = defineList({
  key: 'crews',
  act: 'keep-people',
  title: 'Crews',
  one: 'crew',
  name: 'name',
  columns: { name: words('Name', 80, 'Crew East') },
})

const rolesColumn: Column<Role[]> = {
  title: 'Roles',
  hint: 'inspector; engineer',
  read(text, field) {
    const given = text.split(/[;,]/).map((r) => r.trim().toLowerCase().replace(/\s+/g, '-'))
    const unknown = given.find((r) => !Object.hasOwn(roles, r))
    if (unknown !== undefined)
      throw new Problem('unknown-choice', `There is no role "${unknown.slice(0, 40)}".`, field)
    if (new Set(given).size < given.length) throw new Problem('duplicate', 'A role is given once.', field)
    return given as Role[]
  },
}

export const peopleList = defineList({
  key: 'people',
  act: 'keep-people',
  title: 'People',
  one: 'person',
  name: 'signIn',
  columns: {
    name: words('Name', 120, 'Ada Example'),
    signIn: words('Sign-in name', 40, 'ada'),
    roles: rolesColumn,
    crew: optional(crew),
  },
  check(row) {
    if (row.roles.includes('crew-lead') && row.crew === null)
      throw new Problem('missing', 'A crew lead leads a crew: name it.', 'crew')
  },
})
