import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { Problem } from '#core/problem'
import { standing } from '#core/judgement/standing'
import { checkVerification } from '#core/judgement/duties'
import type { Entry, Role, SubjectType } from '#core/record/entry'
import { inTransaction } from '../db/connection'
import { entriesOf, forCore, type StoredEntry } from '../db/entries'
import { findJoint } from '../db/joints'
import { peopleOf, type Project } from '../db/projects'
import {
  findNcr,
  findPack,
  findReach,
  insertNcr,
  nextNcrNumber,
  saveNcr,
  type Disposition,
  type Ncr,
  type NcrProjection,
} from '../db/site'
import { refreshJoint } from './joints'
import { photoIsThere } from './photos'
import { actingRole, appendAfter, appendEntries, type Actor, type NewEntry } from './record'

/** The state of a report from its entries. */
export function projectNcr(entries: StoredEntry[]): NcrProjection {
  const out: NcrProjection = { state: 'open', disposition: null, reworkedBy: null, closedAt: null }
  for (const e of standing(entries.map(forCore))) {
    if (e.kind === 'disposition')
      Object.assign(out, { state: 'disposed', disposition: e.payload.disposition, reworkedBy: null })
    if (e.kind === 'rework') Object.assign(out, { state: 'reworked', reworkedBy: e.person })
    if (e.kind === 'verification')
      Object.assign(
        out,
        e.payload.accepted === true
          ? { state: 'closed', closedAt: new Date(e.recordedAt) }
          : { state: 'disposed', reworkedBy: null },
      )
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

async function placeOf(
  db: Knex,
  actor: Actor,
  raise: Raise,
): Promise<{ place: string; crew: string | null }> {
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
export async function raiseNcr(
  db: Knex,
  project: Project,
  actor: Actor,
  raise: Raise,
  now = new Date(),
): Promise<string> {
  const role = actingRole(actor, ['inspector', 'crew-lead', 'engineer'])
  const { place, crew } = await placeOf(db, actor, raise)
  await photoIsThere(db, project.id, raise.photo, 'photo')
  if (actor.crew && crew !== actor.crew)
    throw new Problem('not-found', 'There is nothing here to report on.', 'subject')
  const write = () =>
    inTransaction(db, async (trx) => {
      if (await findNcr(trx, project.id, raise.id)) return raise.id
      const number = await nextNcrNumber(trx, project.id)
      await insertNcr(trx, project.id, {
        id: raise.id,
        number,
        subjectType: raise.subjectType,
        subject: raise.subject,
        step: raise.step,
        crew,
        place,
        criterion: raise.criterion,
        reading: raise.reading,
        raisedBy: actor.person,
        raisedAt: now.toISOString(),
      })
      await appendEntries(trx, actor, role, 'ncr', raise.id, [
        {
          id: uuidv7(),
          kind: 'raise',
          payload: { number, place, criterion: raise.criterion, reading: raise.reading, photo: raise.photo },
          recordedAt: now,
          receivedAt: now,
        },
      ])
      const { entries } = await appendEntries(trx, actor, role, raise.subjectType, raise.subject, [
        {
          id: uuidv7(),
          kind: 'ncr',
          step: raise.step,
          payload: { event: 'raised', ncr: raise.id, number },
          recordedAt: now,
          receivedAt: now,
        },
      ])
      const joint = raise.subjectType === 'joint' ? await findJoint(trx, project.id, raise.subject) : null
      if (joint) await refreshJoint(trx, project, joint, entries)
      return raise.id
    })
  try {
    return await write()
  } catch (error) {
    // The same report came a second time while the first was being written.
    const taken =
      (error as { errno?: number }).errno === 1062 || (error instanceof Problem && error.code === 'id-taken')
    if (taken && (await findNcr(db, project.id, raise.id))) return raise.id
    throw error
  }
}

async function visibleNcr(db: Knex, actor: Actor, id: string): Promise<Ncr> {
  const ncr = await findNcr(db, actor.project, id)
  if (!ncr || (actor.crew && ncr.crew !== actor.crew))
    throw new Problem('not-found', 'There is no such report.', 'ncr')
  return ncr
}

const wrongState = (ncr: Ncr, { state }: NcrProjection, wanted: string): never => {
  throw new Problem('wrong-state', `${ncr.number} is ${state}; ${wanted}.`, 'ncr')
}

/** Appends to a report when its state allows it, and writes its state anew. */
async function append(
  trx: Knex,
  actor: Actor,
  role: Role,
  ncr: Ncr,
  entry: NewEntry,
  allowed: (now: NcrProjection, before: Entry[]) => void,
): Promise<void> {
  const { entries } = await appendAfter(trx, actor, role, 'ncr', ncr.id, [entry], (before) =>
    allowed(projectNcr(before), before.map(forCore)),
  )
  await saveNcr(trx, ncr.id, projectNcr(entries))
}

/** The engineer decides what happens. */
export async function disposeNcr(
  db: Knex,
  actor: Actor,
  id: string,
  disposition: Disposition,
  reason: string,
  now = new Date(),
): Promise<void> {
  const role = actingRole(actor, ['engineer'])
  const ncr = await visibleNcr(db, actor, id)
  const entry: NewEntry = {
    id: uuidv7(),
    kind: 'disposition',
    payload: { disposition, reason },
    recordedAt: now,
    receivedAt: now,
  }
  await inTransaction(db, (trx) =>
    append(
      trx,
      actor,
      role,
      ncr,
      entry,
      (at) => at.state === 'closed' && wrongState(ncr, at, 'a closed report is not decided again'),
    ),
  )
}

/** The crew answers: what was done. */
export async function reworkNcr(
  db: Knex,
  actor: Actor,
  id: string,
  text: string,
  photo: string | null,
  now = new Date(),
): Promise<void> {
  const role = actingRole(actor, ['crew-lead', 'inspector'])
  const ncr = await visibleNcr(db, actor, id)
  await photoIsThere(db, actor.project, photo, 'photo')
  const entry: NewEntry = {
    id: uuidv7(),
    kind: 'rework',
    payload: { text, photo },
    recordedAt: now,
    receivedAt: now,
  }
  await inTransaction(db, (trx) =>
    append(
      trx,
      actor,
      role,
      ncr,
      entry,
      (at) =>
        at.state !== 'disposed' && wrongState(ncr, at, 'work is answered after the engineer has decided'),
    ),
  )
}

/** Somebody who did not do the rework verifies it; accepted closes the report and frees the step. */
export async function verifyNcr(
  db: Knex,
  project: Project,
  actor: Actor,
  id: string,
  accepted: boolean,
  text: string,
  now = new Date(),
): Promise<void> {
  const role = actingRole(actor, ['inspector'])
  const ncr = await visibleNcr(db, actor, id)
  const verification: NewEntry = {
    id: uuidv7(),
    kind: 'verification',
    payload: { accepted, text },
    recordedAt: now,
    receivedAt: now,
  }
  const closing: NewEntry = {
    id: uuidv7(),
    kind: 'ncr',
    step: ncr.step,
    payload: { event: 'closed', ncr: id, number: ncr.number, disposition: ncr.disposition },
    recordedAt: now,
    receivedAt: now,
  }
  await inTransaction(db, async (trx) => {
    await append(trx, actor, role, ncr, verification, (at, before) => {
      if (at.state !== 'reworked') wrongState(ncr, at, 'only work that was answered can be verified')
      checkVerification(before, actor.person)
      closing.payload.disposition = at.disposition
    })
    if (!accepted) return
    const about = await appendEntries(trx, actor, role, ncr.subjectType as SubjectType, ncr.subject, [
      closing,
    ])
    const joint = ncr.subjectType === 'joint' ? await findJoint(trx, project.id, ncr.subject) : null
    if (joint) await refreshJoint(trx, project, joint, about.entries)
  })
}

export async function ncrSheet(db: Knex, actor: Actor, id: string) {
  const ncr = await visibleNcr(db, actor, id)
  const [entries, people] = await Promise.all([entriesOf(db, id), peopleOf(db, actor.project)])
  return {
    ncr,
    people: Object.fromEntries(people.map((p) => [p.id, p.name])),
    entries: entries.map((e) => ({ ...forCore(e), seq: e.seq, hash: e.hash })),
  }
}
