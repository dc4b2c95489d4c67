import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { cleanLog, readPressureLog, type Sample } from '../../core/pressure/log'
import { elevationAt, profileBetween } from '../../core/pressure/pack'
import { evaluatePeExpansion, samplePeExpansion } from '../../core/pressure/pe-expansion'
import { pressureTrend } from '../../core/pressure/trend'

const at = (minute: number) => new Date(Date.UTC(2026, 2, 9, 6, minute)).toISOString()
const csv = (header: string, ...rows: string[]) => [header, ...rows].join('\n')

describe('reading a log', () => {
  it.each([
    ['pressure kPa', '1250', 1.25e6],
    ['pressure bar', '12.5', 1.25e6],
    ['pressure Pa', '1250000', 1.25e6],
    ['Pressure kPa', '1250', 1.25e6],
  ])('%s is read as what it says', (column, cell, pascals) =>
    expect(
      readPressureLog(csv(`time,${column}`, `${at(0)},${cell}`, `${at(1)},${cell}`)).samples.map(
        (s) => s.pressure,
      ),
    ).toEqual([pascals, pascals]),
  )
  it('a comma for a point, a mark at the beginning, semicolons and blank lines are taken', () => {
    const log = readPressureLog(
      `\uFEFFtime;pressure bar;temperature;makeup L\n${at(0)};12,5;11,4;0\n\n${at(1)};12,6;;0,5\n`,
    )
    expect(log.samples).toEqual([
      { t: 0, pressure: 12.5e5, temperature: 11.4, makeup: 0 },
      { t: 60, pressure: 12.6e5, temperature: null, makeup: 0.0005 },
    ])
  })
  it('times with any zone are one time', () =>
    expect(
      readPressureLog(csv('time,pressure kPa', '2026-03-09T06:00:00Z,1', '2026-03-09T08:01:00+02:00,1'))
        .samples[1]!.t,
    ).toBe(60))
  it.each([
    ['no rows', csv('time,pressure kPa'), 'bad-file'],
    ['one row', csv('time,pressure kPa', `${at(0)},1`), 'bad-file'],
    ['no pressure', csv('time,level', `${at(0)},1`, `${at(1)},1`), 'bad-file'],
    ['nothing at all', '', 'bad-file'],
    ['an empty pressure', csv('time,pressure kPa', `${at(0)},1`, `${at(1)},`), 'bad-row'],
    [
      'a time without its zone',
      csv('time,pressure kPa', '2026-03-09T06:00:00,1', '2026-03-09T06:01:00,1'),
      'bad-row',
    ],
    [
      'a day that does not exist',
      csv('time,pressure kPa', '2026-02-31T06:00:00Z,1', `${at(1)},1`),
      'bad-row',
    ],
    ['a formula for a number', csv('time,pressure kPa', `${at(0)},=1+1`, `${at(1)},1`), 'bad-row'],
    ['words for water', csv('time,pressure kPa,makeup L', `${at(0)},1,none`, `${at(1)},1,0`), 'bad-row'],
  ])('%s is refused', (_what, text, code) =>
    expect(() => readPressureLog(text)).toThrow(expect.objectContaining({ code })),
  )
})

const line = (count: number, step: number, pressure: (t: number) => number): Sample[] =>
  Array.from({ length: count }, (_v, i) => ({
    t: i * step,
    pressure: pressure(i * step),
    temperature: null,
    makeup: 0,
  }))

