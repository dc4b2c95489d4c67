import { onScopeDispose, ref, type Ref } from 'vue'

const OFFSET = 'vet-line-offset'
const kept = () => (typeof localStorage === 'undefined' ? 0 : Number(localStorage.getItem(OFFSET)) || 0)
let offset = kept()

/**
 * Learns how far this device's clock is off; entries carry the corrected time. It is kept for when the
 * device begins without a signal.
 */
export const setServerTime = (now: number) => {
  offset = Math.abs(now - Date.now()) > 1000 ? now - Date.now() : 0
  if (typeof localStorage !== 'undefined') localStorage.setItem(OFFSET, String(offset))
}

/** The moment by the device's clock, corrected by the server's. */
export const deviceNow = () => Date.now() + offset

/** The present moment in ms, moving once a second while somebody looks. */
export function useNow(every = 1000): Ref<number> {
  const now = ref(deviceNow())
  const timer = setInterval(() => (now.value = deviceNow()), every)
  onScopeDispose(() => clearInterval(timer))
  return now
}
