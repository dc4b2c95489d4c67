import type { Knex } from 'knex'
import type { SubjectType } from '#core/record/entry'
import { findChainFault, type ChainFault } from '#core/record/chain'
import { lateness, runAfter, type DeviceRun } from '#core/record/late'
import {
  beheaded,
  chainsOfNothing,
  movedUnrecorded,
  openedUnrecorded,
  timedEntries,
  timeKeptSince,
  withoutChain,
  type Stray,
} from '../db/checks'
import { chainHeads, entriesOfMany } from '../db/entries'
import { filesPage } from '../db/files'
import { openJobs } from '../db/jobs'
import type { Project } from '../db/projects'
import { KnownOptions } from './judging'
import { rebuilt, type Recorded } from './rebuilt'
import { sha256 } from './record'

export interface VerifyReport {
  subjects: number
  entries: number
  faults: ChainFault[]
  /** projections that do not follow from the entries */
  stale: { subjectType: string; subject: string; field: string; stored: unknown; rebuilt: unknown }[]
  /** jobs that were judging anew meanwhile: what is stale may be what they had not come to */
  judging: number
}

const BATCH = 200
const FIRST = '00000000-0000-0000-0000-000000000000'

/** Walks every chain of the projects, rebuilds every projection, and looks at times and files. Reads only. */
export async function verifyRecord(db: Knex, projects: Project[]): Promise<VerifyReport> {
  const report: VerifyReport = { subjects: 0, entries: 0, faults: [], stale: [], judging: 0 }
  for (const project of projects) {
    report.judging += (await openJobs(db, project.id)).length
    await verifyRegistry(db, project, report)
    await verifyChains(db, project, report)
    await verifyTimes(db, project, report)
    await verifyFiles(db, project, report)
  }
  return report
}

const fault = (at: Stray, sentence: string): ChainFault => ({
  subject: at.subject,
  subjectType: at.subjectType,
  seq: 0,
  entry: '',
  fault: sentence,
})

/** Every subject has its chain and every chain its subject; what nobody recorded at is as it began. */
async function verifyRegistry(db: Knex, project: Project, report: VerifyReport) {
  for (const at of await withoutChain(db, project.id))
    report.faults.push(fault(at, 'its chain head was removed, or is of another kind or project'))
  for (const at of await chainsOfNothing(db, project.id))
    report.faults.push(fault(at, 'its chain is of nothing in this project'))
  for (const at of await beheaded(db, project.id))
    report.faults.push(fault(at, 'its chain head does not know its entries'))
  report.stale.push(...(await movedUnrecorded(db, project.id)))
  const known = new KnownOptions(db, project)
  const opened = (await openedUnrecorded(db, project.id)).map((subject) => ({ subject, entries: [] }))
  report.stale.push(...(await staleOf(db, known, project, 'joint', opened)))
}

async function verifyChains(db: Knex, project: Project, report: VerifyReport) {
  const known = new KnownOptions(db, project)
  for (let after = FIRST; ;) {
    const heads = await chainHeads(db, project.id, after, BATCH)
    if (heads.length === 0) return
    after = heads.at(-1)!.subject
    const bySubject = await entriesOfMany(
      db,
      heads.map((h) => h.subject),
    )
    /** what has a whole chain, by its kind */
    const whole = new Map<string, Recorded[]>()
    for (const head of heads) {
      const { subject, subjectType } = head
      const entries = bySubject.get(subject) ?? []
      report.subjects++
      report.entries += entries.length
      const found = findChainFault(entries, sha256, head)
      if (found) report.faults.push({ ...found, subject, subjectType })
      else whole.set(subjectType, [...(whole.get(subjectType) ?? []), { subject, entries }])
    }
    for (const [subjectType, recorded] of whole)
      report.stale.push(...(await staleOf(db, known, project, subjectType, recorded)))
  }
}

/** An entry whose time proves nothing says so. */
async function verifyTimes(db: Knex, project: Project, report: VerifyReport) {
  const since = await timeKeptSince(db)
  const runs = new Map<string, DeviceRun>()
  const hands = new Map<string, string>()
  for (let after = 0; ;) {
    const rows = await timedEntries(db, project.id, after, 5000)
    if (rows.length === 0) return
    after = rows.at(-1)!.feed
    for (const row of rows) {
      if (since && row.receivedAt < since) continue
      const timed = {
        recordedAt: row.recordedAt.getTime(),
        stampAt: row.stampAt?.getTime() ?? null,
        number: row.number,
      }
      // A release that was given on the crew's device is one of that device's run in the crew's hands.
      const carried = row.kind === 'release' && row.device !== null ? hands.get(row.device) : undefined
      const key = carried ?? `${row.device} ${row.person}`
      if (row.device !== null) hands.set(row.device, key)
      const run = runs.get(key) ?? null
      // The first entry of a device here may follow others in another project.
      const known =
        run ?? (timed.number === null ? null : { lastNumber: timed.number - 1, lastRecordedAt: 0 })
      const why = lateness(timed, row.receivedAt.getTime(), known, null)
      if (why !== null && row.late === null)
        report.faults.push({
          subject: row.subject,
          subjectType: row.subjectType,
          seq: row.seq,
          entry: row.id,
          fault: 'it came late and is not marked so',
        })
      if (row.device !== null && timed.number !== null) runs.set(key, runAfter(run, timed))
    }
  }
}

/** The bytes of a kept file are those that were taken in. */
async function verifyFiles(db: Knex, project: Project, report: VerifyReport) {
  for (let after = FIRST; ;) {
    const files = await filesPage(db, project.id, after)
    if (files.length === 0) return
    after = files.at(-1)!.id
    for (const file of files) {
      if (sha256(file.bytes) !== file.sha256)
        report.faults.push({
          subject: file.id,
          subjectType: 'file',
          seq: 0,
          entry: '',
          fault: `the bytes of ${file.name} are not those of its digest`,
        })
    }
  }
}

/** Fields of subjects of one kind that do not follow from their entries. */
async function staleOf(
  db: Knex,
  known: KnownOptions,
  project: Project,
  subjectType: string,
  recorded: readonly Recorded[],
): Promise<VerifyReport['stale']> {
  const found = await rebuilt[subjectType as SubjectType]?.({ db, known, project, recorded })
  return [...(found ?? [])].flatMap(([subject, pairs]) =>
    pairs
      .filter(([, stored, rebuilt]) => JSON.stringify(stored) !== JSON.stringify(rebuilt))
      .map(([field, stored, rebuilt]) => ({ subjectType, subject, field, stored, rebuilt })),
  )
}
