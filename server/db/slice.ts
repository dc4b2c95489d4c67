import type { Knex } from 'knex'

/** Which subjects a device takes along: what is at work, what was just finished, and what comes next. */
export interface SliceScope {
  project: string
  /** only this crew's; null: every crew's */
  crew: string | null
  /** finished since then still counts */
  since: Date
  /** of each crew so many that are not begun */
  ahead: number
}

const NEXT = `SELECT id FROM (SELECT id, ROW_NUMBER() OVER (PARTITION BY crew, alignment ORDER BY station) AS nth
  FROM joints WHERE project = :project AND opened_at IS NULL) AS planned WHERE nth <= :ahead`

/** Ids of joints and reaches, the alive before the planned. */
export async function sliceIds(
  db: Knex,
  scope: SliceScope,
): Promise<{ joints: string[]; reaches: string[] }> {
  const { project, crew, since, ahead } = scope
  const own = (query: Knex.QueryBuilder) => (crew ? query.where({ crew }) : query)
  const alive = (query: Knex.QueryBuilder) =>
    query
      .whereNotNull('opened_at')
      .where((q) =>
        q.whereNot({ state: 'accepted' }).orWhere('drafts', '>', 0).orWhere('opened_at', '>', since),
      )
  const [opened, [next], reaches] = await Promise.all([
    own(alive(db('joints').where({ project })))
      .orderBy('opened_at', 'desc')
      .pluck('id'),
    db.raw(NEXT, { project, ahead }) as unknown as Promise<[{ id: string }[]]>,
    own(alive(db('reaches').where({ project })))
      .orderBy('from_station')
      .pluck('id'),
  ])
  const mine = crew
    ? new Set<string>(await db('joints').where({ project, crew }).whereNull('opened_at').pluck('id'))
    : null
  const planned = next.map((r) => r.id).filter((id) => !mine || mine.has(id))
  return { joints: [...(opened as string[]), ...planned], reaches: reaches as string[] }
}

/** Where the feed of a project stands. */
export const feedEnd = async (db: Knex, project: string): Promise<number> =>
  Number((await db('entries').where({ project }).max('feed as end').first())?.end ?? 0)

/** Subjects with entries after a place in the feed. */
export const changedAfter = async (db: Knex, project: string, after: number): Promise<Set<string>> =>
  new Set(
    await db('entries').where({ project }).where('feed', '>', after).distinct('subject').pluck('subject'),
  )
