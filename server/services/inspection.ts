import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { judgeDamage, type Damage } from '#core/delivery/damage'
import { judgeItem, type ItemReadings } from '#core/delivery/inspection'
import {
  drawSample,
  operatingCharacteristic,
  planFor,
  sampleSamplingRule,
  severityAfter,
} from '#core/delivery/sampling'
import { Problem } from '#core/problem'
import { canonicalEntry, CHAIN_START } from '#core/record/chain'
import { inTransaction } from '../db/connection'
import { catalogueOf } from '../db/deliveries'
import { entriesOfMany, forCore, insertEntries } from '../db/entries'
import {
  articlePlaces,
  findItem,
  itemCounts,
  itemsPage,
  itemsWhere,
  markSampled,
  setItemState,
  type Item,
  type ItemState,
} from '../db/items'
import { instrumentsOf } from '../db/instruments'
import type { Project } from '../db/projects'
import { insertSampling, samplingHistory, samplingsOf, saveSampling } from '../db/sampling'
import { calibratedAt, instrumentFacts } from '#core/checks/instruments'
import { openDelivery } from './notes'
import { photoIsThere } from './photos'
import { actingRole, appendEntries, sha256, type Actor } from './record'

export interface Inspection {
  outcome: Exclude<ItemState, 'received'>
  remark: string | null
  damage: Damage | null
  readings: ItemReadings
  instrument: string | null
  photos: string[]
}

const BAD: readonly ItemState[] = ['quarantined', 'returned']
const passes = (outcome: ItemState) => outcome === 'accepted' || outcome === 'remark'

/**
 * What the criteria say of an inspection: measurements against the limits of the article, damage against
 * the wall.
 */
async function verdictOf(db: Knex, project: Project, item: Item, inspection: Inspection) {
  const article = (await catalogueOf(db, project.id)).get(item.item)
  const tool = inspection.instrument
    ? instrumentFacts(await instrumentsOf(db, project.id))[inspection.instrument]
    : undefined
  if (inspection.instrument && !tool)
    throw new Problem('not-found', 'There is no such instrument in the register.', 'instrument')
  if (tool && !calibratedAt(tool, Date.now()))
    throw new Problem(
      'out-of-calibration',
      `${tool.name} is out of calibration: its readings do not count.`,
      'instrument',
    )
  const limits = article?.limits ?? []
  for (const key of Object.keys(inspection.readings))
    if (!limits.some((l) => l.key === key))
      throw new Problem('unknown-limit', `"${key}" is not measured on this item.`, `readings.${key}`)
  const uncertainty = Object.fromEntries(limits.map((l) => [l.key, tool?.uncertainty ?? 0]))
  const wall = article?.facts['pipe.wall']
  return {
    measured:
      Object.keys(inspection.readings).length > 0
        ? judgeItem(limits, inspection.readings, uncertainty, project.settings.rule)
        : null,
    damage: inspection.damage && typeof wall === 'number' ? judgeDamage(inspection.damage, wall) : null,
  }
}

/**
 * Records what was found on one item. Quarantine may come later too; taking an item out of it asks for
 * the reason.
 */
export async function inspectItem(
  db: Knex,
  project: Project,
  actor: Actor,
  deliveryId: string,
  itemId: string,
  inspection: Inspection,
): Promise<void> {
  const role = actingRole(actor, 'receive-goods')
  await openDelivery(db, actor, deliveryId)
  const item = await findItem(db, actor.project, itemId)
  if (!item || item.delivery !== deliveryId)
    throw new Problem('not-found', 'There is no such item on this note.', 'item')
  for (const photo of inspection.photos) await photoIsThere(db, actor.project, photo, 'photos')
  const verdict = await verdictOf(db, project, item, inspection)
  const against =
    verdict.measured?.state === 'rejected' ||
    verdict.measured?.state === 'too-close' ||
    verdict.damage?.conforms === false
  if (
    (inspection.outcome !== 'accepted' || item.state === 'quarantined') &&
    !inspection.remark &&
    !inspection.damage &&
    !against
  )
    throw new Problem('missing', 'Say why.', 'remark')
  const said = [...(verdict.measured?.sentences ?? []), ...(verdict.damage ? [verdict.damage.sentence] : [])]
  if (passes(inspection.outcome) && against && !inspection.remark)
    throw new Problem(
      'missing',
      `The criterion says otherwise (${said.join(' ')}): say why it is accepted.`,
      'remark',
    )
  if (!item.conforms && passes(inspection.outcome))
    throw new Problem(
      'not-as-ordered',
      `${item.serial} is not as ordered: quarantine or return it.`,
      'outcome',
    )
  const remark =
    inspection.remark ??
    (verdict.damage
      ? `Damage: ${verdict.damage.sentence}`
      : verdict.measured?.state === 'rejected'
        ? verdict.measured.sentences.join(' ').slice(0, 400)
        : null)
  await inTransaction(db, async (trx) => {
    await appendEntries(trx, actor, role, 'item', itemId, [
      {
        id: uuidv7(),
        kind: 'inspection',
        payload: { ...inspection, remark, verdict },
        instrument: inspection.instrument,
        recordedAt: new Date(),
      },
    ])
    await setItemState(trx, [itemId], inspection.outcome, remark)
    if (item.sampled) await judgeSample(trx, actor, deliveryId, item.item)
  })
}

