import { seededRandom } from '../random'
import { better, timeRound, type RoundRequest } from './timing'

/** Changes tried in all: some half a second for sixty stops. */
const TRIES = 750_000
const STARTS = 3
/** how much worse a change may be at first, of the cost of a stop, and what is left of that at last */
const HOT = 0.6
const COLD = 1e-3
const STEPS = 500
const LONGEST_MOVED = 4
/** share of changes that stay near */
const NEAR = 0.6

/** The request as flat rows of numbers, which is what the search spends its time on. */
function flat({ at, stops, travel }: RoundRequest) {
  const n = stops.length
  return {
    n,
    at,
    way: Float64Array.from(travel.flat()),
    ready: Float64Array.from(stops, (s) => s.ready),
    service: Float64Array.from(stops, (s) => s.service),
    weight: Float64Array.from(stops, (s) => s.weight),
  }
}
type Flat = ReturnType<typeof flat>

/** One order with its times, of which a change computes anew only what comes after it. */
class Walk {
  readonly order: Int32Array
  private readonly trial: Int32Array
  private readonly free: Float64Array
  private readonly spent: Float64Array
  private readonly gone: Float64Array
  constructor(
    private readonly f: Flat,
    order: readonly number[],
  ) {
    this.order = Int32Array.from(order)
    this.trial = Int32Array.from(order)
    this.free = new Float64Array(f.n + 1)
    this.spent = new Float64Array(f.n + 1)
    this.gone = new Float64Array(f.n + 1)
    this.free[0] = f.at
    this.settle(0)
  }
  get cost() {
    return this.spent[this.f.n]!
  }
  get travel() {
    return this.gone[this.f.n]!
  }
  private settle(from: number) {
    const { f, order, free, spent, gone } = this
    for (let k = from; k < f.n; k++) {
      const i = order[k]!
      const way = f.way[(k === 0 ? 0 : order[k - 1]! + 1) * (f.n + 1) + i + 1]!
      const begin = Math.max(free[k]! + way, f.ready[i]!)
      free[k + 1] = begin + f.service[i]!
      spent[k + 1] = spent[k]! + f.weight[i]! * (begin - f.ready[i]!)
      gone[k + 1] = gone[k]! + way
    }
  }
  /**
   * The trial's cost and way as one number, or Infinity as soon as it must end over the bound: also when
   * it comes later out of the changed part, as what follows cannot cost less then.
   */
  private worth(from: number, last: number, bound: number, perWay: number): number {
    const { f, trial, free, spent, gone } = this
    const { way, ready, service, weight, n } = f
    let now = free[from]!
    let cost = spent[from]!
    let travel = gone[from]!
    let place = from === 0 ? 0 : trial[from - 1]! + 1
    for (let k = from; k < n; k++) {
      const i = trial[k]!
      const step = way[place * (n + 1) + i + 1]!
      now += step
      travel += step
      if (now < ready[i]!) now = ready[i]!
      else cost += weight[i]! * (now - ready[i]!)
      now += service[i]!
      place = i + 1
      if (cost + perWay * travel > bound) return Infinity
      if (k > last && now >= free[k + 1]!) {
        const tail = this.cost - spent[k + 1]! + perWay * (this.travel - gone[k + 1]!)
        if (cost + perWay * travel + tail > bound) return Infinity
        if (now === free[k + 1]) return cost + perWay * travel + tail
      }
    }
    return cost + perWay * travel
  }
  /** Moves a run of stops elsewhere, turned round or not. @returns the last place that changed */
  private moved(from: number, length: number, to: number, turned: boolean): number {
    const { order, trial } = this
    let k = Math.min(from, to)
    const last = Math.max(from, to) + length
    if (to > from) for (let j = from + length; j < last; j++) trial[k++] = order[j]!
    for (let j = 0; j < length; j++) trial[k++] = order[turned ? from + length - 1 - j : from + j]!
    if (to < from) for (let j = to; j < from; j++) trial[k++] = order[j]!
    return last - 1
  }
  /** Tries one change. @returns whether it was taken */
  attempt(random: () => number, slack: number, perWay: number): boolean {
    const { n } = this.f
    const kind = random()
    const from = Math.floor(random() * n)
    // Mostly near, now and then anywhere.
    const reach = random() < NEAR ? Math.min(n, 12) : n
    const other = from + Math.floor((random() * 2 - 1) * reach)
    const to = other < 0 ? 0 : other >= n ? n - 1 : other
    const first = Math.min(from, to)
    let last = Math.max(from, to)
    if (kind < 0.25) {
      this.trial[from] = this.order[to]!
      this.trial[to] = this.order[from]!
    } else if (kind < 0.4) this.moved(first, last - first + 1, first, true)
    else {
      const length = 1 + Math.floor(random() * Math.min(LONGEST_MOVED, n - last))
      last = this.moved(from, length, to, random() < 0.5)
    }
    const bound = this.cost + perWay * this.travel + slack
    const taken = this.worth(first, last, bound, perWay) <= bound
    const [source, target] = taken ? [this.trial, this.order] : [this.order, this.trial]
    for (let k = first; k <= last; k++) target[k] = source[k]!
    if (taken) this.settle(first)
    return taken
  }
}

/** Goes to what costs least to take next: a stop that waits dearly and is near. */
function greedy({ at, stops, travel }: RoundRequest, look: number): number[] {
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

/**
 * A good order of many stops: from several greedy ones by small changes, at first also for the worse
 * (annealing), with a fixed seed, so that the same question has the same answer.
 *
 * @returns indices into the stops
 */
export function goodOrder(request: RoundRequest, tries = TRIES): number[] {
  const f = flat(request)
  const byReady = [...request.stops.keys()].sort((a, b) => request.stops[a]!.ready - request.stops[b]!.ready)
  const rated = (order: number[]) => ({ order, ...timeRound(request, order) })
  const starts = [byReady, greedy(request, 0), greedy(request, 1)].map(rated)
  let best = starts.reduce((a, b) => (better(b, a) ? b : a))
  for (let start = 0; start < STARTS; start++) {
    const random = seededRandom(start + 1)
    const walk = new Walk(f, best.order)
    // Way is worth next to nothing beside cost, and all where nothing is lost.
    const perWay = (best.cost > 0 ? best.cost : 1) / Math.max(1, best.travel) / 1e4
    const hot = (HOT * (best.cost + perWay * best.travel)) / f.n
    const each = Math.floor(tries / STARTS / STEPS)
    for (let step = 0; step < STEPS; step++) {
      const heat = step < STEPS * 0.9 ? hot * COLD ** (step / STEPS / 0.9) : 0
      for (let i = 0; i < each; i++)
        if (walk.attempt(random, -heat * Math.log(1 - random()), perWay) && better(walk, best))
          best = rated([...walk.order])
    }
  }
  return best.order
}
