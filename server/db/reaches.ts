import type { Knex } from 'knex'
import type { Change } from '#core/judgement/ahead'
import type { Projection } from '#core/judgement/projection'
import type { Occasion } from '#core/plan/occasions'
import { readOccasions } from './begun'
import { asksForSomebody, projectionColumns, readProjection, type ProjectionRow } from './projection'

/** A stretch of a line whose embedment is made and judged as one. */
export interface Reach extends Projection {
  id: string
  project: string
  alignment: string
  crew: string
  name: string
  from: number
  to: number
  /** key of the procedure it is planned for */
  system: string
  procedure: string | null
  facts: Record<string, number | string | boolean>
  openedAt: string | null
  /** when somebody first recorded something of it */
  begunAt: string | null
  occasions: readonly Occasion[]
  /** rules for new crews that its crew had worked its way out of */
  passed: readonly string[]
  changes: readonly Change[]
}

interface Row extends ProjectionRow {
  id: string
  project: string
  alignment: string
  crew: string
  name: string
  from_station: number
  to_station: number
  system: string
  procedure_id: string | null
  facts: string
  opened_at: Date | null
  begun_at: Date | null
  occasions: string
  passed: string
}

const columns = [
  'id',
  'project',
  'alignment',
  'crew',
  'name',
  'from_station',
  'to_station',
  'system',
  'procedure_id',
  'facts',
  'opened_at',
  'begun_at',
  'occasions',
  'passed',
  ...projectionColumns,
]

const reach = (r: Row): Reach => ({
  id: r.id,
  project: r.project,
  alignment: r.alignment,
  crew: r.crew,
  name: r.name,
  from: r.from_station,
  to: r.to_station,
  system: r.system,
  procedure: r.procedure_id,
  facts: JSON.parse(r.facts),
  openedAt: r.opened_at?.toISOString() ?? null,
  begunAt: r.begun_at?.toISOString() ?? null,
  occasions: readOccasions(r.occasions),
  passed: JSON.parse(r.passed),
  ...readProjection(r),
})

export async function reachesOf(db: Knex, project: string, crew: string | null = null): Promise<Reach[]> {
  const query = db('reaches').select(columns).where({ project }).orderBy(['alignment', 'from_station'])
  if (crew) void query.where({ crew })
  return ((await query) as Row[]).map(reach)
}

/** Reaches that ask for somebody. */
export async function livelyReaches(db: Knex, project: string, crew: string | null): Promise<Reach[]> {
  const query = db('reaches')
    .select(columns)
    .where({ project })
    .where(asksForSomebody)
    .orderBy('from_station')
  if (crew) void query.where({ crew })
  return ((await query) as Row[]).map(reach)
}

/** Reaches that somebody has begun and nobody has finished, whatever is wrong with them. */
export async function unfinishedReaches(db: Knex, project: string, crew: string | null): Promise<Reach[]> {
  const query = db('reaches')
    .select(columns)
    .where({ project })
    .whereNotIn('state', ['not-started', 'accepted', 'withdrawn'])
    .orderBy('from_station')
  if (crew) void query.where({ crew })
  return ((await query) as Row[]).map(reach)
}

export async function findReach(db: Knex, project: string, id: string): Promise<Reach | null> {
  const row = (await db('reaches').select(columns).where({ project, id }).first()) as Row | undefined
  return row ? reach(row) : null
}

export interface PlannedReach {
  id: string
  alignment: string
  crew: string
  name: string
  from: number
  to: number
  system: string
  /** the issued revision that it is worked by */
  procedure: string
  facts: Record<string, number | string | boolean>
  openedAt: Date
}

export async function insertReach(db: Knex, project: string, r: PlannedReach): Promise<void> {
  await db('reaches').insert({
    id: r.id,
    project,
    alignment: r.alignment,
    crew: r.crew,
    name: r.name,
    from_station: r.from,
    to_station: r.to,
    system: r.system,
    procedure_id: r.procedure,
    facts: JSON.stringify(r.facts),
    opened_at: r.openedAt,
  })
}
