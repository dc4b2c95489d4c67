import type { RoundRequest } from './timing'

/**
 * Goes to what costs least to take next: a stop that waits dearly and is near.
 *
 * @param look how much of the time that it takes there counts
 * @returns indices into the stops
 */
export function greedy({ at, stops, travel }: RoundRequest, look: number): number[] {
  const left = new Set(stops.keys())
  const order: number[] = []
  let [place, now] = [0, at]
  while (left.size > 0) {
    let best = -1
    let least = Infinity
    for (const i of left) {
      const begin = Math.max(now + travel[place]![i + 1]!, stops[i]!.ready)
      const price = (begin - now + stops[i]!.service * look) / (stops[i]!.weight + 1e-9)
      if (price < least || best < 0) [best, least] = [i, price]
    }
    left.delete(best)
    order.push(best)
    now = Math.max(now + travel[place]![best + 1]!, stops[best]!.ready) + stops[best]!.service
    place = best + 1
  }
  return order
}
