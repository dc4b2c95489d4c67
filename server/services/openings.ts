import type { Knex } from 'knex'
import type { FactValue } from '#core/formula/formula'
import type { ItemPlace } from '#core/procedure/opening'
import type { Points } from '#core/plan/points'
import type { Procedure } from '#core/procedure/types'
import { Problem } from '#core/problem'
import { catalogueOf } from '../db/deliveries'
import { freeItems, type Item } from '../db/items'
import { plannedKinds } from '../db/joints'
import type { Project } from '../db/projects'
import { pointsOf } from './judging'
import { rulesPassed } from './new-crew'
import { openingPlan, type OpeningPlan } from './opening'
import { compiledProcedure } from './procedures'
import { qualificationAt } from './qualified'
import type { Actor } from './record'

/** Pieces of each size that a device takes along: more than a crew builds in before it meets a signal. */
const PIECES = 100

export type Piece = Pick<Item, 'id' | 'item' | 'serial' | 'lot' | 'kind'>

/** What joints of one system are opened with where there is no signal. */
export interface SystemAlong {
  /** id of the issued revision */
  procedure: string
  definition: Procedure
  schools: Record<string, string>
  places: { place: ItemPlace; pieces: Piece[] }[]
  qualification: { sentence: string; blocks: boolean } | null
}

export interface Openings {
  systems: Record<string, SystemAlong>
  /** facts (SI) of pieces by their entry in the catalogue */
  pieces: Record<string, Record<string, FactValue>>
  /** facts (SI) of lines */
  lines: Record<string, Record<string, FactValue>>
  /** points as they count for a joint opened now, by line, system and crew */
  plans: ({ alignment: string; system: string; crew: string } & Points)[]
}

/** Everything that a device needs to open the joints that are planned, as the server would open them. */
export async function openings(db: Knex, project: Project, actor: Actor): Promise<Openings> {
  const [kinds, catalogue] = await Promise.all([
    plannedKinds(db, project.id, actor.crew),
    catalogueOf(db, project.id),
  ])
  const out: Openings = { systems: {}, pieces: {}, lines: {}, plans: [] }
  for (const kind of kinds) {
    const plan = await openingPlan(db, project, kind).catch(passWithoutProcedure)
    if (!plan) continue
    out.systems[kind.system] ??= await along(db, project, actor, plan)
    out.lines[kind.alignment] ??= plan.line
    const passed = await rulesPassed(db, project, { table: 'joints', ...kind }, new Date())
    out.plans.push({ ...kind, ...pointsOf(project, plan, { ...kind, openedAt: null, passed }) })
  }
  for (const { places } of Object.values(out.systems))
    for (const { item } of places.flatMap((p) => p.pieces))
      out.pieces[item] ??= catalogue.get(item)!.facts as Record<string, FactValue>
  return out
}

/** Of a system without an issued procedure nothing is opened. */
function passWithoutProcedure(error: unknown): null {
  if (error instanceof Problem && error.code === 'no-procedure') return null
  throw error
}

async function along(db: Knex, project: Project, actor: Actor, plan: OpeningPlan): Promise<SystemAlong> {
  const places: SystemAlong['places'] = []
  for (const { place, items } of plan.places) {
    const sizes = items.map((item) => freeItems(db, project.id, place, [item], '', PIECES))
    const free = (await Promise.all(sizes)).flat()
    places.push({
      place,
      pieces: free.map(({ id, item, serial, lot, kind }) => ({ id, item, serial, lot, kind })),
    })
  }
  const compiled = await compiledProcedure(db, project.id, plan.row.id)
  return {
    procedure: plan.row.id,
    definition: plan.procedure,
    schools: project.settings.schools[plan.procedure.key] ?? {},
    places,
    qualification: await qualificationAt(db, project, actor, compiled),
  }
}
