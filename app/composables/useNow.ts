import { clockMoved, MOVED } from '#core/record/late'
import { onScopeDispose, ref, type Ref } from 'vue'

const OFFSET = 'vet-line-offset'
const kept = () => (typeof localStorage === 'undefined' ? 0 : Number(localStorage.getItem(OFFSET)) || 0)
let offset = kept()

/**
 * Learns how far this device's clock is off; entries carry the corrected time. It is kept for when the
 * device begins without a signal.
 */
export const setServerTime = (now: number) => {
  anchor = here()
  offset = Math.abs(now - Date.now()) > 1000 ? now - Date.now() : 0
  if (typeof localStorage !== 'undefined') localStorage.setItem(OFFSET, String(offset))
}

const here = () => ({ wall: Date.now(), timer: performance.now() })
let anchor = here()
/**
 * Whether the clock was set back since the last contact, by the timer of this page. Ahead of its timer it
 * may be because the device slept: that is told at the next contact, by `clockMoved`.
 */
const clockSetBack = (): boolean => {
  const { wall, timer } = here()
  return wall - anchor.wall < timer - anchor.timer - MOVED
}

/** The server's time came with a reply: a clock that was moved meanwhile is corrected anew. */
export function hearServerTime(at: number): void {
  if (clockMoved(offset, at - Date.now())) setServerTime(at)
  else anchor = here()
}

/** What is known of this device's clock when something is recorded. */
export interface ClockThen {
  /** how far it was off at the last contact, ms */
  offset: number
  setBack: boolean
}
export const clockThen = (): ClockThen => ({ offset, setBack: clockSetBack() })
/** Whether a time that was taken then shows nothing, as told after the next contact. */
export const movedSince = ({ offset: then, setBack }: ClockThen): boolean =>
  setBack || clockMoved(then, offset)

/** The moment by the device's clock, corrected by the server's. */
export const deviceNow = () => Date.now() + offset

/** The present moment in ms, moving once a second while somebody looks. */
export function useNow(every = 1000): Ref<number> {
  const now = ref(deviceNow())
  const timer = setInterval(() => (now.value = deviceNow()), every)
  onScopeDispose(() => clearInterval(timer))
  return now
}
