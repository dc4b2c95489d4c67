import type { Knex } from 'knex'
import { vi } from 'vitest'
import { openJobs } from '../../server/db/jobs'
import { findProject } from '../../server/db/projects'
import { verifyRecord } from '../../server/services/verify'

/** Waits until nothing of a project is still to be judged anew. */
export const jobsDone = (db: Knex, project: string) =>
  vi.waitUntil(async () => (await openJobs(db, project)).length === 0, { timeout: 60_000 })

/** What is found of the record of the demo, once nothing of it is still to be judged anew. */
export async function verified(db: Knex) {
  const project = (await findProject(db, 'skerry-head'))!
  await jobsDone(db, project.id)
  return verifyRecord(db, [project])
}

/** What it is found wrong in: faults, and projections that have gone stale. */
export async function recordOf(db: Knex) {
  const { faults, stale } = await verified(db)
  return [faults, stale]
}
