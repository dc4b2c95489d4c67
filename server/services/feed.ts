import type { Knex } from 'knex'
import { feedAfter, feedEnd, type FeedRow } from '../db/entries'

type Listener = (rows: FeedRow[]) => void

const INTERVAL = 400
const PAGE = 500

interface Watch {
  listeners: Set<Listener>
  timer: ReturnType<typeof setTimeout> | null
  end: number
}

const watches = new Map<string, Watch>()

/** Reads on from the last place: places grow in the order of commits, so nothing appears behind it. */
async function poll(db: Knex, project: string, watch: Watch) {
  try {
    for (
      let rows = await feedAfter(db, project, watch.end, PAGE);
      rows.length > 0;
      rows = rows.length < PAGE ? [] : await feedAfter(db, project, watch.end, PAGE)
    ) {
      watch.end = rows.at(-1)!.feed
      for (const listener of watch.listeners) listener(rows)
    }
  } catch {
    // The database may be away for a moment; the next round reads what was missed.
  }
  if (watch.listeners.size > 0) watch.timer = setTimeout(() => void poll(db, project, watch), INTERVAL)
  else watches.delete(project)
}

/**
 * Tells a listener of every entry of a project that comes in from now on. It reads the
 * database, so it works with several server processes.
 *
 * @returns how to stop listening
 */
export async function watchFeed(db: Knex, project: string, listener: Listener): Promise<() => void> {
  let watch = watches.get(project)
  if (!watch) {
    const end = await feedEnd(db, project)
    watch = watches.get(project) ?? { listeners: new Set(), timer: null, end }
    watches.set(project, watch)
  }
  const found = watch
  found.listeners.add(listener)
  found.timer ??= setTimeout(() => void poll(db, project, found), INTERVAL)
  return () => {
    found.listeners.delete(listener)
  }
}
