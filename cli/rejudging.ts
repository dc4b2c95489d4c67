import type { Knex } from 'knex'
import { entriesOf } from '../server/db/entries'
import { findProject } from '../server/db/projects'
import { findSubject, refreshSubject, type WorkedSubject } from '../server/services/subjects'

/** Tables of what is judged, and what they hold. */
const tables: [table: string, type: WorkedSubject][] = [
  ['joints', 'joint'],
  ['reaches', 'reach'],
]

/**
 * After an update that judges otherwise, what is stored of everything open is worked out anew from its
 * record.
 */
export async function rejudgeAll(db: Knex): Promise<number> {
  let count = 0
  for (const key of (await db('projects').pluck('project_key')) as string[]) {
    const project = (await findProject(db, key))!
    for (const [table, type] of tables) {
      const ids = (await db(table)
        .where({ project: project.id })
        .whereNotNull('procedure_id')
        .pluck('id')) as string[]
      for (const id of ids) {
        const subject = (await findSubject(db, project.id, type, id))!
        await refreshSubject(db, project, subject, await entriesOf(db, id))
        count++
      }
    }
  }
  return count
}
