import type { Knex } from 'knex'
import { noteColumns, orderColumns } from '#core/delivery/columns'
import { guessMapping, headingsKey, type Column, type Mapping } from '#core/files/columns'
import type { Table } from '#core/files/table'
import { rememberedMapping, rememberMapping, type FileKind } from '../db/column-maps'
import { sha256 } from './record'
import { runHeavy } from './heavy/run'
import type { SentFile } from './heavy/table-files'

const columnsOf: Record<FileKind, readonly Column[]> = { note: noteColumns, order: orderColumns }
const digest = (table: Table) => sha256(headingsKey(table.header))

export interface MappedTable {
  table: Table
  mapping: Mapping
  /** the mapping was made for an earlier file with the same headings */
  remembered: boolean
}

/** Reads a file and finds its columns: as given, as remembered, or by their usual names. */
export async function mapTable(
  db: Knex,
  project: string,
  kind: FileKind,
  file: SentFile,
  given: Mapping | null,
): Promise<MappedTable> {
  const table = await runHeavy('table', file)
  if (given) return { table, mapping: given, remembered: false }
  const kept = await rememberedMapping(db, project, kind, digest(table))
  return { table, mapping: guessMapping(columnsOf[kind], table.header, kept), remembered: kept !== undefined }
}

export const keepMapping = (
  db: Knex,
  project: string,
  kind: FileKind,
  { table, mapping }: MappedTable,
): Promise<void> => rememberMapping(db, project, kind, digest(table), mapping)
