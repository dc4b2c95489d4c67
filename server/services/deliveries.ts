import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { gouge } from '#core/calculators/pipe-end'
import { readDeliveryNote, type NoteRead } from '#core/delivery/note'
import { reconcile, type ReconciledLine } from '#core/delivery/reconcile'
import { Problem } from '#core/problem'
import { inTransaction } from '../db/connection'
import { catalogueOf, findDelivery, findItem, insertDelivery, itemsOfDelivery, ordersOf, setItemState, signDelivery, takenSerials, type Item, type ItemState, type Order } from '../db/deliveries'
import { entriesOf, entriesOfMany, forCore } from '../db/entries'
import { actingRole, appendEntries, sha256, type Actor } from './record'

export interface NotePreview {
  noteNumber: string
  rows: number
  faults: NoteRead['faults']
  lines: ReconciledLine[]
}

async function orderOf(db: Knex, project: string, id: string): Promise<Order> {
  const order = (await ordersOf(db, project)).find((o) => o.id === id)
  if (!order) throw new Problem('not-found', 'There is no such order.', 'order')
  return order
}

/** Reads a note against an order without writing anything. */
export async function previewNote(db: Knex, actor: Actor, orderId: string, csv: string): Promise<NotePreview & { read: NoteRead; order: Order }> {
  const order = await orderOf(db, actor.project, orderId)
  const read = readDeliveryNote(csv)
  const catalogue = await catalogueOf(db, actor.project)
  const faults = [...read.faults]
  for (const row of read.rows) if (!catalogue.has(row.item)) faults.push({ row: row.row, column: 'item', message: `item ${row.item} is not in the catalogue of this project` })
  const taken = new Set(await takenSerials(db, actor.project, read.rows.map((r) => r.serial).filter((s): s is string => s !== null)))
  for (const row of read.rows) if (row.serial && taken.has(row.serial)) faults.push({ row: row.row, column: 'serial', message: `serial ${row.serial} was delivered before` })
  faults.sort((a, b) => a.row - b.row)
  return { noteNumber: read.noteNumber, rows: read.rows.length, faults: faults.slice(0, 100), lines: faults.length === 0 ? reconcile(order.lines, read.rows) : [], read, order }
}

/** Imports a note: every row or none. */
export async function importNote(db: Knex, actor: Actor, orderId: string, csv: string, number: string): Promise<string> {
  const role = actingRole(actor, ['inspector'])
  const { read, faults, lines, noteNumber } = await previewNote(db, actor, orderId, csv)
  if (faults.length > 0) throw new Problem('bad-rows', `Row ${faults[0]!.row}, column "${faults[0]!.column}": ${faults[0]!.message}. Nothing was imported.`, 'file', { faults })
  const catalogue = await catalogueOf(db, actor.project)
  const name = noteNumber || number
  if (!name) throw new Problem('missing', 'The note has no number: type it.', 'number')
  const id = uuidv7()
  const bad = new Set(lines.filter((l) => ['wrong-class', 'wrong-lot', 'not-ordered'].includes(l.result)).map((l) => `${l.item} ${l.pressureClass} ${l.result === 'wrong-lot' ? l.lots[0] : ''}`))
  const items: (Item & { project: string })[] = read.rows.flatMap((row) => {
    const conforms = !bad.has(`${row.item} ${row.pressureClass} `) && !bad.has(`${row.item} ${row.pressureClass} ${row.lot}`)
    return Array.from({ length: row.serial ? 1 : row.quantity }, (_v, i) => ({
      id: uuidv7(), project: actor.project, delivery: id, item: row.item, kind: catalogue.get(row.item)!.kind, serial: row.serial ?? `${row.lot}-${name}-${String(row.row)}-${String(i + 1).padStart(3, '0')}`,
      lot: row.lot, length: row.length, conforms, state: 'received' as const, remark: null,
    }))
  })
  const now = new Date()
  return inTransaction(db, async (trx) => {
    try {
      await insertDelivery(trx, { id, project: actor.project, order: orderId, number: name, receivedAt: now, lines }, items)
    } catch (error) {
      if ((error as { errno?: number }).errno === 1062) throw new Problem('duplicate', `Note ${name}, or a serial on it, was imported before. Nothing was imported.`, 'file')
      throw error
    }
    await appendEntries(trx, actor, role, 'delivery', id, [{ id: uuidv7(), kind: 'receipt', payload: { number: name, rows: read.rows.length, items: items.length, lines, fileSha256: sha256(csv) }, recordedAt: now }])
    return id
  })
}

export interface Damage {
  clock: number
  fromEnd: number
  length: number
  depth: number
}

const MAX_GOUGE = 0.1

