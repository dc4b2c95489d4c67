import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  drawSample,
  operatingCharacteristic,
  planFor,
  sampleSamplingRule,
  severityAfter,
  type SampledLot,
} from '../../../core/delivery/sampling'

/** Chance that a sample of n passes, by counting every way one item after the other: slow and plain. */
function passes(lot: number, bad: number, n: number, acceptance: number): number {
  let chances = [1]
  for (let drawn = 0; drawn < n; drawn++) {
    const next = new Array<number>(drawn + 2).fill(0)
    for (let k = 0; k <= drawn; k++) {
      const left = lot - drawn
      next[k + 1]! += (chances[k]! * Math.max(0, bad - k)) / left
      next[k]! += (chances[k]! * Math.max(0, left - (bad - k))) / left
    }
    chances = next
  }
  return chances.slice(0, acceptance + 1).reduce((a, b) => a + b, 0)
}

describe('a sampling plan', () => {
  const rule = sampleSamplingRule
  it.each([24, 90, 250, 600])('of %i items keeps both promises, by a plain count', (lot) => {
    const plan = planFor(lot)
    const bad = Math.max(1, Math.round(plan.catches * lot))
    expect(passes(lot, bad, plan.sample, plan.acceptance)).toBeLessThanOrEqual(rule.consumerRisk + 1e-9)
    if (!plan.all)
      expect(1 - passes(lot, Math.floor(rule.good * lot), plan.sample, plan.acceptance)).toBeLessThanOrEqual(
        rule.producerRisk + 1e-9,
      )
  })
  it.each([90, 250])('of %i items is the smallest with its acceptance number', (lot) => {
    const plan = planFor(lot)
    expect(passes(lot, Math.round(plan.catches * lot), plan.sample - 1, plan.acceptance)).toBeGreaterThan(
      rule.consumerRisk,
    )
  })
  it('a tightened plan looks at more, a relaxed one at fewer', () => {
    const of = (s: 'normal' | 'tightened' | 'relaxed') => planFor(500, rule, s).sample
    expect(of('tightened')).toBeGreaterThan(of('normal'))
    expect(of('relaxed')).toBeLessThan(of('normal'))
  })
  it.each([1, 2, 5])('of %i items looks at every one', (lot) =>
    expect(planFor(lot)).toMatchObject({ sample: lot, all: true }),
  )
  it('is always possible', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 3000 }),
        fc.constantFrom('normal', 'tightened', 'relaxed' as const),
        (lot, severity) => {
          const plan = planFor(lot, rule, severity as 'normal')
          expect(plan.sample).toBeGreaterThan(0)
          expect(plan.sample).toBeLessThanOrEqual(lot)
          expect(plan.acceptance).toBeLessThan(plan.sample + 1)
        },
      ),
      { numRuns: 60 },
    )
  })
  it('its characteristic falls from always to never', () => {
    const curve = operatingCharacteristic(planFor(250))
    expect(curve[0]).toEqual({ share: 0, accepted: 1 })
    for (let i = 1; i < curve.length; i++)
      expect(curve[i]!.accepted).toBeLessThanOrEqual(curve[i - 1]!.accepted + 1e-9)
    expect(curve.at(-1)!.accepted).toBeLessThan(0.01)
  })
})

describe('how strictly the next lot is looked at', () => {
  const lots = (text: string): SampledLot[] =>
    [...text].map((c) => ({ accepted: c !== 'X', bad: c === '.' ? 0 : 1 }))
  it.each([
    ['', 'normal'],
    ['X', 'tightened'],
    ['X....', 'tightened'],
    ['X.....', 'normal'],
    ['X..X...', 'tightened'],
    ['..........', 'relaxed'],
    ['.........o', 'normal'],
    ['..........o', 'normal'],
    ['..........X', 'tightened'],
    ['X.....' + '.........', 'normal'],
    ['X.....' + '..........', 'relaxed'],
  ])('after %j: %s (X refused, o passed with a bad item)', (history, severity) =>
    expect(severityAfter(lots(history)).severity).toBe(severity),
  )
})

describe('drawing a sample', () => {
  it('takes as many different items as wanted, the same again from the same start', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 400 }),
        fc.integer({ min: 1, max: 400 }),
        fc.nat(),
        (size, wanted, start) => {
          const items = Array.from({ length: size }, (_v, i) => i)
          const drawn = drawSample(items, wanted, start)
          expect(new Set(drawn).size).toBe(Math.min(size, wanted))
          expect(drawSample(items, wanted, start)).toEqual(drawn)
        },
      ),
    )
  })
})
