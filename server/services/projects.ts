import { IANAZone } from 'luxon'
import type { Knex } from 'knex'
import type { BandRule } from '#core/calculators/guard-band'
import { Problem } from '#core/problem'
import type { SiteUnits } from '#core/quantity/site-units'
import { inTransaction } from '../db/connection'
import { insertMembership, insertProject, isKeeper, saveProject } from '../db/people'
import { findPerson, findProject, type Project, type ProjectSettings } from '../db/projects'
import { noteChange } from './changes'
import type { Actor } from './record'

export interface ProjectTyped {
  name: string
  zone: string
  units: SiteUnits
  codes: string
  title: string
}

const checkZone = (zone: string) => {
  if (!IANAZone.isValidZone(zone))
    throw new Problem('unknown-zone', `"${zone}" is no time zone: give one such as Europe/Dublin.`, 'zone')
}

const KEY = /^[a-z0-9][a-z0-9-]{1,38}[a-z0-9]$/

/** Lays a new project out. Who founds it administers it. */
export async function foundProject(
  db: Knex,
  person: string,
  typed: ProjectTyped & { id: string; key: string; rule: BandRule },
): Promise<void> {
  const { id, key, name, zone, rule, units, codes, title } = typed
  if (!(await isKeeper(db, person)))
    throw new Problem('forbidden', 'Only who keeps this installation begins a project.')
  if (!KEY.test(key))
    throw new Problem(
      'bad-key',
      'A key is 3 to 40 small letters, digits and hyphens, such as tarn-fell.',
      'key',
    )
  checkZone(zone)
  await inTransaction(db, async (trx) => {
    if (await findProject(trx, key))
      throw new Problem('duplicate', `There is a project "${key}" already.`, 'key')
    const settings: ProjectSettings = { rule, schools: {}, plan: {}, units, codes, title }
    await insertProject(trx, { id, key, name, zone, settings })
    await insertMembership(trx, { project: id, person, role: 'administrator', crew: null })
    const who = (await findPerson(trx, { id: person }))!
    const actor: Actor = { person, name: who.name, project: id, roles: ['administrator'], crew: null }
    await noteChange(trx, actor, 'set-project', {
      what: 'project',
      key,
      name,
      zone,
      rule,
      units,
      codes,
      title,
    })
  })
}

/** Changes what a project is called, where its days begin, and how its figures are shown. */
export async function changeProject(
  db: Knex,
  project: Project,
  actor: Actor,
  typed: ProjectTyped & { reason: string },
): Promise<void> {
  const { name, zone, units, codes, title, reason } = typed
  checkZone(zone)
  const before = { name: project.name, zone: project.zone, units: project.settings.units }
  await inTransaction(db, async (trx) => {
    await saveProject(trx, project.id, { name, zone, settings: { ...project.settings, units, codes, title } })
    await noteChange(trx, actor, 'set-project', {
      what: 'project',
      before,
      name,
      zone,
      units,
      codes,
      title,
      reason,
    })
  })
}
