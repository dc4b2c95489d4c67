import type { Knex } from 'knex'
import { judgeAhead, stateAt } from '#core/judgement/ahead'
import { judge } from '#core/judgement/judge'
import type { JudgeOptions } from '#core/judgement/types'
import type { CompiledProcedure } from '#core/procedure/compile'
import type { Role } from '#core/record/entry'
import { checkPayload } from '#core/checks/sent'
import { Problem } from '#core/problem'
import { inTransaction } from '../db/connection'
import { entriesOf, forCore, type StoredEntry } from '../db/entries'
import { instrumentsOf } from '../db/instruments'
import { findLot } from '../db/lots'
import { nameKey } from '#core/record/names'
import { knownEntriesOf, rememberEntries } from '../db/known-entries'
import { findJoint, saveJointProjection, type Joint, type JointProjection } from '../db/joints'
import type { Project } from '../db/projects'
import { judgeOptions } from './judging'
import { saveMakeup } from './makeup'
import { actingRole, chainEntries, keepEntries, type Actor, type NewEntry } from './record'
import { photoIsThere } from './photos'
import { compiledProcedure } from './procedures'
import { checkDuties } from './duties'
import { checkStrikes, notInFuture } from './sent-entries'
import { markLate } from './timing'

/** The joint, if this person may see it: a crew lead sees only the crew's own. */
export async function visibleJoint(db: Knex, actor: Actor, id: string): Promise<Joint> {
  const joint = await findJoint(db, actor.project, id)
  if (!joint || (actor.crew && joint.crew !== actor.crew))
    throw new Problem('not-found', 'There is no such joint.', 'joint')
  return joint
}

/** What is stored of a joint, from its entries at a moment. */
export function projectJoint(
  compiled: CompiledProcedure,
  joint: Pick<Joint, 'facts'>,
  entries: StoredEntry[],
  now: number,
  options: JudgeOptions,
): JointProjection {
  const { judgement, changes } = judgeAhead(compiled, joint.facts, entries.map(forCore), now, options)
  const title = (key: string) => compiled.steps[compiled.stepIndex.get(key)!]!.step.title
  const afterTest = (key: string) => compiled.steps[compiled.stepIndex.get(key)!]!.afterTest
  const holds = judgement.steps
    .filter((s) => s.release.state === 'requested' && s.state === 'held')
    .map((s) => ({
      step: s.key,
      title: title(s.key),
      since: s.release.at!,
      by: s.release.by!,
      afterTest: afterTest(s.key),
    }))
  return {
    state: judgement.state,
    until: changes.at(-1)?.at ?? null,
    then: changes.at(-1)?.state ?? null,
    testableAt: judgement.test.at,
    heldSince: holds[0]?.since ?? null,
    drafts: judgement.drafts.length,
    done: judgement.done,
    applicable: judgement.applicable,
    summary: {
      next: judgement.next,
      nextTitle: judgement.next ? title(judgement.next) : null,
      clocks: judgement.clocks,
      changes,
      test: judgement.test,
      holds,
      drafts: judgement.drafts,
    },
  }
}

/** Projections are made as of the moment the last entry came in, so that they can be rebuilt exactly. */
const lastReceived = (entries: StoredEntry[]) =>
  entries.length > 0 ? Date.parse(entries.at(-1)!.receivedAt) : Date.now()

const recordable: Record<string, readonly Role[]> = {
  release: ['inspector'],
  refusal: ['inspector'],
  waiver: ['inspector', 'engineer'],
  decision: ['inspector'],
}
const checkers: readonly Role[] = ['inspector', 'crew-lead']

/** Entries that a person sends for a joint, checked against its procedure before anything is written. */
function checkEntries(compiled: CompiledProcedure, news: NewEntry[]) {
  notInFuture(news)
  for (const entry of news) {
    if (typeof entry.step === 'string' && compiled.names.both.has(entry.step))
      throw new Problem(
        'which-end',
        `"${entry.step}" is made at each end of the joint: say which, as ${entry.step}@upstream.`,
        'step',
      )
    if (entry.step !== null && entry.step !== undefined && !compiled.stepIndex.has(entry.step))
      throw new Problem('unknown-step', `This procedure has no step "${entry.step}".`, 'step')
    if (!entry.step && !['remark', 'photo', 'correction'].includes(entry.kind))
      throw new Problem('missing', 'The step is missing.', 'step')
    entry.payload = checkPayload(entry.kind, entry.payload)
  }
}

