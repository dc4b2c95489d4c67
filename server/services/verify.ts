import type { Knex } from 'knex'
import type { JudgeOptions } from '#core/judgement/types'
import { findChainFault, type ChainFault } from '#core/record/chain'
import { lateness, runAfter, type DeviceRun } from '#core/record/late'
import type { Use } from '#core/tracing/uses'
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
import { findDelivery } from '../db/deliveries'
import { chainHeads, entriesOfMany, forCore, type StoredEntry } from '../db/entries'
import { filesPage } from '../db/files'
import { findJoint } from '../db/joints'
import type { Project } from '../db/projects'
import { findNcr, findPack } from '../db/site'
import { findReach } from '../db/reaches'
import { findItem } from '../db/items'
import { findLot } from '../db/lots'
import { usesOfJoint } from '../db/uses'
import { findPlace } from '../db/yard'
import { projectLot } from './lots'
import { makeupOf } from './makeup'
import { projectPlace } from './yard'
import { projectSubject, type Projection } from '#core/judgement/projection'
import type { CompiledProcedure } from '#core/procedure/compile'
import { judgeOptions, ofSubject, type Placed } from './judging'
import { projectNcr } from './ncr-state'
import { findShift } from '../db/shifts'
import { projectPack } from './pack-sheet'
import { projectShift } from './shift-reports'
import { findProcedure } from '../db/procedures'
import { compiledProcedure, projectProcedure } from './procedures'
import { sha256 } from './record'

export interface VerifyReport {
  subjects: number
  entries: number
  faults: ChainFault[]
  /** projections that do not follow from the entries */
  stale: { subjectType: string; subject: string; field: string; stored: unknown; rebuilt: unknown }[]
}

const BATCH = 200
const FIRST = '00000000-0000-0000-0000-000000000000'

/** What one run reads once: options of the judge by procedure. */
class Reading {
  private readonly options = new Map<string, Promise<JudgeOptions>>()
  constructor(private readonly db: Knex) {}
  async optionsFor(project: Project, compiled: CompiledProcedure, subject: Placed): Promise<JudgeOptions> {
    const key = `${project.id} ${compiled.procedure.key}`
    const known = this.options.get(key) ?? judgeOptions(this.db, project, compiled.procedure.key)
    this.options.set(key, known)
    return { ...(await known), ...(await ofSubject(this.db, project, compiled, subject)) }
  }
}

