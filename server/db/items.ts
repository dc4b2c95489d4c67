import type { Knex } from 'knex'
import type { ItemPlace } from '#core/procedure/opening'

export type ItemState = 'received' | 'accepted' | 'remark' | 'quarantined' | 'returned'
export type ItemKind = 'pipe' | 'fitting' | 'consumable'

/** One delivered piece: a pipe length, a fitting, or a container of a consumable. */
export interface Item {
  id: string
  delivery: string
  item: string
  kind: ItemKind
  serial: string
  lot: string
  length: number | null
  conforms: boolean
  state: ItemState
  remark: string | null
  /** in the sample that is looked at for its lot */
  sampled: boolean
  /** where it lies in the yard */
  place: string | null
}
export type NewItem = Omit<Item, 'sampled' | 'place'> & { project: string }

const itemColumns = [
  'id',
  'delivery',
  'item',
  'kind',
  'serial',
  'lot',
  'length',
  'conforms',
  'state',
  'remark',
  'sampled',
  'place',
]
const item = (r: Item): Item => ({ ...r, conforms: Boolean(r.conforms), sampled: Boolean(r.sampled) })
const contains = (text: string) => `%${text.replace(/[%_\\]/g, '\\$&')}%`

export async function findItem(db: Knex, project: string, id: string): Promise<Item | null> {
  const row = await db('items').select(itemColumns).where({ project, id }).first()
  return row ? item(row) : null
}

export const itemsByIds = async (db: Knex, project: string, ids: string[]): Promise<Item[]> =>
  ids.length === 0
    ? []
    : (await db('items').select(itemColumns).where({ project }).whereIn('id', ids)).map(item)

export interface ItemFilter {
  project: string
  delivery?: string
  lot?: string
  place?: string
  states?: readonly ItemState[]
  sampled?: boolean
  /** a fragment of serial or lot */
  search?: string
}

function filtered(db: Knex, f: ItemFilter) {
  const query = db('items').where({ project: f.project })
  if (f.delivery) void query.where({ delivery: f.delivery })
  if (f.lot) void query.where({ lot: f.lot })
  if (f.place) void query.where({ place: f.place })
  if (f.states) void query.whereIn('state', f.states)
  if (f.sampled !== undefined) void query.where({ sampled: f.sampled })
  if (f.search)
    void query.where(
      (q) => void q.where('serial', 'like', contains(f.search!)).orWhere('lot', 'like', contains(f.search!)),
    )
  return query
}

/** One page of items by kind and serial, and how many there are in all. */
export async function itemsPage(
  db: Knex,
  filter: ItemFilter,
  from: number,
  count: number,
): Promise<{ total: number; items: Item[] }> {
  const [total, rows] = await Promise.all([
    filtered(db, filter).count<{ n: number }[]>('* as n').first(),
    filtered(db, filter).select(itemColumns).orderBy(['kind', 'serial']).limit(count).offset(from),
  ])
  return { total: Number(total?.n ?? 0), items: (rows as Item[]).map(item) }
}

export const itemsWhere = async (db: Knex, filter: ItemFilter, limit = 100_000): Promise<Item[]> =>
  ((await filtered(db, filter).select(itemColumns).orderBy(['kind', 'serial']).limit(limit)) as Item[]).map(
    item,
  )

/** Items of a lot or a delivery that no joint holds. */
export async function looseItems(
  db: Knex,
  project: string,
  of: { lot: string } | { delivery: string } | { id: string },
): Promise<Item[]> {
  const rows = await db('items as i')
    .select(itemColumns.map((c) => `i.${c}`))
    .where('i.project', project)
    .where(Object.fromEntries(Object.entries(of).map(([key, value]) => [`i.${key}`, value])))
    .whereNotExists(
      (q) =>
        void q
          .from('uses as u')
          .where({ 'u.project': project, 'u.kind': 'item' })
          .whereRaw('u.value = CAST(i.id AS CHAR(36) CHARACTER SET utf8mb4) COLLATE utf8mb4_unicode_520_ci'),
    )
    .orderBy('i.serial')
  return (rows as Item[]).map(item)
}

/** Which lots came with which deliveries, among the items asked for. */
export const cameWith = async (
  db: Knex,
  project: string,
  of: { lot?: string; delivery?: string; id?: string },
): Promise<{ delivery: string; lot: string }[]> =>
  db('items')
    .distinct('delivery', 'lot')
    .where({ project, ...of })

