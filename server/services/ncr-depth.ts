import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { LOOKED_BACK, repeatOf, type Repeat } from '#core/ncr/causes'
import type { Counted } from '#core/ncr/analysis'
import { standing } from '#core/judgement/standing'
import { Problem } from '#core/problem'
import { plainKey } from '#core/procedure/ends'
import { isDay, weekOf } from '#core/quantity/day'
import type { Entry } from '#core/record/entry'
import { inTransaction } from '../db/connection'
import { entriesOfMany, forCore } from '../db/entries'
import { findJoint, jointsOpened } from '../db/joints'
import { crewsOf, peopleOf, type Project } from '../db/projects'
import { findNcr, ncrsOf, type Ncr } from '../db/ncrs'
import { proceduresOf } from '../db/subjects'
import { compiledProcedure } from './procedures'
import { actingRole, appendEntries, type Actor } from './record'

/** A corrective action: what, by whom, until when, and whether it is done. */
export interface CorrectiveAction {
  id: string
  text: string
  owner: string
  due: string
  doneAt: number | null
}

export function actionsOf(entries: readonly Entry[]): CorrectiveAction[] {
  const stands = standing(entries)
  return stands
    .filter((e) => e.kind === 'action')
    .map((e) => ({
      ...{ id: e.id, text: String(e.payload.text), owner: String(e.payload.owner) },
      due: String(e.payload.due),
      doneAt: stands.find((d) => d.kind === 'done' && d.payload.action === e.id)?.recordedAt ?? null,
    }))
}

/** Whether the same went wrong at the crew's last joints. */
export async function repeatsOf(db: Knex, project: string, ncr: Ncr): Promise<Repeat> {
  const joint = ncr.subjectType === 'joint' ? await findJoint(db, project, ncr.subject) : null
  if (!joint?.openedAt) return repeatOf(null, [])
  const before = await jointsOpened(
    db,
    { project, since: new Date(0), before: new Date(joint.openedAt), crew: joint.crew },
    LOOKED_BACK,
  )
  const reports = await ncrsOf(db, project, { subjects: before.map((j) => j.id) })
  // Two reports of one joint are one joint that went wrong.
  const others = reports
    .filter((r) => Date.parse(r.raisedAt) <= Date.parse(ncr.raisedAt))
    .filter((r, i, all) => all.findIndex((o) => o.subject === r.subject && o.step === r.step) === i)
    .sort((a, b) => Date.parse(b.raisedAt) - Date.parse(a.raisedAt))
  return repeatOf(ncr.step, others)
}

/** Gives a report a corrective action, or says that one is done. */
export async function correctiveAction(
  db: Knex,
  project: Project,
  actor: Actor,
  id: string,
  typed: { text: string; owner: string; due: string } | { action: string; text: string },
  now = new Date(),
): Promise<void> {
  const ncr = await findNcr(db, project.id, id)
  if (!ncr || (actor.crew && ncr.crew !== actor.crew))
    throw new Problem('not-found', 'There is no such report.', 'ncr')
  if ('owner' in typed) {
    if (!isDay(typed.due)) throw new Problem('not-a-date', 'Say until which day.', 'due')
    if (!(await peopleOf(db, project.id)).some((p) => p.id === typed.owner))
      throw new Problem('not-found', 'Nobody of this project is called so.', 'owner')
  } else {
    const known = (await entriesOfMany(db, [id])).get(id) ?? []
    const action = actionsOf(known.map(forCore)).find((a) => a.id === typed.action)
    if (!action) throw new Problem('not-found', 'There is no such action.', 'action')
    if (action.doneAt !== null) throw new Problem('done', 'This is done already.', 'action')
  }
  const role = actingRole(actor, 'owner' in typed ? 'ask-action' : 'answer-ncr')
  const kind = 'owner' in typed ? ('action' as const) : ('done' as const)
  await inTransaction(db, (trx) =>
    appendEntries(trx, actor, role, 'ncr', id, [
      { id: uuidv7(), kind, payload: { ...typed }, recordedAt: now, receivedAt: now },
    ]),
  )
}

/** Every report as it is counted, for charts and tables. */
export async function ncrCounts(db: Knex, project: Project, actor: Actor): Promise<Counted[]> {
  const [ncrs, crews] = await Promise.all([
    ncrsOf(db, project.id, { crew: actor.crew }),
    crewsOf(db, project.id),
  ])
  const records = await entriesOfMany(
    db,
    ncrs.map((n) => n.id),
  )
  const made = await proceduresOf(
    db,
    project.id,
    ncrs.map((n) => n.subject),
  )
  const out: Counted[] = []
  for (const n of ncrs) {
    const procedure = made.get(n.subject)
    const compiled = procedure === undefined ? null : await compiledProcedure(db, project.id, procedure)
    const at = n.step === null ? undefined : compiled?.stepIndex.get(n.step)
    const disposed = (records.get(n.id) ?? []).map(forCore).findLast((e) => e.kind === 'disposition')
    out.push({
      ...{ id: n.id, number: n.number, closed: n.state === 'closed' },
      step:
        at === undefined ? (n.step ? plainKey(n.step) : 'Pressure test') : compiled!.steps[at]!.plainTitle,
      crew: crews.find((c) => c.id === n.crew)?.name ?? 'no crew',
      system: compiled?.procedure.title ?? 'Test packs',
      cause: typeof disposed?.payload.cause === 'string' ? disposed.payload.cause : null,
      week: weekOf(Date.parse(n.raisedAt), project.zone),
    })
  }
  return out
}
