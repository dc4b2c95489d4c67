import type { Knex } from 'knex'
import type { LotDates } from '#core/lots/shelf-life'

export interface Lot extends LotDates {
  id: string
  lot: string
  item: string | null
  title: string | null
  kind: string | null
  gtin: string | null
  quarantinedAt: string | null
  reason: string | null
}

interface Row {
  id: string
  lot: string
  item: string | null
  title: string | null
  kind: string | null
  gtin: string | null
  made: string | null
  expires: string | null
  opened: string | null
  shelf_months: number | null
  opened_days: number | null
  quarantined_at: Date | null
  reason: string | null
}

const day = (column: string) => `DATE_FORMAT(l.${column}, '%Y-%m-%d') as ${column}`
const select = (db: Knex) =>
  db('lots as l')
    .leftJoin('catalogue as c', (on) => on.on('c.project', 'l.project').andOn('c.item', 'l.item'))
    .select(
      'l.id',
      'l.lot',
      'l.item',
      'c.title',
      'c.kind',
      'c.gtin',
      'c.shelf_months',
      'c.opened_days',
      'l.quarantined_at',
      'l.reason',
      db.raw(day('made')),
      db.raw(day('expires')),
      db.raw(day('opened')),
    )

const lot = (r: Row): Lot => ({
  id: r.id,
  lot: r.lot,
  item: r.item,
  title: r.title,
  kind: r.kind,
  gtin: r.gtin,
  made: r.made,
  expires: r.expires,
  opened: r.opened,
  shelfMonths: r.shelf_months,
  openedDays: r.opened_days,
  quarantinedAt: r.quarantined_at?.toISOString() ?? null,
  reason: r.reason,
})

export async function findLot(
  db: Knex,
  project: string,
  by: { id: string } | { lot: string },
): Promise<Lot | null> {
  const row = (await select(db)
    .where('l.project', project)
    .where('id' in by ? { 'l.id': by.id } : { 'l.lot': by.lot })
    .first()) as Row | undefined
  return row ? lot(row) : null
}

export async function lotsPage(
  db: Knex,
  project: string,
  search: string,
  from: number,
  count: number,
): Promise<{ total: number; lots: (Lot & { items: number })[] }> {
  const like = `%${search.replace(/[%_\\]/g, '\\$&')}%`
  const where = (q: Knex.QueryBuilder) =>
    void q
      .where('l.project', project)
      .where((w) => void w.where('l.lot', 'like', like).orWhere('c.title', 'like', like))
  const base = select(db)
  where(base)
  const total = db('lots as l')
    .leftJoin('catalogue as c', (on) => on.on('c.project', 'l.project').andOn('c.item', 'l.item'))
    .count<{ n: number }[]>('* as n')
  where(total)
  const [n, rows] = await Promise.all([
    total.first(),
    base
      .orderByRaw('l.quarantined_at IS NULL, l.expires IS NULL, l.expires, l.lot')
      .limit(count)
      .offset(from),
  ])
  const list = rows as Row[]
  const counts =
    list.length === 0
      ? []
      : await db('items')
          .select('lot')
          .count<{ lot: string; n: number }[]>('* as n')
          .where({ project })
          .whereIn(
            'lot',
            list.map((r) => r.lot),
          )
          .groupBy('lot')
  return {
    total: Number(n?.n ?? 0),
    lots: list.map((r) => ({ ...lot(r), items: Number(counts.find((c) => c.lot === r.lot)?.n ?? 0) })),
  }
}

/**
 * Lots with something that may stop their use: a date, or quarantine.
 *
 * @param names only these
 */
export async function limitedLots(db: Knex, project: string, names?: readonly string[]): Promise<Lot[]> {
  if (names?.length === 0) return []
  const query = select(db)
    .where('l.project', project)
    .where(
      (q) =>
        void q
          .whereNotNull('l.made')
          .orWhereNotNull('l.expires')
          .orWhereNotNull('l.opened')
          .orWhereNotNull('l.quarantined_at'),
    )
  if (names) void query.whereIn('l.lot', names)
  return ((await query) as Row[]).map(lot)
}

export interface LotFacts {
  id: string
  lot: string
  item: string | null
  made: string | null
  expires: string | null
  opened: string | null
}

/** Enters lots that are not known yet; of known ones only dates that were not known are added. */
export async function addLots(db: Knex, project: string, lots: readonly LotFacts[]): Promise<void> {
  for (let i = 0; i < lots.length; i += 200) {
    await db('lots')
      .insert(lots.slice(i, i + 200).map((l) => ({ ...l, project })))
      .onConflict(['project', 'lot'])
      .merge({
        item: db.raw('COALESCE(lots.item, VALUES(item))'),
        made: db.raw('COALESCE(lots.made, VALUES(made))'),
        expires: db.raw('COALESCE(lots.expires, VALUES(expires))'),
        opened: db.raw('COALESCE(lots.opened, VALUES(opened))'),
      } as never)
  }
}

export const saveLotDates = async (
  db: Knex,
  id: string,
  dates: Pick<LotDates, 'made' | 'expires' | 'opened'>,
): Promise<void> =>
  void (await db('lots')
    .where({ id })
    .update({ made: dates.made, expires: dates.expires, opened: dates.opened }))

export const setLotQuarantine = async (
  db: Knex,
  id: string,
  at: Date | null,
  reason: string | null,
): Promise<void> => void (await db('lots').where({ id }).update({ quarantined_at: at, reason }))
