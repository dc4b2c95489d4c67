import type { RoundRequest } from './timing'

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

/**
 * One order with its times, and a trial beside it that differs in a stretch: of a change, only what comes
 * after it is computed anew. Each change is `change`d, its `worth` looked at, and then `settle`d.
 */
export class Walk {
  readonly order: Int32Array
  readonly trial: Int32Array
  /** the stretch in which the trial differs */
  private first = 0
  private last = 0
  private readonly f: Flat
  private readonly free: Float64Array
  private readonly spent: Float64Array
  private readonly gone: Float64Array
  /** @param order indices into the stops */
  constructor(request: RoundRequest, order: readonly number[]) {
    const f = (this.f = flat(request))
    this.order = Int32Array.from(order)
    this.trial = Int32Array.from(order)
    this.free = new Float64Array(f.n + 1)
    this.spent = new Float64Array(f.n + 1)
    this.gone = new Float64Array(f.n + 1)
    this.free[0] = f.at
    this.time(0)
  }
  get cost() {
    return this.spent[this.f.n]!
  }
  get travel() {
    return this.gone[this.f.n]!
  }
  private time(from: number) {
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
   *
   * @param perWay what a second of way counts, in cost
   */
  worth(bound: number, perWay: number): number {
    const { f, trial, free, spent, gone, first: from, last } = this
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
  /** Puts one small change into the trial: two stops swapped, a stretch turned round, or a few moved. */
  change(random: () => number): void {
    const { n } = this.f
    const kind = random()
    const from = Math.floor(random() * n)
    // Mostly near, now and then anywhere.
    const reach = random() < NEAR ? Math.min(n, 12) : n
    const other = from + Math.floor((random() * 2 - 1) * reach)
    const to = other < 0 ? 0 : other >= n ? n - 1 : other
    this.first = Math.min(from, to)
    this.last = Math.max(from, to)
    if (kind < 0.25) {
      this.trial[from] = this.order[to]!
      this.trial[to] = this.order[from]!
    } else if (kind < 0.4) this.moved(this.first, this.last - this.first + 1, this.first, true)
    else {
      const length = 1 + Math.floor(random() * Math.min(LONGEST_MOVED, n - this.last))
      this.last = this.moved(from, length, to, random() < 0.5)
    }
  }
  /** The trial becomes the order, or is given up. */
  settle(taken: boolean): void {
    const [source, target] = taken ? [this.trial, this.order] : [this.order, this.trial]
    for (let k = this.first; k <= this.last; k++) target[k] = source[k]!
    if (taken) this.time(this.first)
  }
}
