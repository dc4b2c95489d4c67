import { describe, expect, it } from 'vitest'
import { evaluateTest, requestFor } from '../../../core/pressure/evaluate'
import type { TestEvent } from '../../../core/pressure/events'
import type { Sample } from '../../../core/pressure/log'

/** Two tests of polyethylene worked out on paper: what each number is, to the last figure. */
const section = { length: 600, insideDiameter: 0.2578, wall: 0.0286, modulus: 900e6 }
/** m³ that the section takes up per Pa: V·(1/K + D/(e·E)) */
const stiff = (waterModulus: number) =>
  (Math.PI / 4) * 0.2578 ** 2 * 600 * (1 / waterModulus + 0.2578 / (0.0286 * 900e6))
const sample = (t: number, pressure: number, makeup: number | null): Sample => ({
  ...{ t, pressure, makeup, pipe: null, air: null },
})
const through = (
  corners: readonly [number, number][],
  every: number,
  meter: (t: number) => number | null,
) => {
  const out: Sample[] = []
  for (let t = 0; t <= corners.at(-1)![0]; t += every) {
    const i = Math.max(
      1,
      corners.findIndex(([at]) => at >= t),
    )
    const [[t0, p0], [t1, p1]] = [corners[i - 1]!, corners[i]!]
    out.push(sample(t, p0 + ((p1 - p0) * (t - t0)) / (t1 - t0), meter(t)))
  }
  return out
}

