import type { Knex } from 'knex'
import { asksForSomebody } from './projection'
import { readWorked, workedColumns, type Worked, type WorkedRow } from './worked'

/** A stretch of a line whose embedment is made and judged as one. */
export interface Reach extends Worked {
  name: string
  from: number
  to: number
}

interface Row extends WorkedRow {
  name: string
  from_station: number
  to_station: number
}

const columns = [...workedColumns, 'name', 'from_station', 'to_station']

const reach = (r: Row): Reach => ({
  ...readWorked(r),
  name: r.name,
  from: r.from_station,
  to: r.to_station,
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
