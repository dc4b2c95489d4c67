import type { Knex } from 'knex'
import type { Action } from '#core/access'
import { uuidv7 } from 'uuidv7'
import { actingRole, appendEntries, type Actor } from './record'

/**
 * Notes in the project's record what was set up or changed, by whom and why: what is planned can be
 * changed, but what it was stays to be read.
 */
export async function noteChange(
  trx: Knex,
  actor: Actor,
  act: Action,
  payload: Record<string, unknown> & { what: string },
): Promise<void> {
  await appendEntries(trx, actor, actingRole(actor, act), 'project', actor.project, [
    { id: uuidv7(), kind: 'setting', payload, recordedAt: new Date() },
  ])
}
