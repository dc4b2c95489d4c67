import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { LOOKED_BACK, type Cause } from '#core/ncr/causes'
import { clientWord } from '#core/ncr/concession'
import { Problem } from '#core/problem'
import { isDay } from '#core/quantity/day'
import { standing } from '#core/judgement/standing'
import { checkVerification } from '#core/judgement/duties'
import { draftOfTest } from '#core/pressure/draft'
import type { Role } from '#core/access'
import type { Entry, SubjectType } from '#core/record/entry'
import { inTransaction } from '../db/connection'
import { entriesOf, forCore } from '../db/entries'
import { peopleOf, type Project } from '../db/projects'
import {
  findNcr,
  insertNcr,
  nextNcrNumber,
  saveNcr,
  type Disposition,
  type Ncr,
  type NcrProjection,
} from '../db/ncrs'
import { findPack } from '../db/packs'
import { needsClient } from './concession'
import { actionsOf, repeatsOf } from './ncr-depth'
import { projectNcr } from './ncr-state'
import { photoIsThere } from './photos'
import { actingRole, appendAfter, appendEntries, type Actor, type NewEntry } from './record'
import { findSubject, isWorked, judgeSubject, refreshSubject, type WorkedSubject } from './subjects'

export interface Raise {
  id: string
  subjectType: WorkedSubject | 'pack'
  subject: string
  step: string | null
  photo: string | null
}

/** The criterion and what was found against it. */
export interface Said {
  criterion: string
  reading: string
}

/** What is reported on, if this person may see it, and what its record says of the step. */
async function placeOf(db: Knex, project: Project, actor: Actor, raise: Raise) {
  const missing = () => new Problem('not-found', 'There is nothing here to report on.', 'subject')
  if (raise.subjectType === 'pack') {
    const pack = await findPack(db, project.id, raise.subject)
    if (!pack) throw missing()
    const draft = async (): Promise<Said | null> => draftOfTest((await entriesOf(db, pack.id)).map(forCore))
    return { place: `Test pack ${pack.number}`, crew: null, draft }
  }
  const subject = await findSubject(db, project.id, raise.subjectType, raise.subject)
  if (!subject || (actor.crew && subject.crew !== actor.crew)) throw missing()
  const draft = async (): Promise<Said | null> =>
    (await judgeSubject(db, project, subject))?.drafts.find((d) => d.step === raise.step) ?? null
  return { place: subject.title, crew: subject.crew, draft }
}

/**
 * Raises a nonconformance: a report of its own, and an entry on what it is about. What it says is drafted
 * from the record; nobody types what the criterion was or what was found.
 *
 * @param said of a report that the server makes for a reason of its own
 */
export async function raiseNcr(
  db: Knex,
  project: Project,
  actor: Actor,
  raise: Raise,
  said: Said | null = null,
  now = new Date(),
): Promise<string> {
  const role = actingRole(actor, 'raise-ncr')
  const { place, crew, draft } = await placeOf(db, project, actor, raise)
  if (await findNcr(db, project.id, raise.id)) return raise.id
  await photoIsThere(db, project.id, raise.photo, 'photo')
  const drafted = said ?? (await draft())
  if (!drafted) {
    // The same report may have been written just now: then nothing asks for it any more.
    if (await findNcr(db, project.id, raise.id)) return raise.id
    throw new Problem('no-draft', 'Nothing is rejected here that asks for a report.', 'step')
  }
  const [criterion, reading] = [drafted.criterion.slice(0, 600), drafted.reading.slice(0, 600)]
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
        criterion,
        reading,
        raisedBy: actor.person,
        raisedAt: now.toISOString(),
      })
      await appendEntries(trx, actor, role, 'ncr', raise.id, [
        {
          id: uuidv7(),
          kind: 'raise',
          payload: { number, place, criterion, reading, photo: raise.photo },
          recordedAt: now,
          receivedAt: now,
        },
      ])
      const { entries, fresh } = await appendEntries(trx, actor, role, raise.subjectType, raise.subject, [
        {
          id: uuidv7(),
          kind: 'ncr',
          step: raise.step,
          payload: { event: 'raised', ncr: raise.id, number },
          recordedAt: now,
          receivedAt: now,
        },
      ])
      if (raise.subjectType !== 'pack') {
        const subject = await findSubject(trx, project.id, raise.subjectType, raise.subject)
        // Who reports on a joint is one of those who had to do with it.
        if (subject)
          await refreshSubject(trx, project, subject, entries, entries.slice(0, entries.length - fresh))
      }
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

/** The engineer decides what happens, and until when. */
export async function disposeNcr(
  db: Knex,
  actor: Actor,
  id: string,
  said: { disposition: Disposition; reason: string; cause?: Cause; due?: string | null },
  now = new Date(),
): Promise<void> {
  const role = actingRole(actor, 'dispose-ncr')
  const { disposition, reason, cause, due } = said
  if (due && !isDay(due)) throw new Problem('not-a-date', 'Say until which day.', 'due')
  const ncr = await visibleNcr(db, actor, id)
  const entry: NewEntry = {
    id: uuidv7(),
    kind: 'disposition',
    payload: { disposition, reason, ...(cause ? { cause } : {}), ...(due ? { due } : {}) },
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
  const role = actingRole(actor, 'answer-ncr')
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
  const role = actingRole(actor, 'verify-ncr')
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
  const repeat = accepted ? await repeatsOf(db, project.id, ncr) : null
  const client = accepted && (await needsClient(db, project, ncr))
  await inTransaction(db, async (trx) => {
    await append(trx, actor, role, ncr, verification, (at, before) => {
      if (at.state !== 'reworked') wrongState(ncr, at, 'only work that was answered can be verified')
      checkVerification(before, actor.person)
      if (repeat?.asksForAction && actionsOf(before).length === 0)
        throw new Problem(
          'needs-action',
          `It is time number ${repeat.times} at this step within the crew’s last ${LOOKED_BACK} joints: ` +
            'a corrective action with an owner and a day comes first.',
          'ncr',
        )
      if (client && at.disposition === 'use-as-is' && clientWord(standing(before))?.agrees !== true)
        throw new Problem('needs-client', 'The client has not signed for this concession.', 'ncr')
      closing.payload.disposition = at.disposition
    })
    if (!accepted) return
    const about = await appendEntries(trx, actor, role, ncr.subjectType as SubjectType, ncr.subject, [
      closing,
    ])
    const subject = isWorked(ncr.subjectType)
      ? await findSubject(trx, project.id, ncr.subjectType, ncr.subject)
      : null
    if (subject)
      await refreshSubject(trx, project, subject, about.entries, about.entries.slice(0, -about.fresh))
  })
}

export async function ncrSheet(db: Knex, project: Project, actor: Actor, id: string) {
  const ncr = await visibleNcr(db, actor, id)
  const [entries, people, repeat, asksClient] = await Promise.all([
    entriesOf(db, id),
    peopleOf(db, actor.project),
    repeatsOf(db, actor.project, ncr),
    needsClient(db, project, ncr),
  ])
  return {
    ncr,
    repeat,
    /** of a concession: whether the client signs too, and what it said */
    client:
      asksClient && ncr.disposition === 'use-as-is'
        ? { word: clientWord(standing(entries.map(forCore))) }
        : null,
    actions: actionsOf(entries.map(forCore)),
    people: Object.fromEntries(people.map((p) => [p.id, p.name])),
    entries: entries.map((e) => ({ ...forCore(e), seq: e.seq, hash: e.hash })),
  }
}
