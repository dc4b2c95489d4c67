import type { Knex } from 'knex'
import type { OrderLine, ReconciledLine } from '#core/delivery/reconcile'
import type { ItemLimit } from '#core/delivery/inspection'
import { insertItems, type ItemKind, type NewItem } from './items'

export interface CatalogueItem {
  item: string
  title: string
  kind: ItemKind
  pressureClass: string
  facts: Record<string, number | string | boolean>
  /** article number of its label */
  gtin: string | null
  /** what is measured on arrival */
  limits: ItemLimit[]
  /** kg each, where known */
  mass: number | null
}

interface CatalogueRow {
  item: string
  title: string
  kind: ItemKind
  pressure_class: string
  facts: string
  gtin: string | null
  limits: string
  mass: number | null
}

export async function catalogueOf(db: Knex, project: string): Promise<Map<string, CatalogueItem>> {
  const rows = (await db('catalogue')
    .select('item', 'title', 'kind', 'pressure_class', 'facts', 'gtin', 'limits', 'mass')
    .where({ project })) as CatalogueRow[]
  return new Map(
    rows.map((r) => [
      r.item,
      {
        item: r.item,
        title: r.title,
        kind: r.kind,
        pressureClass: r.pressure_class,
        facts: JSON.parse(r.facts),
        gtin: r.gtin,
        limits: JSON.parse(r.limits),
        mass: r.mass,
      },
    ]),
  )
}

export interface Order {
  id: string
  number: string
  supplier: string
  lines: OrderLine[]
}

/**
 * Orders with their lines; `received` counts conforming items of signed and open deliveries, save one
 * being looked at.
 */
export async function ordersOf(db: Knex, project: string, except?: string): Promise<Order[]> {
  const orders = await db('orders').select('id', 'number', 'supplier').where({ project }).orderBy('number')
  const lines = await db('order_lines as l')
    .join('orders as o', 'o.id', 'l.order_id')
    .leftJoin('catalogue as c', (on) => on.on('c.item', 'l.item').andOn('c.project', 'o.project'))
    .select('l.id', 'l.order_id', 'l.item', 'l.pressure_class', 'l.quantity', 'l.lots', 'c.title')
    .where('o.project', project)
    .orderBy('l.item')
  const counted = db('items as i')
    .join('deliveries as d', 'd.id', 'i.delivery')
    .select('d.order_id', 'i.item')
    .count<{ order_id: string; item: string; n: number }[]>('* as n')
    .where('i.project', project)
    .where('i.conforms', true)
    .groupBy('d.order_id', 'i.item')
  if (except) void counted.whereNot('d.id', except)
  const received = new Map((await counted).map((r) => [`${r.order_id} ${r.item}`, Number(r.n)]))
  return orders.map((o: { id: string; number: string; supplier: string }) => ({
    ...o,
    lines: lines
      .filter((l: { order_id: string }) => l.order_id === o.id)
      .map(
        (l: {
          id: string
          item: string
          title: string | null
          pressure_class: string
          quantity: number
          lots: string
        }) => ({
          id: l.id,
          item: l.item,
          title: l.title ?? l.item,
          pressureClass: l.pressure_class,
          quantity: l.quantity,
          lots: JSON.parse(l.lots),
          received: received.get(`${o.id} ${l.item}`) ?? 0,
        }),
      ),
  }))
}

export interface NewOrder {
  id: string
  number: string
  supplier: string
  lines: { id: string; item: string; pressureClass: string; quantity: number; lots: string[] }[]
}

export async function insertOrders(db: Knex, project: string, orders: readonly NewOrder[]): Promise<void> {
  for (const o of orders) {
    await db('orders').insert({ id: o.id, project, number: o.number, supplier: o.supplier })
    for (let i = 0; i < o.lines.length; i += 200)
      await db('order_lines').insert(
        o.lines.slice(i, i + 200).map((l) => ({
          id: l.id,
          order_id: o.id,
          item: l.item,
          pressure_class: l.pressureClass,
          quantity: l.quantity,
          lots: JSON.stringify(l.lots),
        })),
      )
  }
}

export interface Delivery {
  id: string
  order: string
  orderNumber: string
  supplier: string
  number: string
  receivedAt: string
  lines: ReconciledLine[]
  state: 'open' | 'signed'
  signedBy: string | null
  signedAt: string | null
}

const deliveryColumns = [
  'd.id',
  'd.order_id',
  'o.number as order_number',
  'o.supplier',
  'd.number',
  'd.received_at',
  'd.lines_json',
  'd.state',
  'd.signed_by',
  'd.signed_at',
]
interface DeliveryRow {
  id: string
  order_id: string
  order_number: string
  supplier: string
  number: string
  received_at: Date
  lines_json: string
  state: 'open' | 'signed'
  signed_by: string | null
  signed_at: Date | null
}
const delivery = (r: DeliveryRow): Delivery => ({
  id: r.id,
  order: r.order_id,
  orderNumber: r.order_number,
  supplier: r.supplier,
  number: r.number,
  receivedAt: r.received_at.toISOString(),
  lines: JSON.parse(r.lines_json),
  state: r.state,
  signedBy: r.signed_by,
  signedAt: r.signed_at?.toISOString() ?? null,
})

export async function deliveriesOf(
  db: Knex,
  project: string,
): Promise<(Delivery & { items: number; waiting: number; quarantined: number })[]> {
  const rows = (await db('deliveries as d')
    .join('orders as o', 'o.id', 'd.order_id')
    .select(deliveryColumns)
    .where('d.project', project)
    .orderBy('d.received_at', 'desc')) as DeliveryRow[]
  const counts = await db('items')
    .select('delivery', 'state')
    .count<{ delivery: string; state: string; n: number }[]>('* as n')
    .where({ project })
    .groupBy('delivery', 'state')
  const sum = (id: string, states?: string[]) =>
    counts
      .filter((c) => c.delivery === id && (!states || states.includes(c.state)))
      .reduce((total, c) => total + Number(c.n), 0)
  return rows.map((r) => ({
    ...delivery(r),
    items: sum(r.id),
    waiting: sum(r.id, ['received']),
    quarantined: sum(r.id, ['quarantined', 'returned']),
  }))
}

export async function findDelivery(db: Knex, project: string, id: string): Promise<Delivery | null> {
  const row = (await db('deliveries as d')
    .join('orders as o', 'o.id', 'd.order_id')
    .select(deliveryColumns)
    .where({ 'd.project': project, 'd.id': id })
    .first()) as DeliveryRow | undefined
  return row ? delivery(row) : null
}

export interface NewDelivery {
  id: string
  project: string
  order: string
  number: string
  receivedAt: Date
  lines: ReconciledLine[]
}

export async function insertDelivery(db: Knex, d: NewDelivery, items: NewItem[]): Promise<void> {
  await db('deliveries').insert({
    id: d.id,
    project: d.project,
    order_id: d.order,
    number: d.number,
    received_at: d.receivedAt,
    lines_json: JSON.stringify(d.lines),
    state: 'open',
  })
  await insertItems(db, items)
}

export const signDelivery = async (db: Knex, id: string, person: string, at: Date): Promise<void> =>
  void (await db('deliveries').where({ id }).update({ state: 'signed', signed_by: person, signed_at: at }))
