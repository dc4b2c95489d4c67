import type { Knex } from 'knex'
import { judge, judgeAhead, stateAt } from '#core/judgement/judge'
import type { JudgeOptions } from '#core/judgement/types'
import { readFacts, type CompiledProcedure } from '#core/procedure/compile'
import { checkPayload, type Role } from '#core/record/entry'
import { Problem } from '#core/problem'
import { inTransaction } from '../db/connection'
import { catalogueOf, findItem, freeItems, itemsByIds, type Item } from '../db/deliveries'
import { entriesOf, forCore, type StoredEntry } from '../db/entries'
import { findJoint, openJoint, saveJointProjection, type Joint, type JointProjection } from '../db/joints'
import { alignmentsOf, instrumentFacts, instrumentsOf, issuedProcedure, peopleOf, type Project } from '../db/projects'
import { actingRole, appendEntries, type Actor, type NewEntry } from './record'
import { compiledProcedure } from './procedures'

/** The joint, if this person may see it: a crew lead sees only the crew's own. */
export async function visibleJoint(db: Knex, actor: Actor, id: string): Promise<Joint> {
  const joint = await findJoint(db, actor.project, id)
  if (!joint || (actor.crew && joint.crew !== actor.crew)) throw new Problem('not-found', 'There is no such joint.', 'joint')
  return joint
}

/** What the judge needs to know of a project for one procedure. */
export async function judgeOptions(db: Knex, project: Project, procedureKey: string): Promise<JudgeOptions> {
  return { rule: project.settings.rule, schools: project.settings.schools[procedureKey] ?? {}, plan: project.settings.plan[procedureKey] ?? {}, instruments: instrumentFacts(await instrumentsOf(db, project.id)) }
}

/** What is stored of a joint, from its entries at a moment. */
export function projectJoint(compiled: CompiledProcedure, joint: Pick<Joint, 'facts'>, entries: StoredEntry[], now: number, options: JudgeOptions): JointProjection {
  const { judgement, until, then } = judgeAhead(compiled, joint.facts, entries.map(forCore), now, options)
  const title = (key: string) => compiled.steps[compiled.stepIndex.get(key)!]!.step.title
  const holds = judgement.steps.filter((s) => s.release.state === 'requested' && s.state === 'held').map((s) => ({ step: s.key, title: title(s.key), since: s.release.at!, by: s.release.by! }))
  return {
    state: judgement.state, until, then, testableAt: judgement.gates['pressure-test']?.until ?? null, heldSince: holds[0]?.since ?? null, drafts: judgement.drafts.length, done: judgement.done, applicable: judgement.applicable,
    summary: { next: judgement.next, nextTitle: judgement.next ? title(judgement.next) : null, clocks: judgement.clocks, holds, drafts: judgement.drafts },
  }
}

/** Projections are made as of the moment the last entry came in, so that they can be rebuilt exactly. */
const lastReceived = (entries: StoredEntry[]) => (entries.length > 0 ? Date.parse(entries.at(-1)!.receivedAt) : Date.now())

const recordable: Record<string, readonly Role[]> = { release: ['inspector'], refusal: ['inspector'], waiver: ['inspector', 'engineer'], decision: ['inspector'] }
const checkers: readonly Role[] = ['inspector', 'crew-lead']

/** Entries that a person sends for a joint, checked against its procedure before anything is written. */
function checkEntries(compiled: CompiledProcedure, news: NewEntry[]) {
  const latest = Date.now() + 5 * 60_000
  for (const entry of news) {
    if (entry.step !== null && entry.step !== undefined && !compiled.stepIndex.has(entry.step)) throw new Problem('unknown-step', `This procedure has no step "${entry.step}".`, 'step')
    if (!entry.step && !['remark', 'photo', 'correction'].includes(entry.kind)) throw new Problem('missing', 'The step is missing.', 'step')
    if (entry.recordedAt.getTime() > latest) throw new Problem('future', 'This entry is dated in the future: set the clock of the device.', 'recordedAt')
    entry.payload = checkPayload(entry.kind, entry.payload)
  }
}

