import type { Knex } from 'knex'
import type { Machine } from '#core/plan/lists/plants'

/** A machine and whose it is. */
export type OwnedMachine = Machine & { crew: string }

/** The machines of a project's crews, or of one crew. */
export const plantsOf = async (db: Knex, project: string, crew?: string): Promise<OwnedMachine[]> =>
  db('plants')
    .where({ project, ...(crew === undefined ? {} : { crew }) })
    .orderBy('name')
    .select('name', 'crew', 'kind', 'mass', { wheelLoad: 'wheel_load' })

export const insertPlants = async (
  db: Knex,
  project: string,
  rows: readonly (OwnedMachine & { id: string })[],
): Promise<void> =>
  void (await db('plants').insert(
    rows.map(({ wheelLoad, ...row }) => ({ ...row, project, wheel_load: wheelLoad })),
  ))
