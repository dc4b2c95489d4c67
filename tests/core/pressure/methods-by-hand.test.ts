import { describe, expect, it } from 'vitest'
import { evaluateTest, requestFor } from '../../../core/pressure/evaluate'
import type { Sample } from '../../../core/pressure/log'

/** Short tests of the methods for rigid pipe, casings and leakage, worked out on paper. */
const section = {
  ...{ length: 640, insideDiameter: 0.2545, wall: 0.0063, modulus: 207e9, nominal: 0.25 },
  ...{ poisson: 0.3, pipeExpansion: 1.17e-5, restrained: true },
}
const stiff = (Math.PI / 4) * 0.2545 ** 2 * 640 * (1 / 2.19e9 + 0.2545 / (0.0063 * 207e9))
type Reading = [minute: number, kPa: number, more?: { makeup?: number; pipe?: number }]
const rows = (...readings: Reading[]): Sample[] =>
  readings.map(([minute, kPa, more]) => ({
    ...{ t: minute * 60, pressure: kPa * 1e3, air: null },
    ...{ makeup: more?.makeup ?? null, pipe: more?.pipe ?? null },
  }))
const evaluate = (method: string, parameters: object, log: Sample[], of: object = section) =>
  evaluateTest({
    ...requestFor({ method, parameters, section: of, gauge: { uncertainty: 500 } }),
    rows: log,
  })

describe('a fall in an hour, in a hold of twenty minutes', () => {
  const parameters = { testPressure: 1000e3, settle: 600, duration: 1200, maxRate: 12e3 }
  const log = (more: (minute: number) => Reading[2] = () => ({})) =>
    rows(
      ...[0, 10, 15, 20, 25, 30, 35].map((m): Reading => [
        m,
        m <= 10 ? 1000 : 1000 - 0.1 * (m - 10),
        more(m),
      ]),
    )
  const hour = 6e3
  it('its numbers are those of the paper', () => {
    const { numbers, phases, verdict, cautions } = evaluate('hydro-drop', parameters, log())
    expect(phases).toEqual([
      { key: 'settle', from: 0, to: 600 },
      { key: 'hold', from: 600, to: 1800 },
    ])
    expect(verdict).toBe('accept')
    expect(numbers.drop!.value).toBeCloseTo(2e3, 6)
    expect(numbers.rate).toMatchObject({ value: expect.closeTo(hour, 6), limit: 12e3, verdict: 'accept' })
    expect(numbers.leak!.value).toBeCloseTo(hour * stiff * 1000, 9)
    expect(numbers).not.toHaveProperty('added')
    expect(cautions).toEqual(['No temperature was read: nothing is taken out for it.'])
  })
  it('water by the meter is counted over the hold alone', () => {
    const metered = (at: (minute: number) => number) =>
      evaluate(
        'hydro-drop',
        parameters,
        log((m) => ({ makeup: at(m) })),
      ).numbers.added
    expect(metered((m) => (m < 10 ? 0 : m <= 30 ? 0.02 : 0.09))).toMatchObject({
      value: 0,
      verdict: 'accept',
    })
    expect(metered((m) => (m < 20 ? 0.02 : 0.025))).toMatchObject({
      ...{ value: expect.closeTo(5, 9), unit: 'L', limit: 0, verdict: 'reject' },
    })
  })
  it('while it settles it needs the settling and the hold; while it is held, the rest', () => {
    const until = (minute: number) =>
      evaluate(
        'hydro-drop',
        parameters,
        log().filter((r) => r.t <= minute * 60),
      )
    expect(until(10)).toMatchObject({
      needed: 1200,
      sentence: 'It settles.',
      numbers: {},
      verdict: 'incomplete',
    })
    const held = until(25)
    expect(held).toMatchObject({ needed: 300, verdict: 'incomplete' })
    expect(held.numbers.rate).not.toHaveProperty('verdict')
  })
  it('of too few readings no rate is told, and it is not over', () => {
    const few = log().filter((r) => r.t !== 900 && r.t !== 1200)
    expect(evaluate('hydro-drop', parameters, few)).toMatchObject({
      ...{ verdict: 'incomplete', sentence: 'Too few readings to tell how fast it falls.', needed: null },
      numbers: { rate: { value: null, unit: 'Pa/h' } },
    })
  })
  it('with a sensor the pipe must be described, and its effect is told', () => {
    const warm = log((m) => ({ pipe: 12 + m / 60 }))
    expect(evaluate('hydro-drop', parameters, warm).cautions).toEqual([])
    expect(evaluate('hydro-drop', parameters, warm).numbers.temperatureEffect!.value).not.toBeNull()
    for (const key of ['poisson', 'pipeExpansion', 'restrained'])
      expect(() => evaluate('hydro-drop', parameters, warm, { ...section, [key]: undefined })).toThrow(
        expect.objectContaining({ code: 'missing', field: key }),
      )
  })
})

