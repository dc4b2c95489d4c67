import type { Knex } from 'knex'
import { stateAt } from '#core/judgement/ahead'
import { standing } from '#core/judgement/standing'
import type { CompiledProcedure } from '#core/procedure/compile'
import { loadProcedure } from '#core/procedure/load'
import { Problem } from '#core/problem'
import { checkReview } from '#core/judgement/duties'
import { uuidv7 } from 'uuidv7'
import { inTransaction } from '../db/connection'
import { changesOf } from '../db/projection'
import { entriesOf, entriesOfMany, forCore, type StoredEntry } from '../db/entries'
import {
  findProcedure,
  findRevision,
  insertProcedure,
  issuedProcedure,
  jointsOfProcedure,
  saveProcedureProjection,
  updateDraft,
  type ProcedureDraft,
  type ProcedureProjection,
  type ProcedureRow,
} from '../db/procedures'
import { runHeavy } from './heavy/run'
import { actingRole, appendEntries, sha256, type Actor, type NewEntry } from './record'

/** Documents that may be pinned never change, so each is compiled once a process. */
const compiled = new Map<string, CompiledProcedure>()

export async function compiledProcedure(db: Knex, project: string, id: string): Promise<CompiledProcedure> {
  const known = compiled.get(`${project} ${id}`)
  if (known) return known
  const row = await procedureOf(db, project, id)
  const fresh = loadProcedure(row.source)
  if (row.state === 'issued' || row.state === 'superseded') compiled.set(`${project} ${id}`, fresh)
  return fresh
}

export async function procedureOf(db: Knex, project: string, id: string): Promise<ProcedureRow> {
  const row = await findProcedure(db, project, id)
  if (!row) throw new Problem('not-found', 'There is no such procedure revision.', 'procedure')
  return row
}

/** Where a revision stands by its record. */
export function projectProcedure(entries: StoredEntry[]): ProcedureProjection {
  const out: ProcedureProjection = {
    state: 'draft',
    reviewedBy: null,
    reviewedAt: null,
    issuedBy: null,
    issuedAt: null,
  }
  for (const e of standing(entries.map(forCore))) {
    if (e.kind === 'draft') Object.assign(out, { state: 'draft', reviewedBy: null, reviewedAt: null })
    if (e.kind === 'submit') out.state = 'in-review'
    if (e.kind === 'review')
      Object.assign(
        out,
        e.payload.accepted === true
          ? { state: 'reviewed', reviewedBy: e.person, reviewedAt: new Date(e.recordedAt) }
          : { state: 'draft' },
      )
    if (e.kind === 'issue')
      Object.assign(out, { state: 'issued', issuedBy: e.person, issuedAt: new Date(e.recordedAt) })
    if (e.kind === 'supersede') out.state = 'superseded'
  }
  return out
}

const entry = (kind: NewEntry['kind'], payload: Record<string, unknown>): NewEntry => ({
  id: uuidv7(),
  kind,
  payload,
  recordedAt: new Date(),
})

/** Appends to a revision's chain and writes its state anew. */
async function append(trx: Knex, actor: Actor, id: string, ...entries: NewEntry[]): Promise<void> {
  const { entries: all } = await appendEntries(
    trx,
    actor,
    actingRole(actor, 'write-procedure'),
    'procedure',
    id,
    entries,
  )
  await saveProcedureProjection(trx, id, projectProcedure(all))
}

/** Reads a document for a draft. @throws Problem `bad-procedure` with line and column */
export async function readDraft(id: string, source: string, actor: Actor): Promise<ProcedureDraft> {
  const procedure = await runHeavy('procedure', source)
  return {
    id,
    key: procedure.key,
    revision: procedure.revision,
    title: procedure.title,
    system: procedure.system,
    material: procedure.material,
    source,
    sha256: sha256(source),
    draftedBy: actor.person,
  }
}

/** Takes a document in as a new draft: written here, or brought from elsewhere. */
export async function draftProcedure(db: Knex, actor: Actor, id: string, source: string): Promise<string> {
  const draft = await readDraft(id, source, actor)
  return inTransaction(db, async (trx) => {
    if (await findProcedure(trx, actor.project, id)) return id
    const taken = await findRevision(trx, actor.project, draft.key, draft.revision)
    if (taken)
      throw new Problem(
        'duplicate',
        `Revision ${draft.revision} of "${draft.key}" is there already (${taken.state}): give the draft its own letter.`,
        'revision',
      )
    await insertProcedure(trx, actor.project, draft)
    await append(trx, actor, id, entry('draft', { sha256: draft.sha256, revision: draft.revision }))
    return id
  })
}

