import type { Knex } from 'knex'
import { judge } from '#core/judgement/judge'
import { projectSubject } from '#core/judgement/projection'
import { occasionsAt } from '#core/plan/occasions'
import { Problem } from '#core/problem'
import { begunBefore, saveBegun } from '../db/begun'
import { entriesOf, forCore, type StoredEntry } from '../db/entries'
import { findJoint, type Joint } from '../db/joints'
import { saveProjection } from '../db/projection'
import type { Project } from '../db/projects'
import { findReach, type Reach } from '../db/reaches'
import { judgeOptions, ofSubject, type Placed } from './judging'
import { saveMakeup } from './makeup'
import { rulesPassed } from './new-crew'
import { compiledProcedure } from './procedures'
import type { Actor } from './record'
import { dayOf } from '#core/quantity/day'

/** What is judged by a procedure that it has pinned: the same use cases for all of them. */
export type Subject = ({ type: 'joint'; title: string } & Joint) | ({ type: 'reach'; title: string } & Reach)
export type WorkedSubject = Subject['type']

interface SubjectKind {
  table: 'joints' | 'reaches'
  find(db: Knex, project: string, id: string): Promise<Subject | null>
  /** what else is written of it beside its projection */
  also?(
    trx: Knex,
    subject: Subject,
    entries: readonly StoredEntry[],
    before?: readonly StoredEntry[],
  ): Promise<void>
}

const kinds: Record<WorkedSubject, SubjectKind> = {
  joint: {
    table: 'joints',
    async find(db, project, id) {
      const joint = await findJoint(db, project, id)
      return joint && { type: 'joint', title: `Joint ${joint.number}`, ...joint }
    },
    async also(trx, subject, entries, before) {
      if (subject.type === 'joint') await saveMakeup(trx, subject, entries, before)
    },
  },
  reach: {
    table: 'reaches',
    async find(db, project, id) {
      const reach = await findReach(db, project, id)
      return reach && { type: 'reach', title: reach.name, ...reach }
    },
  },
}
export const isWorked = (type: string): type is WorkedSubject => Object.hasOwn(kinds, type)

export const findSubject = (db: Knex, project: string, type: WorkedSubject, id: string) =>
  kinds[type].find(db, project, id)

/** The subject, if this person may see it: a crew lead sees only the crew's own. */
export async function visibleSubject<T extends WorkedSubject>(
  db: Knex,
  actor: Actor,
  type: T,
  id: string,
): Promise<Extract<Subject, { type: T }>> {
  const subject = await findSubject(db, actor.project, type, id)
  if (!subject || (actor.crew && subject.crew !== actor.crew))
    throw new Problem('not-found', `There is no such ${type}.`, type)
  return subject as Extract<Subject, { type: T }>
}

/** Projections are made as of the moment the last entry came in, so that they can be rebuilt exactly. */
export const lastReceived = (entries: readonly StoredEntry[]) =>
  entries.length > 0 ? Date.parse(entries.at(-1)!.receivedAt) : Date.now()

/** What stands of a subject, from its entries. */
export async function projectionOf(
  db: Knex,
  project: Project,
  subject: Pick<Subject, 'facts'> & Placed & { procedure: string },
  entries: readonly StoredEntry[],
  at = lastReceived(entries),
) {
  const compiled = await compiledProcedure(db, project.id, subject.procedure)
  const record = entries.map(forCore)
  const options = {
    ...(await judgeOptions(db, project, compiled.procedure.key, record)),
    ...(await ofSubject(db, project, compiled, subject)),
  }
  return projectSubject(compiled, subject.facts, record, at, options)
}

/** The subject with what its beginning was the occasion of, settled by its first entry. */
export async function settleBegun(
  trx: Knex,
  project: Project,
  subject: Subject,
  entries: readonly StoredEntry[],
): Promise<Subject> {
  const [first] = entries
  if (subject.begunAt !== null || !first) return subject
  const { table } = kinds[subject.type]
  const at = new Date(first.recordedAt)
  const before = await begunBefore(trx, table, subject, at)
  const day = (moment: Date) => dayOf(moment.getTime(), project.zone)
  const occasions = occasionsAt(day(at), before && { day: day(before.at), rejected: before.rejected })
  const { crew, system } = subject
  const passed = await rulesPassed(trx, project, { table, crew, system }, at)
  await saveBegun(trx, table, subject.id, { at, occasions, passed })
  return { ...subject, begunAt: first.recordedAt, occasions, passed }
}

/**
 * Writes what stands of a subject anew after its record has grown.
 *
 * @param before its entries as they were written last time
 */
export async function refreshSubject(
  trx: Knex,
  project: Project,
  subject: Subject,
  entries: readonly StoredEntry[],
  before?: readonly StoredEntry[],
): Promise<void> {
  if (!subject.procedure) return
  const known = await settleBegun(trx, project, subject, entries)
  const projection = await projectionOf(trx, project, { ...known, procedure: subject.procedure }, entries)
  await saveProjection(trx, kinds[subject.type].table, subject.id, projection)
  if (before) await kinds[subject.type].also?.(trx, subject, entries, before)
}

/** The server's own judgement, for replies and checks. */
export async function judgeSubject(db: Knex, project: Project, subject: Subject, now = Date.now()) {
  if (!subject.procedure) return null
  const compiled = await compiledProcedure(db, project.id, subject.procedure)
  const entries = (await entriesOf(db, subject.id)).map(forCore)
  const options = {
    ...(await judgeOptions(db, project, compiled.procedure.key, entries)),
    ...(await ofSubject(db, project, compiled, subject)),
  }
  return judge(compiled, subject.facts, entries, now, options)
}
