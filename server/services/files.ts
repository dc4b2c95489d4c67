import type { Knex } from 'knex'
import { Problem } from '#core/problem'
import { attachedToCrew, findFile, type StoredFile } from '../db/files'
import type { Actor } from './record'

/**
 * A file, if this person may see it: a crew sees its own pictures, and those that records of its own work
 * name.
 */
export async function visibleFile(db: Knex, project: string, actor: Actor, id: string): Promise<StoredFile> {
  const file = await findFile(db, project, id)
  const may =
    file !== null &&
    (actor.crew === null ||
      file.person === actor.person ||
      (file.mime.startsWith('image/') && (await attachedToCrew(db, id, actor.crew))))
  if (!file || !may) throw new Problem('not-found', 'There is no such file.', 'file')
  return file
}
