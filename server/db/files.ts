import type { Knex } from 'knex'

export interface StoredFile {
  id: string
  name: string
  mime: string
  sha256: string
  bytes: Buffer
}

export const insertFile = async (db: Knex, project: string, person: string, f: StoredFile): Promise<void> =>
  void (await db('files').insert({
    id: f.id,
    project,
    name: f.name,
    mime: f.mime,
    sha256: f.sha256,
    size: f.bytes.length,
    bytes: f.bytes,
    person,
    received_at: new Date(),
  }))

export const fileIsThere = async (db: Knex, project: string, id: string): Promise<boolean> =>
  (await db('files').where({ project, id }).first('id')) !== undefined

export const findFile = async (
  db: Knex,
  project: string,
  id: string,
): Promise<(StoredFile & { person: string }) | null> =>
  (await db('files')
    .select('id', 'name', 'mime', 'sha256', 'bytes', 'person')
    .where({ project, id })
    .first()) ?? null

/** Notes that a subject's record names files. */
export async function attach(db: Knex, subject: string, files: readonly string[]): Promise<void> {
  for (const file of files)
    await db.raw('INSERT IGNORE INTO attachments (file, subject) SELECT id, ? FROM files WHERE id = ?', [
      subject,
      file,
    ])
}

/** Whether a record of a crew's own joints, reaches or reports names the file. */
export async function attachedToCrew(db: Knex, file: string, crew: string): Promise<boolean> {
  const query = db('attachments as a')
    .leftJoin('joints as j', 'j.id', 'a.subject')
    .leftJoin('reaches as r', 'r.id', 'a.subject')
    .leftJoin('ncrs as n', 'n.id', 'a.subject')
  return (
    (await query
      .where('a.file', file)
      .whereRaw('COALESCE(j.crew, r.crew, n.crew) = ?', [crew])
      .first('a.file')) !== undefined
  )
}

/** Digests of kept files as they were written, a page at a time, with their bytes. */
export const filesPage = async (
  db: Knex,
  project: string,
  after: string,
  limit = 50,
): Promise<StoredFile[]> =>
  db('files')
    .select('id', 'name', 'mime', 'sha256', 'bytes')
    .where({ project })
    .where('id', '>', after)
    .orderBy('id')
    .limit(limit)