/** What the criterion says of damage: percent of wall against a tenth. */
export function judgeDamage(damage: Damage, wall: number): { percent: number; conforms: boolean } {
  if (damage.depth > wall) return { percent: 100, conforms: false }
  const percent = gouge.compute({ depth: damage.depth, wall }).outputs.percent as number
  return { percent, conforms: percent <= MAX_GOUGE * 100 }
}

export interface Inspection {
  outcome: Exclude<ItemState, 'received'>
  remark: string | null
  damage: Damage | null
}

async function openDelivery(db: Knex, actor: Actor, id: string) {
  const delivery = await findDelivery(db, actor.project, id)
  if (!delivery) throw new Problem('not-found', 'There is no such delivery.', 'delivery')
  return delivery
}

/** Records what was found on one item. Quarantine may come later too; taking an item out of it asks for the reason. */
export async function inspectItem(db: Knex, actor: Actor, deliveryId: string, itemId: string, inspection: Inspection): Promise<void> {
  const role = actingRole(actor, ['inspector'])
  await openDelivery(db, actor, deliveryId)
  const item = await findItem(db, actor.project, itemId)
  if (!item || item.delivery !== deliveryId) throw new Problem('not-found', 'There is no such item on this note.', 'item')
  if ((inspection.outcome !== 'accepted' || item.state === 'quarantined') && !inspection.remark && !inspection.damage) throw new Problem('missing', 'Say why.', 'remark')
  if (!item.conforms && (inspection.outcome === 'accepted' || inspection.outcome === 'remark')) throw new Problem('not-as-ordered', `${item.serial} is not as ordered: quarantine or return it.`, 'outcome')
  const wall = (await catalogueOf(db, actor.project)).get(item.item)?.facts['pipe.wall']
  const verdict = inspection.damage && typeof wall === 'number' ? judgeDamage(inspection.damage, wall) : null
  await inTransaction(db, async (trx) => {
    await appendEntries(trx, actor, role, 'item', itemId, [{ id: uuidv7(), kind: 'inspection', payload: { ...inspection, verdict }, recordedAt: new Date() }])
    await setItemState(trx, itemId, inspection.outcome, inspection.remark)
  })
}

/** Accepts every item that nobody has looked at apart, except what is not as ordered. */
export async function acceptRest(db: Knex, actor: Actor, deliveryId: string): Promise<number> {
  const role = actingRole(actor, ['inspector'])
  await openDelivery(db, actor, deliveryId)
  return inTransaction(db, async (trx) => {
    const rest = (await itemsOfDelivery(trx, deliveryId)).filter((i) => i.state === 'received' && i.conforms)
    for (const item of rest) {
      await appendEntries(trx, actor, role, 'item', item.id, [{ id: uuidv7(), kind: 'inspection', payload: { outcome: 'accepted', remark: null, damage: null, verdict: null }, recordedAt: new Date() }])
      await setItemState(trx, item.id, 'accepted', null)
    }
    return rest.length
  })
}

/** The inspector signs the note with its deviations; every item must have been looked at. */
export async function signNote(db: Knex, actor: Actor, deliveryId: string): Promise<void> {
  const role = actingRole(actor, ['inspector'])
  const delivery = await openDelivery(db, actor, deliveryId)
  if (delivery.state === 'signed') throw new Problem('wrong-state', `Note ${delivery.number} is signed already.`, 'delivery')
  const waiting = (await itemsOfDelivery(db, deliveryId)).filter((i) => i.state === 'received')
  if (waiting.length > 0) throw new Problem('not-inspected', `${waiting.length} items have not been inspected: ${waiting.slice(0, 3).map((i) => i.serial).join(', ')}.`, 'items')
  await inTransaction(db, async (trx) => {
    const before = await entriesOf(trx, deliveryId)
    const deviations = delivery.lines.filter((l) => l.result !== 'right').map((l) => `${l.title}: ${l.sentence}`)
    await appendEntries(trx, actor, role, 'delivery', deliveryId, [{ id: uuidv7(), kind: 'signature', payload: { name: actor.name, deviations, digest: before.at(-1)?.hash ?? '' }, recordedAt: new Date() }], before)
    await signDelivery(trx, deliveryId, actor.person, new Date())
  })
}

export async function deliverySheet(db: Knex, actor: Actor, id: string) {
  const delivery = await openDelivery(db, actor, id)
  const items = await itemsOfDelivery(db, id)
  const catalogue = await catalogueOf(db, actor.project)
  const looked = items.filter((i) => i.state !== 'received' && i.state !== 'accepted').map((i) => i.id)
  const entries = await entriesOfMany(db, looked)
  return {
    delivery,
    items: items.map((i) => ({ ...i, title: catalogue.get(i.item)?.title ?? i.item, facts: catalogue.get(i.item)?.facts ?? {}, inspection: entries.get(i.id)?.map(forCore).filter((e) => e.kind === 'inspection').at(-1)?.payload ?? null })),
  }
}
