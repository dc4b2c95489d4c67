import type { Knex } from 'knex'
import { answering } from '#core/checks/registry'
import { lacksQualification, qualifiedOn, type Qualified, type QualifyMode } from '#core/crew/qualification'
import { Problem } from '#core/problem'
import type { CompiledProcedure } from '#core/procedure/compile'
import { inTransaction } from '../db/connection'
import { crewMembersOf } from '../db/crews'
import { proceduresOf } from '../db/procedures'
import { lockProject, saveSettings, type Project } from '../db/projects'
import { qualificationsOf } from '../db/qualifications'
import { noteChange } from './changes'
import { actingRole, type Actor, type NewEntry } from './record'
import { dayOf } from '#core/quantity/day'

const modeOf = (project: Project, key: string): QualifyMode | null =>
  Object.hasOwn(project.settings.qualify ?? {}, key) ? project.settings.qualify![key]! : null

/** What a crew lead is told at a sheet of a procedure that asks for a qualification; null without need. */
export async function qualificationAt(
  db: Knex,
  project: Project,
  actor: Actor,
  { procedure }: Pick<CompiledProcedure, 'procedure'>,
  now = Date.now(),
): Promise<{ sentence: string; blocks: boolean } | null> {
  const mode = modeOf(project, procedure.key)
  if (!mode || !actor.roles.includes('crew-lead')) return null
  const own = await qualificationsOf(db, project.id, actor.person)
  const sentence = lacksQualification(
    qualifiedOn(own, procedure.key, dayOf(now, project.zone)),
    procedure.title,
  )
  return sentence === null ? null : { sentence, blocks: mode === 'block' }
}

/** @throws Problem `not-qualified` when a crew lead answers what the plan takes from qualified people only */
export async function checkQualified(
  db: Knex,
  project: Project,
  actor: Actor,
  compiled: CompiledProcedure,
  role: string,
  news: readonly NewEntry[],
): Promise<void> {
  const answers = news.filter((e) => answering.has(e.kind))
  if (role !== 'crew-lead' || answers.length === 0) return
  if (modeOf(project, compiled.procedure.key) !== 'block') return
  const { key, title } = compiled.procedure
  const own = await qualificationsOf(db, project.id, actor.person)
  for (const { recordedAt } of answers) {
    const lacks = lacksQualification(qualifiedOn(own, key, dayOf(recordedAt.getTime(), project.zone)), title)
    if (lacks) throw new Problem('not-qualified', `${lacks} The plan takes no answer without it.`, 'person')
  }
}

export interface CrewQualified {
  person: string
  procedures: ({ key: string; title: string; mode: QualifyMode | null } & Qualified)[]
}

/** The register of one crew: for each who leads it, every procedure that they hold or that asks for one. */
export async function crewQualifications(
  db: Knex,
  project: Project,
  crew: string,
  now: number,
): Promise<CrewQualified[]> {
  const [members, all, procedures] = await Promise.all([
    crewMembersOf(db, project.id, crew),
    qualificationsOf(db, project.id),
    proceduresOf(db, project.id),
  ])
  const titles = new Map(procedures.map((p) => [p.key, p.title]))
  return members.map(({ id, name }) => {
    const own = all.filter((q) => q.person === id)
    const keys = new Set([...Object.keys(project.settings.qualify ?? {}), ...own.map((q) => q.procedure)])
    return {
      person: name,
      procedures: [...keys]
        .map((key) => ({
          ...{ key, title: titles.get(key) ?? key, mode: modeOf(project, key) },
          ...qualifiedOn(own, key, dayOf(now, project.zone)),
        }))
        .sort((a, b) => a.title.localeCompare(b.title, 'en')),
    }
  })
}

/** Says what the project does about crew leads without a qualification for a procedure. */
export async function setQualifyMode(
  db: Knex,
  project: Project,
  actor: Actor,
  { procedure, mode, reason }: { procedure: string; mode: QualifyMode | null; reason: string },
): Promise<void> {
  actingRole(actor, 'set-rule')
  if (!(await proceduresOf(db, project.id)).some((p) => p.key === procedure))
    throw new Problem('not-found', 'There is no procedure of that key.', 'procedure')
  await inTransaction(db, async (trx) => {
    const { settings } = await lockProject(trx, project.id)
    const { [procedure]: before = null, ...others } = settings.qualify ?? {}
    await saveSettings(trx, project.id, {
      ...settings,
      qualify: mode === null ? others : { ...others, [procedure]: mode },
    })
    await noteChange(trx, actor, 'set-rule', { what: 'qualify', procedure, mode, before, reason })
  })
}
