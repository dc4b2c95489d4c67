import type { Knex } from 'knex'
import type { Change } from '#core/judgement/ahead'
import type { JointState, RunningClock, TestReadiness } from '#core/judgement/types'

/** What is stored of a joint's judgement beside its state: enough for lists, Today and the strip. */
export interface JointSummary {
  next: string | null
  nextTitle: string | null
  clocks: RunningClock[]
  /** states that it comes into by time alone, the next first */
  changes: Change[]
  /** null until something has been judged */
  test: TestReadiness | null
  holds: { step: string; title: string; since: number; by: string; afterTest?: boolean }[]
  drafts: { step: string; kind: string; criterion: string; reading: string; entry: string }[]
}

export interface Joint {
  id: string
  project: string
  alignment: string
  number: string
  station: number
  /** key of the procedure it is planned for */
  system: string
  crew: string
  procedure: string | null
  upstream: string | null
  downstream: string | null
  fitting: string | null
  facts: Record<string, number | string | boolean>
  openedAt: string | null
  state: JointState
  /** when time alone has changed its state for the last time, and into what */
  until: number | null
  then: JointState | null
  changes: readonly Change[]
  testableAt: number | null
  heldSince: number | null
  drafts: number
  done: number
  applicable: number
  summary: JointSummary
}

interface Row {
  id: string
  project: string
  alignment: string
  number: string
  station: number
  system: string
  crew: string
  procedure_id: string | null
  upstream: string | null
  downstream: string | null
  fitting: string | null
  facts: string
  opened_at: Date | null
  state: JointState
  until_at: Date | null
  then_state: JointState | null
  testable_at: Date | null
  held_since: Date | null
  drafts: number
  done: number
  applicable: number
  summary: string
}

const columns = [
  'id',
  'project',
  'alignment',
  'number',
  'station',
  'system',
  'crew',
  'procedure_id',
  'upstream',
  'downstream',
  'fitting',
  'facts',
  'opened_at',
  'state',
  'until_at',
  'then_state',
  'testable_at',
  'held_since',
  'drafts',
  'done',
  'applicable',
  'summary',
]

const ms = (date: Date | null) => (date === null ? null : date.getTime())
/** Changes to come; what was stored before there were several knows the last one. */
export const changesOf = (r: Pick<Row, 'summary' | 'until_at' | 'then_state'>): Change[] =>
  (JSON.parse(r.summary) as Partial<JointSummary>).changes ??
  (r.until_at && r.then_state ? [{ at: r.until_at.getTime(), state: r.then_state }] : [])

const joint = (r: Row): Joint => ({
  id: r.id,
  project: r.project,
  alignment: r.alignment,
  number: r.number,
  station: r.station,
  system: r.system,
  crew: r.crew,
  procedure: r.procedure_id,
  upstream: r.upstream,
  downstream: r.downstream,
  fitting: r.fitting,
  facts: JSON.parse(r.facts),
  openedAt: r.opened_at?.toISOString() ?? null,
  state: r.state,
  until: ms(r.until_at),
  then: r.then_state,
  changes: changesOf(r),
  testableAt: ms(r.testable_at),
  heldSince: ms(r.held_since),
  drafts: r.drafts,
  done: r.done,
  applicable: r.applicable,
  summary: JSON.parse(r.summary),
})

export const emptySummary: JointSummary = {
  next: null,
  nextTitle: null,
  clocks: [],
  changes: [],
  test: null,
  holds: [],
  drafts: [],
}

export async function findJoint(db: Knex, project: string, id: string): Promise<Joint | null> {
  const row = (await db('joints').select(columns).where({ project, id }).first()) as Row | undefined
  return row ? joint(row) : null
}

export interface JointFilter {
  project: string
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
  if (filter.crew) void query.where({ crew: filter.crew })
  if (filter.alignment) void query.where({ alignment: filter.alignment })
  if (filter.from !== undefined) void query.where('station', '>=', filter.from)
  if (filter.to !== undefined) void query.where('station', '<=', filter.to)
  return ((await query) as Row[]).map(joint)
}

/** Joints that ask for somebody: held, with drafts, with clocks, or with a state that time will change. */
export async function livelyJoints(db: Knex, project: string, crew: string | null): Promise<Joint[]> {
  const query = db('joints')
    .select(columns)
    .where({ project })
    .where((q) =>
      q
        .whereNotNull('held_since')
        .orWhere('drafts', '>', 0)
        .orWhere('state', 'in-work')
        .orWhere((c) =>
          c
            .whereNotNull('until_at')
            .andWhere((t) => t.where('until_at', '>', new Date()).orWhereNot('then_state', 'accepted')),
        ),
    )
    .orderBy('station')
  if (crew) void query.where({ crew })
  return ((await query) as Row[]).map(joint)
}

export type JointProjection = Pick<
  Joint,
  'state' | 'until' | 'then' | 'testableAt' | 'heldSince' | 'drafts' | 'done' | 'applicable' | 'summary'
>

const date = (value: number | null) => (value === null ? null : new Date(value))

export async function saveJointProjection(db: Knex, id: string, p: JointProjection): Promise<void> {
  await db('joints')
    .where({ id })
    .update({
      state: p.state,
      until_at: date(p.until),
      then_state: p.then,
      testable_at: date(p.testableAt),
      held_since: date(p.heldSince),
      drafts: p.drafts,
      done: p.done,
      applicable: p.applicable,
      summary: JSON.stringify(p.summary),
    })
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