/**
 * What an entry names – a photo, a lot, an instrument – must be there: a name that leads nowhere can be
 * neither judged nor traced.
 */
async function checkNamed(db: Knex, project: string, entry: NewEntry): Promise<void> {
  if (entry.kind === 'photo') await photoIsThere(db, project, entry.payload.file, 'file')
  if (entry.kind === 'lot' && !(await findLot(db, project, { lot: nameKey(String(entry.payload.lot)) }))) {
    throw new Problem(
      'unknown-lot',
      `Lot ${String(entry.payload.lot)} is not in the register of this project: enter it from its label first.`,
      'lot',
    )
  }
  if (entry.instrument && !(await instrumentsOf(db, project, [entry.instrument])).length)
    throw new Problem('not-found', 'There is no such instrument in the register.', 'instrument')
}

/**
 * Records entries of one joint: all or none, idempotent by id. Role, payload and strikes
 * are checked; the projection is written in the same transaction.
 */
export async function recordAtJoint(
  db: Knex,
  project: Project,
  actor: Actor,
  jointId: string,
  news: NewEntry[],
): Promise<StoredEntry[]> {
  const joint = await visibleJoint(db, actor, jointId)
  if (!joint.procedure)
    throw new Problem('not-open', 'This joint is not open yet: choose pipe and fitting first.', 'joint')
  const compiled = await compiledProcedure(db, project.id, joint.procedure)
  checkEntries(compiled, news)
  for (const entry of news) await checkNamed(db, project.id, entry)
  const role = actingRole(
    actor,
    news.map((e) => recordable[e.kind] ?? checkers).reduce((a, b) => a.filter((r) => b.includes(r))),
  )
  return inTransaction(db, async (trx) => {
    const before = await knownEntriesOf(trx, jointId)
    checkStrikes(before, news, actor)
    await checkDuties(
      trx,
      project,
      compiled,
      joint,
      stateAt(joint, Date.now()) === 'accepted',
      before,
      news,
      actor,
    )
    await markLate(
      trx,
      actor.person,
      news,
      before,
      joint.openedAt === null ? null : Date.parse(joint.openedAt),
    )
    const { entries, fresh, rows } = chainEntries(actor, role, 'joint', jointId, news, before)
    if (fresh > 0) {
      const options = await judgeOptions(trx, project, compiled.procedure.key, entries.map(forCore))
      await saveJointProjection(
        trx,
        jointId,
        projectJoint(compiled, joint, entries, lastReceived(entries), options),
      )
      await saveMakeup(trx, joint, entries, before)
      await keepEntries(trx, jointId, rows)
      rememberEntries(jointId, entries)
    }
    return entries
  })
}

/** Writes a joint's projection anew after another use case has appended to it. */
export async function refreshJoint(
  trx: Knex,
  project: Project,
  joint: Joint,
  entries: StoredEntry[],
): Promise<void> {
  if (!joint.procedure) return
  const compiled = await compiledProcedure(trx, project.id, joint.procedure)
  await saveJointProjection(
    trx,
    joint.id,
    projectJoint(
      compiled,
      joint,
      entries,
      lastReceived(entries),
      await judgeOptions(trx, project, compiled.procedure.key, entries.map(forCore)),
    ),
  )
}

/** The server's own judgement, for replies and checks. */
export async function judgeJoint(db: Knex, project: Project, joint: Joint, now = Date.now()) {
  if (!joint.procedure) return null
  const compiled = await compiledProcedure(db, project.id, joint.procedure)
  const entries = (await entriesOf(db, joint.id)).map(forCore)
  return judge(
    compiled,
    joint.facts,
    entries,
    now,
    await judgeOptions(db, project, compiled.procedure.key, entries),
  )
}
