import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { seededRandom } from '../../../core/random'
import { timeRound, type RoundRequest } from '../../../core/round/timing'
import { Walk } from '../../../core/round/walk'
import { rounds } from './strewn'

const PER_WAY = 0.01
const worthOf = (request: RoundRequest, order: Iterable<number>) => {
  const { cost, travel } = timeRound(request, [...order])
  return cost + PER_WAY * travel
}
const inOrder = ({ stops }: RoundRequest) => [...stops.keys()]
/** A round with changes tried at it, by what each of them is told. */
function each(
  request: RoundRequest,
  seed: number,
  look: (walk: Walk, before: readonly number[]) => boolean,
  times = 60,
) {
  const random = seededRandom(seed)
  const walk = new Walk(request, inOrder(request))
  for (let i = 0; i < times; i++) {
    const before = [...walk.order]
    walk.change(random)
    walk.settle(look(walk, before))
  }
  return walk
}
const any = fc.tuple(rounds(20, 2), fc.integer())

describe('one order, changed bit by bit', () => {
  it('a change is another order of the same stops', () =>
    fc.assert(
      fc.property(any, ([request, seed]) => {
        each(request, seed, (walk, before) => {
          expect([...walk.trial].sort((a, b) => a - b)).toEqual(inOrder(request))
          expect([...walk.order]).toEqual(before)
          return true
        })
      }),
    ))
  it('is worth what its times say, whether it is taken or given up', () =>
    fc.assert(
      fc.property(any, ([request, seed]) => {
        each(request, seed, (walk) => {
          expect(walk.worth(Infinity, PER_WAY)).toBeCloseTo(worthOf(request, walk.trial), 6)
          return walk.trial[0] !== walk.order[0]
        })
      }),
    ))
  it('taken, it is the order; given up, the order is as it was', () =>
    fc.assert(
      fc.property(any, ([request, seed]) => {
        let expected: number[] = inOrder(request)
        let turn = 0
        const walk = each(request, seed, (w, before) => {
          expect(before).toEqual(expected)
          const { cost, travel } = timeRound(request, before)
          expect([w.cost, w.travel]).toEqual([expect.closeTo(cost, 6), expect.closeTo(travel, 6)])
          const taken = ++turn % 3 > 0
          if (taken) expected = [...w.trial]
          return taken
        })
        expect([...walk.order]).toEqual(expected)
        expect([...walk.trial]).toEqual(expected)
      }),
    ))
  it('is beyond a bound only where it must end beyond it', () =>
    fc.assert(
      fc.property(any, fc.double({ min: 0.5, max: 1.5, noNaN: true }), ([request, seed], share) => {
        each(request, seed, (walk) => {
          const truth = worthOf(request, walk.trial)
          const bound = share * worthOf(request, walk.order)
          const found = walk.worth(bound, PER_WAY)
          if (found === Infinity) expect(truth).toBeGreaterThan(bound - 1e-6)
          else expect(found).toBeCloseTo(truth, 6)
          return truth <= bound
        })
      }),
    ))
  it('what must end beyond the bound is not followed to its end', () => {
    // Far from the start, and late: each stop after the first costs more.
    const n = 12
    const stops = Array.from({ length: n }, (_v, i) => ({ key: `S${i}`, ready: 0, service: 60, weight: 1 }))
    const travel = Array.from({ length: n + 1 }, (_r, i) =>
      Array.from({ length: n + 1 }, (_c, j) => 100 * Math.abs(i - j)),
    )
    const request = { at: 0, stops, travel }
    const given = each(
      request,
      1,
      (walk) => {
        const bound = worthOf(request, walk.order)
        if (worthOf(request, walk.trial) > bound + 1e-6) expect(walk.worth(bound, PER_WAY)).toBe(Infinity)
        return false
      },
      300,
    )
    expect([...given.order]).toEqual(inOrder(request))
  })
})

describe('the changes that are tried', () => {
  const request = fc.sample(rounds(30, 30), { numRuns: 1, seed: 5 })[0]!
  const kinds = { swapped: 0, turned: 0, moved: 0, same: 0, far: 0 }
  each(
    request,
    11,
    (walk, before) => {
      const trial = [...walk.trial]
      const off = before.flatMap((stop, k) => (trial[k] === stop ? [] : [k]))
      if (off.length === 0) kinds.same++
      else {
        const [first, last] = [off[0]!, off.at(-1)!]
        const turned = [...before.slice(first, last + 1)].reverse()
        if (off.length === 2) kinds.swapped++
        else if (JSON.stringify(turned) === JSON.stringify(trial.slice(first, last + 1))) kinds.turned++
        else kinds.moved++
        if (last - first > 16) kinds.far++
      }
      return false
    },
    4000,
  )
  it.each([
    ['two swapped', kinds.swapped, 0.2, 0.5],
    ['a stretch turned round', kinds.turned, 0.08, 0.3],
    ['a few moved', kinds.moved, 0.35, 0.65],
    ['far apart', kinds.far, 0.03, 0.35],
  ])('%s: its share of them', (_kind, found, least, most) => {
    expect(found / 4000).toBeGreaterThan(least)
    expect(found / 4000).toBeLessThan(most)
  })
})