/** Draws the sample of one article on a note, as strict as its history says. */
export async function drawSampleOf(
  db: Knex,
  actor: Actor,
  deliveryId: string,
  article: string,
): Promise<void> {
  const role = actingRole(actor, 'receive-goods')
  await openDelivery(db, actor, deliveryId)
  await inTransaction(db, async (trx) => {
    if ((await samplingsOf(trx, deliveryId)).some((s) => s.item === article))
      throw new Problem('wrong-state', 'The sample of this item is drawn already.', 'item')
    const lot = (await itemsWhere(trx, { project: actor.project, delivery: deliveryId })).filter(
      (i) => i.item === article && i.conforms,
    )
    if (lot.length === 0)
      throw new Problem('not-found', 'There is nothing of this item that is as ordered.', 'item')
    const { severity, reason } = severityAfter(await samplingHistory(trx, actor.project, article))
    const plan = planFor(lot.length, sampleSamplingRule, severity)
    // The start follows from the delivery, so that nobody chooses what is looked at.
    const drawn = drawSample(
      lot,
      plan.sample,
      Number.parseInt(sha256(`${deliveryId} ${article}`).slice(0, 8), 16),
    )
    const id = uuidv7()
    const now = new Date()
    await insertSampling(
      trx,
      actor.project,
      {
        id,
        delivery: deliveryId,
        item: article,
        lotSize: lot.length,
        sample: plan.sample,
        acceptance: plan.acceptance,
        severity,
      },
      now,
    )
    await markSampled(
      trx,
      drawn.map((i) => i.id),
    )
    await appendEntries(trx, actor, role, 'delivery', deliveryId, [
      {
        id: uuidv7(),
        kind: 'sample',
        payload: {
          item: article,
          lot: lot.length,
          sample: plan.sample,
          acceptance: plan.acceptance,
          severity,
          reason,
          serials: drawn.map((i) => i.serial),
        },
        recordedAt: now,
      },
    ])
    await judgeSample(trx, actor, deliveryId, article)
  })
}

/** The sample's word, once all of it was looked at; again when an item of it is judged anew. */
async function judgeSample(trx: Knex, actor: Actor, deliveryId: string, article: string): Promise<void> {
  const sampling = (await samplingsOf(trx, deliveryId)).find((s) => s.item === article)
  if (!sampling) return
  const drawn = (
    await itemsWhere(trx, { project: actor.project, delivery: deliveryId, sampled: true })
  ).filter((i) => i.item === article)
  const open = drawn.filter((i) => i.state === 'received').length
  const bad = drawn.filter((i) => BAD.includes(i.state)).length
  // Enough bad items decide before the rest is looked at.
  const decided = open === 0 || bad > sampling.acceptance
  await saveSampling(trx, sampling.id, decided ? bad : null, decided ? bad <= sampling.acceptance : null)
}

/**
 * Accepts items that nobody has looked at apart, except what is not as ordered and
 * what a sample decides: its lot waits for the sample, and after a refusal each
 * item is looked at. A block at a time, so that a long list can be stopped.
 */
export async function acceptRest(
  db: Knex,
  actor: Actor,
  deliveryId: string,
  most = 1000,
): Promise<{ accepted: number; left: number }> {
  const role = actingRole(actor, 'receive-goods')
  await openDelivery(db, actor, deliveryId)
  return inTransaction(db, async (trx) => {
    const samplings = await samplingsOf(trx, deliveryId)
    const closed = new Set(samplings.filter((s) => s.accepted !== true).map((s) => s.item))
    const rest = (
      await itemsWhere(trx, { project: actor.project, delivery: deliveryId, states: ['received'] })
    ).filter((i) => i.conforms && !closed.has(i.item) && !i.sampled)
    const now = rest.slice(0, most)
    await appendFirst(
      trx,
      actor,
      role,
      now.map((i) => i.id),
      {
        outcome: 'accepted',
        remark: null,
        damage: null,
        readings: {},
        instrument: null,
        photos: [],
        verdict: null,
        bySample: samplings.some((s) => s.accepted),
      },
    )
    await setItemState(
      trx,
      now.map((i) => i.id),
      'accepted',
      null,
    )
    return { accepted: now.length, left: rest.length - now.length }
  })
}

/** The same inspection on many items at once; those with a chain already are appended to one by one. */
async function appendFirst(
  trx: Knex,
  actor: Actor,
  role: Parameters<typeof appendEntries>[2],
  ids: string[],
  payload: Record<string, unknown>,
) {
  const known = await entriesOfMany(trx, ids)
  const at = new Date().toISOString()
  const text = JSON.stringify(payload)
  const rows = ids
    .filter((id) => !known.has(id))
    .map((subject) => {
      const row = {
        id: uuidv7(),
        project: actor.project,
        subjectType: 'item' as const,
        subject,
        seq: 1,
        kind: 'inspection',
        step: null,
        payload: text,
        instrument: null,
        person: actor.person,
        role,
        crew: actor.crew,
        device: null,
        deviceNumber: null,
        stampAt: null,
        late: null,
        recordedAt: at,
        receivedAt: at,
        prev: CHAIN_START,
      }
      return { ...row, hash: sha256(canonicalEntry(row)) }
    })
  for (let i = 0; i < rows.length; i += 250) await insertEntries(trx, rows.slice(i, i + 250))
  for (const [subject, before] of known)
    await appendEntries(
      trx,
      actor,
      role,
      'item',
      subject,
      [{ id: uuidv7(), kind: 'inspection', payload, recordedAt: new Date(at) }],
      before,
    )
}

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
