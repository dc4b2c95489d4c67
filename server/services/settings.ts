import type { Knex } from 'knex'
import type { BandRule } from '#core/calculators/guard-band'
import { uuidv7 } from 'uuidv7'
import { inTransaction } from '../db/connection'
import { saveSettings, type Project } from '../db/projects'
import { askRejudge } from './jobs'
import { actingRole, appendEntries, type Actor } from './record'

/** Changes how close is close enough for the whole project; everything is judged anew by a job. */
export async function changeRule(
  db: Knex,
  project: Project,
  actor: Actor,
  rule: BandRule,
  reason: string,
): Promise<{ job: string; total: number }> {
  const role = actingRole(actor, 'set-rule')
  return inTransaction(db, async (trx) => {
    await saveSettings(trx, project.id, { ...project.settings, rule })
    await appendEntries(trx, actor, role, 'project', project.id, [
      {
        id: uuidv7(),
        kind: 'setting',
        payload: { rule, before: project.settings.rule, reason },
        recordedAt: new Date(),
      },
    ])
    return askRejudge(trx, project, actor, 'rule', { all: true })
  })
}
