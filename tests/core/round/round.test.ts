import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { Problem } from '../../../core/problem'
import { bestOrder } from '../../../core/round/exact'
import { planRound, readRound } from '../../../core/round/plan'
import { goodOrder } from '../../../core/round/search'
import { timeRound, type RoundRequest } from '../../../core/round/timing'
import cases from '../../reference/round-cases.json'
import { rounds } from './strewn'

interface Case {
  note: string
  request: RoundRequest
  expect?: object
  best?: number
  error?: string
}
const refused = (raw: unknown): string | null => {
  try {
    readRound(raw)
  } catch (error) {
    if (error instanceof Problem) return error.field
    throw error
  }
  throw new Error('it was not refused')
}

describe('worked cases computed by an independent program', () => {
  it.each((cases as unknown as Case[]).map((c) => [c.note, c] as const))('%s', (_note, c) => {
    if (c.error) return expect(refused(c.request)).toBe(c.error)
    const round = planRound(readRound(c.request))
    if (c.expect) expect(round).toEqual(c.expect)
    else {
      expect(round.cost).toBeLessThanOrEqual(1.05 * c.best!)
      expect([...round.order].sort()).toEqual(c.request.stops.map((s) => s.key).sort())
    }
  })
})

const allOrders = (rest: number[]): number[][] =>
  rest.length === 0
    ? [[]]
    : rest.flatMap((first) => allOrders(rest.filter((i) => i !== first)).map((o) => [first, ...o]))

describe('a round', () => {
  it('of few stops is the best of all orders, and of equal ones the shortest', () => {
    fc.assert(
      fc.property(rounds(6), (request) => {
        const found = timeRound(request, bestOrder(request))
        for (const order of allOrders([...request.stops.keys()])) {
          const other = timeRound(request, order)
          expect(found.cost).toBeLessThanOrEqual(other.cost + 1e-6)
          if (Math.abs(other.cost - found.cost) < 1e-6)
            expect(found.travel).toBeLessThanOrEqual(other.travel + 1e-6)
        }
      }),
      { numRuns: 60 },
    )
  })
  it('found by search is a round of all stops, and as good as the best where that is known', () => {
    fc.assert(
      fc.property(rounds(8), (request) => {
        const order = goodOrder(request, 60_000)
        expect([...order].sort((a, b) => a - b)).toEqual([...request.stops.keys()])
        const best = timeRound(request, bestOrder(request))
        expect(timeRound(request, order).cost).toBeLessThanOrEqual(1.05 * best.cost + 1e-6)
      }),
      { numRuns: 40 },
    )
  })
  it('never reaches a stop before it has left the one before, nor begins before it is ready', () => {
    fc.assert(
      fc.property(rounds(10), (request) => {
        const round = planRound(request)
        let free = request.at
        for (const [k, key] of round.order.entries()) {
          const stop = request.stops.find((s) => s.key === key)!
          expect(round.arrive[k]).toBeGreaterThanOrEqual(free)
          expect(round.begin[k]).toBe(Math.max(round.arrive[k]!, stop.ready))
          free = round.begin[k]! + stop.service
        }
      }),
      { numRuns: 30 },
    )
  })
  it('asked twice is answered alike', () => {
    const [request] = fc.sample(rounds(40), { numRuns: 1, seed: 3 })
    expect(planRound(request!)).toEqual(planRound(request!))
  })
})

describe('what is refused, by its key', () => {
  const stop = { key: 'A', ready: 0, service: 60, weight: 1 }
  const good = { at: 0, stops: [stop], travel: [[0, 1], [1, 0]] } // prettier-ignore
  it.each([
    ['no start', { ...good, at: undefined }, 'at'],
    ['a start that is no number', { ...good, at: true }, 'at'],
    ['no stops', { ...good, stops: [] }, 'stops'],
    ['a negative service', { ...good, stops: [{ ...stop, service: -1 }] }, 'stops'],
    ['a negative weight', { ...good, stops: [{ ...stop, weight: -1 }] }, 'stops'],
    ['a stop without a key', { ...good, stops: [{ ...stop, key: '' }] }, 'stops'],
    ['a key twice', { ...good, stops: [stop, stop] }, 'stops'],
    ['a stop with something unknown', { ...good, stops: [{ ...stop, colour: 1 }] }, 'stops'],
    ['a row too few', { ...good, travel: [[0, 1]] }, 'travel'],
    ['a row too short', { ...good, travel: [[0, 1], [1]] }, 'travel'],
    ['a negative way', { ...good, travel: [[0, -1], [1, 0]] }, 'travel'],
    ['a way that is no number', { ...good, travel: [[0, null], [1, 0]] }, 'travel'],
    ['something unknown', { ...good, speed: 1 }, 'speed'],
    ['no object', [], null],
  ] as [string, unknown, string | null][])('%s', (_what, raw, field) => expect(refused(raw)).toBe(field)) // prettier-ignore
})
