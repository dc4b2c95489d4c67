import type { Knex } from 'knex'
import type { Change } from '#core/judgement/ahead'
import { emptySummary, type Projection, type Summary } from '#core/judgement/projection'
import type { SubjectState } from '#core/judgement/types'

/** What is stored of a judged subject: the same columns in every table of them. */
export interface ProjectionRow {
  state: SubjectState
  until_at: Date | null
  then_state: SubjectState | null
  testable_at: Date | null
  held_since: Date | null
  drafts: number
  done: number
  applicable: number
  summary: string
}

export const projectionColumns = [
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

/** What asks for somebody: held, with drafts, at work, or with a state that time changes or has changed. */
export const asksForSomebody = (query: Knex.QueryBuilder): void =>
  void query
    .whereNotNull('held_since')
    .orWhere('drafts', '>', 0)
    .orWhere('state', 'in-work')
    // By a query, or a condition of a release, nobody stands; but somebody is asked.
    .orWhere('state', 'held')
    .orWhere((c) =>
      c
        .whereNotNull('until_at')
        .andWhere((t) => t.where('until_at', '>', new Date()).orWhereNot('then_state', 'accepted')),
    )

const ms = (date: Date | null) => (date === null ? null : date.getTime())
const date = (value: number | null) => (value === null ? null : new Date(value))

/** Changes to come; what was stored before there were several knows the last one. */
export const changesOf = (r: Pick<ProjectionRow, 'summary' | 'until_at' | 'then_state'>): Change[] =>
  (JSON.parse(r.summary) as Partial<Summary>).changes ??
  (r.until_at && r.then_state ? [{ at: r.until_at.getTime(), state: r.then_state }] : [])

/** What is drawn to be watched is read by those alone who watch (`pointedAt`): it travels with no subject. */
function summaryOf(stored: string): Summary {
  const { watches: _told, ...summary } = JSON.parse(stored) as Partial<Summary>
  return { ...emptySummary, ...summary }
}

export const readProjection = (r: ProjectionRow): Projection & { changes: readonly Change[] } => ({
  state: r.state,
  until: ms(r.until_at),
  then: r.then_state,
  changes: changesOf(r),
  testableAt: ms(r.testable_at),
  heldSince: ms(r.held_since),
  drafts: r.drafts,
  done: r.done,
  applicable: r.applicable,
  summary: summaryOf(r.summary),
})

export async function saveProjection(
  db: Knex,
  table: 'joints' | 'reaches',
  id: string,
  p: Projection,
): Promise<void> {
  await db(table)
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
