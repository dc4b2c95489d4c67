import type { Knex } from 'knex'
import { feedAfter, feedEnd, type FeedRow } from '../db/entries'

type Listener = (rows: FeedRow[]) => void

const INTERVAL = 400
/** Commits can become visible out of order; so many numbers back are read again. */
const OVERLAP = 200

interface Watch {
  listeners: Set<Listener>
  timer: ReturnType<typeof setTimeout> | null
  end: number
  seen: Set<number>
}

const watches = new Map<string, Watch>()

async function poll(db: Knex, project: string, watch: Watch) {
  try {
    const rows = (await feedAfter(db, project, Math.max(0, watch.end - OVERLAP))).filter((r) => r.feed > watch.end || !watch.seen.has(r.feed))
    const fresh = rows.filter((r) => !watch.seen.has(r.feed))
    for (const row of fresh) {
      watch.seen.add(row.feed)
      watch.end = Math.max(watch.end, row.feed)
    }
    if (watch.seen.size > 2000) watch.seen = new Set([...watch.seen].filter((f) => f > watch.end - 2 * OVERLAP))
    if (fresh.length > 0) for (const listener of watch.listeners) listener(fresh)
  } catch {
    // The database may be away for a moment; the next round reads what was missed.
  }
  if (watch.listeners.size > 0) watch.timer = setTimeout(() => void poll(db, project, watch), INTERVAL)
  else watches.delete(project)
}

/**
 * Tells a listener of every new entry of a project. It reads the database, so it works
 * with several server processes.
 * @returns how to stop listening
 */
export async function watchFeed(db: Knex, project: string, listener: Listener): Promise<() => void> {
  let watch = watches.get(project)
  if (!watch) {
    const end = await feedEnd(db, project)
    watch = watches.get(project) ?? { listeners: new Set(), timer: null, end, seen: new Set((await feedAfter(db, project, Math.max(0, end - OVERLAP))).map((r) => r.feed)) }
    watches.set(project, watch)
  }
  const found = watch
  found.listeners.add(listener)
  if (!found.timer) found.timer = setTimeout(() => void poll(db, project, found), INTERVAL)
  return () => {
    found.listeners.delete(listener)
  }
}
