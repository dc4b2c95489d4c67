import type { Knex } from 'knex'
import { lateness, runAfter } from '#core/record/late'
import { holdDevice, saveDevice } from '../db/devices'
import type { StoredEntry } from '../db/entries'
import type { NewEntry } from './record'

/**
 * Marks entries whose time proves nothing, and moves the device's run on. Entries that are in the
 * record already were looked at when they first came.
 *
 * @param before entries of the subject as they stand
 * @param openedAt ms; null where nothing is opened
 */
export async function markLate(
  trx: Knex,
  person: string,
  news: NewEntry[],
  before: readonly StoredEntry[],
  openedAt: number | null,
  arrival = Date.now(),
): Promise<void> {
  const known = new Set(before.map((e) => e.id))
  const fresh = news.filter((e) => !known.has(e.id))
  const device = fresh.find((e) => e.device && e.number != null)?.device ?? null
  let run = device === null ? null : await holdDevice(trx, device, person)
  for (const entry of fresh) {
    const timed = {
      recordedAt: entry.recordedAt.getTime(),
      stampAt: entry.stampAt?.getTime() ?? null,
      number: entry.number ?? null,
      moved: entry.moved === true,
    }
    entry.late = lateness(timed, arrival, run, openedAt)
    entry.receivedAt = new Date(arrival)
    if (device !== null && timed.number !== null) run = runAfter(run, timed)
  }
  if (device !== null && run) await saveDevice(trx, device, person, run)
}
