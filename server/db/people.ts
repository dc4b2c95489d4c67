import type { Knex } from 'knex'
import type { Role } from '#core/access'

/** People, crews and who is on which project: written here, read by whoever needs a name. */
export interface NewPerson {
  id: string
  signIn: string
  name: string
  keeper?: boolean
}

export const insertPerson = async (db: Knex, p: NewPerson): Promise<void> =>
  void (await db('people').insert({
    id: p.id,
    sign_in: p.signIn,
    name: p.name,
    password_hash: null,
    pin_hash: null,
    keeper: p.keeper ?? false,
  }))

export const saveSecrets = async (db: Knex, id: string, password: string, pin: string): Promise<void> =>
  void (await db('people').where({ id }).update({ password_hash: password, pin_hash: pin }))

export const setActive = async (db: Knex, id: string, active: boolean): Promise<void> =>
  void (await db('people').where({ id }).update({ active }))

export const isKeeper = async (db: Knex, id: string): Promise<boolean> =>
  (await db('people').where({ id, keeper: true, active: true }).first('id')) !== undefined

export const insertMembership = async (
  db: Knex,
  m: { project: string; person: string; role: Role; crew: string | null },
): Promise<void> => void (await db('memberships').insert(m))

export const deleteMemberships = async (db: Knex, project: string, person: string): Promise<void> =>
  void (await db('memberships').where({ project, person }).delete())

/** Projects that a person is on. */
export const projectIdsOf = async (db: Knex, person: string): Promise<string[]> =>
  db('memberships').where({ person }).distinct().pluck('project')

/** Active administrators of a project. */
export const administratorsOf = async (db: Knex, project: string): Promise<string[]> =>
  db('memberships as m')
    .join('people as p', 'p.id', 'm.person')
    .where({ 'm.project': project, 'm.role': 'administrator', 'p.active': true })
    .pluck('m.person')

export interface Member {
  id: string
  name: string
  signIn: string
  active: boolean
  /** a password has been chosen */
  joined: boolean
  roles: { role: Role; crew: string | null }[]
}

export async function membersOf(db: Knex, project: string): Promise<Member[]> {
  const rows = await db('memberships as m')
    .join('people as p', 'p.id', 'm.person')
    .select('p.id', 'p.name', 'p.sign_in', 'p.active', 'm.role', 'm.crew')
    .select({ joined: db.raw('p.password_hash IS NOT NULL') })
    .where('m.project', project)
    .orderBy(['p.name', 'm.role'])
  const out = new Map<string, Member>()
  for (const r of rows) {
    const known: Member = out.get(r.id) ?? {
      id: r.id,
      name: r.name,
      signIn: r.sign_in,
      active: r.active === 1,
      joined: r.joined === 1,
      roles: [],
    }
    known.roles.push({ role: r.role, crew: r.crew })
    out.set(r.id, known)
  }
  return [...out.values()]
}

export const insertCrew = async (
  db: Knex,
  crew: { id: string; project: string; name: string },
): Promise<void> => void (await db('crews').insert(crew))

export const renameCrew = async (db: Knex, id: string, name: string): Promise<void> =>
  void (await db('crews').where({ id }).update({ name }))

export const insertProject = async (
  db: Knex,
  p: { id: string; key: string; name: string; zone: string; settings: object },
): Promise<void> =>
  void (await db('projects').insert({
    id: p.id,
    project_key: p.key,
    name: p.name,
    zone: p.zone,
    settings: JSON.stringify(p.settings),
  }))

export const saveProject = async (
  db: Knex,
  id: string,
  p: { name: string; zone: string; settings: object },
): Promise<void> =>
  void (await db('projects')
    .where({ id })
    .update({ name: p.name, zone: p.zone, settings: JSON.stringify(p.settings) }))
