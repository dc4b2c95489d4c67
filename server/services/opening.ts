import type { Knex } from 'knex'
import type { FactValue } from '#core/formula/formula'
import { readFact } from '#core/procedure/facts'
import type { Procedure, ProcedureFact } from '#core/procedure/types'
import { Problem } from '#core/problem'
import { inTransaction } from '../db/connection'
import { catalogueOf } from '../db/deliveries'
import { findItem, freeItems, holdItems, isBuiltIn, type Item, type ItemPlace } from '../db/items'
import { findLot } from '../db/lots'
import { jointsOpened, openJoint, type Joint } from '../db/joints'
import { issuedProcedure, type ProcedureRow } from '../db/procedures'
import { alignmentsOf, type Project } from '../db/projects'
import { saveMakeup } from './makeup'
import { compiledProcedure } from './procedures'
import { actingRole, chainEntries, keepEntries, type Actor } from './record'
import { onceAnswered } from './shift'
import { refreshSubject, visibleSubject } from './subjects'

export const itemPlaces: readonly ItemPlace[] = ['upstream', 'downstream', 'fitting']
const sourceOf = (place: ItemPlace) => (place === 'fitting' ? 'fitting' : 'pipe')

type Catalogue = Awaited<ReturnType<typeof catalogueOf>>

/** Catalogue entries that give every fact the procedure takes from this place: only those fit. */
function fitting(procedure: Procedure, catalogue: Catalogue, place: ItemPlace): string[] {
  const wanted = procedure.facts.filter((f) => f.from === sourceOf(place) && !f.optional)
  if (wanted.length === 0) return []
  return [...catalogue]
    .filter(([, c]) => c.kind === sourceOf(place) && wanted.every((f) => c.facts[f.key] !== undefined))
    .map(([item]) => item)
}

/** What must be chosen and typed before a joint is opened. */
export interface Opening {
  procedure: { id: string; key: string; title: string; revision: string }
  places: ItemPlace[]
  /** facts that neither items nor the line give, with what the form starts with */
  facts: ProcedureFact[]
  /** the joint before of the same crew and line, with its facts (SI): offered, never filled in */
  before: { number: string; facts: Record<string, FactValue> } | null
}

interface Plan {
  row: ProcedureRow
  procedure: Procedure
  places: { place: ItemPlace; items: string[] }[]
  line: Record<string, FactValue>
}

async function planOf(db: Knex, project: Project, joint: Joint): Promise<Plan> {
  const row = await issuedProcedure(db, project.id, joint.system)
  if (!row)
    throw new Problem(
      'no-procedure',
      `No procedure "${joint.system}" is issued yet: ask the engineer.`,
      'procedure',
    )
  const { procedure } = await compiledProcedure(db, project.id, row.id)
  const [catalogue, lines] = await Promise.all([catalogueOf(db, project.id), alignmentsOf(db, project.id)])
  // A place is chosen from deliveries where the catalogue knows what fits there; else its facts are read
  // from the label.
  const places = itemPlaces
    .map((place) => ({ place, items: fitting(procedure, catalogue, place) }))
    .filter((p) => p.items.length > 0)
  return { row, procedure, places, line: lines.find((l) => l.id === joint.alignment)!.facts }
}

/** The facts that a person types: those that no chosen item and no line gives. */
const typed = ({ procedure, places, line }: Plan): ProcedureFact[] =>
  procedure.facts.filter(
    (f) => line[f.key] === undefined && !places.some((p) => sourceOf(p.place) === f.from),
  )

/** A joint before is like this one for so long. */
const LIKE_DAYS = 14

async function typedBefore(
  db: Knex,
  project: Project,
  joint: Joint,
  asked: readonly ProcedureFact[],
): Promise<Opening['before']> {
  const [last] = await jointsOpened(
    db,
    {
      project: project.id,
      since: new Date(Date.now() - LIKE_DAYS * 86_400_000),
      crew: joint.crew,
      alignment: joint.alignment,
      system: joint.system,
    },
    1,
  )
  if (!last) return null
  const known = asked.filter((f) => last.facts[f.key] !== undefined)
  return {
    number: last.number,
    facts: Object.fromEntries(known.map((f) => [f.key, last.facts[f.key]!])),
  }
}

/** What the opening form asks; null where no procedure is issued. */
export async function openingOf(db: Knex, project: Project, joint: Joint): Promise<Opening | null> {
  try {
    const plan = await planOf(db, project, joint)
    const facts = typed(plan)
    return {
      procedure: { id: plan.row.id, key: plan.row.key, title: plan.row.title, revision: plan.row.revision },
      places: plan.places.map((p) => p.place),
      facts,
      before: await typedBefore(db, project, joint, facts),
    }
  } catch (error) {
    if (error instanceof Problem && error.code === 'no-procedure') return null
    throw error
  }
}

/** Accepted, unused items that fit a joint at a place. */
export async function offeredItems(
  db: Knex,
  project: Project,
  actor: Actor,
  jointId: string,
  place: ItemPlace,
  search: string,
): Promise<Item[]> {
  const plan = await planOf(db, project, await visibleSubject(db, actor, 'joint', jointId))
  return freeItems(db, project.id, place, plan.places.find((p) => p.place === place)?.items ?? [], search)
}

