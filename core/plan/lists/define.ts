import type { Action } from '../../access'
import type { Table } from '../../files/table'
import { Problem } from '../../problem'
import type { Procedure } from '../../procedure/types'
import type { DimensionKey } from '../../quantity/dimension'
import { nameKey } from '../../record/names'

export interface RowFault {
  row: number
  column: string
  message: string
}

/** A line as lists know it. */
export interface ListedLine {
  key: string
  from: number
  to: number
  material: string
  /** it has a profile: elevations along it are known */
  profiled: boolean
}

/** An instrument as lists know it, with the first days of its calibrations. */
export interface ListedInstrument {
  name: string
  quantity: string
  max: number
  calibrated: readonly string[]
}

/** What a project has already, by the keys under which names are the same. */
export interface Ground {
  lines: ReadonlyMap<string, ListedLine>
  crews: ReadonlyMap<string, string>
  /** names of people by their sign-in names */
  people: ReadonlyMap<string, string>
  /** procedures, and the revision by which work begins now */
  systems: ReadonlyMap<string, { ofReach: boolean; issued: Procedure | null }>
  /** reaches by the key of their line */
  reaches: ReadonlyMap<string, readonly { name: string; from: number; to: number }[]>
  instruments: ReadonlyMap<string, ListedInstrument>
  /** what kind of quantity a fact is, of those that the project's procedures ask for */
  facts: ReadonlyMap<string, DimensionKey | 'word' | 'flag'>
  /** what the list's own rows are called */
  taken: ReadonlySet<string>
}

/** One column: how a person knows it, and how what stands in it is read. */
export interface Column<T = unknown> {
  readonly title: string
  /** what a cell looks like */
  readonly hint?: string
  /** a cell may be empty */
  readonly optional?: boolean
  /** what may be chosen; the form offers it */
  readonly choices?: readonly string[] | ((ground: Ground) => Iterable<string>)
  /** what a quantity is shown in */
  readonly shown?: { dimension: DimensionKey; unit: string }
  /** it is for files; the form does without */
  readonly fileOnly?: boolean
  /** @throws Problem naming `field` */
  read(text: string, field: string, ground: Ground): T
}

type Columns = Record<string, Column>
export type Row<C extends Columns> = {
  [K in keyof C]: C[K] extends Column<infer T> ? (C[K] extends { optional: true } ? T | null : T) : never
}

/**
 * One list that a project is set up with: its form, its file in and its file out are all made from its
 * columns.
 */
export interface PlanList<R = Record<string, unknown>> {
  readonly key: string
  /** what keeping it is: who may is said there */
  readonly act: Action
  /** its rows are planned work, taken off the plan again until something hangs on them */
  readonly planned?: boolean
  readonly title: string
  /** one of it, in a sentence */
  readonly one: string
  readonly columns: Columns
  /** a row as it stands may be put right, with a reason */
  readonly correctable?: boolean
  /** the column that names a row; null where rows have no name of their own */
  readonly name: string | null
  /** what two cells of one row say together @throws Problem naming a column */
  check?(row: R, ground: Ground, before: readonly R[]): void
}

export function defineList<const C extends Columns>(
  list: Omit<PlanList, 'columns' | 'check'> & {
    columns: C
    check?(row: Row<C>, ground: Ground, before: readonly Row<C>[]): void
  },
): PlanList<Row<C>> & { columns: C } {
  return list
}

const spelled = (header: string) =>
  header
    .trim()
    .toLowerCase()
    .replace(/[\s_]+/g, '-')
/** An apostrophe that was put before a text so that no spreadsheet takes it for a formula. */
const plain = (cell: string) => cell.replace(/^'(?=[\s;,|'"]*[=+\-@\t\r\uFF1D\uFF0B\uFF0D\uFF20])/, '').trim()

/** What a column is called in a file. */
export const headerOf = (key: string): string => key.replace(/[A-Z]/g, (letter) => `-${letter.toLowerCase()}`)

/**
 * Reads the rows of a list, each cell by its column. Rows with faults are told one by one, and none of
 * them is taken.
 *
 * @returns what the good rows say, their row numbers beside them, and the columns that nobody asked for
 * @throws Problem `bad-file` where a column is missing
 */
export function readList<R>(
  list: PlanList<R>,
  table: Table,
  ground: Ground,
): { rows: R[]; faults: RowFault[]; ignored: string[] } {
  const columns = Object.entries(list.columns)
  const header = table.header.map(spelled)
  const at = new Map(columns.map(([key]) => [key, header.indexOf(headerOf(key))]))
  const missing = columns.filter(([key, c]) => !c.optional && at.get(key)! < 0)
  if (missing.length > 0)
    throw new Problem(
      'bad-file',
      `The file has no column ${missing.map(([key]) => `"${headerOf(key)}"`).join(', ')}.`,
      'file',
    )
  const known = new Set(columns.map(([key]) => headerOf(key)))
  const faults: RowFault[] = [...table.faults]
  const rows: R[] = []
  const seen = new Map<string, number>()
  for (const { row, cells } of table.rows) {
    const before = faults.length
    const attempt = <T>(column: string, act: () => T): T | null => {
      try {
        return act()
      } catch (error) {
        if (!(error instanceof Problem)) throw error
        const field = error.field !== null && error.field in list.columns ? error.field : column
        faults.push({ row, column: headerOf(field), message: error.named((k) => headerOf(k)) })
        return null
      }
    }
    const read = Object.fromEntries(
      columns.map(([key, column]) => {
        const text = plain(cells[at.get(key)!] ?? '')
        return [
          key,
          attempt(key, () => {
            if (text !== '') return column.read(text, key, ground)
            if (column.optional) return null
            throw new Problem('missing', `{${key}} is missing.`, key)
          }),
        ]
      }),
    ) as R
    if (list.name && faults.length === before) {
      const name = String((read as Record<string, unknown>)[list.name])
      const key = nameKey(name)
      const fault = (message: string) => faults.push({ row, column: headerOf(list.name!), message })
      if (ground.taken.has(key)) fault(`${name} is there already`)
      else if (seen.has(key)) fault(`${name} stands in row ${seen.get(key)} too`)
      else seen.set(key, row)
    }
    if (faults.length === before && list.check) attempt(columns[0]![0], () => list.check!(read, ground, rows))
    if (faults.length === before) rows.push(read)
  }
  return { rows, faults, ignored: table.header.filter((h) => h.trim() && !known.has(spelled(h))) }
}

/** One row as a person typed it into the form, as a table. */
export const tableOf = (list: PlanList<never>, cells: Readonly<Record<string, string>>): Table => ({
  header: Object.keys(list.columns).map(headerOf),
  rows: [{ row: 1, cells: Object.keys(list.columns).map((key) => cells[key] ?? '') }],
  faults: [],
  remark: null,
})
