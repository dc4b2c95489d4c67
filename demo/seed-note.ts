import { reconcile } from '../core/delivery/reconcile'
import { planFor } from '../core/delivery/sampling'
import type { Damage } from '../core/delivery/damage'
import { judgeDamage } from '../core/delivery/damage'
import { insertDelivery, ordersOf, signDelivery } from '../server/db/deliveries'
import { markSampled, putItems, type NewItem } from '../server/db/items'
import { insertSampling, saveSampling } from '../server/db/sampling'
import { DAY, HOUR, write, type Ground } from './ground'
import { catalogue } from './goods'

/** What has been delivered, as joints take from it. */
/** A delivery note as it came: its items, and what was found on arrival. */
export interface NoteBrief {
  number: string
  order: string
  daysAgo: number
  items: NewItem[]
  places: string[]
  hurt?: { item: NewItem; damage: Damage; remark: string }
  sampled?: string
}

/** Lays a delivery: reconciled with its order, sampled, looked at item by item, signed. */
export async function layNote(g: Ground, orderIds: Record<string, string>, n: NoteBrief): Promise<void> {
  const { db } = g
  const at = g.now - n.daysAgo * DAY
  const delivery = n.items[0]!.delivery
  const open = n.daysAgo < 1
  const rows = n.items.map((i, k) => ({
    row: k + 2,
    item: i.item,
    pressureClass: catalogue.find((c) => c.item === i.item)!.pressureClass,
    lot: i.lot,
    serial: i.serial,
    quantity: 1,
    length: i.length,
    made: null,
    expires: null,
  }))
  const lines = reconcile(
    (await ordersOf(db, g.project.id)).find((o) => o.id === orderIds[n.order])!.lines,
    rows,
  )
  await insertDelivery(
    db,
    {
      id: delivery,
      project: g.project.id,
      order: orderIds[n.order]!,
      number: n.number,
      receivedAt: new Date(at),
      lines,
    },
    n.items,
  )
  for (const place of n.places)
    await putItems(
      db,
      n.items
        .filter((i) => n.places.length === 1 || (i.kind === 'pipe') === (place === n.places[0]))
        .map((i) => i.id),
      place,
    )
  const receipt = {
    kind: 'receipt' as const,
    payload: { number: n.number, rows: rows.length, items: n.items.length, lines },
    at,
  }
  if (open) return void (await write(g, 'delivery', delivery, 'ines', [receipt]))
  const drawn = n.sampled ? n.items.filter((i) => i.item === n.sampled) : []
  const plan = drawn.length > 0 ? planFor(drawn.length) : null
  const sample = plan
    ? drawn.filter((_i, k) => k % Math.floor(drawn.length / plan.sample) === 0).slice(0, plan.sample)
    : []
  const briefs: Parameters<typeof write>[4] = [receipt]
  if (plan) {
    const id = g.random.id(at)
    await insertSampling(
      db,
      g.project.id,
      {
        id,
        delivery,
        item: n.sampled!,
        lotSize: plan.lot,
        sample: plan.sample,
        acceptance: plan.acceptance,
        severity: plan.severity,
      },
      new Date(at + HOUR / 2),
    )
    await markSampled(
      db,
      sample.map((i) => i.id),
    )
    const bad = sample.filter((i) => i === n.hurt?.item).length
    await saveSampling(db, id, bad, bad <= plan.acceptance)
    briefs.push({
      kind: 'sample',
      payload: {
        item: n.sampled,
        lot: plan.lot,
        sample: plan.sample,
        acceptance: plan.acceptance,
        severity: plan.severity,
        serials: sample.map((i) => i.serial),
      },
      at: at + HOUR / 2,
    })
  }
  for (const item of n.items) {
    const damage = item === n.hurt?.item ? n.hurt.damage : null
    const verdict = {
      measured: null,
      damage: damage ? judgeDamage(damage, catalogue[0].facts['pipe.wall']!) : null,
    }
    await write(g, 'item', item.id, 'ines', [
      {
        kind: 'inspection',
        payload: {
          outcome: item.state,
          remark: item.remark,
          damage,
          readings: {},
          instrument: null,
          photos: [],
          verdict,
        },
        at: at + HOUR,
      },
    ])
  }
  briefs.push({
    kind: 'signature',
    payload: {
      name: g.people.ines!.name,
      deviations: lines.filter((l) => l.result !== 'right').map((l) => `${l.title}: ${l.sentence}`),
    },
    at: at + 2 * HOUR,
  })
  await write(g, 'delivery', delivery, 'ines', briefs)
  await signDelivery(db, delivery, g.people.ines!.person, new Date(at + 2 * HOUR))
}