describe('by expansion', () => {
  /** up in ten minutes, kept to 15 300 s, lowered by 70 kPa in 120 s, an hour in which it falls 47.2 kPa */
  const rows = (meter: (t: number) => number | null = () => 0.004, after = 0) =>
    through(
      [
        [0, 0],
        [600, 1250e3],
        [15_300, 1250e3],
        [15_420, 1180e3],
        [19_020, 1132.8e3],
        ...(after > 0 ? [[19_020 + after, 1132.8e3] as [number, number]] : []),
      ],
      30,
      meter,
    )
  const evaluate = (log: Sample[], more: object = {}, events: TestEvent[] = []) =>
    evaluateTest({
      ...requestFor({
        ...{ method: 'pe-expansion', parameters: { testPressure: 1250e3, ...more }, section },
        ...{ gauge: { uncertainty: 2500 }, events },
      }),
      rows: log,
    })
  it('its numbers are those of the paper', () => {
    const { numbers, verdict, needed, phases } = evaluate(rows())
    expect([verdict, needed]).toEqual(['accept', null])
    expect(phases).toEqual([
      { key: 'expansion', from: 600, to: 15_300 },
      { key: 'reduction', from: 15_300, to: 15_420 },
      { key: 'hold', from: 15_420, to: 19_020 },
    ])
    const is = (key: string, value: number, digits: number) =>
      expect(numbers[key]!.value).toBeCloseTo(value, digits)
    is('expansion', 14_700, 9)
    is('kept', 1250e3, 6)
    is('reduction', 70e3, 6)
    is('added', 0, 9)
    is('change', -0.04, 9)
    is('total', 18_420, 9)
    is('slope', -47.2e3, 3)
    is('leak', 47.2e3 * stiff(2.19e9) * 1000, 6)
    expect(numbers.change).toMatchObject({ limit: 0.05, uncertainty: (Math.SQRT2 * 2500) / 1180e3 })
    expect(numbers.kept).toMatchObject({ limit: 1215e3, uncertainty: 2500 })
  })
  it('a log that runs on after the hold is looked at until its end only', () => {
    const { numbers, phases } = evaluate(rows((t) => (t > 19_020 ? 0.009 : 0.004), 1200))
    expect(phases.at(-1)).toEqual({ key: 'hold', from: 15_420, to: 19_020 })
    expect(numbers.added!.value).toBe(0)
    expect(numbers.total!.value).toBe(18_420)
  })
  it('water of the hold is counted from when it was lowered, not what was poured before', () => {
    const { numbers } = evaluate(rows((t) => (t < 15_000 ? 0.001 : t < 17_000 ? 0.004 : 0.0065)))
    expect(numbers.added!.value).toBeCloseTo(2.5, 9)
    expect(numbers.added!.verdict).toBe('reject')
  })
  it('water taken out in the hold is told as well', () =>
    expect(evaluate(rows((t) => (t < 17_000 ? 0.004 : 0.003))).numbers.added).toMatchObject({
      value: expect.closeTo(-1, 9),
      verdict: 'reject',
    }))
  it('without a meter nothing is said of water, and the result says on whom that rests', () => {
    const bare = evaluate(rows(() => null))
    expect(bare.numbers.added).toEqual({ value: null, unit: 'L' })
    expect(bare.cautions).toEqual([
      'There is no meter: that nothing was added rests on those who stood there.',
    ])
    expect(evaluate(rows()).cautions).toEqual([])
  })
  it.each<[string, object, string, string]>([
    ['kept exactly as long as asked', { expansion: 14_700 }, 'expansion', 'accept'],
    ['a second short', { expansion: 14_701 }, 'expansion', 'reject'],
    ['at pressure exactly as long as allowed', { maxTotal: 18_420 }, 'total', 'accept'],
    ['a second longer', { maxTotal: 18_419 }, 'total', 'reject'],
    ['lowered by a fifth less than asked', { reduction: 83e3 }, 'reduction', 'accept'],
    ['by more than that less', { reduction: 95e3 }, 'reduction', 'reject'],
    ['by a fifth more', { reduction: 61e3 }, 'reduction', 'accept'],
    ['by more than that more', { reduction: 55e3 }, 'reduction', 'reject'],
  ])('%s: %j', (_what, more, key, verdict) =>
    expect(evaluate(rows(), more).numbers[key]!.verdict).toBe(verdict),
  )
  it('who marked when it was lowered is believed, in their order', () => {
    const at = (...events: [number, TestEvent['kind']][]) =>
      evaluate(
        rows(),
        {},
        events.map(([t, kind]) => ({ t, kind })),
      ).phases.map((p) => p.to)
    expect(at([15_330, 'lowering'], [15_390, 'lowered'])).toEqual([15_330, 15_390, 18_990])
    // Lowered before anybody lowered it: the fall itself says when.
    expect(at([15_200, 'lowered'], [15_330, 'lowering'])).toEqual([15_330, 15_420, 19_020])
  })
  it('marked as lowered after it had fallen, it was not kept until then, and waits for the mark of its end', () => {
    const late = evaluate(rows(), {}, [{ t: 15_600, kind: 'lowering' }])
    expect(late.phases).toEqual([{ key: 'expansion', from: 600, to: 15_600 }])
    expect(Object.keys(late.numbers)).toEqual(['kept'])
    expect([late.verdict, late.needed]).toEqual(['reject', null])
  })
  it('a fall that the log ends in is not over', () =>
    expect(evaluate(rows().filter((r) => r.t <= 15_420))).toMatchObject({
      verdict: 'incomplete',
      needed: 0,
      phases: [{ key: 'expansion', from: 600, to: 15_300 }],
    }))
  it('while it is kept, it needs what is left of the expansion', () =>
    expect(evaluate(rows().filter((r) => r.t <= 9_000))).toMatchObject({
      needed: 600 + 14_400 - 9_000,
      phases: [{ key: 'expansion', from: 600, to: 9_000 }],
    }))
  it('of rise and fall the larger counts', () => {
    const marks: TestEvent[] = [
      { t: 15_300, kind: 'lowering' },
      { t: 15_420, kind: 'lowered' },
    ]
    const both = (up: number, down: number) => {
      const log = rows().map((r) =>
        r.t <= 15_420 ? r : { ...r, pressure: 1180e3 * (1 + (r.t < 17_000 ? up : -down)) },
      )
      return evaluate(log, {}, marks).numbers.change!.value
    }
    expect(both(0.03, 0.01)).toBeCloseTo(0.03, 9)
    expect(both(0.01, 0.03)).toBeCloseTo(-0.03, 9)
  })
  it('of a hold of fewer than four readings no trend is said', () => {
    const few = rows().filter((r) => r.t <= 15_420 || r.t === 17_010 || r.t === 19_020)
    expect(evaluate(few).numbers).toMatchObject({
      slope: { value: null, unit: 'Pa/h' },
      leak: { value: null, unit: 'L/h' },
    })
  })
})

