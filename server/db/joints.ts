import type { Knex } from 'knex'
import { asksForSomebody } from './projection'
import { readWorked, workedColumns, type Worked, type WorkedRow } from './worked'

export interface Joint extends Worked {
  number: string
  station: number
  upstream: string | null
  downstream: string | null
  fitting: string | null
}

interface Row extends WorkedRow {
  number: string
  station: number
  upstream: string | null
  downstream: string | null
  fitting: string | null
}

const columns = [...workedColumns, 'number', 'station', 'upstream', 'downstream', 'fitting']

const joint = (r: Row): Joint => ({
  ...readWorked(r),
  number: r.number,
  station: r.station,
  upstream: r.upstream,
  downstream: r.downstream,
  fitting: r.fitting,
})

export async function findJoint(db: Knex, project: string, id: string): Promise<Joint | null> {
  const row = (await db('joints').select(columns).where({ project, id }).first()) as Row | undefined
  return row ? joint(row) : null
}

export interface JointFilter {
  project: string
  ids?: string[]
  crew?: string | null
  alignment?: string
  from?: number
  to?: number
}

export async function jointsWhere(db: Knex, filter: JointFilter): Promise<Joint[]> {
  const query = db('joints')
    .select(columns)
    .where({ project: filter.project })
    .orderBy(['alignment', 'station'])
  if (filter.ids) void query.whereIn('id', filter.ids)
  if (filter.crew) void query.where({ crew: filter.crew })
  if (filter.alignment) void query.where({ alignment: filter.alignment })
  if (filter.from !== undefined) void query.where('station', '>=', filter.from)
  if (filter.to !== undefined) void query.where('station', '<=', filter.to)
  return ((await query) as Row[]).map(joint)
}

/** Joints that ask for somebody. */
export async function livelyJoints(db: Knex, project: string, crew: string | null): Promise<Joint[]> {
  const query = db('joints').select(columns).where({ project }).where(asksForSomebody).orderBy('station')
  if (crew) void query.where({ crew })
  return ((await query) as Row[]).map(joint)
}

/** Joints opened since a moment that are not done, the latest first. */
export async function jointsAtWork(
  db: Knex,
  project: string,
  crew: string | null,
  since: Date,
  limit: number,
): Promise<Joint[]> {
  const query = db('joints')
    .select(columns)
    .where({ project })
    .whereIn('state', ['in-work', 'not-started'])
    .where('opened_at', '>=', since)
    .orderBy('opened_at', 'desc')
    .limit(limit)
  if (crew) void query.where({ crew })
  return ((await query) as Row[]).map(joint)
}

/** The last joints that a crew finished by a procedure, the latest first. */
export const lastFinished = async (
  db: Knex,
  project: string,
  crew: string,
  system: string,
  limit: number,
): Promise<string[]> =>
  db('joints')
    .where({ project, crew, system })
    .whereIn('state', ['accepted', 'waiting'])
    .whereNotNull('opened_at')
    .orderBy('opened_at', 'desc')
    .limit(limit)
    .pluck('id')

export interface OpenedFilter {
  project: string
  since: Date
  before?: Date
  crew?: string | null
  alignment?: string
  procedure?: string
  system?: string
}

/** Joints opened within a time, the latest first. */
export async function jointsOpened(db: Knex, filter: OpenedFilter, limit: number): Promise<Joint[]> {
  const query = db('joints')
    .select(columns)
    .where({ project: filter.project })
    .where('opened_at', '>=', filter.since)
    .orderBy('opened_at', 'desc')
    .limit(limit)
  if (filter.before) void query.where('opened_at', '<', filter.before)
  if (filter.crew) void query.where({ crew: filter.crew })
  if (filter.alignment) void query.where({ alignment: filter.alignment })
  if (filter.procedure) void query.where({ procedure_id: filter.procedure })
  if (filter.system) void query.where({ system: filter.system })
  return ((await query) as Row[]).map(joint)
}

export interface JointOpening {
  procedure: string
  upstream: string | null
  downstream: string | null
  fitting: string | null
  facts: Record<string, number | string | boolean>
  openedAt: Date
}

/** Opens a joint that is not open yet; false when somebody else was first. */
export async function openJoint(db: Knex, id: string, o: JointOpening): Promise<boolean> {
  const changed = await db('joints')
    .where({ id })
    .whereNull('procedure_id')
    .update({
      procedure_id: o.procedure,
      upstream: o.upstream,
      downstream: o.downstream,
      fitting: o.fitting,
      facts: JSON.stringify(o.facts),
      opened_at: o.openedAt,
    })
  return changed === 1
}

/** What is planned and not begun: every line, system and crew that go together, once. */
export async function plannedKinds(
  db: Knex,
  project: string,
  crew: string | null,
): Promise<Pick<Joint, 'alignment' | 'system' | 'crew'>[]> {
  const query = db('joints').distinct('alignment', 'system', 'crew').where({ project }).whereNull('opened_at')
  return (await (crew ? query.where({ crew }) : query)) as Pick<Joint, 'alignment' | 'system' | 'crew'>[]
}

/** Where items are built in: item id → places. */
export async function itemUse(
  db: Knex,
  project: string,
): Promise<
  { id: string; number: string; upstream: string | null; downstream: string | null; fitting: string | null }[]
> {
  return db('joints')
    .select('id', 'number', 'upstream', 'downstream', 'fitting')
    .where({ project })
    .whereNotNull('procedure_id')
}
