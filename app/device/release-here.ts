import { uuidv7 } from 'uuidv7'
import type { Entry } from '#core/record/entry'
import { boundTo } from '#core/record/release-here'
import type { Releasers } from '../../server/services/release-here'
import { currentStamp } from '../composables/device'
import { keptReply } from './kept'
import { sealPin } from './sealed-pin'
import { keepAct } from './sender'
import { waitingList } from './waiting'

/** Who may release on this device, and the key that their PIN is sealed for; null where it is not along. */
export const releasersHere = async (base: string): Promise<Releasers | null> =>
  (await keptReply(`${base}/releasers`)) as Releasers | null

/**
 * Keeps a release that somebody else gives on this device; the server checks it on arrival.
 *
 * @param address of the worksheet
 */
export async function keepRelease(
  address: string,
  given: { key: string; step: string; by: string; pin: string; reason: string; at: number },
): Promise<void> {
  const { key, step, by, pin, reason, at } = given
  const id = uuidv7()
  const sealed = await sealPin(key, pin, boundTo({ id, subject: address.split('/').at(-1)!, step, by }))
  const here: Entry = {
    ...{ id, kind: 'release', step, payload: { ...(reason ? { note: reason } : {}), here: true } },
    ...{ person: by, role: 'inspector', crew: null, instrument: null, recordedAt: at },
  }
  await keepAct(address, at, {
    what: 'release',
    to: `${address}/release-here`,
    body: {
      ...{ id, step, by, sealed, reason, report: uuidv7(), stamp: currentStamp() },
      recordedAt: new Date(at).toISOString(),
    },
    here,
  })
}

/** Releases that wait here. */
export const releasesHere = async (address: string): Promise<Entry[]> =>
  (await waitingList(address))
    .filter((w) => w.act?.what === 'release' && !w.refused)
    .map((w) => w.act!.here as Entry)
