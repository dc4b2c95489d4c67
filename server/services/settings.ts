import type { Knex } from 'knex'
import type { BandRule } from '#core/calculators/guard-band'
import { uuidv7 } from 'uuidv7'
import { inTransaction } from '../db/connection'
import { entriesOf } from '../db/entries'
import { jointsWhere } from '../db/joints'
import { saveSettings, type Project } from '../db/projects'
import { refreshJoint } from './joints'
import { actingRole, appendEntries, type Actor } from './record'

/**
 * Changes how close is close enough for the whole project; every joint is judged anew in the same
 * transaction.
 */
export async function changeRule(
  db: Knex,
  project: Project,
  actor: Actor,
  rule: BandRule,
  reason: string,
): Promise<number> {
  const role = actingRole(actor, ['engineer'])
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
    const joints = (await jointsWhere(trx, { project: project.id })).filter((j) => j.procedure)
    for (const joint of joints) await refreshJoint(trx, changed, joint, await entriesOf(trx, joint.id))
    return joints.length
  })
}
