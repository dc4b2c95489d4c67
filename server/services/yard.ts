import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { standing } from '#core/judgement/standing'
import { Problem } from '#core/problem'
import { judgeRound, type StorageFinding, type StorageRound } from '#core/yard/storage'
import { inTransaction } from '../db/connection'
import { entriesOf, forCore, type StoredEntry } from '../db/entries'
import { itemsWhere, putItems } from '../db/items'
import { peopleOf } from '../db/projects'
import { findPlace, insertPlace, placesOf, saveRound, stockAt, type NewPlace, type Place } from '../db/yard'
import { actingRole, appendEntries, type Actor } from './record'

const DAY = 86_400_000

/** The last round at a place and what it found. */
export function projectPlace(
  place: Pick<Place, 'kind' | 'min' | 'max'>,
  entries: readonly StoredEntry[],
): { lastRound: string | null; findings: StorageFinding[] } {
  const last = standing(entries.map(forCore)).findLast((e) => e.kind === 'round')
  return last
    ? {
        lastRound: new Date(last.recordedAt).toISOString(),
        findings: judgeRound(place.kind, place, last.payload as unknown as StorageRound),
      }
    : { lastRound: null, findings: [] }
}

export async function yard(db: Knex, actor: Actor) {
  const places = await placesOf(db, actor.project)
  const now = Date.now()
  return places.map((p) => ({
    ...p,
    due: p.lastRound === null ? now : Date.parse(p.lastRound) + p.everyDays * DAY,
  }))
}

async function placeOf(db: Knex, actor: Actor, id: string): Promise<Place> {
  const place = await findPlace(db, actor.project, id)
  if (!place) throw new Problem('not-found', 'There is no such place.', 'place')
  return place
}

export async function placeSheet(db: Knex, actor: Actor, id: string) {
  const place = await placeOf(db, actor, id)
  const [stock, entries, people] = await Promise.all([
    stockAt(db, id),
    entriesOf(db, id),
    peopleOf(db, actor.project),
  ])
  const rounds = entries
    .map(forCore)
    .filter((e) => e.kind === 'round')
    .map((e) => ({
      id: e.id,
      at: e.recordedAt,
      by: people.find((p) => p.id === e.person)?.name ?? '',
      findings: judgeRound(place.kind, place, e.payload as unknown as StorageRound),
      remark: e.payload.remark as string | null,
      temperature: e.payload.temperature as number | null,
    }))
  return { place, stock, rounds: rounds.reverse() }
}

export async function addPlace(db: Knex, actor: Actor, place: NewPlace): Promise<void> {
  const role = actingRole(actor, 'keep-yard')
  if (place.min !== null && place.max !== null && place.min > place.max)
    throw new Problem('contradiction', 'The highest temperature is below the lowest.', 'max')
  await inTransaction(db, async (trx) => {
    if ((await placesOf(trx, actor.project)).some((p) => p.name.toLowerCase() === place.name.toLowerCase()))
      throw new Problem('duplicate', `There is a place "${place.name}" already.`, 'name')
    await insertPlace(trx, actor.project, place)
    await appendEntries(trx, actor, role, 'place', place.id, [
      { id: uuidv7(), kind: 'register', payload: { ...place }, recordedAt: new Date() },
    ])
  })
}

/** Records a round at a place; what it found stands until the next one. */
export async function recordRound(
  db: Knex,
  actor: Actor,
  id: string,
  round: StorageRound,
): Promise<StorageFinding[]> {
  const role = actingRole(actor, 'keep-yard')
  const place = await placeOf(db, actor, id)
  const at = new Date()
  return inTransaction(db, async (trx) => {
    const { entries } = await appendEntries(trx, actor, role, 'place', id, [
      { id: uuidv7(), kind: 'round', payload: { ...round }, recordedAt: at },
    ])
    const { findings } = projectPlace(place, entries)
    await saveRound(trx, id, at, findings)
    return findings
  })
}

/** Says that the items of a note, or of one article on it, lie at a place now. */
export async function storeItems(
  db: Knex,
  actor: Actor,
  id: string,
  what: { delivery: string; item: string | null },
): Promise<number> {
  const role = actingRole(actor, 'keep-yard')
  const place = await placeOf(db, actor, id)
  return inTransaction(db, async (trx) => {
    const items = (await itemsWhere(trx, { project: actor.project, delivery: what.delivery })).filter(
      (i) => what.item === null || i.item === what.item,
    )
    if (items.length === 0)
      throw new Problem('not-found', 'There is nothing of this on that note.', 'delivery')
    await putItems(
      trx,
      items.map((i) => i.id),
      id,
    )
    await appendEntries(trx, actor, role, 'place', id, [
      {
        id: uuidv7(),
        kind: 'event',
        payload: { event: 'stored', ...what, items: items.length, place: place.name },
        recordedAt: new Date(),
      },
    ])
    return items.length
  })
}
