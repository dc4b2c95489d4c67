import type { Knex } from 'knex'

/** The issued revision that each of some joints and reaches is made by, by their ids; none for what is not open. */
export async function proceduresOf(
  db: Knex,
  project: string,
  ids: readonly string[],
): Promise<ReadonlyMap<string, string>> {
  const of = (table: 'joints' | 'reaches') =>
    db<{ id: string; project: string; procedure_id: string | null }>(table)
      .where({ project })
      .whereIn('id', [...ids])
      .whereNotNull('procedure_id')
      .select('id', 'procedure_id')
  const found = await Promise.all([of('joints'), of('reaches')])
  return new Map(found.flat().map((s) => [s.id, s.procedure_id!]))
}
