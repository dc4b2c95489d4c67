import { describe, expect, it } from 'vitest'
import { timedLoss } from '../../../core/pressure/methods/timed-loss'
import { guardBandVerdict } from '../../../core/calculators/guard-band'
import { evaluateTest, requestFor } from '../../../core/pressure/evaluate'
import type { Sample } from '../../../core/pressure/log'

/** How long a pressure takes to lose something; and what seeps through a wall in a time. */
const curve = (...values: number[]) => values.map((v, i) => ({ t: i * 10, v }))
const judge = (value: number, min: number, uncertainty: number) =>
  guardBandVerdict(value, min, null, uncertainty, 'guarded').verdict
const loss = (values: number[], required: number, sign: 1 | -1 = 1, uncertainty = 0) =>
  timedLoss(curve(...values), sign * 20, 10, required, uncertainty, judge, sign)

describe('the time of a loss', () => {
  it('runs from where the start is passed on the way down to where so much is lost, between rows', () =>
    // Up to 30, down by 5 in ten seconds: 20 at 50 s, 10 at 70 s.
    expect(loss([0, 15, 30, 30, 25, 20, 15, 10, 5], 20)).toEqual({
      ...{ begin: 50, time: 20, running: false, needed: null },
      number: { value: 20, unit: 's', limit: 20, uncertainty: 0, verdict: 'accept' },
    }))
  it('begins after the last top, not at an earlier one', () =>
    expect(loss([0, 30, 12, 30, 20, 10], 5)).toMatchObject({ begin: 40, time: 10 }))
  it('of a vacuum runs the other way up', () =>
    expect(loss([0, -15, -30, -30, -25, -20, -15, -10, -5], 20, -1)).toMatchObject({ begin: 50, time: 20 }))
  it('is none where the start was never passed', () => {
    expect(loss([0, 10, 19.9, 10], 20)).toBeNull()
    expect(loss([0, 10, 20, 10, 9], 20)).not.toBeNull()
    expect(loss([0, -10, -19.9, -10], 20, -1)).toBeNull()
  })
  it('has not begun while it stands above the start', () =>
    expect(loss([0, 30, 30, 25], 20)).toEqual({
      ...{ begin: 30, time: null, running: true, needed: null },
      number: { value: null, unit: 's', limit: 20 },
    }))
  it('runs until it has stood as long as it must, and is then good whatever follows', () => {
    const slow = [30, 20, 19, 18, 17]
    expect(loss(slow, 40)).toEqual({
      ...{ begin: 10, time: null, running: true, needed: 10 },
      number: { value: null, unit: 's', limit: 40 },
    })
    expect(loss(slow, 30)).toEqual({
      ...{ begin: 10, time: null, running: false, needed: null },
      number: { value: null, unit: 's', limit: 30, verdict: 'accept' },
    })
  })
  it('that was too short is rejected, or too near to call with what the gauge leaves in doubt', () => {
    const quick = [30, 20, 15, 10, 5]
    expect(loss(quick, 21)!.number).toMatchObject({ value: 20, verdict: 'reject' })
    // Half a unit a second: one unit in doubt is two seconds.
    expect(loss(quick, 21, 1, 1)!.number).toMatchObject({ uncertainty: 2, verdict: 'too-close' })
    expect(loss(quick, 23, 1, 1)!.number.verdict).toBe('reject')
    // As long as it must is long enough, by any gauge.
    expect(loss(quick, 20, 1, 1)!.number.verdict).toBe('accept')
  })
})

describe('water through the wall in a quarter of an hour', () => {
  const section = { length: 100, nominal: 0.5 }
  const log = (meter: (minute: number) => number | null, until = 20): Sample[] =>
    Array.from({ length: until + 1 }, (_v, m) => ({
      ...{ t: m * 60, pressure: 20e3, pipe: null, air: null, makeup: meter(m) },
    }))
  const evaluate = (rows: Sample[], events: { t: number; kind: 'reached' }[] = [], meterUncertainty = 0) =>
    evaluateTest({
      ...requestFor({
        ...{ method: 'exfiltration', parameters: { rate: 18.5, duration: 900 }, section, events },
        gauge: { uncertainty: 0, meterUncertainty },
      }),
      rows,
    })
  it('is counted by the meter from the begin to the end, no further', () => {
    const { numbers, phases, needed } = evaluate(log((m) => m * 1e-5))
    expect(numbers.lost!.value).toBeCloseTo(0.15, 9)
    expect(phases).toEqual([{ key: 'hold', from: 0, to: 900 }])
    expect(needed).toBeNull()
  })
  it('begins where somebody says that the line is full', () => {
    const full = evaluate(
      log((m) => (m < 4 ? 0 : 1e-4 * (m - 4))),
      [{ t: 240, kind: 'reached' }],
    )
    expect(full.phases).toEqual([{ key: 'hold', from: 240, to: 1140 }])
    expect(full.numbers.lost!.value).toBeCloseTo(1.5, 9)
  })
  it('is the same where the meter was read later and for the last time earlier', () =>
    expect(evaluate(log((m) => (m < 3 || m > 10 ? null : m * 1e-5))).numbers.lost!.value).toBeCloseTo(
      0.07,
      9,
    ))
  it('is in doubt by its meter', () =>
    expect(
      evaluate(
        log((m) => m * 1e-5),
        [],
        0.02,
      ).numbers.lost!.uncertainty,
    ).toBeCloseTo(0.003, 9))
  it('cut short needs the rest', () =>
    expect(evaluate(log((m) => m * 1e-5, 10))).toMatchObject({ verdict: 'incomplete', needed: 300 }))
  it('without a meter cannot be judged', () =>
    expect(() => evaluate(log(() => null))).toThrow(
      expect.objectContaining({ code: 'missing', field: 'makeup' }),
    ))
})
