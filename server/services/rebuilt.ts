import type { Knex } from 'knex'
import { projectSubject } from '#core/judgement/projection'
import type { JudgeOptions } from '#core/judgement/types'
import type { CompiledProcedure } from '#core/procedure/compile'
import type { SubjectType } from '#core/record/entry'
import type { Use } from '#core/tracing/uses'
import { findDelivery } from '../db/deliveries'
import { forCore, type StoredEntry } from '../db/entries'
import { findItem } from '../db/items'
import { findJoint, type Joint } from '../db/joints'
import { findLot } from '../db/lots'
import { findProcedure } from '../db/procedures'
import type { Project } from '../db/projects'
import { findReach, type Reach } from '../db/reaches'
import { findShift } from '../db/shifts'
import { findNcr, findPack } from '../db/site'
import { usesOfJoint } from '../db/uses'
import { findPlace } from '../db/yard'
import { judgeOptions, ofSubject, type Placed } from './judging'
import { projectLot } from './lots'
import { makeupOf } from './makeup'
import { projectNcr } from './ncr-state'
import { projectPack } from './pack-sheet'
import { compiledProcedure, projectProcedure } from './procedures'
import { sha256 } from './record'
import { projectShift } from './shift-reports'
import { projectPlace } from './yard'

/** What one run reads once: options of the judge by procedure. */
export class Reading {
  private readonly options = new Map<string, Promise<JudgeOptions>>()
  constructor(private readonly db: Knex) {}
  async optionsFor(project: Project, compiled: CompiledProcedure, subject: Placed): Promise<JudgeOptions> {
    const key = `${project.id} ${compiled.procedure.key}`
    const known = this.options.get(key) ?? judgeOptions(this.db, project, compiled.procedure.key)
    this.options.set(key, known)
    return { ...(await known), ...(await ofSubject(this.db, project, compiled, subject)) }
  }
}

/** A field as it is stored beside the entries of its subject, and as those entries give it. */
export type Pair = [field: string, stored: unknown, rebuilt: unknown]

/** One subject, by its id, and its entries. */
export interface Asked {
  db: Knex
  reading: Reading
  project: Project
  subject: string
  entries: StoredEntry[]
}

const pairs = <K extends string>(
  stored: Partial<Record<K, unknown>> | null,
  rebuilt: Record<K, unknown>,
  fields: readonly K[],
): Pair[] => fields.map((field) => [field, stored?.[field], rebuilt[field]])

/** What stands of a joint or a reach. Clocks are judged as of when its last entry came in, as they were then. */
async function judged({ db, reading, project, entries }: Asked, of: Joint | Reach): Promise<Pair[]> {
  const compiled = await compiledProcedure(db, project.id, of.procedure!)
  const at = Date.parse(entries.at(-1)?.receivedAt ?? of.openedAt!)
  const options = await reading.optionsFor(project, compiled, of)
  const standing = projectSubject(compiled, of.facts, entries.map(forCore), at, options)
  const fields = ['state', 'until', 'then', 'testableAt', 'heldSince', 'done', 'drafts'] as const
  return pairs(of, standing, fields)
}
const spell = (uses: readonly Use[]) => uses.map((u) => `${u.kind} ${u.value}`).sort()

/** What is stored of each kind of subject and has to follow from its entries; the others store nothing so. */
export const rebuilt: Partial<Record<SubjectType, (asked: Asked) => Promise<Pair[]>>> = {
  async joint(asked) {
    const { db, project, subject, entries } = asked
    const joint = await findJoint(db, project.id, subject)
    if (!joint?.procedure) return [['joint', null, subject]]
    return [
      ...(await judged(asked, joint)),
      ['uses', spell(await usesOfJoint(db, joint.id)), spell(await makeupOf(db, joint, entries))],
    ]
  },
  async reach(asked) {
    const reach = await findReach(asked.db, asked.project.id, asked.subject)
    return reach?.procedure ? judged(asked, reach) : [['reach', null, asked.subject]]
  },
  async ncr({ db, project, subject, entries }) {
    const ncr = await findNcr(db, project.id, subject)
    return pairs(ncr, projectNcr(entries), ['state', 'disposition', 'due', 'reworkedBy'])
  },
  async pack({ db, project, subject, entries }) {
    const pack = await findPack(db, project.id, subject)
    return pairs(pack, projectPack(entries), ['state', 'verdict', 'logFile', 'signedBy'])
  },
  async procedure({ db, project, subject, entries }) {
    const row = await findProcedure(db, project.id, subject)
    // The digest of the document as it was last saved.
    const saved = entries.map(forCore).findLast((e) => e.kind === 'draft')?.payload.sha256
    return [
      ...pairs(row, projectProcedure(entries), ['state', 'reviewedBy', 'issuedBy']),
      ['sha256', row && sha256(row.source), saved],
    ]
  },
  async lot({ db, project, subject, entries }) {
    const lot = await findLot(db, project.id, { id: subject })
    const { dates, ...rest } = projectLot(entries)
    const stored = [lot?.made ?? null, lot?.expires ?? null, lot?.opened ?? null]
    return [['dates', stored, dates ?? stored], ...pairs(lot, rest, ['quarantinedAt', 'reason'])]
  },
  async shift({ db, project, subject, entries }) {
    const shift = await findShift(db, project.id, { id: subject })
    return [['state', shift?.state, projectShift(entries)]]
  },
  async place({ db, project, subject, entries }) {
    const place = await findPlace(db, project.id, subject)
    return place ? pairs(place, projectPlace(place, entries), ['lastRound', 'findings']) : []
  },
  async delivery({ db, project, subject, entries }) {
    const delivery = await findDelivery(db, project.id, subject)
    return [['signed', delivery?.state === 'signed', entries.some((e) => e.kind === 'signature')]]
  },
  async item({ db, project, subject, entries }) {
    const item = await findItem(db, project.id, subject)
    const last = entries.map(forCore).findLast((e) => e.kind === 'inspection')
    return [['state', item?.state, last?.payload.outcome ?? 'received']]
  },
}