/** Walks every chain of the projects, rebuilds every projection, and looks at times and files. Reads only. */
export async function verifyRecord(db: Knex, projects: Project[]): Promise<VerifyReport> {
  const report: VerifyReport = { subjects: 0, entries: 0, faults: [], stale: [] }
  for (const project of projects) {
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
  const reading = new Reading(db)
  for (const id of await openedUnrecorded(db, project.id))
    report.stale.push(...(await staleOf(db, reading, project, 'joint', id, [])))
}

async function verifyChains(db: Knex, project: Project, report: VerifyReport) {
  const reading = new Reading(db)
  for (let after = FIRST; ;) {
    const heads = await chainHeads(db, project.id, after, BATCH)
    if (heads.length === 0) return
    after = heads.at(-1)!.subject
    const bySubject = await entriesOfMany(
      db,
      heads.map((h) => h.subject),
    )
    for (const head of heads) {
      const entries = bySubject.get(head.subject) ?? []
      report.subjects++
      report.entries += entries.length
      const found = findChainFault(entries, sha256, head)
      if (found) report.faults.push({ ...found, subject: head.subject, subjectType: head.subjectType })
      else
        report.stale.push(...(await staleOf(db, reading, project, head.subjectType, head.subject, entries)))
    }
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

async function staleOf(
  db: Knex,
  reading: Reading,
  project: Project,
  subjectType: string,
  subject: string,
  entries: StoredEntry[],
): Promise<VerifyReport['stale']> {
  const pairs = await projectionPairs(db, reading, project, subjectType, subject, entries)
  return pairs
    .filter(([, stored, rebuilt]) => JSON.stringify(stored) !== JSON.stringify(rebuilt))
    .map(([field, stored, rebuilt]) => ({ subjectType, subject, field, stored, rebuilt }))
}

/** The digest of the document as it was last saved. */
const lastSaved = (entries: StoredEntry[]) =>
  entries.map(forCore).findLast((e) => e.kind === 'draft')?.payload.sha256

const spell = (uses: readonly Use[]) => uses.map((u) => `${u.kind} ${u.value}`).sort()

type Pair = [field: string, stored: unknown, rebuilt: unknown]

/** What is stored of a judged subject, and what its entries give. */
const projected = (stored: Projection, rebuilt: Projection): Pair[] =>
  (['state', 'until', 'then', 'testableAt', 'heldSince', 'done', 'drafts'] as const).map((field) => [
    field,
    stored[field],
    rebuilt[field],
  ])

async function projectionPairs(
  db: Knex,
  reading: Reading,
  project: Project,
  subjectType: string,
  subject: string,
  entries: StoredEntry[],
): Promise<Pair[]> {
  if (subjectType === 'joint') {
    const joint = await findJoint(db, project.id, subject)
    if (!joint?.procedure) return [['joint', null, subject]]
    const compiled = await compiledProcedure(db, project.id, joint.procedure)
    // The state was stored when the last entry came in; clocks are judged as of then.
    const at = Date.parse(entries.at(-1)?.receivedAt ?? joint.openedAt!)
    const rebuilt = projectSubject(
      compiled,
      joint.facts,
      entries.map(forCore),
      at,
      await reading.optionsFor(project, compiled, joint),
    )
    return [
      ...projected(joint, rebuilt),
      ['uses', spell(await usesOfJoint(db, joint.id)), spell(await makeupOf(db, joint, entries))],
    ]
  }
  if (subjectType === 'ncr') {
    const ncr = await findNcr(db, project.id, subject)
    const rebuilt = projectNcr(entries)
    return [
      ['state', ncr?.state, rebuilt.state],
      ['disposition', ncr?.disposition, rebuilt.disposition],
      ['due', ncr?.due, rebuilt.due],
      ['reworkedBy', ncr?.reworkedBy, rebuilt.reworkedBy],
    ]
  }
  if (subjectType === 'reach') {
    const reach = await findReach(db, project.id, subject)
    if (!reach?.procedure) return [['reach', null, subject]]
    const compiled = await compiledProcedure(db, project.id, reach.procedure)
    return projected(
      reach,
      projectSubject(
        compiled,
        reach.facts,
        entries.map(forCore),
        Date.parse(entries.at(-1)?.receivedAt ?? reach.openedAt!),
        await reading.optionsFor(project, compiled, reach),
      ),
    )
  }
  if (subjectType === 'pack') {
    const pack = await findPack(db, project.id, subject)
    const rebuilt = projectPack(entries)
    return [
      ['state', pack?.state, rebuilt.state],
      ['verdict', pack?.verdict, rebuilt.verdict],
      ['logFile', pack?.logFile, rebuilt.logFile],
      ['signedBy', pack?.signedBy, rebuilt.signedBy],
    ]
  }
  if (subjectType === 'procedure') {
    const row = await findProcedure(db, project.id, subject)
    const rebuilt = projectProcedure(entries)
    return [
      ['state', row?.state, rebuilt.state],
      ['reviewedBy', row?.reviewedBy, rebuilt.reviewedBy],
      ['issuedBy', row?.issuedBy, rebuilt.issuedBy],
      ['sha256', row && sha256(row.source), lastSaved(entries)],
    ]
  }
  if (subjectType === 'lot') {
    const lot = await findLot(db, project.id, { id: subject })
    const rebuilt = projectLot(entries)
    return [
      [
        'dates',
        lot && [lot.made, lot.expires, lot.opened],
        rebuilt.dates ?? [lot?.made ?? null, lot?.expires ?? null, lot?.opened ?? null],
      ],
      ['quarantinedAt', lot?.quarantinedAt ?? null, rebuilt.quarantinedAt],
      ['reason', lot?.reason ?? null, rebuilt.reason],
    ]
  }
  if (subjectType === 'shift') {
    const shift = await findShift(db, project.id, { id: subject })
    return [['state', shift?.state, projectShift(entries)]]
  }
  if (subjectType === 'place') {
    const place = await findPlace(db, project.id, subject)
    const rebuilt = place && projectPlace(place, entries)
    return [
      ['lastRound', place?.lastRound, rebuilt?.lastRound],
      ['findings', place?.findings, rebuilt?.findings],
    ]
  }
  if (subjectType === 'delivery') {
    const delivery = await findDelivery(db, project.id, subject)
    const signature = entries.findLast((e) => e.kind === 'signature')
    return [['signed', delivery?.state === 'signed', signature !== undefined]]
  }
  if (subjectType === 'item') {
    const item = await findItem(db, project.id, subject)
    return [
      [
        'state',
        item?.state,
        entries
          .map(forCore)
          .filter((e) => e.kind === 'inspection')
          .at(-1)?.payload.outcome ?? 'received',
      ],
    ]
  }
  return []
}
