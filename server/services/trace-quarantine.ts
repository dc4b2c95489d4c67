import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import type { Role } from '#core/access'
import { Problem } from '#core/problem'
import { inTransaction } from '../db/connection'
import { setItemState } from '../db/items'
import { findLot } from '../db/lots'
import type { Project } from '../db/projects'
import { quarantineLot } from './lots'
import { raiseNcr } from './ncrs'
import { actingRole, appendEntries, type Actor } from './record'
import { isFree, jointsTouched, looseOf, nameOf, type Origin } from './tracing'

export interface QuarantineOrder {
  origin: Origin
  reason: string
  /** joints to report on, each with the id of its report, so that sending again writes nothing twice */
  joints: { joint: string; ncr: string }[]
  /** also what is not built in yet */
  stock: boolean
}
const MOST = 50

/**
 * Quarantines what an origin touches: stock at once, and a nonconformance report
 * for each joint named. Joints that it does not touch are refused. In blocks, so
 * that a long list can be shown and stopped.
 */
export async function quarantine(
  db: Knex,
  project: Project,
  actor: Actor,
  order: QuarantineOrder,
): Promise<{ raised: number; items: number }> {
  const role = actingRole(actor, 'quarantine')
  if (order.joints.length > MOST) throw new Problem('too-many', `At most ${MOST} joints at a time.`, 'joints')
  const joints = await jointsTouched(db, project.id, order.origin)
  const known = new Map(joints.map((j) => [j.id, j]))
  for (const { joint } of order.joints)
    if (!known.has(joint))
      throw new Problem('not-touched', 'One of these joints is not touched by this.', 'joints')
  const label = await nameOf(db, actor, order.origin)
  const name = `${order.origin.kind} ${label}`
  const items = order.stock ? await quarantineStock(db, project, actor, role, order) : 0
  for (const { joint, ncr } of order.joints) {
    await raiseNcr(
      db,
      project,
      actor,
      { id: ncr, subjectType: 'joint', subject: joint, step: null, photo: null },
      {
        criterion: 'Made with nothing that is in question.',
        reading: `Made with ${name}, which is in quarantine: ${order.reason}`,
      },
    )
  }
  return { raised: order.joints.length, items }
}

async function quarantineStock(
  db: Knex,
  project: Project,
  actor: Actor,
  role: Role,
  order: QuarantineOrder,
): Promise<number> {
  if (order.origin.kind === 'lot') {
    const lot = await findLot(db, project.id, { lot: order.origin.value })
    if (lot && !lot.quarantinedAt) await quarantineLot(db, project, actor, lot.id, true, order.reason)
  }
  const free = (await looseOf(db, project.id, order.origin)).filter(isFree)
  await inTransaction(db, async (trx) => {
    for (const item of free)
      await appendEntries(trx, actor, role, 'item', item.id, [
        {
          id: uuidv7(),
          kind: 'inspection',
          payload: {
            outcome: 'quarantined',
            remark: order.reason,
            damage: null,
            readings: {},
            instrument: null,
            photos: [],
            verdict: null,
            traced: order.origin,
          },
          recordedAt: new Date(),
        },
      ])
    await setItemState(
      trx,
      free.map((i) => i.id),
      'quarantined',
      order.reason,
    )
  })
  return free.length
}
