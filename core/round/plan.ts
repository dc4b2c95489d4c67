import { list, notNegative, quantity, record, type Input } from '../calculators/input'
import { readInputs } from '../calculators/define'
import { Problem } from '../problem'
import { bestOrder } from './exact'
import { goodOrder } from './search'
import { timeRound, type RoundRequest } from './timing'

/** So many stops are ordered by looking at all orders. */
export const EXACT = 10
/** More stops than a shift has minutes for. */
export const MOST_STOPS = 300

const name: Input<string> = {
  describe: { kind: 'word' },
  read(raw, field) {
    if (typeof raw !== 'string' || raw.trim() === '')
      throw new Problem('missing', `{${field}} need a key each, a text.`, field)
    return raw
  },
}
const inputs = {
  at: quantity('time'),
  stops: list(
    record({
      key: name,
      ready: quantity('time'),
      service: notNegative('time'),
      weight: notNegative('ratio'),
    }),
    { max: MOST_STOPS },
  ),
  travel: list(list(notNegative('time'))),
}

/**
 * Reads where I am, the stops and the ways between them.
 *
 * @throws Problem naming `at`, `stops` or `travel`
 */
export function readRound(raw: unknown): RoundRequest {
  if (typeof raw !== 'object' || raw === null || Array.isArray(raw))
    throw new Problem('bad-input', 'A round is an object of at, stops and travel.', null)
  const read = readInputs(inputs, Object.keys(inputs), raw as Record<string, unknown>)
  if (new Set(read.stops.map((s) => s.key)).size < read.stops.length)
    throw new Problem('twice', 'Two {stops} have the same key.', 'stops')
  const size = read.stops.length + 1
  if (read.travel.length !== size || read.travel.some((row) => row.length !== size))
    throw new Problem(
      'wrong-size',
      `{travel} must have ${size} rows of ${size} times: the start, then the stops in their order.`,
      'travel',
    )
  return read
}

export interface Round {
  order: string[]
  arrive: number[]
  begin: number[]
  cost: number
  travel: number
  /** whether no order is better */
  exact: boolean
}

/**
 * In which order to go, so that the crews lose least by waiting and, of equal orders, with least way.
 * The best of all up to ten stops; a good one above.
 *
 * @returns times in s, as asked; cost Σ weight · max(0, begin − ready)
 */
export function planRound(request: RoundRequest): Round {
  const exact = request.stops.length <= EXACT
  const order = exact ? bestOrder(request) : goodOrder(request)
  return { order: order.map((i) => request.stops[i]!.key), ...timeRound(request, order), exact }
}
