import Papa from 'papaparse'
import { Problem } from '../problem'

/**
 * What a file holds before anybody knows what its columns mean. Row numbers are those of the file, header
 * = 1.
 */
export interface Table {
  header: string[]
  rows: { row: number; cells: string[] }[]
  faults: { row: number; column: string; message: string }[]
  /** how the letters were read, where that is worth a look */
  remark: string | null
}

export const MAX_ROWS = 50_000
export const MAX_COLUMNS = 200
const MAX_CELLS = 2_000_000

/**
 * Looks at the first line of a table before it is read: a table that nobody made by hand is refused
 * before it costs anything.
 *
 * @throws Problem `bad-file`
 */
export function checkColumns(text: string, most = MAX_COLUMNS): void {
  const end = text.search(/[\r\n]/)
  const first = end < 0 ? text : text.slice(0, end)
  let separators = 0
  for (const letter of first) if (letter === ',' || letter === ';' || letter === '\t') separators++
  if (separators >= most) throw new Problem('bad-file', `The file has more than ${most} columns.`, 'file')
}
const UNREADABLE = '\uFFFD'
/** Windows leaves these codes undefined: no text holds them. */
const UNDEFINED = /[\u0081\u008D\u008F\u0090\u009D]/

function decode(bytes: Uint8Array): { text: string; remark: string | null } {
  if (bytes[0] === 0xff && bytes[1] === 0xfe)
    return { text: new TextDecoder('utf-16le').decode(bytes), remark: null }
  if (bytes[0] === 0xfe && bytes[1] === 0xff)
    return { text: new TextDecoder('utf-16be').decode(bytes), remark: null }
  try {
    return { text: new TextDecoder('utf-8', { fatal: true }).decode(bytes), remark: null }
  } catch {
    const lossy = new TextDecoder('utf-8').decode(bytes)
    const old = new TextDecoder('windows-1252').decode(bytes)
    // Letters of two encodings in one file: nobody can say which letter was meant.
    const mixed = /[\u0080-\uFFFC]/.test(lossy) || UNDEFINED.test(old)
    if (mixed)
      return {
        text: lossy,
        remark:
          'Some letters of this file cannot be read: it mixes two encodings, or was damaged on its way.',
      }
    return {
      text: old,
      remark: 'Read as Windows-1252, an older encoding: look whether accented letters are right.',
    }
  }
}

/** A table from a grid of cells, as spreadsheets and CSV readers give it; empty rows are passed over. */
export function tableOfGrid(grid: readonly (readonly unknown[])[], remark: string | null = null): Table {
  if (grid.reduce((cells, row) => cells + row.length, 0) > MAX_CELLS)
    throw new Problem('bad-file', 'The file has more cells than any list of goods.', 'file')
  const text = (cell: unknown) =>
    cell === null || cell === undefined
      ? ''
      : cell instanceof Date
        ? cell.toISOString().slice(0, 10)
        : String(cell).trim()
  const filled = grid
    .map((cells, i) => ({ row: i + 1, cells: cells.map(text) }))
    .filter((r) => r.cells.some((c) => c !== ''))
  const head = filled[0]
  if (!head) throw new Problem('bad-file', 'The file is empty.', 'file')
  const header = head.cells
  if (header.length > MAX_COLUMNS)
    throw new Problem('bad-file', `The file has more than ${MAX_COLUMNS} columns.`, 'file')
  const seen = new Set<string>()
  const twice = header.find((h) => h !== '' && (seen.has(h) || !seen.add(h)))
  if (twice) throw new Problem('bad-file', `The file has two columns named "${twice.slice(0, 60)}".`, 'file')
  const rows = filled.slice(1)
  if (rows.length === 0) throw new Problem('bad-file', 'The file has a header but no rows.', 'file')
  if (rows.length > MAX_ROWS)
    throw new Problem('bad-file', `The file has more than ${MAX_ROWS} rows.`, 'file')
  const faults: Table['faults'] = []
  for (const { row, cells } of rows) {
    for (let i = header.length; i < cells.length; i++)
      if (cells[i] !== '')
        faults.push({
          row,
          column: String(i + 1),
          message: `has more cells than the header has columns: "${cells[i]!.slice(0, 40)}"`,
        })
    cells.forEach((cell, i) => {
      if (cell.includes(UNREADABLE))
        faults.push({
          row,
          column: header[i] ?? String(i + 1),
          message: `holds letters that cannot be read: "${cell.slice(0, 40)}"`,
        })
    })
  }
  return { header, rows, faults, remark }
}

/**
 * What sets the columns apart, by the names of the columns: cells below may hold any of them, in lists
 * and as decimal commas.
 */
function delimiterOf(text: string): string {
  const end = text.search(/[\r\n]/)
  const names = (end < 0 ? text : text.slice(0, end)).replace(/"[^"]*"/g, '')
  const count = (delimiter: string) => names.split(delimiter).length
  return [',', ';', '\t'].reduce((best, d) => (count(d) > count(best) ? d : best))
}

/**
 * Reads CSV (comma, semicolon or tab; UTF-8, UTF-16 with its mark, or Windows-1252).
 *
 * @throws Problem `bad-file` when it is no table at all
 */
export function readCsv(bytes: Uint8Array): Table {
  const { text, remark } = decode(bytes)
  if (text.includes('\u0000'))
    throw new Problem('bad-file', 'This is not a table: it holds bytes that no text has.', 'file')
  checkColumns(text.replace(/^\uFEFF/, ''))
  const parsed = Papa.parse<string[]>(text.replace(/^\uFEFF/, ''), {
    delimiter: delimiterOf(text.replace(/^\uFEFF/, '')),
    preview: MAX_ROWS + 2,
  })
  const table = tableOfGrid(parsed.data, remark)
  for (const e of parsed.errors)
    if (e.type === 'Quotes')
      table.faults.push({
        row: (e.row ?? 0) + 1,
        column: table.header[0]!,
        message: 'a quotation mark is not closed',
      })
  return table
}
