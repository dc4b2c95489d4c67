import { deviceDatabase } from './database'
import { freshKey, importKey, pinKey, seal, shareKey, unseal } from './sealed'

/** Wrong PINs in a row until a signal is needed. */
export const MOST_WRONG = 5

let key: CryptoKey | null = null
let owner: string | null = null

/** The key of the open store, and whose it is; null while it is shut. */
export const openKey = () => key
export const vaultOwner = () => owner

/** Begins a store of a person on this device. What another person had kept here is gone; what waits stays theirs. */
export async function makeVault(person: string, pin: string, share: string): Promise<void> {
  const db = deviceDatabase()
  const salt = crypto.getRandomValues(new Uint8Array(16))
  const letters = freshKey()
  const [byPin, byShare] = await Promise.all([
    pinKey(pin, salt).then((k) => seal(k, letters)),
    shareKey(share, salt).then((k) => seal(k, letters)),
  ])
  await db.transaction('rw', db.vaults, db.kept, async () => {
    await db.kept.clear()
    await db.vaults.put({ person, salt, byPin, byShare, wrong: 0 })
  })
  ;[key, owner] = [await importKey(letters), person]
}

/** Opens the store with what the server gave to whoever is signed in. @returns whether there is one */
export async function openByShare(person: string, share: string): Promise<boolean> {
  const row = await deviceDatabase().vaults.get(person)
  if (!row) return false
  try {
    const letters = await unseal<string>(await shareKey(share, row.salt), row.byShare)
    ;[key, owner] = [await importKey(letters), person]
  } catch {
    return false
  }
  if (row.wrong > 0) await deviceDatabase().vaults.update(person, { wrong: 0 })
  return true
}

export type Opening = 'open' | 'wrong' | 'locked' | 'none'

/** Opens the store with a PIN, without a signal. */
export async function openByPin(pin: string): Promise<Opening> {
  const db = deviceDatabase()
  const rows = await db.vaults.toArray()
  if (rows.length === 0) return 'none'
  const free = rows.filter((r) => r.wrong < MOST_WRONG)
  if (free.length === 0) return 'locked'
  for (const row of free) {
    try {
      const letters = await unseal<string>(await pinKey(pin, row.salt), row.byPin)
      ;[key, owner] = [await importKey(letters), row.person]
      await db.vaults.update(row.person, { wrong: 0 })
      return 'open'
    } catch {
      // Another person's, or a wrong one: the next store is tried.
    }
  }
  for (const row of free) await db.vaults.update(row.person, { wrong: row.wrong + 1 })
  return free.some((r) => r.wrong + 1 < MOST_WRONG) ? 'wrong' : 'locked'
}

export const hasVault = async (): Promise<boolean> => (await deviceDatabase().vaults.count()) > 0

/** Shuts the store; what is in it stays sealed. */
export function shutVault(): void {
  ;[key, owner] = [null, null]
}
