import { orderColumns } from './columns'
import { cellReader, guessMapping, type Mapping } from '../files/columns'
import { readCode, readPieces, type Fault, type RowFault } from './note'
import type { Table } from '../files/table'

export interface OrderRow {
  row: number
  item: string
  pressureClass: string
  quantity: number
  /** lots that are allowed; empty means any */
  lots: string[]
}

export interface OrderRead {
  orders: { number: string; supplier: string; rows: OrderRow[] }[]
  faults: RowFault[]
}

/**
 * Reads purchase orders, one line a row; several orders may stand in one file.
 * With any fault nothing may be imported.
 *
 * @throws Problem `unmapped`, `bad-mapping`
 */
export function readOrders(
  table: Table,
  mapping: Mapping = guessMapping(orderColumns, table.header),
): OrderRead {
  const { cell, heading } = cellReader(orderColumns, table, mapping)
  const faults: RowFault[] = [...table.faults]
  const orders = new Map<string, OrderRead['orders'][number]>()
  for (const { row, cells } of table.rows) {
    const before = faults.length
    const fault: Fault = (key, message) => faults.push({ row, column: heading(key), message })
    const code = (key: string) => readCode(cell(cells, key), key, fault)
    const [number, supplier, item, pressureClass] = [
      code('order'),
      code('supplier'),
      code('item'),
      code('class'),
    ]
    const quantity = readPieces(cell(cells, 'quantity'), fault)
    const lots = cell(cells, 'lots')
      .split(/[\s;,]+/)
      .filter(Boolean)
      .map((lot) => readCode(lot, 'lots', fault))
    if (number.length > 40) fault('order', 'is longer than 40 characters')
    const order = orders.get(number) ?? { number, supplier, rows: [] }
    if (order.supplier !== supplier)
      fault('supplier', `order ${number} is from ${order.supplier} in an earlier row`)
    const twin = order.rows.find((r) => r.item === item)
    if (twin) fault('item', `${item} stands in row ${twin.row} of this order already`)
    if (faults.length > before) continue
    order.rows.push({ row, item, pressureClass, quantity, lots: [...new Set(lots)] })
    orders.set(number, order)
  }
  return { orders: [...orders.values()], faults: faults.sort((a, b) => a.row - b.row) }
}
