import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { inTransaction } from '../db/connection'
import { entriesOf } from '../db/entries'
import {
  advanceJob,
  claimJob,
  countSubjects,
  endJob,
  findJob,
  holdSubject,
  insertJob,
  subjectIdsAfter,
  type Job,
  type JobReason,
  type JobScope,
} from '../db/jobs'
import { findProjectById, type Project } from '../db/projects'
import type { Actor } from './record'
import { findSubject, refreshSubject, type WorkedSubject } from './subjects'
import { logFault } from '../log'

/** Judging many subjects anew: asked for in a request, worked page by page outside of any. */

const PAGE = 25
const LEASE = 15_000
const worker = uuidv7()

/** Asks for subjects to be judged anew; in the transaction that makes it necessary. */
export async function askRejudge(
  trx: Knex,
  project: Project,
  actor: Actor,
  reason: JobReason,
  scope: JobScope,
): Promise<{ job: string; total: number }> {
  const total = 'all' in scope ? await countSubjects(trx, project.id) : scope.joints.length
  const id = uuidv7()
  await insertJob(trx, { id, project: project.id, reason, scope, total, askedBy: actor.person }, new Date())
  return { job: id, total }
}

type Next = { type: WorkedSubject; id: string }
const tables = { joint: 'joints', reach: 'reaches' } as const

/** The next page of a job's subjects, after the last that was judged. */
async function nextOf(db: Knex, { project, scope, last }: Job): Promise<Next[]> {
  if ('joints' in scope) {
    const at = last === null ? 0 : scope.joints.indexOf(last.split(' ')[1]!) + 1
    return scope.joints.slice(at, at + PAGE).map((id) => ({ type: 'joint', id }))
  }
  const [type, id] = (last ?? 'joint ').split(' ') as [WorkedSubject, string]
  const page = await subjectIdsAfter(db, tables[type], project, id || null, PAGE)
  if (page.length > 0) return page.map((next) => ({ type, id: next }))
  return type === 'joint'
    ? (await subjectIdsAfter(db, 'reaches', project, null, PAGE)).map((next) => ({ type: 'reach', id: next }))
    : []
}

const breathe = () => new Promise<void>((go) => setImmediate(go))

/** Works one page, all or none of it. @returns the job as it has come; null when it is over or lost */
async function workPage(db: Knex, project: Project, job: Job): Promise<Job | null> {
  const page = await nextOf(db, job)
  if (page.length === 0) return null
  const to = {
    done: Math.min(job.total, job.done + page.length),
    last: `${page.at(-1)!.type} ${page.at(-1)!.id}`,
    until: new Date(Date.now() + LEASE),
  }
  const mine = await inTransaction(db, async (trx) => {
    if (!(await advanceJob(trx, job.id, worker, to))) return false
    for (const { type, id } of page) {
      await holdSubject(trx, tables[type], id)
      const subject = await findSubject(trx, project.id, type, id)
      if (subject) await refreshSubject(trx, project, subject, await entriesOf(trx, id))
      // Others are answered between two subjects.
      await breathe()
    }
    return true
  })
  return mine ? { ...job, done: to.done, last: to.last } : null
}

async function workJob(db: Knex, claimed: Job): Promise<void> {
  try {
    for (let job: Job | null = claimed; job;) {
      // What the project says now, not what it said when the job was asked for.
      const project = await findProjectById(db, job.project)
      if (!project) break
      job = await workPage(db, project, job)
    }
    await endJob(db, claimed.id, worker, 'done', new Date())
  } catch (error) {
    logFault(`Job ${claimed.id} failed.`, error)
    await endJob(db, claimed.id, worker, 'failed', new Date(), (error as Error).message)
  }
}

let working: Promise<void> | null = null

/** Works at what is asked for until nothing is left; a second call joins the first. */
export function workJobs(db: Knex): Promise<void> {
  working ??= (async () => {
    for (;;) {
      const now = Date.now()
      const job = await claimJob(db, worker, new Date(now), new Date(now + LEASE))
      if (!job) return
      await workJob(db, job)
    }
  })().finally(() => (working = null))
  return working
}

/** Waits for a job, but not for ever: what is small is done before anybody looks again. */
export async function settleJob(db: Knex, project: string, id: string, most = 1500): Promise<Job['state']> {
  const deadline = Date.now() + most
  void workJobs(db).catch((error: unknown) => logFault('Jobs stopped.', error))
  for (;;) {
    const job = await findJob(db, project, id)
    if (!job || job.state === 'done' || job.state === 'failed' || Date.now() > deadline)
      return job?.state ?? 'failed'
    await new Promise((go) => setTimeout(go, 25))
  }
}
