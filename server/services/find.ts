import { wordedIn } from '#core/quantity/site-units'
import { showMetres } from '#core/quantity/show'
import type { Knex } from 'knex'
import { wordsFor, type Project } from '../db/projects'
import type { Actor } from './record'

export interface Found {
  kind: 'joint' | 'ncr' | 'item' | 'reach' | 'pack' | 'delivery' | 'lot'
  id: string
  /** the delivery of an item */
  parent: string | null
  label: string
  detail: string
}

/** Goes to a joint, lot, serial, report, reach, pack or note by a fragment of its name. */
export async function find(db: Knex, asked: Project, actor: Actor, text: string): Promise<Found[]> {
  const said = (station: number) => wordedIn(wordsFor(asked), () => showMetres(station, 0))
  const like = `%${text.replace(/[%_\\]/g, '\\$&')}%`
  const { project, crew } = actor
  const limit = 8
  const scoped = <T extends Knex.QueryBuilder>(query: T): T => (crew ? (query.where({ crew }) as T) : query)
  const office = crew === null
  const [joints, ncrs, reaches, items, packs, deliveries, lots] = await Promise.all([
    scoped(
      db('joints')
        .select('id', 'number', 'station')
        .where({ project })
        .where('number', 'like', like)
        .orderBy('station')
        .limit(limit),
    ),
    scoped(
      db('ncrs')
        .select('id', 'number', 'place', 'state')
        .where({ project })
        .where((q) => void q.where('number', 'like', like).orWhere('place', 'like', like))
        .orderBy('number')
        .limit(limit),
    ),
    scoped(
      db('reaches')
        .select('id', 'name', 'state')
        .where({ project })
        .where('name', 'like', like)
        .orderBy('name')
        .limit(limit),
    ),
    office
      ? db('items')
          .select('id', 'serial', 'lot', 'delivery', 'state')
          .where({ project })
          .where((q) => void q.where('serial', 'like', like).orWhere('lot', 'like', like))
          .orderBy('serial')
          .limit(limit)
      : [],
    office
      ? db('packs')
          .select('id', 'number', 'state')
          .where({ project })
          .where('number', 'like', like)
          .orderBy('number')
          .limit(limit)
      : [],
    office
      ? db('deliveries')
          .select('id', 'number', 'state')
          .where({ project })
          .where('number', 'like', like)
          .orderBy('number')
          .limit(limit)
      : [],
    office
      ? db('lots')
          .select('id', 'lot', 'item', 'quarantined_at')
          .where({ project })
          .where('lot', 'like', like)
          .orderBy('lot')
          .limit(limit)
      : [],
  ])
  return [
    ...joints.map((j: { id: string; number: string; station: number }): Found => ({
      kind: 'joint',
      id: j.id,
      parent: null,
      label: j.number,
      detail: `station ${said(j.station)}`,
    })),
    ...ncrs.map((n: { id: string; number: string; place: string; state: string }): Found => ({
      kind: 'ncr',
      id: n.id,
      parent: null,
      label: n.number,
      detail: `${n.place}, ${n.state}`,
    })),
    ...packs.map((p: { id: string; number: string; state: string }): Found => ({
      kind: 'pack',
      id: p.id,
      parent: null,
      label: p.number,
      detail: p.state,
    })),
    ...reaches.map((r: { id: string; name: string; state: string }): Found => ({
      kind: 'reach',
      id: r.id,
      parent: null,
      label: r.name,
      detail: r.state,
    })),
    ...deliveries.map((d: { id: string; number: string; state: string }): Found => ({
      kind: 'delivery',
      id: d.id,
      parent: null,
      label: d.number,
      detail: d.state,
    })),
    ...lots.map(
      (l: { id: string; lot: string; item: string | null; quarantined_at: Date | null }): Found => ({
        kind: 'lot',
        id: l.id,
        parent: null,
        label: l.lot,
        detail: `${l.item ?? 'item not known'}${l.quarantined_at ? ', quarantined' : ''}`,
      }),
    ),
    ...items.map(
      (i: { id: string; serial: string; lot: string; delivery: string; state: string }): Found => ({
        kind: 'item',
        id: i.id,
        parent: i.delivery,
        label: i.serial,
        detail: `lot ${i.lot}, ${i.state}`,
      }),
    ),
  ]
}
