import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { greedy } from '../../../core/round/greedy'
import { goodOrder } from '../../../core/round/search'
import { timeRound, type RoundRequest } from '../../../core/round/timing'
import { rounds } from './strewn'

/** Stops on a straight line at their minutes from where I am. */
function along(...stops: [minute: number, ready: number, service: number, weight: number][]): RoundRequest {
  const at = [0, ...stops.map(([minute]) => minute)]
  return {
    at: 0,
    stops: stops.map(([, ready, service, weight], i) => ({ key: `S${i}`, ready, service, weight })),
    travel: at.map((a) => at.map((b) => Math.abs(a - b))),
  }
}

describe('goes to what costs least to take next', () => {
  it.each([
    ['the nearer of two alike', along([9, 0, 1, 1], [4, 0, 1, 1]), 0, [1, 0]],
    ['the one that waits more dearly', along([4, 0, 1, 1], [6, 0, 1, 3]), 0, [1, 0]],
    ['the one that is ready', along([4, 50, 1, 1], [6, 0, 1, 1]), 0, [1, 0]],
    ['from where I stand, not from the start', along([5, 0, 1, 2], [-8, 0, 1, 1], [12, 0, 1, 1]), 0, [0, 2, 1]],
    ['when I am there, not from the beginning', along([5, 0, 40, 9], [15, 30, 1, 1], [-9, 0, 1, 1]), 0, [0, 1, 2]],
    ['what takes long waits where that counts', along([5, 0, 60, 1], [8, 0, 5, 1]), 1, [1, 0]],
    ['and does not where it does not', along([5, 0, 60, 1], [8, 0, 5, 1]), 0, [0, 1]],
    ['whom nobody waits for comes last', along([1, 0, 1, 0], [30, 0, 1, 1]), 0, [1, 0]],
    ['also where nobody waits anywhere', along([3, 0, 1, 0], [2, 0, 1, 0]), 0, [1, 0]],
    ['nowhere', along(), 0, []],
  ])('%s', (_what, request, look, order) => expect(greedy(request, look)).toEqual(order)) // prettier-ignore

  it('is an order of all stops', () =>
    fc.assert(
      fc.property(rounds(12), fc.constantFrom(0, 1), (request, look) => {
        expect(greedy(request, look).sort((a, b) => a - b)).toEqual([...request.stops.keys()])
      }),
    ))
})

describe('a good order', () => {
  it('is never worse than any that it begins with', () =>
    fc.assert(
      fc.property(rounds(14, 2), (request) => {
        const byReady = [...request.stops.keys()].sort(
          (a, b) => request.stops[a]!.ready - request.stops[b]!.ready,
        )
        const { cost } = timeRound(request, goodOrder(request, 1500))
        for (const start of [byReady, greedy(request, 0), greedy(request, 1)])
          expect(cost).toBeLessThanOrEqual(timeRound(request, start).cost + 1e-6)
      }),
      { numRuns: 40 },
    ))
  it('with nothing tried is the best of them', () => {
    // The one that waits dearly first, though the others are ready before it.
    const request = along([5, 10, 30, 9], [6, 1, 30, 1], [7, 0, 30, 1])
    expect(goodOrder(request, 0)).toEqual([0, 1, 2])
  })
  it('tried more is not worse on the whole', () => {
    const cost = (tries: number) =>
      fc
        .sample(rounds(25, 25), { numRuns: 4, seed: 2 })
        .reduce((sum, r) => sum + timeRound(r, goodOrder(r, tries)).cost, 0)
    expect(cost(15_000)).toBeLessThan(cost(1500))
    expect(cost(1500)).toBeLessThan(cost(0))
  })
  it('where nothing is lost is the shortest way that is found', () => {
    const request = along([9, 0, 0, 0], [2, 0, 0, 0], [6, 0, 0, 0], [4, 0, 0, 0], [1, 0, 0, 0])
    expect(goodOrder(request, 15_000)).toEqual([4, 1, 3, 2, 0])
  })
})
