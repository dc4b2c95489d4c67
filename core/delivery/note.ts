import { isDay } from '../quantity/day'
import { Problem } from '../problem'
import { readQuantity } from '../quantity/read'
import { noteColumns } from './columns'
import { cellReader, guessMapping, type Mapping } from '../files/columns'
import type { Table } from '../files/table'

/** One row of a delivery note as read: a pipe length or fitting with its serial, or a quantity of a lot. */
export interface NoteRow {
  row: number
  item: string
  pressureClass: string
  lot: string
  serial: string | null
  quantity: number
  /** m; null for fittings */
  length: number | null
  /** dates such as 2026-03-09 */
  made: string | null
  expires: string | null
}

export interface RowFault {
  row: number
  column: string
  message: string
}

export interface NoteRead {
  noteNumber: string
  rows: NoteRow[]
  faults: RowFault[]
}

/** What a spreadsheet would take for a formula. */
const FORMULA = /^[=+\-@\t\r]/
const MAX_PIECES = 100_000
export type Fault = (key: string, message: string) => void

/** A code such as an item, class or lot, checked; '' after a fault. */
export function readCode(text: string, key: string, fault: Fault, required = true): string {
  if (text === '' && !required) return ''
  if (text === '') fault(key, 'is empty')
  else if (text.length > 80) fault(key, 'is longer than 80 characters')
  else if (FORMULA.test(text)) fault(key, `"${text.slice(0, 40)}" starts like a formula; a code does not`)
  else return text
  return ''
}

/** A whole number of pieces, checked; 0 after a fault. */
export function readPieces(text: string, fault: Fault): number {
  const pieces = /^\d{1,6}$/.test(text) ? Number(text) : 0
  if (pieces < 1 || pieces > MAX_PIECES)
    fault('quantity', `"${text.slice(0, 40)}" is not a whole number from 1 to 100 000`)
  return pieces
}

function readDay(text: string, key: string, fault: Fault): string | null {
  if (text === '') return null
  if (isDay(text)) return text
  fault(key, `"${text.slice(0, 40)}" is not a date such as 2026-03-09`)
  return null
}

function readLength(text: string, fault: Fault): number | null {
  if (text === '') return null
  try {
    const length = readQuantity(text, 'length', { field: 'length' })
    if (length > 0 && length <= 100) return length
    fault('length', `"${text}" is not a length between 0 and 100 m`)
  } catch (error) {
    fault(
      'length',
      `"${text.slice(0, 40)}" is not a length${error instanceof Problem && error.code === 'wrong-dimension' ? ': wrong unit' : ''}`,
    )
  }
  return null
}

/** Rows of a note whatever they come from (file, keyboard or labels); `cell` gives the text of a column. */
export function readNoteRow(row: number, cell: (key: string) => string, fault: Fault): NoteRow {
  const [item, pressureClass, lot] = [
    readCode(cell('item'), 'item', fault),
    readCode(cell('class'), 'class', fault),
    readCode(cell('lot'), 'lot', fault),
  ]
  const serial = readCode(cell('serial'), 'serial', fault, false) || null
  const quantity = readPieces(cell('quantity'), fault)
  if (serial && quantity > 1) fault('quantity', `must be 1 for the single item with serial ${serial}`)
  const [made, expires] = [readDay(cell('made'), 'made', fault), readDay(cell('expires'), 'expires', fault)]
  if (made && expires && expires < made) fault('expires', `${expires} is before the production date ${made}`)
  return {
    row,
    item,
    pressureClass,
    lot,
    serial,
    quantity,
    length: readLength(cell('length'), fault),
    made,
    expires,
  }
}

/**
 * Reads a delivery note. With any fault nothing may be imported.
 *
 * @param mapping which heading is which column; by the usual names where it is not given
 * @throws Problem `unmapped`, `bad-mapping`
 */
export function readNote(table: Table, mapping: Mapping = guessMapping(noteColumns, table.header)): NoteRead {
  const { cell, heading } = cellReader(noteColumns, table, mapping)
  const faults: RowFault[] = [...table.faults]
  const rows: NoteRow[] = []
  const serials = new Map<string, number>()
  const notes = new Set<string>()
  for (const { row, cells } of table.rows) {
    const before = faults.length
    const fault: Fault = (key, message) => faults.push({ row, column: heading(key), message })
    const read = readNoteRow(row, (key) => cell(cells, key), fault)
    const note = readCode(cell(cells, 'note'), 'note', fault, false)
    if (note) notes.add(note)
    if (faults.length > before) continue
    const first = read.serial ? serials.get(read.serial) : undefined
    if (first !== undefined) fault('serial', `serial ${read.serial} stands in row ${first} already`)
    else if (read.serial) serials.set(read.serial, row)
    rows.push(read)
  }
  if (rows.reduce((sum, r) => sum + (r.serial ? 0 : r.quantity), 0) > MAX_PIECES)
    faults.push({
      row: 2,
      column: heading('quantity'),
      message: `the note has more than ${MAX_PIECES} single pieces`,
    })
  if (notes.size > 1)
    faults.push({
      row: 2,
      column: heading('note'),
      message: `the file holds several notes: ${[...notes].slice(0, 3).join(', ')}`,
    })
  return { noteNumber: [...notes][0] ?? '', rows, faults: faults.sort((a, b) => a.row - b.row) }
}
