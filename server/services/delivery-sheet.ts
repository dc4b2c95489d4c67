import type { Knex } from 'knex'
import { operatingCharacteristic, planFor, sampleSamplingRule, severityAfter } from '#core/delivery/sampling'
import { Problem } from '#core/problem'
import { catalogueOf } from '../db/deliveries'
import { entriesOfMany, forCore } from '../db/entries'
import { articlePlaces, findItem, itemCounts, itemsPage } from '../db/items'
import { samplingHistory, samplingsOf } from '../db/sampling'
import { openDelivery } from './notes'
import type { Actor } from './record'
import { BAD } from './sampling'

/** The note with what stands how on it; items are asked for page by page. */
export async function deliverySheet(db: Knex, actor: Actor, id: string) {
  const delivery = await openDelivery(db, actor, id)
  const [counts, catalogue, samplings, places] = await Promise.all([
    itemCounts(db, id),
    catalogueOf(db, actor.project),
    samplingsOf(db, id),
    articlePlaces(db, id),
  ])
  const articles = await Promise.all(
    [...new Set(counts.map((c) => c.item))].map(async (item) => {
      const mine = counts.filter((c) => c.item === item)
      const fit = mine.filter((c) => c.conforms).reduce((sum, c) => sum + c.count, 0)
      const sampling = samplings.find((s) => s.item === item) ?? null
      const next = severityAfter(await samplingHistory(db, actor.project, item))
      const plan = sampling
        ? {
            ...planFor(sampling.lotSize, sampleSamplingRule, sampling.severity),
            sample: sampling.sample,
            acceptance: sampling.acceptance,
          }
        : fit > 0
          ? planFor(fit, sampleSamplingRule, next.severity)
          : null
      const article = catalogue.get(item)
      const sum = (test: (c: (typeof mine)[number]) => boolean) =>
        mine.filter(test).reduce((total, c) => total + c.count, 0)
      return {
        item,
        place: places.get(item) ?? null,
        title: article?.title ?? item,
        kind: mine[0]!.kind,
        facts: article?.facts ?? {},
        limits: article?.limits ?? [],
        lots: [...new Set(mine.map((c) => c.lot))],
        count: sum(() => true),
        waiting: sum((c) => c.state === 'received'),
        bad: sum((c) => BAD.includes(c.state)),
        sampling: sampling && {
          ...sampling,
          open: sum((c) => c.sampled && c.state === 'received'),
          found: sum((c) => c.sampled && BAD.includes(c.state)),
        },
        severity: next,
        plan,
        characteristic: plan ? operatingCharacteristic(plan) : [],
      }
    }),
  )
  const restCounts = counts.filter(
    (c) =>
      c.state === 'received' &&
      c.conforms &&
      !c.sampled &&
      !articles.find((a) => a.item === c.item)?.sampling?.item,
  )
  const passed = counts.filter(
    (c) =>
      c.state === 'received' &&
      c.conforms &&
      !c.sampled &&
      articles.find((a) => a.item === c.item)?.sampling?.accepted,
  )
  const total = (list: typeof counts) => list.reduce((sum, c) => sum + c.count, 0)
  return {
    delivery,
    articles,
    total: total(counts),
    waiting: total(counts.filter((c) => c.state === 'received')),
    acceptable: total(restCounts) + total(passed),
  }
}

/** One page of the items of a note, with what was last found on each. */
export async function itemsOfNote(
  db: Knex,
  actor: Actor,
  deliveryId: string,
  ask: { search: string; show: 'all' | 'waiting' | 'sampled' | 'bad'; from: number; count: number },
) {
  await openDelivery(db, actor, deliveryId)
  const states = ask.show === 'waiting' ? (['received'] as const) : ask.show === 'bad' ? BAD : undefined
  const page = await itemsPage(
    db,
    {
      project: actor.project,
      delivery: deliveryId,
      search: ask.search || undefined,
      states,
      sampled: ask.show === 'sampled' ? true : undefined,
    },
    ask.from,
    ask.count,
  )
  return page
}

/** One item with its last inspection. */
export async function itemSheet(db: Knex, actor: Actor, deliveryId: string, itemId: string) {
  await openDelivery(db, actor, deliveryId)
  const item = await findItem(db, actor.project, itemId)
  if (!item || item.delivery !== deliveryId)
    throw new Problem('not-found', 'There is no such item on this note.', 'item')
  const article = (await catalogueOf(db, actor.project)).get(item.item)
  const entries = (await entriesOfMany(db, [itemId])).get(itemId) ?? []
  return {
    ...item,
    title: article?.title ?? item.item,
    facts: article?.facts ?? {},
    limits: article?.limits ?? [],
    inspection: entries.map(forCore).findLast((e) => e.kind === 'inspection')?.payload ?? null,
  }
}
