/** Somewhere an inspector is asked for. */
export interface Stop {
  key: string
  /** when the work there can be looked at, s */
  ready: number
  /** how long it takes me, s */
  service: number
  /** what a second of its waiting costs */
  weight: number
}

/** Where I am, when, who waits, and how long each way is: row and column 0 the start, then the stops, s. */
export interface RoundRequest {
  at: number
  stops: Stop[]
  travel: number[][]
}

/** When each stop of an order is reached and begun, and what the crews lose by waiting. */
export interface RoundTiming {
  arrive: number[]
  begin: number[]
  /** Σ weight · max(0, begin − ready) */
  cost: number
  /** s on the way; the round does not lead back */
  travel: number
}

/**
 * Times of the stops visited in an order: begun when I have arrived and the work is ready, left when my
 * part is done.
 *
 * @param order indices into the stops
 */
export function timeRound({ at, stops, travel }: RoundRequest, order: readonly number[]): RoundTiming {
  const timing: RoundTiming = { arrive: [], begin: [], cost: 0, travel: 0 }
  let [place, now] = [0, at]
  for (const i of order) {
    const stop = stops[i]!
    const way = travel[place]![i + 1]!
    const arrive = now + way
    const begin = Math.max(arrive, stop.ready)
    timing.travel += way
    timing.cost += stop.weight * (begin - stop.ready)
    timing.arrive.push(arrive)
    timing.begin.push(begin)
    now = begin + stop.service
    place = i + 1
  }
  return timing
}

/** Less cost, and of equal cost less way. */
export const better = (a: { cost: number; travel: number }, b: { cost: number; travel: number }): boolean => {
  const same = 1e-9 * Math.max(1, Math.abs(b.cost))
  return a.cost < b.cost - same || (a.cost <= b.cost + same && a.travel < b.travel - 1e-9)
}