export interface ItemCount {
  item: string
  lot: string
  kind: ItemKind
  state: ItemState
  conforms: boolean
  sampled: boolean
  count: number
}

/** Where the items of each article on a delivery lie; the place that most of them have. */
export async function articlePlaces(db: Knex, delivery: string): Promise<Map<string, string>> {
  const rows = (await db('items')
    .select('item', 'place')
    .count('* as n')
    .where({ delivery })
    .whereNotNull('place')
    .groupBy('item', 'place')
    .orderBy('n')) as unknown as { item: string; place: string }[]
  return new Map(rows.map((r) => [r.item, r.place]))
}

/** How many items of a delivery stand how, by article and lot. */
export async function itemCounts(db: Knex, delivery: string): Promise<ItemCount[]> {
  const rows = await db('items')
    .select('item', 'lot', 'kind', 'state', 'conforms', 'sampled')
    .count('* as n')
    .where({ delivery })
    .groupBy('item', 'lot', 'kind', 'state', 'conforms', 'sampled')
    .orderBy(['kind', 'item', 'lot'])
  return (rows as unknown as (Omit<ItemCount, 'count'> & { n: number })[]).map(({ n, ...r }) => ({
    ...r,
    conforms: Boolean(r.conforms),
    sampled: Boolean(r.sampled),
    count: Number(n),
  }))
}

/** What a joint held that was withdrawn is free again. */
const stillOfTheJob = (q: Knex.QueryBuilder): void => void q.whereNot('j.state', 'withdrawn')

/**
 * Accepted items of these catalogue entries, of no quarantined lot, that no joint holds yet in this
 * place.
 */
export async function freeItems(
  db: Knex,
  project: string,
  place: ItemPlace,
  items: readonly string[],
  search: string,
  limit = 60,
): Promise<Item[]> {
  const rows = await db('items as i')
    .select(itemColumns.map((c) => `i.${c}`))
    .where('i.project', project)
    .whereIn('i.item', items)
    .whereIn('i.state', ['accepted', 'remark'])
    .whereNotExists((q) => void q.from('joints as j').whereRaw('j.?? = i.id', [place]).where(stillOfTheJob))
    .whereNotExists(
      (q) =>
        void q
          .from('lots as l')
          .whereRaw('l.project = i.project and l.lot = i.lot')
          .whereNotNull('l.quarantined_at'),
    )
    .where('i.serial', 'like', contains(search))
    .orderBy('i.serial')
    .limit(limit)
  return rows.map(item)
}

/** Whether an item is built in already at this place of a joint. */
export const isBuiltIn = async (db: Knex, place: ItemPlace, id: string): Promise<boolean> =>
  (await db('joints as j').where(place, id).where(stillOfTheJob).first('j.id')) !== undefined

export async function insertItems(db: Knex, items: readonly NewItem[]): Promise<void> {
  for (let i = 0; i < items.length; i += 500) await db('items').insert(items.slice(i, i + 500))
}

export const setItemState = async (
  db: Knex,
  ids: readonly string[],
  state: ItemState,
  remark: string | null,
): Promise<void> => {
  for (let i = 0; i < ids.length; i += 500)
    await db('items')
      .whereIn('id', ids.slice(i, i + 500))
      .update({ state, remark })
}

export const markSampled = async (db: Knex, ids: readonly string[]): Promise<void> => {
  for (let i = 0; i < ids.length; i += 500)
    await db('items')
      .whereIn('id', ids.slice(i, i + 500))
      .update({ sampled: true })
}

export const putItems = async (db: Knex, ids: readonly string[], place: string | null): Promise<void> => {
  for (let i = 0; i < ids.length; i += 500)
    await db('items')
      .whereIn('id', ids.slice(i, i + 500))
      .update({ place })
}

export const takenSerials = async (db: Knex, project: string, serials: string[]): Promise<string[]> => {
  const taken: string[] = []
  for (let i = 0; i < serials.length; i += 500)
    taken.push(
      ...(await db('items')
        .where({ project })
        .whereIn('serial', serials.slice(i, i + 500))
        .pluck('serial')),
    )
  return taken
}

/**
 * Holds the rows of items until the transaction ends, in one order for all, so that nobody else builds
 * them in or quarantines them meanwhile.
 */
export const holdItems = async (trx: Knex, ids: readonly string[]): Promise<void> =>
  void (ids.length > 0 && (await trx('items').select('id').whereIn('id', ids).orderBy('id').forUpdate()))
