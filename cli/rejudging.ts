import type { Knex } from 'knex'
import { entriesOf } from '../server/db/entries'
import { jointsWhere } from '../server/db/joints'
import { findProject } from '../server/db/projects'
import { refreshJoint } from '../server/services/joints'

/**
 * After an update that judges otherwise, what is stored of every open joint is worked out anew from its
 * record.
 */
export async function rejudgeAll(db: Knex): Promise<number> {
  let count = 0
  for (const key of (await db('projects').pluck('project_key')) as string[]) {
    const project = (await findProject(db, key))!
    for (const joint of await jointsWhere(db, { project: project.id })) {
      if (!joint.procedure) continue
      await refreshJoint(db, project, joint, await entriesOf(db, joint.id))
      count++
    }
  }
  return count
}
