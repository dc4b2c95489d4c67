import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { orderColumns } from '#core/delivery/columns'
import { unmapped, type Mapping } from '#core/files/columns'
import type { RowFault } from '#core/delivery/note'
import { readOrders, type OrderRead } from '#core/delivery/order'
import { Problem } from '#core/problem'
import { inTransaction } from '../db/connection'
import { catalogueOf, insertOrders, ordersOf } from '../db/deliveries'
import { keepMapping, mapTable, type MappedTable } from './imports'
import { actingRole, appendEntries, sha256, type Actor } from './record'
import type { SentFile } from './heavy/table-files'

/** What a file of orders would bring, before anything is written. */
export interface OrderPreview {
  header: string[]
  mapping: Mapping
  remembered: boolean
  unmapped: string[]
  remark: string | null
  faults: RowFault[]
  faultCount: number
  orders: { number: string; supplier: string; lines: number; pieces: number }[]
}
const SHOWN = 100

async function read(
  db: Knex,
  actor: Actor,
  file: SentFile,
  given: Mapping | null,
): Promise<{ mapped: MappedTable; orders: OrderRead['orders']; faults: RowFault[] }> {
  const mapped = await mapTable(db, actor.project, 'order', file, given)
  if (unmapped(orderColumns, mapped.mapping).length > 0) return { mapped, orders: [], faults: [] }
  const { orders, faults } = readOrders(mapped.table, mapped.mapping)
  const [catalogue, known] = await Promise.all([catalogueOf(db, actor.project), ordersOf(db, actor.project)])
  const heading = (key: string) => mapped.mapping[key] ?? key
  for (const order of orders) {
    if (known.some((o) => o.number === order.number))
      faults.push({
        row: order.rows[0]!.row,
        column: heading('order'),
        message: `order ${order.number} is known already`,
      })
    for (const row of order.rows) {
      const article = catalogue.get(row.item)
      if (!article)
        faults.push({
          row: row.row,
          column: heading('item'),
          message: `item ${row.item} is not in the catalogue of this project`,
        })
      else if (article.pressureClass !== row.pressureClass)
        faults.push({
          row: row.row,
          column: heading('class'),
          message: `${row.item} is of class ${article.pressureClass} in the catalogue, not ${row.pressureClass}`,
        })
    }
  }
  return { mapped, orders, faults: faults.sort((a, b) => a.row - b.row) }
}

export async function previewOrders(
  db: Knex,
  actor: Actor,
  file: SentFile,
  given: Mapping | null,
): Promise<OrderPreview> {
  const { mapped, orders, faults } = await read(db, actor, file, given)
  return {
    header: mapped.table.header,
    mapping: mapped.mapping,
    remembered: mapped.remembered,
    unmapped: unmapped(orderColumns, mapped.mapping).map((c) => c.key),
    remark: mapped.table.remark,
    faults: faults.slice(0, SHOWN),
    faultCount: faults.length,
    orders: orders.map((o) => ({
      number: o.number,
      supplier: o.supplier,
      lines: o.rows.length,
      pieces: o.rows.reduce((sum, r) => sum + r.quantity, 0),
    })),
  }
}

/** Imports orders: every row or none. */
export async function importOrders(
  db: Knex,
  actor: Actor,
  file: SentFile,
  given: Mapping | null,
): Promise<string[]> {
  const role = actingRole(actor, 'order-goods')
  const { mapped, orders, faults } = await read(db, actor, file, given)
  const missing = unmapped(orderColumns, mapped.mapping)
  if (missing.length > 0)
    throw new Problem(
      'unmapped',
      `Say which column of the file is ${missing.map((c) => `"${c.title}"`).join(', ')}.`,
      'mapping',
    )
  if (faults.length > 0)
    throw new Problem(
      'bad-rows',
      `Row ${faults[0]!.row}, column "${faults[0]!.column}": ${faults[0]!.message}. Nothing was imported.`,
      'file',
      { faults: faults.slice(0, SHOWN) },
    )
  const made = orders.map((o) => ({
    id: uuidv7(),
    number: o.number,
    supplier: o.supplier,
    lines: o.rows.map((r) => ({
      id: uuidv7(),
      item: r.item,
      pressureClass: r.pressureClass,
      quantity: r.quantity,
      lots: r.lots,
    })),
  }))
  await inTransaction(db, async (trx) => {
    try {
      await insertOrders(trx, actor.project, made)
    } catch (error) {
      if ((error as { errno?: number }).errno === 1062)
        throw new Problem(
          'duplicate',
          'One of these orders was imported before. Nothing was imported.',
          'file',
        )
      throw error
    }
    const digest = sha256(Buffer.from(file.data, 'base64'))
    for (const o of made)
      await appendEntries(trx, actor, role, 'order', o.id, [
        {
          id: uuidv7(),
          kind: 'receipt',
          payload: { number: o.number, supplier: o.supplier, lines: o.lines, fileSha256: digest },
          recordedAt: new Date(),
        },
      ])
    await keepMapping(trx, actor.project, 'order', mapped)
  })
  return made.map((o) => o.id)
}
