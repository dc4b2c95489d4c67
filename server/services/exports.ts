import type { Knex } from 'knex'
import { writeCsv } from '#core/files/safe-csv'
import { catalogueOf } from '../db/deliveries'
import { itemsWhere } from '../db/items'
import { lotsPage } from '../db/lots'
import { openDelivery } from './notes'
import type { Actor } from './record'
import { jointsTouched, type Origin } from './tracing'

/** The items of a note as CSV. */
export async function itemsCsv(
  db: Knex,
  actor: Actor,
  deliveryId: string,
): Promise<{ name: string; csv: string }> {
  const delivery = await openDelivery(db, actor, deliveryId)
  const [items, catalogue] = await Promise.all([
    itemsWhere(db, { project: actor.project, delivery: deliveryId }),
    catalogueOf(db, actor.project),
  ])
  const rows = items.map((i) => [
    delivery.number,
    i.item,
    catalogue.get(i.item)?.title ?? '',
    i.serial,
    i.lot,
    i.length,
    i.conforms ? 'as ordered' : 'not as ordered',
    i.state,
    i.remark,
  ])
  return {
    name: delivery.number,
    csv: writeCsv(['note', 'item', 'title', 'serial', 'lot', 'length m', 'order', 'state', 'remark'], rows),
  }
}

/** Every lot as CSV. */
export async function lotsCsv(db: Knex, actor: Actor): Promise<string> {
  const { lots } = await lotsPage(db, actor.project, '', 0, 100_000)
  return writeCsv(
    ['lot', 'item', 'title', 'produced', 'expires', 'opened', 'pieces', 'quarantined', 'reason'],
    lots.map((l) => [
      l.lot,
      l.item,
      l.title,
      l.made,
      l.expires,
      l.opened,
      l.items,
      l.quarantinedAt,
      l.reason,
    ]),
  )
}

/** The joints that a trace touches as CSV. */
export async function traceCsv(db: Knex, actor: Actor, origin: Origin): Promise<string> {
  const joints = await jointsTouched(db, actor.project, origin)
  return writeCsv(
    ['joint', 'station m', 'system', 'state'],
    joints.map((j) => [j.number, j.station, j.system, j.state]),
  )
}
