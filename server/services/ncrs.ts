import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { Problem } from '#core/problem'
import { standing } from '#core/judgement/standing'
import type { SubjectType } from '#core/record/entry'
import { inTransaction } from '../db/connection'
import { entriesOf, forCore, type StoredEntry } from '../db/entries'
import { findJoint } from '../db/joints'
import { peopleOf, type Project } from '../db/projects'
import { findNcr, findPack, findReach, insertNcr, nextNcrNumber, saveNcr, type Disposition, type Ncr, type NcrProjection } from '../db/site'
import { refreshJoint } from './joints'
import { actingRole, appendEntries, type Actor } from './record'

/** The state of a report from its entries. */
export function projectNcr(entries: StoredEntry[]): NcrProjection {
  const out: NcrProjection = { state: 'open', disposition: null, reworkedBy: null, closedAt: null }
  for (const e of standing(entries.map(forCore))) {
    if (e.kind === 'disposition') Object.assign(out, { state: 'disposed', disposition: e.payload.disposition, reworkedBy: null })
    if (e.kind === 'rework') Object.assign(out, { state: 'reworked', reworkedBy: e.person })
    if (e.kind === 'verification') Object.assign(out, e.payload.accepted === true ? { state: 'closed', closedAt: new Date(e.recordedAt) } : { state: 'disposed', reworkedBy: null })
  }
  return out
}

export interface Raise {
  id: string
  subjectType: SubjectType
  subject: string
  step: string | null
  criterion: string
  reading: string
  photo: string | null
}

async function placeOf(db: Knex, actor: Actor, raise: Raise): Promise<{ place: string; crew: string | null }> {
  const project = actor.project
  const joint = raise.subjectType === 'joint' ? await findJoint(db, project, raise.subject) : null
  if (joint) return { place: `Joint ${joint.number}`, crew: joint.crew }
  const reach = raise.subjectType === 'reach' ? await findReach(db, project, raise.subject) : null
  if (reach) return { place: reach.name, crew: reach.crew }
  const pack = raise.subjectType === 'pack' ? await findPack(db, project, raise.subject) : null
  if (pack) return { place: `Test pack ${pack.number}`, crew: null }
  throw new Problem('not-found', 'There is nothing here to report on.', 'subject')
}

/** Raises a drafted nonconformance: a report of its own, and an entry on what it is about. */
export async function raiseNcr(db: Knex, project: Project, actor: Actor, raise: Raise, now = new Date()): Promise<string> {
  const role = actingRole(actor, ['inspector', 'crew-lead', 'engineer'])
  const { place, crew } = await placeOf(db, actor, raise)
  if (actor.crew && crew !== actor.crew) throw new Problem('not-found', 'There is nothing here to report on.', 'subject')
  return inTransaction(db, async (trx) => {
    const known = await findNcr(trx, project.id, raise.id)
    if (known) return known.id
    const number = await nextNcrNumber(trx, project.id)
    await insertNcr(trx, project.id, { id: raise.id, number, subjectType: raise.subjectType, subject: raise.subject, step: raise.step, crew, place, criterion: raise.criterion, reading: raise.reading, raisedBy: actor.person, raisedAt: now.toISOString() })
    await appendEntries(trx, actor, role, 'ncr', raise.id, [{ id: uuidv7(), kind: 'raise', payload: { number, place, criterion: raise.criterion, reading: raise.reading, photo: raise.photo }, recordedAt: now }])
    const { entries } = await appendEntries(trx, actor, role, raise.subjectType, raise.subject, [{ id: uuidv7(), kind: 'ncr', step: raise.step, payload: { event: 'raised', ncr: raise.id, number }, recordedAt: now }])
    const joint = raise.subjectType === 'joint' ? await findJoint(trx, project.id, raise.subject) : null
    if (joint) await refreshJoint(trx, project, joint, entries)
    return raise.id
  })
}

async function visibleNcr(db: Knex, actor: Actor, id: string): Promise<Ncr> {
  const ncr = await findNcr(db, actor.project, id)
  if (!ncr || (actor.crew && ncr.crew !== actor.crew)) throw new Problem('not-found', 'There is no such report.', 'ncr')
  return ncr
}

const wrongState = (ncr: Ncr, wanted: string): never => {
  throw new Problem('wrong-state', `${ncr.number} is ${ncr.state}; ${wanted}.`, 'ncr')
}

/** The engineer decides what happens. */
export async function disposeNcr(db: Knex, actor: Actor, id: string, disposition: Disposition, reason: string, now = new Date()): Promise<void> {
  const role = actingRole(actor, ['engineer'])
  const ncr = await visibleNcr(db, actor, id)
  if (ncr.state === 'closed') wrongState(ncr, 'a closed report is not decided again')
  await inTransaction(db, async (trx) => {
    const { entries } = await appendEntries(trx, actor, role, 'ncr', id, [{ id: uuidv7(), kind: 'disposition', payload: { disposition, reason }, recordedAt: now }])
    await saveNcr(trx, id, projectNcr(entries))
  })
}

/** The crew answers: what was done. */
export async function reworkNcr(db: Knex, actor: Actor, id: string, text: string, photo: string | null, now = new Date()): Promise<void> {
  const role = actingRole(actor, ['crew-lead', 'inspector'])
  const ncr = await visibleNcr(db, actor, id)
  if (ncr.state !== 'disposed') wrongState(ncr, 'work is answered after the engineer has decided')
  await inTransaction(db, async (trx) => {
    const { entries } = await appendEntries(trx, actor, role, 'ncr', id, [{ id: uuidv7(), kind: 'rework', payload: { text, photo }, recordedAt: now }])
    await saveNcr(trx, id, projectNcr(entries))
  })
}

/** Somebody who did not do the rework verifies it; accepted closes the report and frees the step. */
export async function verifyNcr(db: Knex, project: Project, actor: Actor, id: string, accepted: boolean, text: string, now = new Date()): Promise<void> {
  const role = actingRole(actor, ['inspector'])
  const ncr = await visibleNcr(db, actor, id)
  if (ncr.state !== 'reworked') wrongState(ncr, 'only work that was answered can be verified')
  if (ncr.reworkedBy === actor.person) throw new Problem('own-work', 'Nobody verifies rework that they did themselves: another inspector must look.', 'ncr')
  await inTransaction(db, async (trx) => {
    const { entries } = await appendEntries(trx, actor, role, 'ncr', id, [{ id: uuidv7(), kind: 'verification', payload: { accepted, text }, recordedAt: now }])
    await saveNcr(trx, id, projectNcr(entries))
    if (!accepted) return
    const about = await appendEntries(trx, actor, role, ncr.subjectType as SubjectType, ncr.subject, [{ id: uuidv7(), kind: 'ncr', step: ncr.step, payload: { event: 'closed', ncr: id, number: ncr.number, disposition: ncr.disposition }, recordedAt: now }])
    const joint = ncr.subjectType === 'joint' ? await findJoint(trx, project.id, ncr.subject) : null
    if (joint) await refreshJoint(trx, project, joint, about.entries)
  })
}

export async function ncrSheet(db: Knex, actor: Actor, id: string) {
  const ncr = await visibleNcr(db, actor, id)
  const [entries, people] = await Promise.all([entriesOf(db, id), peopleOf(db, actor.project)])
  return { ncr, people: Object.fromEntries(people.map((p) => [p.id, p.name])), entries: entries.map((e) => ({ ...forCore(e), seq: e.seq, hash: e.hash })) }
}
