import type { Knex } from 'knex'
import { crewsOf, type Project } from '../db/projects'
import type { Actor } from './record'
import { coming } from './today/coming'
import { comesToSee, type Asking, type TodayItem } from './today/item'
import { reports } from './today/reports'
import { tests } from './today/tests'
import { atWork } from './today/worked'
import { deliveries, yard } from './today/yard'

export type { TodayItem }

/** Where what needs somebody comes from; what is equally urgent shows in this order. */
const sources: readonly ((asking: Asking) => Promise<TodayItem[]>)[] = [
  atWork,
  coming,
  reports,
  tests,
  yard,
  deliveries,
]
/** Whoever only comes to see sees points and tests. */
const toSee: ReadonlySet<TodayItem['kind']> = new Set(['invitation', 'coming', 'test', 'concession'])

/** What needs this person now: who stands still longest comes first, then what is due soonest. */
export async function today(
  db: Knex,
  project: Project,
  actor: Actor,
  now = Date.now(),
): Promise<TodayItem[]> {
  const crews = await crewsOf(db, project.id)
  const crewName = (id: string | null) => crews.find((c) => c.id === id)?.name ?? null
  const found = await Promise.all(sources.map((ask) => ask({ db, project, actor, now, crewName })))
  const items = found.flat()
  const seen = comesToSee(actor) ? items.filter((i) => toSee.has(i.kind)) : items
  return seen.sort((a, b) => urgency(a, now) - urgency(b, now))
}

/**
 * Smaller is more urgent: people standing at a hold by how long, then work that may go on, then what
 * comes.
 */
function urgency(item: TodayItem, now: number): number {
  const order: Record<TodayItem['kind'], number> = {
    hold: 0,
    invitation: 1,
    coming: 1,
    action: 2,
    query: 2,
    concession: 2,
    draft: 3,
    ncr: 4,
    delivery: 5,
    test: 5,
    clock: 6,
    round: 7,
    lot: 8,
  }
  const overdue = item.kind === 'ncr' && item.due !== null && item.due < now
  const within = ['coming', 'invitation', 'clock', 'test', 'round', 'lot'].includes(item.kind)
    ? (item.due ?? now)
    : (item.since ?? now)
  return (overdue ? order.action : order[item.kind]) * 1e14 + within
}