describe('in three phases', () => {
  const parameters = {
    ...{ testPressure: 1000e3, releasedVolume: 0.002, keep: 1800, creep: 3600 },
    ...{ contraction: 1800, extended: 5400, maxFall: 25e3 },
  }
  /** up in 100 s, kept to 1900 s, creeps to 900 kPa at 5500 s, lowered to 800 kPa in 50 s, then as asked */
  const rows = (then: [number, number][]) =>
    through([[0, 0], [100, 1000e3], [1900, 1000e3], [5500, 900e3], [5550, 800e3], ...then], 10, () => null)
  const evaluate = (log: Sample[], more: object = {}, events: TestEvent[] = []) =>
    evaluateTest({
      ...requestFor({
        ...{ method: 'pe-three-phase', parameters: { ...parameters, ...more }, section },
        ...{ gauge: { uncertainty: 1000 }, events },
      }),
      rows: log,
    })
  const rising: [number, number][] = [[7350, 820e3]]
  const falling = (to: number): [number, number][] => [
    [5600, 805e3],
    [7350, 799e3],
    [10_950, to],
  ]
  it('that rises is over with its contraction', () => {
    const { verdict, numbers, phases, needed } = evaluate(rows(rising))
    expect([verdict, needed]).toEqual(['accept', null])
    expect(phases).toEqual([
      { key: 'keep', from: 100, to: 1900 },
      { key: 'creep', from: 1900, to: 5500 },
      { key: 'lowering', from: 5500, to: 5550 },
      { key: 'contraction', from: 5550, to: 7350 },
    ])
    expect(numbers.remaining!.value).toBeCloseTo(0.9, 9)
    expect(numbers.loweredBy!.value).toBeCloseTo(1 / 9, 9)
    expect(numbers.change).toMatchObject({ value: expect.closeTo(20e3, 6), limit: 0, verdict: 'accept' })
    expect(numbers.released!.value).toBeCloseTo(2, 9)
    expect(numbers.releasable!.value).toBeCloseTo(1.2 * 100e3 * stiff(2.1e9) * 1000, 6)
  })
  it('that does not rise goes on, and then its fall from the peak decides', () => {
    const on = evaluate(rows(falling(782e3)))
    expect(on.phases.at(-1)).toEqual({ key: 'contraction', from: 5550, to: 10_950 })
    expect(on.needed).toBeNull()
    expect(on.numbers.fallFromPeak).toMatchObject({
      ...{ value: expect.closeTo(23e3, 6), limit: 25e3, uncertainty: Math.SQRT2 * 1000, verdict: 'accept' },
    })
    expect(evaluate(rows(falling(770e3))).numbers.fallFromPeak).toMatchObject({
      ...{ value: expect.closeTo(35e3, 6), verdict: 'reject' },
    })
  })
  it.each([
    [1000, 900, 'It is kept at pressure.'],
    [3000, 2500, 'It creeps.'],
    [5500, 0, 'It has not been lowered yet.'],
    [6000, 1350, 'It draws together.'],
    [8000, 2950, 'It has not risen: it goes on.'],
  ])('cut off after %i s it needs %i s more: %s', (until, needed, sentence) =>
    expect(evaluate(rows(falling(782e3)).filter((r) => r.t <= until))).toMatchObject({
      ...{ verdict: 'incomplete', needed, sentence },
    }),
  )
  it('who marked when it was lowered is believed; a mark to come is none yet', () => {
    const marks = (t: number): TestEvent[] => [
      { t: 5510, kind: 'lowering' },
      { t, kind: 'lowered' },
    ]
    expect(evaluate(rows(rising), {}, marks(5540)).phases[2]).toEqual({
      ...{ key: 'lowering', from: 5510, to: 5540 },
    })
    const cut = rows(rising).filter((r) => r.t <= 5530)
    expect(evaluate(cut, {}, marks(5540))).toMatchObject({ verdict: 'incomplete', needed: 0 })
  })
  it('the meter says how much was let out, where nobody does', () => {
    const metered = rows(rising).map((r) => ({ ...r, makeup: r.t < 5505 ? 0.05 : 0.047 }))
    expect(evaluate(metered, { releasedVolume: undefined }).numbers.released!.value).toBeCloseTo(3, 9)
    expect(() => evaluate(rows(rising), { releasedVolume: undefined })).toThrow(
      expect.objectContaining({ code: 'missing', field: 'releasedVolume' }),
    )
    // Who measured it in a vessel goes before the meter.
    expect(evaluate(metered).numbers.released!.value).toBeCloseTo(2, 9)
  })
})
