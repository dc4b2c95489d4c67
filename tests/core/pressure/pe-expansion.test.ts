import fc from 'fast-check'
import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { readPressureLog, type Sample } from '../../../core/pressure/log'
import { evaluateLog } from '../../../core/pressure/report'

/** A test as it should go: up in ten minutes, four hours kept, lowered by 70 kPa in two, an hour held. */
function goodTest(hold: (t: number) => number = () => 0): Sample[] {
  const samples: Sample[] = []
  const kept = 600 + 4 * 3600 + 300
  for (let t = 0; t <= kept + 120 + 3700; t += 30) {
    const pressure =
      t < 600
        ? (1250e3 * t) / 600
        : t <= kept
          ? 1250e3
          : t <= kept + 120
            ? 1250e3 - (70e3 * (t - kept)) / 120
            : 1180e3 + hold(t - kept - 120)
    samples.push({ t, pressure, pipe: 11, air: null, makeup: 0 })
  }
  return samples
}
const section = { length: 600, insideDiameter: 0.2578, wall: 0.0286, modulus: 900e6 }
const evaluate = (samples: Sample[], more: object = {}) =>
  evaluateLog(
    {
      method: 'pe-expansion',
      parameters: { testPressure: 1250e3, ...more },
      section,
      gauge: { uncertainty: 2500 },
    },
    samples,
  )

describe('a test by expansion', () => {
  it('as it should go, it is tight', () =>
    expect(evaluate(goodTest())).toMatchObject({
      verdict: 'accept',
      sentence: expect.stringContaining('within its limit'),
    }))
  it.each<[string, number, string]>([
    ['a fall of 1 %', -0.01, 'accept'],
    ['a fall of 4 %', -0.04, 'accept'],
    ['a fall to the limit', -0.05, 'too-close'],
    ['a fall of 7 %', -0.07, 'reject'],
    ['a rise of 7 %', 0.07, 'reject'],
    ['a rise of 2 %', 0.02, 'accept'],
  ])('%s over the hold is %s', (_what, share, verdict) =>
    expect(evaluate(goodTest((t) => (1180e3 * share * t) / 3600)).verdict).toBe(verdict),
  )
  it.each<[string, (s: Sample) => Sample, string]>([
    [
      'pressure let sag in the expansion',
      (s) => (s.t > 3000 && s.t < 6000 ? { ...s, pressure: 1250e3 - 15 * (s.t - 3000) } : s),
      'kept',
    ],
    ['water added in the hold', (s) => ({ ...s, makeup: s.t > 16_500 ? 0.003 : 0 }), 'added'],
  ])('%s rejects it for that', (_what, change, key) => {
    const result = evaluate(goodTest().map(change))
    expect(result.verdict).toBe('reject')
    expect(result.numbers.find((n) => n.key === key)!.verdict).toBe('reject')
  })
  it('lowered by too little, it has not been lowered', () =>
    expect(
      evaluate(
        goodTest().map((s) => ({
          ...s,
          pressure: s.pressure > 1100e3 ? Math.max(s.pressure, 1225e3) : s.pressure,
        })),
      ),
    ).toMatchObject({ verdict: 'incomplete', sentence: expect.stringContaining('not been lowered') }))
  it('too long at pressure is rejected', () =>
    expect(evaluate(goodTest(), { maxTotal: 4 * 3600 }).numbers.find((n) => n.key === 'total')).toMatchObject(
      { verdict: 'reject' },
    ))
  it('cut off anywhere it is incomplete, never accepted nor rejected', () => {
    const whole = goodTest()
    fc.assert(
      fc.property(fc.integer({ min: 2, max: whole.length - 12 }), (n) => {
        const { verdict } = evaluate(whole.slice(0, n))
        expect(verdict).toBe('incomplete')
      }),
      { numRuns: 40 },
    )
  })
  it('a gauge shifted by a constant sees the same test, if its pressure is shifted too', () =>
    expect(
      evaluate(
        goodTest().map((s) => ({ ...s, pressure: s.pressure + 50e3 })),
        { testPressure: 1300e3 },
      ).verdict,
    ).toBe('accept'))
})

describe('the sample logs', () => {
  const sample = (name: string) =>
    readPressureLog(readFileSync(new URL(`../../../samples/${name}`, import.meta.url), 'utf8')).samples
  const tight = sample('log-tight.csv')
  it('the tight one is accepted, the leaking one rejected for the change in the hold', () => {
    expect(evaluate(tight).verdict).toBe('accept')
    const leaking = evaluate(sample('log-leaking.csv'))
    expect(leaking.verdict).toBe('reject')
    expect(leaking.numbers.find((n) => n.key === 'change')!.verdict).toBe('reject')
    expect(leaking.numbers.find((n) => n.key === 'leak')!.text).toMatch(/L\/h/)
  })
  it('their phases are found', () =>
    expect(evaluate(tight).phases.map((p) => p.title)).toEqual(['Expansion', 'Lowered', 'Hold']))
  it('cut off, they say how long is still to go', () => {
    const early = evaluate(tight.filter((s) => s.t < 3600))
    expect([early.verdict, early.needed! > 3 * 3600]).toEqual(['incomplete', true])
  })
  it('a gauge too coarse for the band is too close to call', () =>
    expect(
      evaluateLog(
        {
          method: 'pe-expansion',
          parameters: { testPressure: 1250e3, reduction: 70e3 },
          section,
          gauge: { uncertainty: 45e3 },
        },
        tight,
      ).verdict,
    ).toBe('too-close'))
  it('a pressure that was never there is said so', () =>
    expect(evaluate(tight, { testPressure: 2e6 }).sentence).toMatch(/never reached/))
})