/** Saves a draft over the version that was read. */
export async function saveDraft(
  db: Knex,
  actor: Actor,
  id: string,
  source: string,
  version: number,
): Promise<void> {
  const draft = await readDraft(id, source, actor)
  await inTransaction(db, async (trx) => {
    const row = await procedureOf(trx, actor.project, id)
    if (row.state !== 'draft')
      throw new Problem(
        'wrong-state',
        `This revision is ${row.state}: it is not changed any more. Draft a new one.`,
        'state',
      )
    if (draft.key !== row.key)
      throw new Problem(
        'other-procedure',
        `This is a draft of "${row.key}"; the document says "${draft.key}".`,
        'key',
      )
    const taken = await findRevision(trx, actor.project, draft.key, draft.revision)
    if (taken && taken.id !== id)
      throw new Problem(
        'duplicate',
        `Revision ${draft.revision} is there already (${taken.state}).`,
        'revision',
      )
    if (!(await updateDraft(trx, draft, version)))
      throw new Problem(
        'changed',
        'Somebody else has saved this draft since you opened it: open it again, so that nothing is lost.',
        'version',
      )
    await append(trx, actor, id, entry('draft', { sha256: draft.sha256, revision: draft.revision }))
  })
}

async function step(
  db: Knex,
  actor: Actor,
  id: string,
  wanted: ProcedureRow['state'],
  act: (trx: Knex, row: ProcedureRow) => Promise<NewEntry[]>,
): Promise<void> {
  await inTransaction(db, async (trx) => {
    const row = await procedureOf(trx, actor.project, id)
    if (row.state !== wanted)
      throw new Problem('wrong-state', `This revision is ${row.state}, not ${wanted}.`, 'state')
    await append(trx, actor, id, ...(await act(trx, row)))
  })
}

/** Gives a draft to a second engineer. */
export const submitProcedure = (db: Knex, actor: Actor, id: string) =>
  step(db, actor, id, 'draft', async (_trx, row) => [entry('submit', { sha256: row.sha256 })])

/** The second engineer's word: accepted, or back with a reason. */
export const reviewProcedure = (db: Knex, actor: Actor, id: string, accepted: boolean, reason: string) =>
  step(db, actor, id, 'in-review', async (trx, row) => {
    checkReview((await entriesOf(trx, id)).map(forCore), actor.person)
    if (!accepted && !reason) throw new Problem('missing', 'Say why it goes back.', 'reason')
    return [entry('review', { accepted, reason, sha256: row.sha256 })]
  })

/**
 * Issues a reviewed revision; the one issued before it is superseded. Joints keep what they are pinned
 * to.
 */
export const issueProcedure = (db: Knex, actor: Actor, id: string) =>
  step(db, actor, id, 'reviewed', async (trx, row) => {
    const before = await issuedProcedure(trx, actor.project, row.key)
    if (before) await append(trx, actor, before.id, entry('supersede', { by: id, revision: row.revision }))
    return [entry('issue', { sha256: row.sha256, supersedes: before?.revision ?? null })]
  })

/** The record of a revision: who drafted, reviewed and issued it, and when. */
export const procedureRecord = async (db: Knex, id: string) => (await entriesOf(db, id)).map(forCore)

/** Joints made to any revision of a procedure with their records, a page at a time, for judging them anew. */
export async function jointsToRejudge(
  db: Knex,
  project: string,
  key: string,
  after: string,
  limit = 400,
  now = Date.now(),
) {
  const joints = await jointsOfProcedure(db, project, key, after, limit)
  const entries = await entriesOfMany(
    db,
    joints.map((j) => j.id),
  )
  return joints.map((j) => ({
    id: j.id,
    number: j.number,
    station: j.station,
    state: stateAt({ state: j.state, changes: changesOf(j) }, now),
    revision: j.revision,
    facts: JSON.parse(j.facts) as Record<string, number | string | boolean>,
    entries: (entries.get(j.id) ?? []).map(forCore),
  }))
}
export type JointToRejudge = Awaited<ReturnType<typeof jointsToRejudge>>[number]
