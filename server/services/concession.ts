import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { clientWord } from '#core/ncr/concession'
import { rowOf } from '#core/plan/points'
import { Problem } from '#core/problem'
import { plainKey } from '#core/procedure/ends'
import { standing } from '#core/judgement/standing'
import { inTransaction } from '../db/connection'
import { entriesOf, forCore } from '../db/entries'
import type { Project } from '../db/projects'
import { findNcr, saveNcr, type Ncr } from '../db/ncrs'
import { whereOf } from './judging'
import { projectNcr } from './ncr-state'
import { compiledProcedure } from './procedures'
import { actingRole, appendAfter, type Actor } from './record'
import { findSubject, isWorked } from './subjects'

/** Whether a report can be closed as it is only under the client's word: the plan has the client hold its step. */
export async function needsClient(db: Knex, project: Project, ncr: Ncr): Promise<boolean> {
  if (!isWorked(ncr.subjectType) || ncr.step === null) return false
  const subject = await findSubject(db, project.id, ncr.subjectType, ncr.subject)
  if (!subject?.procedure) return false
  const { procedure } = await compiledProcedure(db, project.id, subject.procedure)
  const key = plainKey(ncr.step)
  const step = procedure.stages.flatMap((s) => s.steps).find((s) => s.key === key)
  const base = project.settings.plan[procedure.key] ?? {}
  const own = Object.hasOwn(base, key) ? base[key]! : (step?.point ?? null)
  const row = rowOf(project.settings.points ?? [], procedure.key, key, own, whereOf(project, subject))
  return row.witness.point === 'H'
}

/** Whether a concession stands still until the client has signed. */
export async function waitsForClient(db: Knex, project: Project, ncr: Ncr): Promise<boolean> {
  if (!(await needsClient(db, project, ncr))) return false
  return clientWord(standing((await entriesOf(db, ncr.id)).map(forCore))) === null
}

/** The client signs for a concession, or sends it back to the engineer. */
export async function concedeNcr(
  db: Knex,
  project: Project,
  actor: Actor,
  id: string,
  said: { agrees: boolean; text: string },
): Promise<void> {
  const role = actingRole(actor, 'concede')
  const ncr = await findNcr(db, project.id, id)
  if (!ncr) throw new Problem('not-found', 'There is no such report.', 'ncr')
  if (!(await needsClient(db, project, ncr)))
    throw new Problem('not-asked', 'The plan does not ask the client about this step.', 'ncr')
  await inTransaction(db, async (trx) => {
    const entry = { id: uuidv7(), kind: 'concession' as const, payload: { ...said }, recordedAt: new Date() }
    const { entries } = await appendAfter(trx, actor, role, 'ncr', id, [entry], (before) => {
      const now = projectNcr(before)
      if (now.disposition !== 'use-as-is' || now.state === 'closed')
        throw new Problem('wrong-state', `${ncr.number} is no concession that waits for the client.`, 'ncr')
      if (clientWord(standing(before.map(forCore))))
        throw new Problem('done', 'The client has said its word on this.', 'ncr')
    })
    await saveNcr(trx, id, projectNcr(entries))
  })
}
