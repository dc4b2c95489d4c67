import type { Knex } from 'knex'
import type { BandRule } from '#core/calculators/guard-band'
import { uuidv7 } from 'uuidv7'
import { inTransaction } from '../db/connection'
import { entriesOf } from '../db/entries'
import { jointsWhere } from '../db/joints'
import { saveSettings, type Project } from '../db/projects'
import { reachesOf } from '../db/reaches'
import { actingRole, appendEntries, type Actor } from './record'
import { refreshSubject, type Subject } from './subjects'

/**
 * Changes how close is close enough for the whole project; everything is judged anew in the same
 * transaction.
 */
export async function changeRule(
  db: Knex,
  project: Project,
  actor: Actor,
  rule: BandRule,
  reason: string,
): Promise<number> {
  const role = actingRole(actor, 'set-rule')
  const changed: Project = { ...project, settings: { ...project.settings, rule } }
  return inTransaction(db, async (trx) => {
    await saveSettings(trx, project.id, changed.settings)
    await appendEntries(trx, actor, role, 'project', project.id, [
      {
        id: uuidv7(),
        kind: 'setting',
        payload: { rule, before: project.settings.rule, reason },
        recordedAt: new Date(),
      },
    ])
    const subjects: Subject[] = [
      ...(await jointsWhere(trx, { project: project.id })).map((j): Subject => ({
        type: 'joint',
        title: j.number,
        ...j,
      })),
      ...(await reachesOf(trx, project.id)).map((r): Subject => ({ type: 'reach', title: r.name, ...r })),
    ].filter((s) => s.procedure)
    for (const subject of subjects)
      await refreshSubject(trx, changed, subject, await entriesOf(trx, subject.id))
    return subjects.length
  })
}
