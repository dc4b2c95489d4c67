import { clockMoved, MOVED } from '#core/record/late'
import { onScopeDispose, ref, type Ref } from 'vue'

const OFFSET = 'vet-line-offset'
const MEASURED = 'vet-line-measured'
const store = typeof localStorage === 'undefined' ? null : localStorage
const kept = (key: string) => Number(store?.getItem(key)) || 0
/** what is added to the device's clock */
let offset = kept(OFFSET)
/** how far the clock was off at the last contact, ms */
let measured = kept(MEASURED)

function measure(at: number): void {
  measured = at - Date.now()
  store?.setItem(MEASURED, String(measured))
}

/**
 * Learns how far this device's clock is off; entries carry the corrected time. It is kept for when the
 * device begins without a signal.
 */
export const setServerTime = (now: number) => {
  measure(now)
  anchor = here()
  offset = Math.abs(measured) > 1000 ? measured : 0
  store?.setItem(OFFSET, String(offset))
}

const here = () => ({ wall: Date.now(), timer: performance.now() })
let anchor = here()
/** How far the clock has run ahead of the timer of this page since the last contact, ms. */
const ahead = () => {
  const { wall, timer } = here()
  return wall - anchor.wall - (timer - anchor.timer)
}

/**
 * The server's time came with a reply. A clock that jumped against the timer of this page, and is off now
 * otherwise than before, is corrected; one that jumped because the device slept is not off.
 */
export function hearServerTime(at: number): void {
  if (clockMoved(0, ahead()) && clockMoved(offset, at - Date.now())) return setServerTime(at)
  measure(at)
  anchor = here()
}

/** What is known of this device's clock when something is recorded. */
export interface ClockThen {
  /** how far it was off at the last contact, ms */
  offset: number
  /** it was behind the timer of the page: set back since the last contact */
  setBack: boolean
}
export const clockThen = (): ClockThen => ({ offset: measured, setBack: ahead() < -MOVED })
/** Whether a time that was taken then shows nothing, as told after the next contact. */
export const movedSince = ({ offset: then, setBack }: ClockThen): boolean =>
  setBack || clockMoved(then, measured)

/** The moment by the device's clock, corrected by the server's. */
export const deviceNow = () => Date.now() + offset

/** The present moment in ms, moving once a second while somebody looks. */
export function useNow(every = 1000): Ref<number> {
  const now = ref(deviceNow())
  const timer = setInterval(() => (now.value = deviceNow()), every)
  onScopeDispose(() => clearInterval(timer))
  return now
}
