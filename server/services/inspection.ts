import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { judgeDamage, type Damage } from '#core/delivery/damage'
import { judgeItem, type ItemReadings } from '#core/delivery/inspection'
import { Problem } from '#core/problem'
import { canonicalEntry, CHAIN_START } from '#core/record/chain'
import { inTransaction } from '../db/connection'
import { catalogueOf } from '../db/deliveries'
import { entriesOfMany, insertEntries } from '../db/entries'
import { findItem, itemsWhere, setItemState, type Item, type ItemState } from '../db/items'
import { instrumentsOf } from '../db/instruments'
import type { Project } from '../db/projects'
import { samplingsOf } from '../db/sampling'
import { calibratedAt, instrumentFacts } from '#core/checks/instruments'
import { openDelivery } from './notes'
import { photoIsThere } from './photos'
import { actingRole, appendEntries, sha256, type Actor } from './record'
import { judgeSample } from './sampling'

export interface Inspection {
  outcome: Exclude<ItemState, 'received'>
  remark: string | null
  damage: Damage | null
  readings: ItemReadings
  instrument: string | null
  photos: string[]
}

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
