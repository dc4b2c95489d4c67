import type { Knex } from 'knex'
import { expect } from 'vitest'
import { findJob } from '../../server/db/jobs'
import { findProject } from '../../server/db/projects'
import { askRejudge, workJobs } from '../../server/services/jobs'
import { jobsDone } from './verified'

/**
 * Keeps the rules of the demo's project as they are now. Who gives them back leaves no joint judged by
 * another rule: the next test meets a true record.
 *
 * @param systems of the joints that the rules made meanwhile were for
 * @returns gives them back
 */
export async function keepRules(db: Knex, systems: readonly string[]): Promise<() => Promise<void>> {
  const { id: project } = (await findProject(db, 'skerry-head'))!
  const { settings } = await db('projects').where({ id: project }).first('settings')
  return async () => {
    // Whoever is at work still judges by the rule of before.
    await jobsDone(db, project)
    await db('projects').where({ id: project }).update({ settings })
    const joints: string[] = await db('joints').where({ project }).whereIn('system', systems).pluck('id')
    const petra = await db('people').where({ sign_in: 'petra' }).first('id', 'name')
    const actor = { person: petra.id, name: petra.name, project, roles: ['engineer' as const], crew: null }
    const known = (await findProject(db, 'skerry-head'))!
    const { job } = await askRejudge(db, known, actor, 'rule', { joints })
    await workJobs(db)
    await jobsDone(db, project)
    expect((await findJob(db, project, job))!.state).toBe('done')
  }
}
