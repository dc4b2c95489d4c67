import { onScopeDispose, ref, type Ref } from 'vue'

let offset = 0

/** Learns how far this device's clock is off; entries carry the corrected time. */
export const setServerTime = (now: number) => {
  offset = Math.abs(now - Date.now()) > 1000 ? now - Date.now() : 0
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
