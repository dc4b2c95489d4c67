import { uuidv7 } from 'uuidv7'

/**
 * This device – one open tab – as the server knows it: an id, a running number for what is
 * recorded here, and the last stamp of the server's time. They outlive a reload.
 */
const ID = 'vet-line-device'
const NUMBER = 'vet-line-number'
const STAMP = 'vet-line-stamp'

export const DEVICE_HEADER = 'x-vet-line-device'
export const STAMP_HEADER = 'x-vet-line-stamp'

export function deviceId(): string {
  const known = sessionStorage.getItem(ID)
  if (known) return known
  const fresh = uuidv7()
  sessionStorage.setItem(ID, fresh)
  return fresh
}

export const currentStamp = (): string | null => sessionStorage.getItem(STAMP)

export function keepStamp(stamp: string | null) {
  if (stamp) sessionStorage.setItem(STAMP, stamp)
}

/** Another person has signed in: numbers and stamps are of one person on one device. */
export function forgetDevice() {
  for (const key of [ID, NUMBER, STAMP]) sessionStorage.removeItem(key)
}

export const lastNumber = (): number | null => {
  const kept = sessionStorage.getItem(NUMBER)
  return kept === null ? null : Number(kept)
}
export const setNumber = (n: number | null) => (n === null ? sessionStorage.removeItem(NUMBER) : sessionStorage.setItem(NUMBER, String(n)))
