import type { Knex } from 'knex'
import type { Summary } from '#core/judgement/projection'

/** A subject with what its points ask for. */
export interface Pointed {
  id: string
  of: 'joint' | 'reach'
  name: string
  system: string
  crew: string | null
  alignment: string
  summary: Pick<Summary, 'asked' | 'reviews' | 'watches'>
}

const tables = [
  { table: 'joints', of: 'joint', name: 'number' },
  { table: 'reaches', of: 'reach', name: 'name' },
] as const

/**
 * Subjects whose summary has something at a key, of one kind after the other, the oldest id first.
 *
 * @param key part of the summary that is not there where it asks for nothing
 */
export async function pointedAt(
  db: Knex,
  project: string,
  key: 'asked' | 'reviews' | 'watches',
): Promise<Pointed[]> {
  const parts = await Promise.all(
    tables.map(async ({ table, of, name }) => {
      const rows = (await db(table)
        .where({ project })
        .whereNot('state', 'withdrawn')
        .whereRaw(`JSON_EXISTS(summary, '$.${key}')`)
        .orderBy('id')
        .select('id', 'system', 'crew', 'alignment', { name })
        .select(db.raw(`JSON_EXTRACT(summary, '$.${key}') AS part`))) as (Omit<Pointed, 'of' | 'summary'> & {
        part: string
      })[]
      return rows.map(({ part, ...row }): Pointed => ({ ...row, of, summary: { [key]: JSON.parse(part) } }))
    }),
  )
  return parts.flat()
}
