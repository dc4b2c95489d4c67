import type { Knex } from 'knex'
import { Problem } from '#core/problem'
import { uuidv7 } from 'uuidv7'
import { fileIsThere, findFile, insertFile } from '../db/files'
import { cleanPicture } from './pictures'
import { sha256, type Actor } from './record'

/**
 * Keeps a photo. One with an id of the device that is there already is the same photo, sent again.
 *
 * @throws Problem `bad-file` where it is no whole picture, `id-taken` where the id is of something else
 */
export async function keepPhoto(
  db: Knex,
  actor: Actor,
  sent: { bytes: Buffer; mime: string; id: string | null },
): Promise<{ id: string; sha256: string }> {
  const clean = await cleanPicture(sent.bytes, sent.mime)
  if (!clean) throw new Problem('bad-file', 'A photo must be a whole JPEG, PNG or WebP picture.', 'file')
  const digest = sha256(clean)
  const id = sent.id ?? uuidv7()
  const taken = () => new Problem('id-taken', 'This id is already used for something else.', 'id')
  const before = sent.id ? await findFile(db, actor.project, sent.id) : null
  if (before) {
    if (before.person !== actor.person || before.sha256 !== digest) throw taken()
    return { id, sha256: digest }
  }
  const name = `photo.${sent.mime.split('/')[1]}`
  try {
    await insertFile(db, actor.project, actor.person, {
      id,
      name,
      mime: sent.mime,
      sha256: digest,
      bytes: clean,
    })
  } catch (error) {
    // Another project's, or the same photo sent twice at once: the second learns nothing, and tries again.
    if ((error as { code?: string }).code === 'ER_DUP_ENTRY') throw taken()
    throw error
  }
  return { id, sha256: digest }
}

/** A photo that an entry names must have arrived; a name that leads nowhere proves nothing. */
export async function photoIsThere(db: Knex, project: string, photo: unknown, field: string): Promise<void> {
  if (typeof photo === 'string' && !(await fileIsThere(db, project, photo)))
    throw new Problem('not-found', 'The photo is not there: send it again.', field)
}
