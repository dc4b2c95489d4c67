import type { Knex } from 'knex'
import { Problem } from '#core/problem'
import { fileIsThere } from '../db/files'

/** A photo that an entry names must have arrived; a name that leads nowhere proves nothing. */
export async function photoIsThere(db: Knex, project: string, photo: unknown, field: string): Promise<void> {
  if (typeof photo === 'string' && !(await fileIsThere(db, project, photo)))
    throw new Problem('not-found', 'The photo is not there: send it again.', field)
}
