import type { Knex } from 'knex'
import type { ItemLimit } from '#core/delivery/inspection'
import type { ArticleFacts } from '#core/plan/lists/goods'
import type { StructureKind } from '#core/plan/lists/lines'

/** What lists of the setup keep in tables of their own. */

export interface StructureRow {
  id: string
  alignment: string
  name: string
  kind: StructureKind
  station: number
  /** of a bend, degrees */
  angle: number | null
}
const structureColumns = ['id', 'alignment', 'name', 'kind', 'station', 'angle'] as const

export const structuresOf = async (db: Knex, project: string): Promise<StructureRow[]> =>
  db('structures')
    .where({ project })
    .orderBy(['alignment', 'station'])
    .select(...structureColumns)

export const insertStructures = async (
  db: Knex,
  project: string,
  rows: readonly StructureRow[],
): Promise<void> => void (await db('structures').insert(rows.map((r) => ({ ...r, project }))))

export interface ArticleRow {
  item: string
  title: string
  kind: string
  pressureClass: string
  facts: ArticleFacts
  mass: number | null
  gtin: string | null
  shelfMonths: number | null
  openedDays: number | null
  limits: ItemLimit[]
}

export async function articlesOf(db: Knex, project: string): Promise<ArticleRow[]> {
  const rows = (await db('catalogue').where({ project }).orderBy('item').select('*')) as {
    item: string
    title: string
    kind: string
    pressure_class: string
    facts: string
    mass: number | null
    gtin: string | null
    shelf_months: number | null
    opened_days: number | null
    limits: string
  }[]
  return rows.map((r) => ({
    item: r.item,
    title: r.title,
    kind: r.kind,
    pressureClass: r.pressure_class,
    facts: JSON.parse(r.facts),
    mass: r.mass,
    gtin: r.gtin,
    shelfMonths: r.shelf_months,
    openedDays: r.opened_days,
    limits: JSON.parse(r.limits),
  }))
}

const articleColumns = (r: ArticleRow) => ({
  title: r.title,
  kind: r.kind,
  pressure_class: r.pressureClass,
  facts: JSON.stringify(r.facts),
  mass: r.mass,
  gtin: r.gtin,
  shelf_months: r.shelfMonths,
  opened_days: r.openedDays,
  limits: JSON.stringify(r.limits),
})

export const insertArticles = async (db: Knex, project: string, rows: readonly ArticleRow[]): Promise<void> =>
  void (await db('catalogue').insert(rows.map((r) => ({ project, item: r.item, ...articleColumns(r) }))))

export const saveArticle = async (db: Knex, project: string, row: ArticleRow): Promise<void> =>
  void (await db('catalogue').where({ project, item: row.item }).update(articleColumns(row)))

/** Points of a line, as a list of them is read: what it had of them before is replaced. */
export const saveProfile = async (
  db: Knex,
  line: string,
  points: { profile: string | null; ground: string | null },
): Promise<void> =>
  void (await db('alignments')
    .where({ id: line })
    .update({
      ...(points.profile !== null && { profile: points.profile }),
      ...(points.ground !== null && { ground: points.ground }),
    }))

/** Joints of a project by line and station, with what a list of them says. */
export const listedJoints = async (
  db: Knex,
  project: string,
): Promise<{ number: string; station: number; system: string; alignment: string; crew: string }[]> =>
  db('joints')
    .where({ project })
    .orderBy(['alignment', 'station'])
    .select('number', 'station', 'system', 'alignment', 'crew')

const named = { joints: 'number', reaches: 'name', packs: 'number', structures: 'name' } as const
export type PlannedTable = keyof typeof named

/**
 * What of a plan bears nothing yet, by its names, held until the transaction ends: not begun, and with no
 * entry in the record.
 */
export async function untouched(
  trx: Knex,
  project: string,
  table: PlannedTable,
  names: readonly string[],
): Promise<{ id: string; name: string }[]> {
  const column = named[table]
  const query = trx(table)
    .where({ project })
    .whereIn(column, names)
    .select('id', `${column} as name`)
    .forUpdate()
  if (table === 'joints') void query.whereNull('opened_at')
  if (table === 'packs') void query.where({ state: 'planned' })
  if (table !== 'structures')
    void query.whereNotExists((q) =>
      q
        .select(trx.raw('1'))
        .from('entries')
        .whereRaw('entries.subject = ??', [`${table}.id`]),
    )
  return query
}

export const deletePlanned = async (trx: Knex, table: PlannedTable, ids: readonly string[]): Promise<void> =>
  void (await trx(table).whereIn('id', ids).delete())
