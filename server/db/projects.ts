import type { Knex } from 'knex'
import type { BandRule } from '#core/calculators/guard-band'
import type { QualifyMode } from '#core/crew/qualification'
import type { PointRule } from '#core/plan/points'
import type { InterventionPoint } from '#core/procedure/types'
import type { Role } from '#core/access'
import type { ProfilePoint } from '#core/pressure/pack'
import type { SiteUnits } from '#core/quantity/site-units'

export interface PersonRow {
  id: string
  sign_in: string
  name: string
  /** null until a password has been chosen */
  password_hash: string | null
  pin_hash: string | null
  active: number
}

export const findPerson = async (
  db: Knex,
  by: { id: string } | { sign_in: string },
): Promise<PersonRow | null> =>
  (await db('people')
    .select('id', 'sign_in', 'name', 'password_hash', 'pin_hash', 'active')
    .where(by)
    .first()) ?? null

export interface ProjectSettings {
  rule: BandRule
  schools: Record<string, Record<string, string>>
  plan: Record<string, Record<string, InterventionPoint | null>>
  /** changes of the inspection and test plan */
  points?: PointRule[]
  /** what is done about crew leads without a qualification, by the keys of procedures */
  qualify?: Record<string, QualifyMode>
  /** s of notice that a witness is given */
  notice?: number
  /** what figures are shown in; what is typed may be in any */
  units?: SiteUnits
  /** local codes that apply, for documents */
  codes?: string
  /** what documents are headed with */
  title?: string
}

export interface Project {
  id: string
  key: string
  name: string
  zone: string
  settings: ProjectSettings
  /** what the person who asks reads figures in, where that is not what the project is shown in */
  reader?: SiteUnits
}

/** The units in which an answer is worded: the reader's, else the project's. */
export const wordsFor = ({ reader, settings }: Pick<Project, 'reader' | 'settings'>): SiteUnits | undefined =>
  reader ?? settings.units

async function projectWhere(
  db: Knex,
  where: { project_key: string } | { id: string },
): Promise<Project | null> {
  const row = await db('projects')
    .select('id', 'project_key', 'name', 'zone', 'settings')
    .where(where)
    .first()
  return row
    ? { id: row.id, key: row.project_key, name: row.name, zone: row.zone, settings: JSON.parse(row.settings) }
    : null
}
export const findProject = (db: Knex, key: string) => projectWhere(db, { project_key: key })
export const findProjectById = (db: Knex, id: string) => projectWhere(db, { id })

export interface Membership {
  role: Role
  crew: string | null
}

export const membershipsOf = async (db: Knex, project: string, person: string): Promise<Membership[]> =>
  db('memberships').select('role', 'crew').where({ project, person })

export async function projectsOf(
  db: Knex,
  person: string,
): Promise<{ key: string; name: string; roles: Role[] }[]> {
  const rows = await db('memberships as m')
    .join('projects as p', 'p.id', 'm.project')
    .select('p.project_key', 'p.name', 'm.role')
    .where('m.person', person)
    .orderBy('p.name')
  const out = new Map<string, { key: string; name: string; roles: Role[] }>()
  for (const row of rows) {
    const known = out.get(row.project_key) ?? {
      key: row.project_key as string,
      name: row.name as string,
      roles: [] as Role[],
    }
    known.roles.push(row.role)
    out.set(row.project_key, known)
  }
  return [...out.values()]
}

export const crewsOf = async (db: Knex, project: string): Promise<{ id: string; name: string }[]> =>
  db('crews').select('id', 'name').where({ project }).orderBy('name')

export const peopleOf = async (db: Knex, project: string): Promise<{ id: string; name: string }[]> =>
  db('people as p')
    .join('memberships as m', 'm.person', 'p.id')
    .where('m.project', project)
    .distinct('p.id', 'p.name')
    .orderBy('p.name')

/** The settings as they are now; nobody else changes them until the transaction is over. */
export async function lockProject(trx: Knex, project: string): Promise<{ settings: ProjectSettings }> {
  const row = (await trx('projects').where({ id: project }).forUpdate().first('settings')) as {
    settings: string
  }
  return { settings: JSON.parse(row.settings) as ProjectSettings }
}

export const saveSettings = async (db: Knex, project: string, settings: ProjectSettings): Promise<void> =>
  void (await db('projects')
    .where({ id: project })
    .update({ settings: JSON.stringify(settings) }))

export interface Alignment {
  id: string
  key: string
  name: string
  material: string
  from: number
  to: number
  profile: ProfilePoint[]
  facts: Record<string, number | string | boolean>
  /** its course over the ground is known */
  course: boolean
}

export async function alignmentsOf(db: Knex, project: string): Promise<Alignment[]> {
  const rows = await db('alignments')
    .select('id', 'line_key', 'name', 'material', 'from_station', 'to_station', 'profile', 'facts')
    .select({ course: db.raw("path <> '[]'") })
    .where({ project })
    .orderBy('name')
  return rows.map(
    (r: {
      id: string
      line_key: string
      name: string
      material: string
      from_station: number
      to_station: number
      profile: string
      facts: string
      course: number
    }) => ({
      id: r.id,
      key: r.line_key,
      name: r.name,
      material: r.material,
      from: r.from_station,
      to: r.to_station,
      profile: JSON.parse(r.profile),
      facts: JSON.parse(r.facts),
      course: r.course === 1,
    }),
  )
}
