import { seededRandom } from '../random'
import { greedy } from './greedy'
import { better, timeRound, type RoundRequest } from './timing'
import { Walk } from './walk'

/** Changes tried in all: some half a second for sixty stops. */
const TRIES = 750_000
const STARTS = 3
/** how much worse a change may be at first, of the cost of a stop, and what is left of that at last */
const HOT = 0.6
const COLD = 1e-3
const STEPS = 500

/** Tries one change. @returns whether it was taken */
function attempt(walk: Walk, random: () => number, slack: number, perWay: number): boolean {
  walk.change(random)
  const bound = walk.cost + perWay * walk.travel + slack
  const taken = walk.worth(bound, perWay) <= bound
  walk.settle(taken)
  return taken
}

/**
 * A good order of many stops: from several greedy ones by small changes, at first also for the worse
 * (annealing), with a fixed seed, so that the same question has the same answer.
 *
 * @returns indices into the stops
 */
export function goodOrder(request: RoundRequest, tries = TRIES): number[] {
  const byReady = [...request.stops.keys()].sort((a, b) => request.stops[a]!.ready - request.stops[b]!.ready)
  const rated = (order: number[]) => ({ order, ...timeRound(request, order) })
  const starts = [byReady, greedy(request, 0), greedy(request, 1)].map(rated)
  let best = starts.reduce((a, b) => (better(b, a) ? b : a))
  for (let start = 0; start < STARTS; start++) {
    const random = seededRandom(start + 1)
    const walk = new Walk(request, best.order)
    // Way is worth next to nothing beside cost, and all where nothing is lost.
    const perWay = (best.cost > 0 ? best.cost : 1) / Math.max(1, best.travel) / 1e4
    const hot = (HOT * (best.cost + perWay * best.travel)) / request.stops.length
    const each = Math.floor(tries / STARTS / STEPS)
    for (let step = 0; step < STEPS; step++) {
      const heat = step < STEPS * 0.9 ? hot * COLD ** (step / STEPS / 0.9) : 0
      for (let i = 0; i < each; i++)
        if (attempt(walk, random, -heat * Math.log(1 - random()), perWay) && better(walk, best))
          best = rated([...walk.order])
    }
  }
  return best.order
}
