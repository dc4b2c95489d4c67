import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { noteColumns } from '#core/delivery/columns'
import { unmapped } from '#core/files/columns'
import type { NoteRow } from '#core/delivery/note'
import { Problem } from '#core/problem'
import { inTransaction } from '../db/connection'
import { findDelivery, insertDelivery, signDelivery } from '../db/deliveries'
import { itemCounts, itemsPage, type NewItem } from '../db/items'
import { addLots } from '../db/lots'
import { keepMapping } from './imports'
import { prepare, SHOWN, type NoteSource, type Prepared } from './note-reading'
import { actingRole, appendAfter, appendEntries, sha256, type Actor, type NewEntry } from './record'

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
