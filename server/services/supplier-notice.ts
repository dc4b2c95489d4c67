import type { Knex } from 'knex'
import type { Damage } from '#core/delivery/damage'
import { catalogueOf } from '../db/deliveries'
import { entriesOfMany, forCore } from '../db/entries'
import { findFile } from '../db/files'
import { itemsWhere } from '../db/items'
import type { Project } from '../db/projects'
import type { Found, NoticeInput } from './heavy/notice'
import { runHeavy } from './heavy/run'
import { openDelivery } from './notes'
import type { Actor } from './record'

const MOST_PHOTOS = 12

/** Items that were not simply accepted, with what was found on each. */
async function findingsOf(db: Knex, project: Project, deliveryId: string): Promise<Found[]> {
  const items = (
    await itemsWhere(
      db,
      { project: project.id, delivery: deliveryId, states: ['remark', 'quarantined', 'returned'] },
      200,
    )
  ).sort((a, b) => a.serial.localeCompare(b.serial))
  const [catalogue, entries] = await Promise.all([
    catalogueOf(db, project.id),
    entriesOfMany(
      db,
      items.map((i) => i.id),
    ),
  ])
  return items.map((i) => {
    const said = entries
      .get(i.id)
      ?.map(forCore)
      .findLast((e) => e.kind === 'inspection')?.payload
    const article = catalogue.get(i.item)
    const wall = article?.facts['pipe.wall']
    return {
      serial: i.serial,
      lot: i.lot,
      title: article?.title ?? i.item,
      state: i.state,
      remark: i.remark ?? '',
      length: i.length ?? 12,
      wall: typeof wall === 'number' ? wall : 0,
      damage: (said?.damage as Damage | null) ?? null,
      verdict: (said?.verdict as Found['verdict']) ?? null,
      photos: (said?.photos as string[] | undefined) ?? [],
    }
  })
}

/** A notice to the supplier, drafted from what was found: deviations from the order, damage drawn, photos. */
export async function supplierNotice(
  db: Knex,
  project: Project,
  actor: Actor,
  deliveryId: string,
): Promise<{ name: string; pdf: Buffer }> {
  const delivery = await openDelivery(db, actor, deliveryId)
  const found = await findingsOf(db, project, deliveryId)
  const photos: NoticeInput['photos'] = []
  for (const { id, serial } of found
    .flatMap((f) => f.photos.map((id) => ({ id, serial: f.serial })))
    .slice(0, MOST_PHOTOS)) {
    const file = await findFile(db, project.id, id)
    if (file) photos.push({ serial, mime: file.mime, sha256: file.sha256, bytes: new Uint8Array(file.bytes) })
  }
  const { number, supplier, orderNumber, receivedAt, state } = delivery
  const deviations = delivery.lines.filter((l) => l.result !== 'right')
  const pdf = await runHeavy(
    'notice',
    {
      delivery: { number, supplier, orderNumber, receivedAt, state },
      project: { name: project.name, zone: project.zone },
      author: actor.name,
      deviations,
      found,
      photos,
    },
    project.settings.units,
  )
  return { name: number, pdf: Buffer.from(pdf) }
}
