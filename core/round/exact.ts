import { better, type RoundRequest } from './timing'

interface Label {
  /** when I can leave */
  free: number
  cost: number
  travel: number
  last: number
  before: Label | null
}

const dominates = (a: Label, b: Label) => a.free <= b.free && a.cost <= b.cost && a.travel <= b.travel

/** Keeps of all ways to the same place those that none beats in time, cost and way together. */
function keep(labels: Label[], made: Label): void {
  if (labels.some((l) => dominates(l, made))) return
  let kept = 0
  for (const l of labels) if (!dominates(made, l)) labels[kept++] = l
  labels.length = kept
  labels.push(made)
}

/**
 * The best order, by every set of stops already visited and the last of them. Grows as n²·2ⁿ: for some
 * ten stops.
 *
 * @returns indices into the stops
 */
export function bestOrder({ at, stops, travel }: RoundRequest): number[] {
  const n = stops.length
  const full = 2 ** n - 1
  const labels: Label[][] = Array.from({ length: (full + 1) * n }, () => [])
  const go = (from: Label | null, mask: number, to: number) => {
    const stop = stops[to]!
    const way = travel[from ? from.last + 1 : 0]![to + 1]!
    const begin = Math.max((from ? from.free : at) + way, stop.ready)
    keep(labels[(mask | (1 << to)) * n + to]!, {
      free: begin + stop.service,
      cost: (from?.cost ?? 0) + stop.weight * (begin - stop.ready),
      travel: (from?.travel ?? 0) + way,
      last: to,
      before: from,
    })
  }
  for (let to = 0; to < n; to++) go(null, 0, to)
  for (let mask = 1; mask < full; mask++)
    for (let last = 0; last < n; last++)
      for (const label of labels[mask * n + last]!)
        for (let to = 0; to < n; to++) if (!(mask & (1 << to))) go(label, mask, to)
  const ends = stops.flatMap((_s, last) => labels[full * n + last]!)
  const order: number[] = []
  for (let l: Label | null = ends.reduce((a, b) => (better(b, a) ? b : a)); l; l = l.before)
    order.unshift(l.last)
  return order
}