function checkStrikes(entries: StoredEntry[], news: NewEntry[], actor: Actor) {
  for (const entry of news.filter((e) => e.kind === 'correction')) {
    const struck = entries.find((e) => e.id === entry.payload.strikes)
    if (!struck) throw new Problem('not-found', 'The entry to strike is not in this record.', 'strikes')
    if (['release', 'refusal', 'waiver', 'ncr', 'signature'].includes(struck.kind)) throw new Problem('not-struck', `A ${struck.kind} is not struck; record what follows from it.`, 'strikes')
    if (struck.person !== actor.person && !actor.roles.includes('inspector')) throw new Problem('forbidden', 'Only the person who wrote an entry, or an inspector, strikes it.', 'strikes')
  }
}

/**
 * Records entries of one joint: all or none, idempotent by id. Role, payload and strikes
 * are checked; the projection is written in the same transaction.
 */
export async function recordAtJoint(db: Knex, project: Project, actor: Actor, jointId: string, news: NewEntry[]): Promise<StoredEntry[]> {
  const joint = await visibleJoint(db, actor, jointId)
  if (!joint.procedure) throw new Problem('not-open', 'This joint is not open yet: choose pipe and fitting first.', 'joint')
  const compiled = await compiledProcedure(db, project.id, joint.procedure)
  checkEntries(compiled, news)
  const role = actingRole(actor, news.map((e) => recordable[e.kind] ?? checkers).reduce((a, b) => a.filter((r) => b.includes(r))))
  const options = await judgeOptions(db, project, compiled.procedure.key)
  return inTransaction(db, async (trx) => {
    const before = await entriesOf(trx, jointId)
    checkStrikes(before, news, actor)
    const { entries, fresh } = await appendEntries(trx, actor, role, 'joint', jointId, news, before)
    if (fresh > 0) await saveJointProjection(trx, jointId, projectJoint(compiled, joint, entries, lastReceived(entries), options))
    return entries
  })
}

/** Writes a joint's projection anew after another use case has appended to it. */
export async function refreshJoint(trx: Knex, project: Project, joint: Joint, entries: StoredEntry[]): Promise<void> {
  if (!joint.procedure) return
  const compiled = await compiledProcedure(trx, project.id, joint.procedure)
  await saveJointProjection(trx, joint.id, projectJoint(compiled, joint, entries, lastReceived(entries), await judgeOptions(trx, project, compiled.procedure.key)))
}

export interface OpenJoint {
  upstream: string
  downstream: string
  fitting: string
}

const SYSTEM = 'pe-electrofusion-socket'

async function chooseItem(db: Knex, project: string, id: string, place: 'upstream' | 'downstream' | 'fitting'): Promise<Item> {
  const item = await findItem(db, project, id)
  if (!item || (place === 'fitting') !== (item.kind === 'fitting')) throw new Problem('not-found', 'There is no such item.', place)
  if (item.state === 'quarantined' || item.state === 'returned') throw new Problem('quarantined', `${item.serial} is ${item.state}: it may not be built in.`, place)
  if (item.state === 'received') throw new Problem('not-accepted', `${item.serial} has not been inspected on arrival.`, place)
  if ((await freeItems(db, project, place, item.serial)).every((free) => free.id !== id)) throw new Problem('in-use', `${item.serial} is already built in at this end.`, place)
  return item
}

