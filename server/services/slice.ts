import type { Knex } from 'knex'
import { Problem } from '#core/problem'
import { changedAfter, feedEnd, sliceIds } from '../db/slice'
import type { Project } from '../db/projects'
import { digestOf, type Actor } from './record'
import { commonOf, jointSheet, reachSheet } from './worksheet'

const DAY = 86_400_000
/** Finished work that is a few days old is looked up with a signal. */
const LOOK_BACK = 3 * DAY
const AHEAD = 30
/** Sheets in one reply. */
const PAGE = 50
/** More than this a device does not carry. */
const MOST = 3000

/** Parts of a sheet that many have in common travel once a reply, by their digest. */
const SHARED = ['procedure', 'schools', 'plan', 'beside', 'instruments', 'lots', 'people'] as const

export interface SlicePage {
  /** where the feed stood when this was read: asked after it, only changes come */
  sequence: number
  total: number
  /** where the next page begins; null after the last */
  next: number | null
  rows: { path: string; sheet: Record<string, unknown>; shared: Record<string, string> }[]
  shared: Record<string, unknown>
  /** with the first page, where asked: every address of the slice now; what is not among them goes */
  addresses: string[] | null
}

/**
 * A page of what a device takes along: worksheets as their own routes give them, of what the person may
 * see, so that a view without a signal shows what it would show with one.
 *
 * @param after place in the feed that the device has; 0 for all
 */
export async function slicePage(
  db: Knex,
  project: Project,
  actor: Actor,
  { after, from, addresses }: { after: number; from: number; addresses: boolean },
): Promise<SlicePage> {
  const sequence = await feedEnd(db, project.id)
  if (after > sequence)
    throw new Problem('changed', 'This device is ahead of the record: it takes everything anew.', 'after')
  const since = new Date(Date.now() - LOOK_BACK)
  const ids = await sliceIds(db, { project: project.id, crew: actor.crew, since, ahead: AHEAD })
  const all = [
    ...ids.joints.map((id) => ({ kind: 'joints' as const, id })),
    ...ids.reaches.map((id) => ({ kind: 'reaches' as const, id })),
  ].slice(0, MOST)
  const changed = after > 0 ? await changedAfter(db, project.id, after) : null
  const wanted = changed ? all.filter((s) => changed.has(s.id)) : all
  const page = wanted.slice(from, from + PAGE)
  const common = await commonOf(db, project)
  const shared: Record<string, unknown> = {}
  const rows: SlicePage['rows'] = []
  for (const { kind, id } of page) {
    const read = kind === 'joints' ? jointSheet : reachSheet
    const whole: Record<string, unknown> = { ...(await read(db, project, actor, id, common)) }
    const parts: Record<string, string> = {}
    for (const part of SHARED) {
      const digest = digestOf(JSON.stringify(whole[part] ?? null)).toString('base64url')
      shared[digest] ??= whole[part] ?? null
      parts[part] = digest
    }
    const sheet = Object.fromEntries(Object.entries(whole).filter(([key]) => !Object.hasOwn(parts, key)))
    rows.push({ path: `${kind}/${id}`, sheet, shared: parts })
  }
  return {
    sequence,
    total: wanted.length,
    next: from + PAGE < wanted.length ? from + PAGE : null,
    rows,
    shared,
    addresses: from === 0 && addresses ? all.map((s) => `${s.kind}/${s.id}`) : null,
  }
}
