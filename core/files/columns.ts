import { Problem } from '../problem'
import type { Table } from './table'

/** A column that a kind of file may have. `names` are the headings by which it is found without asking. */
export interface Column {
  key: string
  title: string
  names: readonly string[]
  required: boolean
  hint: string
}

/** @param names headings by which the column is found, besides its key and title */
export const column = (
  key: string,
  title: string,
  required: boolean,
  hint: string,
  ...names: string[]
): Column => ({
  key,
  title,
  required,
  hint,
  names: [key, title.toLowerCase(), ...names],
})

/** Which heading of the file gives which column. */
export type Mapping = Record<string, string>

/**
 * Finds columns by their headings. What was remembered from an earlier file with these headings goes
 * first.
 */
export function guessMapping(
  columns: readonly Column[],
  header: readonly string[],
  remembered: Mapping = {},
): Mapping {
  const mapping: Mapping = {}
  const taken = new Set<string>()
  for (const c of columns) {
    const kept = remembered[c.key]
    if (kept !== undefined && header.includes(kept) && !taken.has(kept)) taken.add((mapping[c.key] = kept))
  }
  for (const c of columns) {
    if (mapping[c.key] !== undefined) continue
    const found = header.find((h) => !taken.has(h) && c.names.includes(h.trim().toLowerCase()))
    if (found !== undefined) taken.add((mapping[c.key] = found))
  }
  return mapping
}

/** Files with the same headings are taken to mean the same by them. */
export const headingsKey = (header: readonly string[]): string =>
  header.map((h) => h.trim().toLowerCase()).join('\u001F')

/** Columns that must be there and are not mapped. */
export const unmapped = (columns: readonly Column[], mapping: Mapping): Column[] =>
  columns.filter((c) => c.required && mapping[c.key] === undefined)

/**
 * Reads cells by column.
 *
 * @throws Problem `unmapped` when a column that must be there is not, `bad-mapping` when a heading is not in the file or is used twice
 */
export function cellReader(
  columns: readonly Column[],
  table: Table,
  mapping: Mapping,
): { cell: (cells: readonly string[], key: string) => string; heading: (key: string) => string } {
  const missing = unmapped(columns, mapping)
  if (missing.length > 0)
    throw new Problem(
      'unmapped',
      `Say which column of the file is ${missing.map((c) => `"${c.title}"`).join(', ')}. ` +
        `Columns found: ${table.header.join(', ').slice(0, 200)}.`,
      'mapping',
    )
  const at = new Map<string, number>()
  for (const [key, heading] of Object.entries(mapping)) {
    if (!columns.some((c) => c.key === key))
      throw new Problem('bad-mapping', `There is no column "${key}" in this kind of file.`, `mapping.${key}`)
    const index = table.header.indexOf(heading)
    if (index < 0) throw new Problem('bad-mapping', `The file has no column "${heading}".`, `mapping.${key}`)
    if ([...at.values()].includes(index))
      throw new Problem('bad-mapping', `The column "${heading}" is used twice.`, `mapping.${key}`)
    at.set(key, index)
  }
  return {
    cell: (cells, key) => (at.has(key) ? (cells[at.get(key)!] ?? '') : ''),
    heading: (key) => mapping[key] ?? key,
  }
}