/** Opens a joint: pins the issued revision and works out its facts from pipe, fitting and line. */
export async function openJointWith(db: Knex, project: Project, actor: Actor, jointId: string, choice: OpenJoint): Promise<void> {
  actingRole(actor, checkers)
  const joint = await visibleJoint(db, actor, jointId)
  if (joint.procedure) throw new Problem('already-open', `Joint ${joint.number} is open already.`, 'joint')
  if (choice.upstream === choice.downstream) throw new Problem('same-pipe', 'A pipe is not joined to itself.', 'downstream')
  const procedure = await issuedProcedure(db, project.id, project.settings.schools.system?.[joint.alignment] ?? SYSTEM)
  if (!procedure) throw new Problem('no-procedure', 'No procedure is issued for this line yet: ask the engineer.', 'procedure')
  const compiled = await compiledProcedure(db, project.id, procedure.id)
  const catalogue = await catalogueOf(db, project.id)
  const [upstream, downstream, fitting] = await Promise.all([chooseItem(db, project.id, choice.upstream, 'upstream'), chooseItem(db, project.id, choice.downstream, 'downstream'), chooseItem(db, project.id, choice.fitting, 'fitting')])
  const [a, b, f] = [upstream, downstream, fitting].map((i) => catalogue.get(i.item)) as ({ facts: Record<string, number | string | boolean> } | undefined)[]
  if (!a || !b || !f) throw new Problem('not-found', 'An item is not in the catalogue.', 'fitting')
  if (a.facts['pipe.od'] !== b.facts['pipe.od']) throw new Problem('mismatch', 'The two pipes differ in outside diameter.', 'downstream')
  if (f.facts['fitting.bore'] !== undefined && f.facts['fitting.bore'] !== a.facts['pipe.od']) throw new Problem('mismatch', 'The coupler is not for this diameter.', 'fitting')
  const line = (await alignmentsOf(db, project.id)).find((l) => l.id === joint.alignment)!
  const all: Record<string, unknown> = { ...a.facts, ...f.facts, ...line.facts }
  const facts = readFacts(compiled.procedure, Object.fromEntries(compiled.procedure.facts.filter((fact) => all[fact.key] !== undefined).map((fact) => [fact.key, all[fact.key]]))) as Record<string, number | string | boolean>
  const options = await judgeOptions(db, project, compiled.procedure.key)
  await inTransaction(db, async (trx) => {
    if (!(await openJoint(trx, jointId, { procedure: procedure.id, ...choice, facts, openedAt: new Date() }))) throw new Problem('already-open', `Joint ${joint.number} is open already.`, 'joint')
    await saveJointProjection(trx, jointId, projectJoint(compiled, { facts }, [], Date.now(), options))
  })
}

/** Everything the joint sheet needs, so that the device can judge by itself. */
export async function jointSheet(db: Knex, project: Project, actor: Actor, id: string) {
  const joint = await visibleJoint(db, actor, id)
  const [entries, people, instruments, items] = await Promise.all([entriesOf(db, id), peopleOf(db, project.id), instrumentsOf(db, project.id), itemsByIds(db, project.id, [joint.upstream, joint.downstream, joint.fitting].filter((x): x is string => x !== null))])
  const procedure = joint.procedure ? await compiledProcedure(db, project.id, joint.procedure) : null
  const key = procedure?.procedure.key ?? ''
  return {
    joint: { ...joint, state: stateAt(joint, Date.now()) }, procedure: procedure?.procedure ?? null,
    schools: project.settings.schools[key] ?? {}, plan: project.settings.plan[key] ?? {}, rule: project.settings.rule, instruments, items,
    people: Object.fromEntries(people.map((p) => [p.id, p.name])),
    entries: entries.map((e) => ({ ...forCore(e), seq: e.seq, hash: e.hash, receivedAt: e.receivedAt })),
  }
}

/** The server's own judgement, for replies and checks. */
export async function judgeJoint(db: Knex, project: Project, joint: Joint, now = Date.now()) {
  if (!joint.procedure) return null
  const compiled = await compiledProcedure(db, project.id, joint.procedure)
  return judge(compiled, joint.facts, (await entriesOf(db, joint.id)).map(forCore), now, await judgeOptions(db, project, compiled.procedure.key))
}
