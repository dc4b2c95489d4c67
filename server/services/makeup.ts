import type { Knex } from 'knex'
import { usesOf, type Use } from '#core/tracing/uses'
import { forCore, type StoredEntry } from '../db/entries'
import { itemsByIds } from '../db/items'
import type { Joint } from '../db/joints'
import { saveUses } from '../db/uses'

type MadeJoint = Pick<Joint, 'id' | 'project' | 'crew' | 'procedure' | 'upstream' | 'downstream' | 'fitting'>

/** The items of a joint. */
export const builtInto = (joint: Pick<Joint, 'upstream' | 'downstream' | 'fitting'>): string[] =>
  [joint.upstream, joint.downstream, joint.fitting].filter((id): id is string => id !== null)

/** What a joint was made with, from its row, its items and its entries. */
async function makeupOf(db: Knex, joint: MadeJoint, entries: readonly StoredEntry[]): Promise<Use[]> {
  const items = await itemsByIds(db, joint.project, builtInto(joint))
  return usesOf({ crew: joint.crew, procedure: joint.procedure, items }, entries.map(forCore))
}

/**
 * Writes the makeup of a joint beside its projection.
 *
 * @param before its entries as they were written last time; when what they say of makeup is the same, nothing is written
 */
export async function saveMakeup(
  trx: Knex,
  joint: MadeJoint,
  entries: readonly StoredEntry[],
  before?: readonly StoredEntry[],
): Promise<void> {
  const said = (list: readonly StoredEntry[]) =>
    JSON.stringify(usesOf({ crew: joint.crew, procedure: joint.procedure, items: [] }, list.map(forCore)))
  if (before && said(before) === said(entries)) return
  await saveUses(trx, joint.project, joint.id, await makeupOf(trx, joint, entries))
}