describe('makeup water over an hour', () => {
  const parameters = { testPressure: 1000e3, duration: 3600 }
  const log = (fall: number, meter: (minute: number) => number, pipe?: (minute: number) => number) =>
    rows(
      ...[0, 15, 30, 45, 60, 75].map((m): Reading => [
        m,
        1000 - (fall * Math.min(m, 60)) / 60,
        { makeup: meter(m), ...(pipe && { pipe: pipe(m) }) },
      ]),
    )
  it('what was added and what the fall is worth are one total', () => {
    const { numbers, phases } = evaluate(
      'hydro-makeup',
      parameters,
      log(10, (m) => 0.001 + Math.min(m, 70) * 1e-5),
    )
    expect(phases).toEqual([{ key: 'hold', from: 0, to: 3600 }])
    expect(numbers.added!.value).toBeCloseTo(0.6, 9)
    expect(numbers.restored!.value).toBeCloseTo(10e3 * stiff * 1000, 9)
    expect(numbers.total!.value).toBeCloseTo(0.6 + 10e3 * stiff * 1000, 9)
    expect([numbers.lowest!.value, numbers.highest!.value]).toEqual([990e3, 1000e3])
  })
  it('before the hour is over nothing is said against what is allowed', () => {
    const early = evaluate(
      'hydro-makeup',
      parameters,
      log(10, () => 0).filter((r) => r.t <= 2700),
    )
    expect(early).toMatchObject({ verdict: 'incomplete', needed: 900 })
    expect(early.numbers.total).not.toHaveProperty('verdict')
  })
  it('cooling feigns a leak, warming hides one; what cannot be seen is not said', () => {
    const said = (kelvin: number, of: object = section) =>
      evaluate(
        'hydro-makeup',
        parameters,
        log(
          0,
          () => 0,
          (m) => 12 + (kelvin * Math.min(m, 60)) / 60,
        ),
        of,
      ).cautions
    expect(said(2)).toEqual([
      expect.stringMatching(/^The temperature moved by 2\.0 K: that hides about \d+\.\d L\.$/),
    ])
    expect(said(-2)).toEqual([
      expect.stringMatching(/^The temperature moved by -2\.0 K: that feigns about \d+\.\d L\.$/),
    ])
    expect(said(0)).toEqual([])
    expect(said(2, { ...section, restrained: undefined })).toEqual([])
  })
})

describe('a casing under air for two minutes', () => {
  const parameters = { pressure: 20e3, duration: 120 }
  const log = (fall: number, pipe: (minute: number) => number | undefined) =>
    rows(...[0, 1, 2, 3].map((m): Reading => [m, 20 - fall * Math.min(m, 2), { pipe: pipe(m)! }]))
  it('may fall by no more than the gauge can tell', () => {
    const drop = (fall: number) =>
      evaluate(
        'casing-air',
        parameters,
        log(fall, () => 20),
      ).numbers.drop!
    expect(drop(0.35)).toMatchObject({ value: expect.closeTo(700, 6), limit: 0, verdict: 'accept' })
    expect(drop(0.36)).toMatchObject({ value: expect.closeTo(720, 6), verdict: 'reject' })
    expect(drop(0.35).uncertainty).toBeCloseTo(Math.SQRT2 * 500, 9)
  })
  it('is as warm as it was when the pressure was there, or at the first reading since', () => {
    const warm = (pipe: (minute: number) => number | undefined) =>
      evaluate('casing-air', parameters, log(0, pipe)).numbers.temperature!.value
    expect(warm((m) => 20 + m)).toBe(20)
    expect(warm((m) => (m < 1 ? undefined : 20 + m))).toBe(21)
    expect(warm(() => undefined)).toBeNull()
  })
  it('that changes its warmth is said', () => {
    const said = (by: number) =>
      evaluate(
        'casing-air',
        parameters,
        log(0, (m) => 20 + (by * m) / 2),
      ).cautions
    expect(said(0.5)).toEqual(['The casing changed by 0.5 K: that alone moves the pressure.'])
    expect(said(0.1)).toEqual([])
  })
  it('cut short needs the rest', () =>
    expect(
      evaluate(
        'casing-air',
        parameters,
        log(0, () => 20).filter((r) => r.t <= 60),
      ),
    ).toMatchObject({ verdict: 'incomplete', needed: 60 }))
})
