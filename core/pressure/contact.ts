import { median } from './rows'

/** Whether a logger still sends. */
export interface Contact {
  state: 'none' | 'live' | 'lost'
  /** seconds since the last reading arrived */
  silent: number
}

/** The shortest silence that is one, s. */
const LEAST = 10
/** So many usual waits without a reading are a lost connection. */
const WAITS = 5

/**
 * Whether readings still arrive. A logger that keeps what it could not send fills the gap when it comes back.
 *
 * @param arrivals ms when the last readings arrived, in order
 */
export function contactOf(arrivals: readonly number[], now: number): Contact {
  const last = arrivals.at(-1)
  if (last === undefined) return { state: 'none', silent: 0 }
  const waits = arrivals.slice(1).map((at, i) => (at - arrivals[i]!) / 1000)
  const silent = Math.max(0, (now - last) / 1000)
  return { state: silent > Math.max(LEAST, WAITS * median(waits)) ? 'lost' : 'live', silent }
}
