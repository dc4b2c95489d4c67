import type { Knex } from 'knex'
import { noteColumns } from '#core/delivery/columns'
import { unmapped, type Mapping } from '#core/files/columns'
import { readNote, readNoteRow, type NoteRow, type RowFault } from '#core/delivery/note'
import { reconcile, type ReconciledLine } from '#core/delivery/reconcile'
import { Problem } from '#core/problem'
import { dayOf } from '#core/quantity/day'
import { catalogueOf, ordersOf, type Order } from '../db/deliveries'
import { takenSerials } from '../db/items'
import { limitedLots } from '../db/lots'
import type { Project } from '../db/projects'
import { mapTable, type MappedTable } from './imports'
import type { Actor } from './record'
import type { SentFile } from './heavy/table-files'

/** A note comes as a file, or as rows typed or read from labels (texts by column). */
export interface NoteSource {
  file: SentFile | null
  mapping: Mapping | null
  rows: Record<string, string>[] | null
}

export interface NotePreview {
  noteNumber: string
  header: string[]
  mapping: Mapping
  remembered: boolean
  unmapped: string[]
  remark: string | null
  rows: number
  pieces: number
  faults: RowFault[]
  faultCount: number
  lines: ReconciledLine[]
  /** what to look at before signing: lots past or near their date */
  warnings: string[]
}
/** faults that are shown of many */
export const SHOWN = 100

interface ReadSource {
  mapped: MappedTable | null
  noteNumber: string
  rows: NoteRow[]
  faults: RowFault[]
}

async function readSource(db: Knex, actor: Actor, source: NoteSource): Promise<ReadSource> {
  if (source.rows) {
    const faults: RowFault[] = []
    const serials = new Map<string, number>()
    const rows = source.rows.map((texts, i) => {
      const read = readNoteRow(
        i + 1,
        (key) => (texts[key] ?? '').trim(),
        (column, message) => faults.push({ row: i + 1, column, message }),
      )
      const first = read.serial ? serials.get(read.serial) : undefined
      if (first !== undefined)
        faults.push({
          row: i + 1,
          column: 'serial',
          message: `serial ${read.serial} stands in row ${first} already`,
        })
      else if (read.serial) serials.set(read.serial, i + 1)
      return read
    })
    return { mapped: null, noteNumber: '', rows, faults }
  }
  if (!source.file) throw new Problem('missing', 'Choose a file, or type the rows.', 'file')
  const mapped = await mapTable(db, actor.project, 'note', source.file, source.mapping)
  if (unmapped(noteColumns, mapped.mapping).length > 0)
    return { mapped, noteNumber: '', rows: [], faults: [] }
  return { mapped, ...readNote(mapped.table, mapped.mapping) }
}

async function orderOf(db: Knex, project: string, id: string): Promise<Order> {
  const order = (await ordersOf(db, project)).find((o) => o.id === id)
  if (!order) throw new Problem('not-found', 'There is no such order.', 'order')
  return order
}

/** Lots that would come in past their printed date, or that are in quarantine already. */
async function warningsOf(
  db: Knex,
  project: string,
  rows: readonly NoteRow[],
  today: string,
): Promise<string[]> {
  const out = new Set<string>()
  const held = new Map(
    (await limitedLots(db, project)).filter((l) => l.quarantinedAt).map((l) => [l.lot, l.reason]),
  )
  for (const r of rows) {
    if (r.expires && r.expires < today) out.add(`Lot ${r.lot} expired on ${r.expires}.`)
    if (held.has(r.lot)) out.add(`Lot ${r.lot} is in quarantine: ${held.get(r.lot)}.`)
  }
  return [...out].slice(0, 20)
}

export interface Prepared extends ReadSource {
  order: Order
  catalogue: Awaited<ReturnType<typeof catalogueOf>>
  lines: ReconciledLine[]
}

/** Reads a note and holds it against catalogue, order and what was delivered before. Writes nothing. */
export async function prepare(
  db: Knex,
  actor: Actor,
  orderId: string,
  source: NoteSource,
): Promise<Prepared> {
  const order = await orderOf(db, actor.project, orderId)
  const read = await readSource(db, actor, source)
  const catalogue = await catalogueOf(db, actor.project)
  const heading = (key: string) => read.mapped?.mapping[key] ?? key
  const faults = [...read.faults]
  for (const row of read.rows)
    if (row.item && !catalogue.has(row.item))
      faults.push({
        row: row.row,
        column: heading('item'),
        message: `item ${row.item} is not in the catalogue of this project`,
      })
  const taken = new Set(
    (
      await takenSerials(
        db,
        actor.project,
        read.rows.map((r) => r.serial).filter((s): s is string => s !== null),
      )
    ).map((s) => s.toLowerCase()),
  )
  for (const row of read.rows)
    if (row.serial && taken.has(row.serial.toLowerCase()))
      faults.push({
        row: row.row,
        column: heading('serial'),
        message: `serial ${row.serial} was delivered before`,
      })
  faults.sort((a, b) => a.row - b.row)
  return {
    ...read,
    faults,
    order,
    catalogue,
    lines: faults.length === 0 ? reconcile(order.lines, read.rows) : [],
  }
}

/** What a note would bring in, and what is wrong with it. */
export async function previewNote(
  db: Knex,
  project: Project,
  actor: Actor,
  orderId: string,
  source: NoteSource,
): Promise<NotePreview> {
  const { mapped, noteNumber, rows, faults, lines } = await prepare(db, actor, orderId, source)
  return {
    noteNumber,
    header: mapped?.table.header ?? [],
    mapping: mapped?.mapping ?? {},
    remembered: mapped?.remembered ?? false,
    unmapped: mapped ? unmapped(noteColumns, mapped.mapping).map((c) => c.key) : [],
    remark: mapped?.table.remark ?? null,
    rows: rows.length,
    pieces: rows.reduce((sum, r) => sum + (r.serial ? 1 : r.quantity), 0),
    faults: faults.slice(0, SHOWN),
    faultCount: faults.length,
    lines,
    warnings: await warningsOf(db, project.id, rows, dayOf(Date.now(), project.zone)),
  }
}
