import type { Knex } from 'knex'
import { judgeReach } from '#core/embedment/reach'
import type { JudgeOptions } from '#core/judgement/types'
import { findChainFault, type ChainFault } from '#core/record/chain'
import type { Use } from '#core/tracing/uses'
import { chainHeads, entriesOfMany, forCore, headless, type StoredEntry } from '../db/entries'
import { findJoint } from '../db/joints'
import type { Project } from '../db/projects'
import { findNcr, findPack, findReach } from '../db/site'
import { findItem } from '../db/items'
import { findLot } from '../db/lots'
import { usesOfJoint } from '../db/uses'
import { findPlace } from '../db/yard'
import { projectLot } from './lots'
import { makeupOf } from './makeup'
import { projectPlace } from './yard'
import { judgeOptions, projectJoint } from './joints'
import { projectNcr } from './ncrs'
import { projectPack } from './packs'
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

/** What one run reads once: options of the judge by procedure. */
class Reading {
  private readonly options = new Map<string, Promise<JudgeOptions>>()
  constructor(private readonly db: Knex) {}
  optionsFor(project: Project, procedure: string): Promise<JudgeOptions> {
    const key = `${project.id} ${procedure}`
    const known = this.options.get(key) ?? judgeOptions(this.db, project, procedure)
    this.options.set(key, known)
    return known
  }
}

/** Walks every chain of the database and rebuilds every projection. Reads only. */
export async function verifyRecord(db: Knex, projects: Project[]): Promise<VerifyReport> {
  const report: VerifyReport = { subjects: 0, entries: 0, faults: [], stale: [] }
  const reading = new Reading(db)
  for (const lost of await headless(db)) report.faults.push({ ...lost, seq: 0, entry: '', fault: 'its chain head was removed' })
  for (let after = '00000000-0000-0000-0000-000000000000'; ; ) {
    const heads = await chainHeads(db, after, BATCH)
    if (heads.length === 0) break
    after = heads.at(-1)!.subject
    const bySubject = await entriesOfMany(db, heads.map((h) => h.subject))
    for (const head of heads) {
      const entries = bySubject.get(head.subject) ?? []
      report.subjects++
      report.entries += entries.length
      const fault = findChainFault(entries, sha256, head)
      if (fault) report.faults.push({ ...fault, subject: head.subject, subjectType: head.subjectType })
      else report.stale.push(...(await staleOf(db, reading, projects, head.subjectType, head.subject, entries)))
    }
  }
  return report
}

async function staleOf(db: Knex, reading: Reading, projects: Project[], subjectType: string, subject: string, entries: StoredEntry[]): Promise<VerifyReport['stale']> {
  const project = projects.find((p) => p.id === entries[0]?.project)
  if (!project) return [{ subjectType, subject, field: 'project', stored: null, rebuilt: entries[0]?.project }]
  const pairs = await projectionPairs(db, reading, project, subjectType, subject, entries)
  return pairs.filter(([, stored, rebuilt]) => JSON.stringify(stored) !== JSON.stringify(rebuilt)).map(([field, stored, rebuilt]) => ({ subjectType, subject, field, stored, rebuilt }))
}

/** The digest of the document as it was last saved. */
const lastSaved = (entries: StoredEntry[]) => entries.map(forCore).findLast((e) => e.kind === 'draft')?.payload.sha256

const spell = (uses: readonly Use[]) => uses.map((u) => `${u.kind} ${u.value}`).sort()

type Pair = [field: string, stored: unknown, rebuilt: unknown]

async function projectionPairs(db: Knex, reading: Reading, project: Project, subjectType: string, subject: string, entries: StoredEntry[]): Promise<Pair[]> {
  if (subjectType === 'joint') {
    const joint = await findJoint(db, project.id, subject)
    if (!joint?.procedure) return [['joint', null, subject]]
    const compiled = await compiledProcedure(db, project.id, joint.procedure)
    // The state was stored when the last entry came in; clocks are judged as of then.
    const rebuilt = projectJoint(compiled, joint, entries, Date.parse(entries.at(-1)!.receivedAt), await reading.optionsFor(project, compiled.procedure.key))
    return [['state', joint.state, rebuilt.state], ['until', joint.until, rebuilt.until], ['then', joint.then, rebuilt.then], ['testableAt', joint.testableAt, rebuilt.testableAt], ['heldSince', joint.heldSince, rebuilt.heldSince], ['done', joint.done, rebuilt.done], ['drafts', joint.drafts, rebuilt.drafts], ['uses', spell(await usesOfJoint(db, joint.id)), spell(await makeupOf(db, joint, entries))]]
  }
  if (subjectType === 'ncr') {
    const ncr = await findNcr(db, project.id, subject)
    const rebuilt = projectNcr(entries)
    return [['state', ncr?.state, rebuilt.state], ['disposition', ncr?.disposition, rebuilt.disposition], ['reworkedBy', ncr?.reworkedBy, rebuilt.reworkedBy]]
  }
  if (subjectType === 'reach') {
    const reach = await findReach(db, project.id, subject)
    const rebuilt = reach && judgeReach(entries.map(forCore), reach.od, reach.criteria)
    return [['state', reach?.state, rebuilt?.state], ['left', reach?.left, rebuilt?.left], ['right', reach?.right, rebuilt?.right]]
  }
  if (subjectType === 'pack') {
    const pack = await findPack(db, project.id, subject)
    const rebuilt = projectPack(entries)
    return [['state', pack?.state, rebuilt.state], ['verdict', pack?.verdict, rebuilt.verdict], ['logFile', pack?.logFile, rebuilt.logFile], ['signedBy', pack?.signedBy, rebuilt.signedBy]]
  }
  if (subjectType === 'procedure') {
    const row = await findProcedure(db, project.id, subject)
    const rebuilt = projectProcedure(entries)
    return [['state', row?.state, rebuilt.state], ['reviewedBy', row?.reviewedBy, rebuilt.reviewedBy], ['issuedBy', row?.issuedBy, rebuilt.issuedBy], ['sha256', row && sha256(row.source), lastSaved(entries)]]
  }
  if (subjectType === 'lot') {
    const lot = await findLot(db, project.id, { id: subject })
    const rebuilt = projectLot(entries)
    return [['dates', lot && [lot.made, lot.expires, lot.opened], rebuilt.dates ?? [lot?.made ?? null, lot?.expires ?? null, lot?.opened ?? null]], ['quarantinedAt', lot?.quarantinedAt ?? null, rebuilt.quarantinedAt], ['reason', lot?.reason ?? null, rebuilt.reason]]
  }
  if (subjectType === 'place') {
    const place = await findPlace(db, project.id, subject)
    const rebuilt = place && projectPlace(place, entries)
    return [['lastRound', place?.lastRound, rebuilt?.lastRound], ['findings', place?.findings, rebuilt?.findings]]
  }
  if (subjectType === 'item') {
    const item = await findItem(db, project.id, subject)
    return [['state', item?.state, entries.map(forCore).filter((e) => e.kind === 'inspection').at(-1)?.payload.outcome ?? 'received']]
  }
  return []
}