async function chooseItem(
  db: Knex,
  project: string,
  id: string | undefined,
  { place, items }: Plan['places'][number],
): Promise<Item> {
  if (!id)
    throw new Problem('missing', `Choose the ${place === 'fitting' ? 'fitting' : `${place} pipe`}.`, place)
  const item = await findItem(db, project, id)
  if (!item || sourceOf(place) !== item.kind) throw new Problem('not-found', 'There is no such item.', place)
  if (!items.includes(item.item))
    throw new Problem('mismatch', `${item.serial} is not for this kind of joint.`, place)
  if (item.state === 'quarantined' || item.state === 'returned')
    throw new Problem('quarantined', `${item.serial} is ${item.state}: it may not be built in.`, place)
  const lot = await findLot(db, project, { lot: item.lot })
  if (lot?.quarantinedAt)
    throw new Problem(
      'quarantined',
      `Lot ${item.lot} is in quarantine (${lot.reason}): ${item.serial} may not be built in.`,
      place,
    )
  if (item.state === 'received')
    throw new Problem('not-accepted', `${item.serial} has not been inspected on arrival.`, place)
  if (await isBuiltIn(db, place, id))
    throw new Problem('in-use', `${item.serial} is already built in at this end.`, place)
  return item
}

/** Facts of the chosen items; two pipes must agree in every fact that the procedure takes from them. */
function factsOfItems(
  procedure: Procedure,
  catalogue: Catalogue,
  chosen: Map<ItemPlace, Item>,
): Record<string, FactValue> {
  const of = (place: ItemPlace) => (chosen.has(place) ? catalogue.get(chosen.get(place)!.item)!.facts : {})
  const [up, down, fit] = [of('upstream'), of('downstream'), of('fitting')]
  for (const fact of procedure.facts) {
    if (fact.from === 'pipe' && down[fact.key] !== undefined && up[fact.key] !== down[fact.key])
      throw new Problem('mismatch', `The two pipes differ: ${fact.title.toLowerCase()}.`, 'downstream')
  }
  if (
    fit['fitting.bore'] !== undefined &&
    up['pipe.od'] !== undefined &&
    fit['fitting.bore'] !== up['pipe.od']
  )
    throw new Problem('mismatch', 'The fitting is not for this diameter.', 'fitting')
  return { ...up, ...fit }
}

export interface OpenJoint extends Partial<Record<ItemPlace, string | null>> {
  facts?: Record<string, unknown>
}

/**
 * Opens a joint: pins the issued revision and works out its facts from pipe, fitting, line and what was
 * typed.
 */
export async function openJointWith(
  db: Knex,
  project: Project,
  actor: Actor,
  jointId: string,
  choice: OpenJoint,
): Promise<void> {
  actingRole(actor, 'open-work')
  const joint = await visibleSubject(db, actor, 'joint', jointId)
  if (joint.procedure) throw new Problem('already-open', `Joint ${joint.number} is open already.`, 'joint')
  if (choice.upstream && choice.upstream === choice.downstream)
    throw new Problem('same-pipe', 'A pipe is not joined to itself.', 'downstream')
  const plan = await planOf(db, project, joint)
  await inTransaction(db, async (trx) => {
    // One pipe is not built in twice, nor while somebody quarantines it: its row is held until this is
    // written.
    await holdItems(
      trx,
      plan.places.map((p) => choice[p.place]).filter((id): id is string => typeof id === 'string'),
    )
    const chosen = new Map<ItemPlace, Item>()
    for (const place of plan.places)
      chosen.set(place.place, await chooseItem(trx, project.id, choice[place.place] ?? undefined, place))
    await writeOpening(trx, project, actor, joint, plan, chosen, choice.facts ?? {})
  })
}

async function writeOpening(
  trx: Knex,
  project: Project,
  actor: Actor,
  joint: Joint,
  plan: Plan,
  chosen: Map<ItemPlace, Item>,
  given: Record<string, unknown>,
): Promise<void> {
  const facts = openingFacts(
    plan,
    { ...factsOfItems(plan.procedure, await catalogueOf(trx, project.id), chosen), ...plan.line },
    given,
  )
  const compiled = await compiledProcedure(trx, project.id, plan.row.id)
  const openedAt = new Date()
  const idAt = (place: ItemPlace) => chosen.get(place)?.id ?? null
  const items = { upstream: idAt('upstream'), downstream: idAt('downstream'), fitting: idAt('fitting') }
  const free = await openJoint(trx, joint.id, {
    procedure: plan.row.id,
    ...items,
    facts,
    openedAt,
  })
  if (!free) throw new Problem('already-open', `Joint ${joint.number} is open already.`, 'joint')
  const opening = { procedure: plan.row.id, compiled, facts, at: openedAt }
  const once = await onceAnswered(trx, project, actor, joint, opening)
  const { entries, rows } = chainEntries(actor, actingRole(actor, 'record'), 'joint', joint.id, once, [])
  const opened = { ...joint, procedure: plan.row.id, facts, ...items }
  await refreshSubject(trx, project, { type: 'joint', title: joint.number, ...opened }, entries)
  await saveMakeup(trx, opened, entries)
  await keepEntries(trx, joint.id, rows)
}

/** The facts of a joint from its items, its line and what was typed, each within its bounds. */
function openingFacts(
  plan: Plan,
  known: Record<string, FactValue>,
  given: Record<string, unknown>,
): Record<string, number | string | boolean> {
  const facts: Record<string, number | string | boolean> = {}
  const asked = typed(plan)
  for (const key of Object.keys(given))
    if (!asked.some((f) => f.key === key))
      throw new Problem('unknown-fact', `"${key}" is not asked here.`, `facts.${key}`)
  for (const fact of plan.procedure.facts) {
    const value = asked.includes(fact) ? given[fact.key] : known[fact.key]
    if (value === undefined || value === null || value === '') {
      if (fact.optional) continue
      throw new Problem('missing', `${fact.title} is missing.`, fact.key)
    }
    facts[fact.key] = readFact(fact, value) as number | string | boolean
  }
  return facts
}
