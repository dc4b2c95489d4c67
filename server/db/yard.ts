import type { Knex } from 'knex'
import type { StorageFinding, StoredKind } from '#core/yard/storage'

/** A place of the yard where goods lie. */
export interface Place {
  id: string
  name: string
  kind: StoredKind
  min: number | null
  max: number | null
  everyDays: number
  lastRound: string | null
  findings: StorageFinding[]
  items: number
}

interface Row {
  id: string
  name: string
  kind: StoredKind
  min_temperature: number | null
  max_temperature: number | null
  every_days: number
  last_round: Date | null
  findings: string
  items: number | string
}

const select = (db: Knex) =>
  db('places as p').select(
    'p.id',
    'p.name',
    'p.kind',
    'p.min_temperature',
    'p.max_temperature',
    'p.every_days',
    'p.last_round',
    'p.findings',
    db('items').count('*').whereRaw('items.place = p.id').as('items'),
  )
const place = (r: Row): Place => ({
  id: r.id,
  name: r.name,
  kind: r.kind,
  min: r.min_temperature,
  max: r.max_temperature,
  everyDays: r.every_days,
  lastRound: r.last_round?.toISOString() ?? null,
  findings: JSON.parse(r.findings),
  items: Number(r.items),
})

export const placesOf = async (db: Knex, project: string): Promise<Place[]> =>
  ((await select(db).where('p.project', project).orderBy('p.name')) as Row[]).map(place)

export async function findPlace(db: Knex, project: string, id: string): Promise<Place | null> {
  const row = (await select(db).where({ 'p.project': project, 'p.id': id }).first()) as Row | undefined
  return row ? place(row) : null
}

export type NewPlace = Pick<Place, 'id' | 'name' | 'kind' | 'min' | 'max' | 'everyDays'>

export const insertPlace = async (db: Knex, project: string, p: NewPlace): Promise<void> =>
  void (await db('places').insert({
    id: p.id,
    project,
    name: p.name,
    kind: p.kind,
    min_temperature: p.min,
    max_temperature: p.max,
    every_days: p.everyDays,
  }))

export const saveRound = async (
  db: Knex,
  id: string,
  at: Date,
  findings: readonly StorageFinding[],
): Promise<void> =>
  void (await db('places')
    .where({ id })
    .update({ last_round: at, findings: JSON.stringify(findings) }))

/** What lies at a place, by article and lot. */
export async function stockAt(
  db: Knex,
  place: string,
): Promise<{ item: string; title: string | null; lot: string; count: number; quarantined: number }[]> {
  const rows = await db('items as i')
    .leftJoin('catalogue as c', (on) => on.on('c.project', 'i.project').andOn('c.item', 'i.item'))
    .select('i.item', 'c.title', 'i.lot')
    .count('* as count')
    .sum({ quarantined: db.raw("i.state IN ('quarantined', 'returned')") })
    .where('i.place', place)
    .groupBy('i.item', 'c.title', 'i.lot')
    .orderBy(['i.item', 'i.lot'])
  return (
    rows as { item: string; title: string | null; lot: string; count: number; quarantined: number | string }[]
  ).map((r) => ({
    item: r.item,
    title: r.title,
    lot: r.lot,
    count: Number(r.count),
    quarantined: Number(r.quarantined),
  }))
}
