import type { Knex } from 'knex'
import type { Project } from '../db/projects'
import type { Actor, NewEntry } from './record'
import { recordAtAll } from './record-at'

export interface HoldNamed {
  /** of the entry that releases it */
  id: string
  joint: string
  step: string
}

/**
 * Releases several hold points by one word: all of them, or none where one is not ready, was not asked for,
 * or was asked for by whoever releases.
 *
 * @returns how many
 */
export async function releaseTogether(
  db: Knex,
  project: Project,
  actor: Actor,
  holds: readonly HoldNamed[],
  note: string,
): Promise<number> {
  const recordedAt = new Date()
  const news = new Map<string, NewEntry[]>()
  for (const { id, joint, step } of holds)
    news.set(joint, [
      ...(news.get(joint) ?? []),
      { id, kind: 'release', step, payload: note ? { note } : {}, recordedAt },
    ])
  await recordAtAll(db, project, actor, 'joint', news)
  return holds.length
}
