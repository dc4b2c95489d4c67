import type { Knex } from 'knex'

/** Which subjects a job goes through: all of the project, or those named. */
export type JobScope = { all: true } | { joints: string[] }
export type JobReason = 'rule' | 'calibration' | 'lot'

export interface Job {
  id: string
  project: string
  reason: JobReason
  scope: JobScope
  total: number
  done: number
  /** where it has come to: the last subject that was judged */
  last: string | null
  state: 'waiting' | 'running' | 'done' | 'failed'
  askedAt: string
  finishedAt: string | null
}

const columns = [
  'id',
  'project',
  'reason',
  'scope',
  'total',
  'done',
  'last_id',
  'state',
  'asked_at',
  'finished_at',
]
const job = (r: Record<string, unknown>): Job => ({
  id: r.id as string,
  project: r.project as string,
  reason: r.reason as JobReason,
  scope: JSON.parse(r.scope as string) as JobScope,
  total: r.total as number,
  done: r.done as number,
  last: r.last_id as string | null,
  state: r.state as Job['state'],
  askedAt: (r.asked_at as Date).toISOString(),
  finishedAt: (r.finished_at as Date | null)?.toISOString() ?? null,
})

export async function insertJob(
  trx: Knex,
  j: Pick<Job, 'id' | 'project' | 'reason' | 'scope' | 'total'> & { askedBy: string },
  at: Date,
): Promise<void> {
  await trx('jobs').insert({
    id: j.id,
    project: j.project,
    reason: j.reason,
    scope: JSON.stringify(j.scope),
    total: j.total,
    asked_by: j.askedBy,
    asked_at: at,
  })
}

/** Takes the oldest job that nobody works at; null when there is none. */
export async function claimJob(db: Knex, worker: string, now: Date, until: Date): Promise<Job | null> {
  await db.raw(
    `UPDATE jobs SET worker = ?, lease_until = ?, state = 'running'
     WHERE state IN ('waiting', 'running') AND (lease_until IS NULL OR lease_until < ?)
     ORDER BY asked_at, id LIMIT 1`,
    [worker, until, now],
  )
  const row = (await db('jobs')
    .select(columns)
    .where({ worker, state: 'running', lease_until: until })
    .first()) as Record<string, unknown> | undefined
  return row ? job(row) : null
}

/** Writes how far a job has come, if it is still this worker's. */
export async function advanceJob(
  trx: Knex,
  id: string,
  worker: string,
  to: { done: number; last: string; until: Date },
): Promise<boolean> {
  const changed = await trx('jobs')
    .where({ id, worker, state: 'running' })
    .update({ done: to.done, last_id: to.last, lease_until: to.until })
  return changed === 1
}

export async function endJob(
  db: Knex,
  id: string,
  worker: string,
  state: 'done' | 'failed',
  at: Date,
  error: string | null = null,
): Promise<void> {
  await db('jobs')
    .where({ id, worker, state: 'running' })
    .update({ state, finished_at: at, lease_until: null, error: error?.slice(0, 400) ?? null })
}

export async function findJob(db: Knex, project: string, id: string): Promise<Job | null> {
  const row = (await db('jobs').select(columns).where({ project, id }).first()) as
    Record<string, unknown> | undefined
  return row ? job(row) : null
}

/** Jobs of a project that are not done, the oldest first. */
export async function openJobs(db: Knex, project: string): Promise<Job[]> {
  const rows = (await db('jobs')
    .select(columns)
    .where({ project })
    .whereIn('state', ['waiting', 'running'])
    .orderBy('asked_at')
    .limit(20)) as Record<string, unknown>[]
  return rows.map(job)
}

/** The next subjects of a kind after one, by id. */
export async function subjectIdsAfter(
  db: Knex,
  table: 'joints' | 'reaches',
  project: string,
  after: string | null,
  limit: number,
): Promise<string[]> {
  const query = db(table).where({ project }).whereNotNull('procedure_id').orderBy('id').limit(limit)
  if (after) void query.where('id', '>', after)
  return (await query.pluck('id')) as string[]
}

export async function countSubjects(db: Knex, project: string): Promise<number> {
  const counts = await Promise.all(
    ['joints', 'reaches'].map((t) => db(t).where({ project }).whereNotNull('procedure_id').count('* as n')),
  )
  return counts.reduce((sum, [row]) => sum + Number((row as unknown as { n: number }).n), 0)
}

/** Holds the row of a subject until the unit of work ends, so that its record does not grow meanwhile. */
export async function holdSubject(trx: Knex, table: 'joints' | 'reaches', id: string): Promise<void> {
  await trx(table).where({ id }).forUpdate().first('id')
}
