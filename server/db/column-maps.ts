import type { Knex } from 'knex'
import type { Mapping } from '#core/files/columns'

export type FileKind = 'note' | 'order'

export async function rememberedMapping(
  db: Knex,
  project: string,
  kind: FileKind,
  headings: string,
): Promise<Mapping | undefined> {
  const row = await db('column_maps').select('mapping').where({ project, kind, headings }).first()
  return row ? (JSON.parse(row.mapping) as Mapping) : undefined
}

export const rememberMapping = async (
  db: Knex,
  project: string,
  kind: FileKind,
  headings: string,
  mapping: Mapping,
): Promise<void> =>
  void (await db('column_maps')
    .insert({ project, kind, headings, mapping: JSON.stringify(mapping) })
    .onConflict(['project', 'kind', 'headings'])
    .merge(['mapping']))
