import Papa from 'papaparse'
import { Problem } from '../problem'
import { readQuantity } from '../quantity/read'

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

/** Columns by the names that a note may use; the first is ours. */
const columns: Record<'note' | 'item' | 'pressureClass' | 'lot' | 'serial' | 'quantity' | 'length', string[]> = {
  note: ['note', 'delivery note', 'note number'],
  item: ['item', 'item code', 'article'],
  pressureClass: ['class', 'pressure class', 'sdr'],
  lot: ['lot', 'batch'],
  serial: ['serial', 'serial number'],
  quantity: ['quantity', 'qty', 'count'],
  length: ['length', 'length m'],
}
const required = ['item', 'pressureClass', 'lot', 'quantity'] as const
const MAX_ROWS = 50_000

function mapColumns(header: string[]): Partial<Record<keyof typeof columns, string>> {
  const found: Partial<Record<keyof typeof columns, string>> = {}
  for (const [key, names] of Object.entries(columns) as [keyof typeof columns, string[]][]) {
    const match = header.find((h) => names.includes(h.trim().toLowerCase()))
    if (match !== undefined) found[key] = match
  }
  return found
}

function readRow(raw: Record<string, string>, row: number, map: Partial<Record<keyof typeof columns, string>>, faults: RowFault[]): NoteRow | null {
  const before = faults.length
  const cell = (key: keyof typeof columns) => (map[key] === undefined ? '' : (raw[map[key]!] ?? '').trim())
  const fault = (key: keyof typeof columns, message: string) => faults.push({ row, column: map[key] ?? key, message })
  for (const key of ['item', 'pressureClass', 'lot'] as const) {
    if (cell(key) === '') fault(key, 'is empty')
    else if (cell(key).length > 80) fault(key, 'is longer than 80 characters')
    else if (/^[=+\-@\t]/.test(cell(key)) || cell(key).includes('\uFFFD')) fault(key, 'holds characters that do not belong in a code')
  }
  const serial = cell('serial') || null
  if (serial && (serial.length > 80 || /^[=+\-@\t]/.test(serial) || serial.includes('\uFFFD'))) fault('serial', 'holds characters that do not belong in a serial')
  const quantity = Number(cell('quantity'))
  if (!Number.isInteger(quantity) || quantity < 1 || quantity > 100_000) fault('quantity', `"${cell('quantity')}" is not a whole number from 1 to 100 000`)
  else if (serial && quantity !== 1) fault('quantity', `must be 1 for the single item with serial ${serial}`)
  let length: number | null = null
  if (cell('length') !== '') {
    try {
      length = readQuantity(cell('length'), 'length', { field: 'length' })
      if (length <= 0 || length > 100) fault('length', `"${cell('length')}" is not a length between 0 and 100 m`)
    } catch (error) {
      fault('length', `"${cell('length')}" is not a length${error instanceof Problem && error.code === 'wrong-dimension' ? ': wrong unit' : ''}`)
    }
  }
  if (faults.length > before) return null
  return { row, item: cell('item'), pressureClass: cell('pressureClass'), lot: cell('lot'), serial, quantity, length }
}

/**
 * Reads a delivery note from CSV text (comma or semicolon; header in the first row).
 * Row numbers are those of the file, header = 1. With any fault nothing may be imported.
 *
 * @throws Problem `bad-file` when it is no table at all
 */
export function readDeliveryNote(text: string): NoteRead {
  const parsed = Papa.parse<Record<string, string>>(text.replace(/^\uFEFF/, ''), { header: true, skipEmptyLines: 'greedy', delimitersToGuess: [',', ';', '\t'] })
  const header = parsed.meta.fields ?? []
  const map = mapColumns(header)
  const missing = required.filter((key) => map[key] === undefined)
  if (missing.length > 0) throw new Problem('bad-file', `The file has no column ${missing.map((key) => `"${columns[key][0]}"`).join(', ')}. Columns found: ${header.join(', ').slice(0, 200) || 'none'}.`, 'file')
  if (parsed.data.length === 0) throw new Problem('bad-file', 'The file has a header but no rows.', 'file')
  if (parsed.data.length > MAX_ROWS) throw new Problem('bad-file', `The file has more than ${MAX_ROWS} rows.`, 'file')
  const faults: RowFault[] = parsed.errors.map((e) => ({ row: (e.row ?? 0) + 2, column: header[0] ?? '', message: e.message }))
  const rows: NoteRow[] = []
  const serials = new Map<string, number>()
  const notes = new Set<string>()
  parsed.data.forEach((raw, i) => {
    const row = readRow(raw, i + 2, map, faults)
    if (map.note !== undefined && raw[map.note]?.trim()) notes.add(raw[map.note]!.trim())
    if (!row) return
    const first = row.serial ? serials.get(row.serial) : undefined
    if (first !== undefined) faults.push({ row: row.row, column: map.serial!, message: `serial ${row.serial} stands in row ${first} already` })
    else if (row.serial) serials.set(row.serial, row.row)
    rows.push(row)
  })
  if (notes.size > 1) faults.push({ row: 2, column: map.note!, message: `the file holds several notes: ${[...notes].slice(0, 3).join(', ')}` })
  return { noteNumber: [...notes][0] ?? '', rows, faults: faults.sort((a, b) => a.row - b.row) }
}
