import { showCount } from '../quantity/show'
import type { NoteRow } from './note'

export interface OrderLine {
  id: string
  item: string
  title: string
  pressureClass: string
  quantity: number
  /** already received on earlier notes */
  received: number
  /** lots that the order allows; empty means any */
  lots: string[]
}

export type LineResult = 'right' | 'short' | 'over' | 'wrong-class' | 'wrong-lot' | 'not-ordered'

export interface ReconciledLine {
  item: string
  title: string
  pressureClass: string
  lots: string[]
  ordered: number
  before: number
  delivered: number
  result: LineResult
  sentence: string
}

/**
 * Holds a delivery note against the order, item by item.
 *
 * Each item of the note and each order line with something outstanding gives one
 * line; a wrong class or lot is a line of its own and does not count as delivered.
 */
export function reconcile(order: readonly OrderLine[], note: readonly NoteRow[]): ReconciledLine[] {
  const out: ReconciledLine[] = []
  const groups = new Map<string, NoteRow[]>()
  for (const row of note) {
    const line = order.find((o) => o.item === row.item)
    const lotFault = line !== undefined && line.lots.length > 0 && !line.lots.includes(row.lot)
    const key = JSON.stringify([row.item, row.pressureClass, lotFault ? row.lot : ''])
    groups.set(key, [...(groups.get(key) ?? []), row])
  }
  const good = new Map<string, { quantity: number; lots: string[] }>()
  for (const rows of groups.values()) {
    const { item, pressureClass, lot } = rows[0]!
    const line = order.find((o) => o.item === item)
    const delivered = rows.reduce((sum, r) => sum + r.quantity, 0)
    const lots = [...new Set(rows.map((r) => r.lot))]
    const base = {
      item,
      title: line?.title ?? item,
      pressureClass,
      lots,
      ordered: line?.quantity ?? 0,
      before: line?.received ?? 0,
      delivered,
    }
    if (!line)
      out.push({
        ...base,
        result: 'not-ordered',
        sentence: `${showCount(delivered)} delivered, none ordered.`,
      })
    else if (line.pressureClass !== pressureClass)
      out.push({
        ...base,
        result: 'wrong-class',
        sentence: `${showCount(delivered)} of class ${pressureClass}, ordered is ${line.pressureClass}.`,
      })
    else if (line.lots.length > 0 && !line.lots.includes(lot))
      out.push({
        ...base,
        result: 'wrong-lot',
        sentence: `${showCount(delivered)} of lot ${lot}, ordered are ${line.lots.join(', ')}.`,
      })
    else
      good.set(item, {
        quantity: (good.get(item)?.quantity ?? 0) + delivered,
        lots: [...(good.get(item)?.lots ?? []), ...lots],
      })
  }
  for (const line of order) {
    const got = good.get(line.item)
    const outstanding = line.quantity - line.received
    if (!got && outstanding <= 0) continue
    const delivered = got?.quantity ?? 0
    const base = {
      item: line.item,
      title: line.title,
      pressureClass: line.pressureClass,
      lots: got?.lots ?? [],
      ordered: line.quantity,
      before: line.received,
      delivered,
    }
    if (delivered < outstanding)
      out.push({
        ...base,
        result: 'short',
        sentence: `${showCount(outstanding - delivered)} short of ${showCount(line.quantity)} ordered.`,
      })
    else if (delivered > outstanding)
      out.push({
        ...base,
        result: 'over',
        sentence: `${showCount(delivered - outstanding)} more than ordered.`,
      })
    else out.push({ ...base, result: 'right', sentence: 'As ordered.' })
  }
  const rank: LineResult[] = ['wrong-class', 'wrong-lot', 'not-ordered', 'short', 'over', 'right']
  return out.sort((a, b) => rank.indexOf(a.result) - rank.indexOf(b.result) || a.item.localeCompare(b.item))
}