describe('cleaning a log', () => {
  it('a good log stays as it is', () => {
    const good = line(100, 60, (t) => 1e6 - t)
    expect(cleanLog(good)).toEqual({ samples: good, notes: [] })
  })
  it('a hole in the log is named with its length', () => {
    const holed = line(100, 60, () => 1e6).filter((s) => s.t < 1200 || s.t > 3000)
    expect(cleanLog(holed).notes).toEqual([
      expect.objectContaining({ kind: 'gap', sentence: 'No samples for 32 min.' }),
    ])
  })
  it('a true step is no spike: nothing of it is left out', () => {
    const stepped = line(60, 30, (t) => (t < 900 ? 1e6 : 0.93e6))
    expect(cleanLog(stepped).samples).toEqual(stepped)
  })
  it('times come out rising and no sample is made up, whatever came in', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            t: fc.integer({ min: 0, max: 5000 }),
            pressure: fc.double({ min: 0, max: 2e6, noNaN: true }),
            temperature: fc.constant(null),
            makeup: fc.constant(0),
          }),
          { minLength: 2, maxLength: 60 },
        ),
        (samples) => {
          const { samples: kept } = cleanLog(samples)
          for (let i = 1; i < kept.length; i++) expect(kept[i]!.t).toBeGreaterThan(kept[i - 1]!.t)
          for (const s of kept) expect(samples).toContain(s)
        },
      ),
    )
  })
})

describe('the trend of a hold', () => {
  it('a straight fall is found to the digit, without doubt', () => {
    const trend = pressureTrend(line(60, 60, (t) => 1e6 - 2.5 * t))!
    expect(trend.slope).toBeCloseTo(-2.5, 9)
    expect(trend.interval).toBeCloseTo(0, 6)
  })
  it('one wild reading does not turn it', () => {
    const samples = line(60, 60, (t) => 1e6 - 2.5 * t)
    samples[30] = { ...samples[30]!, pressure: 2e6 }
    expect(pressureTrend(samples)!.slope).toBeCloseTo(-2.5, 6)
  })
  it('is the same from whatever pressure and moment it is looked at', () =>
    fc.assert(
      fc.property(
        fc.double({ min: -1e5, max: 1e5, noNaN: true }),
        fc.integer({ min: 0, max: 1e6 }),
        (up, later) => {
          const samples = line(30, 60, (t) => 1e6 - t + 300 * Math.sin(t))
          expect(
            pressureTrend(samples.map((s) => ({ ...s, t: s.t + later, pressure: s.pressure + up })))!.slope,
          ).toBeCloseTo(pressureTrend(samples)!.slope, 4)
        },
      ),
    ))
  it('more noise is more doubt', () => {
    const noisy = (size: number) =>
      pressureTrend(line(60, 60, (t) => 1e6 - t + size * Math.sin(7 * t)))!.interval
    expect(noisy(500)).toBeGreaterThan(noisy(100))
  })
  it('four samples are no trend', () => expect(pressureTrend(line(4, 60, () => 1))).toBeNull())
})

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
    samples.push({ t, pressure, temperature: 11, makeup: 0 })
  }
  return samples
}
const section = { length: 600, insideDiameter: 0.2578, wall: 0.0286, modulus: 900e6 }
const parameters = { ...samplePeExpansion, testPressure: 1250e3, gaugeUncertainty: 2500 }
const evaluate = (samples: Sample[], more: object = {}) =>
  evaluatePeExpansion(samples, { ...parameters, ...more }, section)

describe('a test by expansion', () => {
  it('as it should go, it is tight', () =>
    expect(evaluate(goodTest())).toMatchObject({
      verdict: 'accept',
      sentence: expect.stringContaining('Tight'),
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
      (s) => (s.t > 3000 && s.t < 6000 ? { ...s, pressure: 1205e3 } : s),
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
  it('too long at pressure is rejected, and sent to rest', () =>
    expect(evaluate(goodTest(), { maxTotal: 4 * 3600 }).numbers.find((n) => n.key === 'total')).toMatchObject(
      { verdict: 'reject', formula: expect.stringContaining('rest') },
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

describe('a profile', () => {
  const profile = [
    { station: 0, elevation: 10 },
    { station: 100, elevation: 20 },
    { station: 300, elevation: 0 },
  ]
  it.each([
    [0, 10],
    [50, 15],
    [100, 20],
    [200, 10],
    [300, 0],
    [-5, 10],
    [999, 0],
  ])('at %i m lies at %i m', (station, elevation) => expect(elevationAt(profile, station)).toBe(elevation))
  it('between two stations keeps its bends and gets its ends', () =>
    expect(profileBetween(profile, 50, 200)).toEqual([
      { station: 50, elevation: 15 },
      { station: 100, elevation: 20 },
      { station: 200, elevation: 10 },
    ]))
})
