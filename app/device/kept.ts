import type { SlicePage } from '../../server/services/slice'
import { deviceDatabase } from './database'
import { seal, unseal } from './sealed'
import { openKey } from './vault'

/** Replies that views of the field ask for: kept as they come, found again without a signal. */
const FIELD = [
  /^session$/,
  /^projects\/[^/]+\/(overview|today|clocks|shift|reaches|procedures|lots|settings|crews|round|coming|openings|releasers|left-open)(\?|$)/,
  /^projects\/[^/]+\/lines\/[^/]+\/strip$/,
  /^projects\/[^/]+\/(joints|reaches|procedures|ncrs|crews)\/[^/?]+$/,
  /^projects\/[^/]+\/ncrs(\?|$)/,
]
export const isField = (address: string): boolean => FIELD.some((f) => f.test(address))

/** A reply with parts that others have too. */
interface Composed {
  sheet: Record<string, unknown>
  shared: Record<string, string>
}
const isComposed = (v: unknown): v is Composed =>
  typeof v === 'object' && v !== null && 'sheet' in v && 'shared' in v

/** Seals and keeps values by their addresses; nothing while the store is shut. */
export async function put(rows: { address: string; value: unknown }[]): Promise<void> {
  const key = openKey()
  if (!key) return
  // Sealed before the transaction: one that waits for something else ends by itself.
  const sealed = await Promise.all(
    rows.map(async ({ address, value }) => {
      const s = await seal(key, value)
      return { address, sealed: s, size: s.data.byteLength }
    }),
  )
  await deviceDatabase().kept.bulkPut(sealed)
}

/** A value as it was kept; null where there is none, or the store is shut. */
export async function get<T>(address: string): Promise<T | null> {
  const key = openKey()
  const row = key ? await deviceDatabase().kept.get(address) : undefined
  // What another person kept does not open under this key.
  return row ? await unseal<T>(key!, row.sealed).catch(() => null) : null
}

/** Keeps a reply of a view of the field; neither the share that opens the store nor the server's time. */
export async function keepReply(address: string, value: unknown): Promise<void> {
  if (!openKey() || !isField(address)) return
  const own = address === 'session' ? { ...(value as object), share: null, now: null } : value
  await put([{ address, value: own }])
}

/** A reply as it was kept; null where there is none, or the store is shut. */
export async function keptReply(address: string): Promise<unknown> {
  const found = await get<unknown>(address)
  if (!isComposed(found)) return found
  const parts = await Promise.all(
    Object.entries(found.shared).map(
      async ([part, digest]) => [part, await get(`shared ${digest}`)] as const,
    ),
  )
  return { ...found.sheet, ...Object.fromEntries(parts) }
}

/** Keeps a page of the slice. */
export const keepPage = (base: string, page: SlicePage): Promise<void> =>
  put([
    ...Object.entries(page.shared).map(([digest, value]) => ({ address: `shared ${digest}`, value })),
    ...page.rows.map(({ path, sheet, shared }) => ({ address: `${base}/${path}`, value: { sheet, shared } })),
  ])

/** Lets go of worksheets that do not belong to the slice any more. */
export async function keepOnly(base: string, addresses: readonly string[]): Promise<void> {
  const wanted = new Set(addresses.map((a) => `${base}/${a}`))
  const table = deviceDatabase().kept
  const all = await table.where('address').startsWith(`${base}/`).primaryKeys()
  const gone = all.filter((a) => /\/(joints|reaches)\/[^/]+$/.test(a) && !wanted.has(a))
  await table.bulkDelete(gone)
}

/**
 * Everything kept goes, as when a role has ended: worksheets, what they share, names to find and the place
 * in the feed. What waits stays.
 */
export const forgetKept = (): Promise<void> => deviceDatabase().kept.clear()

export async function keptSize(): Promise<number> {
  let bytes = 0
  await deviceDatabase().kept.each((row) => (bytes += row.size))
  return bytes
}

const PLACE = 'slice'
export const slicePlace = async (base: string): Promise<{ sequence: number; at: number } | null> =>
  get(`${PLACE} ${base}`)
export const saveSlicePlace = (base: string, place: { sequence: number; at: number }): Promise<void> =>
  put([{ address: `${PLACE} ${base}`, value: place }])
