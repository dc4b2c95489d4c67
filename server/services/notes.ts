import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { noteColumns } from '#core/delivery/columns'
import { unmapped, type Mapping } from '#core/files/columns'
import { readNote, readNoteRow, type NoteRow, type RowFault } from '#core/delivery/note'
import { reconcile, type ReconciledLine } from '#core/delivery/reconcile'
import { Problem } from '#core/problem'
import { dayOf } from '#core/quantity/day'
import { inTransaction } from '../db/connection'
import {
  catalogueOf,
  findDelivery,
  insertDelivery,
  ordersOf,
  signDelivery,
  type Order,
} from '../db/deliveries'
import { itemCounts, itemsPage, takenSerials, type NewItem } from '../db/items'
import { addLots, limitedLots } from '../db/lots'
import type { Project } from '../db/projects'
import { keepMapping, mapTable, type MappedTable } from './imports'
import { actingRole, appendAfter, appendEntries, sha256, type Actor, type NewEntry } from './record'
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
const SHOWN = 100

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

interface Prepared extends ReadSource {
  order: Order
  catalogue: Awaited<ReturnType<typeof catalogueOf>>
  lines: ReconciledLine[]
}

/** Reads a note and holds it against catalogue, order and what was delivered before. Writes nothing. */
async function prepare(db: Knex, actor: Actor, orderId: string, source: NoteSource): Promise<Prepared> {
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

const WRONG = new Set(['wrong-class', 'wrong-lot', 'not-ordered'])

/** The pieces of a note: single ones by their serial, the others numbered within their row. */
function itemsOf(
  { rows, lines, catalogue }: Prepared,
  project: string,
  delivery: string,
  note: string,
): NewItem[] {
  const bad = new Set(
    lines
      .filter((l) => WRONG.has(l.result))
      .map((l) => JSON.stringify([l.item, l.pressureClass, l.result === 'wrong-lot' ? l.lots[0] : ''])),
  )
  return rows.flatMap((row) => {
    const conforms =
      !bad.has(JSON.stringify([row.item, row.pressureClass, ''])) &&
      !bad.has(JSON.stringify([row.item, row.pressureClass, row.lot]))
    return Array.from({ length: row.serial ? 1 : row.quantity }, (_v, i): NewItem => ({
      id: uuidv7(),
      project,
      delivery,
      item: row.item,
      kind: catalogue.get(row.item)!.kind,
      serial:
        row.serial ??
        `${row.lot.slice(0, 30)}-${note.slice(0, 30)}-${row.row}-${String(i + 1).padStart(3, '0')}`,
      lot: row.lot,
      length: row.length,
      conforms,
      state: 'received',
      remark: null,
    }))
  })
}

/** Lots of a note with the dates it gives; two rows of one lot must not contradict each other. */
function lotsOf(rows: readonly NoteRow[]) {
  const lots = new Map<
    string,
    { id: string; lot: string; item: string; made: string | null; expires: string | null; opened: null }
  >()
  for (const r of rows) {
    const known = lots.get(r.lot) ?? {
      id: uuidv7(),
      lot: r.lot,
      item: r.item,
      made: null,
      expires: null,
      opened: null,
    }
    for (const key of ['made', 'expires'] as const) {
      if (r[key] && known[key] && r[key] !== known[key])
        throw new Problem(
          'bad-rows',
          `Row ${r.row}: lot ${r.lot} has another ${key === 'made' ? 'production' : 'expiry'} date ` +
            'in an earlier row. Nothing was imported.',
          'file',
        )
      known[key] ??= r[key]
    }
    lots.set(r.lot, known)
  }
  return [...lots.values()]
}

/** Imports a note: every row or none. */
export async function importNote(
  db: Knex,
  actor: Actor,
  orderId: string,
  source: NoteSource,
  number: string,
): Promise<string> {
  const role = actingRole(actor, 'receive-goods')
  const prepared = await prepare(db, actor, orderId, source)
  const { mapped, faults, lines, noteNumber, rows } = prepared
  const missing = mapped ? unmapped(noteColumns, mapped.mapping) : []
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
  if (rows.length === 0) throw new Problem('missing', 'The note has no rows.', 'rows')
  const name = noteNumber || number
  if (!name) throw new Problem('missing', 'The note has no number: type it.', 'number')
  if (name.length > 60)
    throw new Problem('bad-input', 'The number of a note has at most 60 letters.', 'number')
  const id = uuidv7()
  const items = itemsOf(prepared, actor.project, id, name)
  const lots = lotsOf(rows)
  const now = new Date()
  return inTransaction(db, async (trx) => {
    try {
      await insertDelivery(
        trx,
        { id, project: actor.project, order: orderId, number: name, receivedAt: now, lines },
        items,
      )
    } catch (error) {
      if ((error as { errno?: number }).errno === 1062)
        throw new Problem(
          'duplicate',
          `Note ${name}, or a serial on it, was imported before. Nothing was imported.`,
          'file',
        )
      throw error
    }
    await addLots(trx, actor.project, lots)
    const fileSha256 = source.file ? sha256(Buffer.from(source.file.data, 'base64')) : null
    const dated = lots
      .filter((l) => l.made || l.expires)
      .map(({ lot, made, expires }) => ({ lot, made, expires }))
    await appendEntries(trx, actor, role, 'delivery', id, [
      {
        id: uuidv7(),
        kind: 'receipt',
        payload: { number: name, rows: rows.length, items: items.length, lines, dated, fileSha256 },
        recordedAt: now,
      },
    ])
    if (mapped) await keepMapping(trx, actor.project, 'note', mapped)
    return id
  })
}

/** The delivery, if it is of this project. */
export async function openDelivery(db: Knex, actor: Actor, id: string) {
  const delivery = await findDelivery(db, actor.project, id)
  if (!delivery) throw new Problem('not-found', 'There is no such delivery.', 'delivery')
  return delivery
}

/**
 * The inspector signs the note with its deviations; every item must have been looked at, or stand for a
 * sample that passed.
 */
export async function signNote(db: Knex, actor: Actor, deliveryId: string): Promise<void> {
  const role = actingRole(actor, 'receive-goods')
  const delivery = await openDelivery(db, actor, deliveryId)
  if (delivery.state === 'signed')
    throw new Problem('wrong-state', `Note ${delivery.number} is signed already.`, 'delivery')
  const counts = await itemCounts(db, deliveryId)
  const waiting = counts.filter((c) => c.state === 'received').reduce((sum, c) => sum + c.count, 0)
  if (waiting > 0) {
    const { items } = await itemsPage(
      db,
      { project: actor.project, delivery: deliveryId, states: ['received'] },
      0,
      3,
    )
    throw new Problem(
      'not-inspected',
      `${waiting} items have not been inspected: ${items.map((i) => i.serial).join(', ')}.`,
      'items',
    )
  }
  const signature: NewEntry = { id: uuidv7(), kind: 'signature', payload: {}, recordedAt: new Date() }
  await inTransaction(db, async (trx) => {
    const deviations = delivery.lines
      .filter((l) => l.result !== 'right')
      .map((l) => `${l.title}: ${l.sentence}`)
    const outcomes = Object.fromEntries(
      ['accepted', 'remark', 'quarantined', 'returned'].map((s) => [
        s,
        counts.filter((c) => c.state === s).reduce((sum, c) => sum + c.count, 0),
      ]),
    )
    await appendAfter(trx, actor, role, 'delivery', deliveryId, [signature], (before) => {
      if (before.some((e) => e.kind === 'signature'))
        throw new Problem('wrong-state', `Note ${delivery.number} is signed already.`, 'delivery')
      signature.payload = { name: actor.name, deviations, outcomes, digest: before.at(-1)?.hash ?? '' }
    })
    await signDelivery(trx, deliveryId, actor.person, new Date())
  })
}
