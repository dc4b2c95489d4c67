import { uuidv7 } from 'uuidv7'

/**
 * This device – one open tab, or the store of one person – as the server knows it: an id, a running
 * number for what is recorded here, and the last stamp of the server's time. They outlive a reload.
 */
interface Store {
  getItem(key: string): string | null
  setItem(key: string, value: string): void
  removeItem(key: string): void
}

/** Where the browser keeps nothing, this tab remembers as long as it is open. */
function memory(): Store {
  const kept = new Map<string, string>()
  return {
    getItem: (k) => kept.get(k) ?? null,
    setItem: (k, v) => void kept.set(k, v),
    removeItem: (k) => void kept.delete(k),
  }
}
const session: Store = typeof sessionStorage === 'undefined' ? memory() : sessionStorage

/** Whose store is open on this device: that person's id, number and stamp outlive the browser. */
let owner: string | null = null
export const keepDeviceOf = (person: string | null) => void (owner = person)
const store: Store = {
  getItem: (k) => (owner ? localStorage.getItem(`${k}:${owner}`) : session.getItem(k)),
  setItem: (k, v) => (owner ? localStorage.setItem(`${k}:${owner}`, v) : session.setItem(k, v)),
  removeItem: (k) => (owner ? localStorage.removeItem(`${k}:${owner}`) : session.removeItem(k)),
}

const ID = 'vet-line-device'
const NUMBER = 'vet-line-number'
const STAMP = 'vet-line-stamp'

export const DEVICE_HEADER = 'x-vet-line-device'
export const STAMP_HEADER = 'x-vet-line-stamp'

export function deviceId(): string {
  const known = store.getItem(ID)
  if (known) return known
  const fresh = uuidv7()
  store.setItem(ID, fresh)
  return fresh
}

export const currentStamp = (): string | null => store.getItem(STAMP)

/** @returns the server's time in it, ms; null without one */
export function keepStamp(stamp: string | null): number | null {
  if (!stamp) return null
  store.setItem(STAMP, stamp)
  return Number(stamp.split('.')[0]) || null
}

/** Another person has signed in: numbers and stamps are of one person on one device. */
export function forgetDevice() {
  for (const key of [ID, NUMBER, STAMP]) session.removeItem(key)
}

export const lastNumber = (): number | null => {
  const kept = store.getItem(NUMBER)
  return kept === null ? null : Number(kept)
}
export const setNumber = (n: number | null) =>
  n === null ? store.removeItem(NUMBER) : store.setItem(NUMBER, String(n))
