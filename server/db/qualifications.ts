import type { Knex } from 'knex'
import type { Qualification } from '#core/crew/qualification'

/** What people of a project are qualified for; of one person, or of all. */
export async function qualificationsOf(db: Knex, project: string, person?: string): Promise<Qualification[]> {
  const day = (column: string) => db.raw(`DATE_FORMAT(${column}, '%Y-%m-%d') AS ${column}`)
  return db('qualifications')
    .select('person', { procedure: 'procedure_key', by: 'given_by' }, day('since'), day('until'))
    .where({ project, ...(person === undefined ? {} : { person }) })
    .orderBy(['person', 'procedure_key', 'since'])
}

export const insertQualifications = async (
  db: Knex,
  project: string,
  rows: readonly (Qualification & { id: string })[],
): Promise<void> =>
  void (await db('qualifications')
    .insert(
      rows.map(({ id, person, procedure, since, until, by }) => ({
        ...{ id, project, person, procedure_key: procedure, since, until, given_by: by },
      })),
    )
    .onConflict()
    .merge(['until', 'given_by']))
