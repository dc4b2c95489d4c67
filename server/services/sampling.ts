import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { drawSample, planFor, sampleSamplingRule, severityAfter } from '#core/delivery/sampling'
import { Problem } from '#core/problem'
import { inTransaction } from '../db/connection'
import { itemsWhere, markSampled, type ItemState } from '../db/items'
import { insertSampling, samplingHistory, samplingsOf, saveSampling } from '../db/sampling'
import { openDelivery } from './notes'
import { actingRole, appendEntries, sha256, type Actor } from './record'

/** States of an item that was found wanting. */
export const BAD: readonly ItemState[] = ['quarantined', 'returned']

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
export async function judgeSample(
  trx: Knex,
  actor: Actor,
  deliveryId: string,
  article: string,
): Promise<void> {
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
