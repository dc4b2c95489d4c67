import { describe, expect, it } from 'vitest'
import { analyseLog } from '../../../core/pressure/analysis'
import type { Sample } from '../../../core/pressure/log'
import { seededRandom } from '../../../core/random'

const section = { length: 600, insideDiameter: 0.2578, wall: 0.0286, modulus: 900e6 }
/** Raised over twenty minutes with water by the meter, then held for an hour. */
function log({ air = 0, leak = 0, meter = true }): Sample[] {
  const volume = (Math.PI / 4) * 0.2578 ** 2 * 600
  const takes = volume * (1 / 2.19e9 + 0.2578 / (0.0286 * 900e6))
  const random = seededRandom(7)
  return Array.from({ length: 481 }, (_v, i) => {
    const t = i * 10
    const raised = Math.min(1, t / 1200)
    const pressure = 12.5e5 * raised - (Math.max(0, t - 1200) / 3600) * leak + (random() - 0.5) * 400
    // What air takes in when it is pressed together, by Boyle.
    const squeezed = air * (1 - 101_325 / (101_325 + 12.5e5 * raised))
    return { t, pressure, pipe: 11, air: null, makeup: meter ? takes * 12.5e5 * raised + squeezed : null }
  })
}
const analysed = (of: Parameters<typeof log>[0], more: object = {}) =>
  analyseLog(
    log(of),
    { section, resolution: 0, testPressure: 12.5e5, ...more },
    { from: 1200, to: 4800 },
    true,
  )

describe('what a log tells beyond its verdict', () => {
  it('the leak in litres an hour, and the hole that would do it', () => {
    const { leak, detectable, hole } = analysed({ leak: 50_000 })
    const takes = (Math.PI / 4) * 0.2578 ** 2 * 600 * (1 / 2.19e9 + 0.2578 / (0.0286 * 900e6))
    expect(leak).toBeCloseTo(50_000 * takes * 1000, 0)
    expect(detectable).toBeLessThan(leak! / 10)
    // q = 0.61·A·√(2p/ρ), worked backward
    const area = leak! / 3.6e6 / (0.61 * Math.sqrt((2 * 1.225e6) / 1000))
    expect(hole).toBeCloseTo(Math.sqrt((4 * area) / Math.PI), 4)
  })
  it('names no hole that the log could not have shown', () => {
    const { leak, detectable, hole } = analysed({ leak: 0 })
    expect(Math.abs(leak!)).toBeLessThanOrEqual(detectable! * 1.5)
    expect(hole).toBeNull()
  })
  it('the air that was in the line', () => {
    const { air } = analysed({ air: 0.5 })
    expect(air!.litres).toBeGreaterThan(400)
    expect(air!.litres).toBeLessThan(600)
    const volume = (Math.PI / 4) * 0.2578 ** 2 * 600
    expect(air!.share).toBeCloseTo(air!.litres / 1000 / volume, 9)
  })
  it('no air where no more water went in than pipe and water take up', () =>
    expect(analysed({ air: -0.05 }).air).toBeNull())
  it.each<[string, (s: Sample) => boolean]>([
    ['it begins in the hold', (s) => s.t >= 1200],
    ['it never came near the pressure', (s) => s.t < 900],
    ['it begins when most of the pressure was there', (s) => s.t >= 800],
  ])('no air is worked out where %s', (_what, kept) => {
    const found = analyseLog(
      log({ air: 0.5 }).filter(kept),
      { section, resolution: 0, testPressure: 12.5e5 },
      { from: 1200, to: 4800 },
      true,
    )
    expect(found.air).toBeNull()
    expect(found.lacks).toContain('The pressurising part is not in the log.')
  })
  it('creep is looked for only where the pipe creeps', () => {
    const look = (creeps: boolean) =>
      analyseLog(log({}), { section, resolution: 0, testPressure: 12.5e5 }, { from: 1200, to: 4800 }, creeps)
        .creep
    expect([look(false), look(true) === null]).toEqual([null, false])
  })
  it('a hold of three readings has no trend, and says so', () => {
    const found = analyseLog(
      log({}),
      { section, resolution: 0, testPressure: 12.5e5 },
      { from: 1200, to: 1220 },
      true,
    )
    expect([found.slope, found.leak]).toEqual([null, null])
    expect(found.lacks).toContain('The hold has fewer than four readings: it has no trend.')
  })
  it('a row that comes twice is left out, and said', () => {
    const rows = log({})
    const twice = [...rows.slice(0, 200), rows[199]!, ...rows.slice(200)]
    const found = analyseLog(
      twice,
      { section, resolution: 0, testPressure: 12.5e5 },
      { from: 1200, to: 4800 },
      true,
    )
    expect(found.left).toEqual([{ t: rows[199]!.t, v: rows[199]!.pressure }])
  })
  describe('what the temperature did', () => {
    const described = { ...section, poisson: 0.42, pipeExpansion: 1.8e-4, restrained: true }
    const warming = (
      pipe: (t: number) => number | null,
      of: Record<string, unknown> = described,
      more: object = {},
    ) =>
      analyseLog(
        log({}).map((s) => ({ ...s, pipe: pipe(s.t) })),
        { section: of, resolution: 0, testPressure: 12.5e5, ...more },
        { from: 1200, to: 4800 },
        true,
      )
    const lacks = 'Not corrected for temperature: no sensor, or the pipe is not described.'
    it('is taken out of the trend', () => {
      const found = warming((t) => 11 + t / 3600)
      expect(found.temperature!.moved).toBeCloseTo(1, 6)
      expect(found.lacks).not.toContain(lacks)
      // Nothing fell: what is left is what the warmth would have raised.
      expect(found.slope!.slope * 3600).toBeCloseTo(-found.temperature!.k, -2)
      expect(found.temperature!.corrected.length).toBeLessThanOrEqual(400)
    })
    it('follows the sensor by the lag of the pipe', () => {
      const jump = (t: number) => (t < 3000 ? 11 : 12)
      expect(warming(jump).temperature!.moved).toBeCloseTo(1, 6)
      expect(warming(jump, described, { lag: 1800 }).temperature!.moved).toBeCloseTo(1 - Math.exp(-1), 2)
    })
    it.each<[string, (t: number) => number | null, Record<string, unknown>]>([
      ['nobody measured it', () => null, described],
      ['nobody says how the pipe stretches', () => 11, { ...described, poisson: undefined }],
      ['nobody says whether it is held', () => 11, { ...described, restrained: undefined }],
      ['the water is outside the tables', () => 60, described],
    ])('is not taken out where %s', (_what, pipe, of) => {
      const found = warming(pipe, of)
      expect(found.temperature).toBeNull()
      expect(found.lacks).toContain(lacks)
    })
  })
  it('says what it cannot work out, and why', () => {
    expect(analysed({ meter: false })).toMatchObject({
      air: null,
      lacks: expect.arrayContaining([expect.stringMatching(/No meter/)]),
    })
    const bare = analysed({}, { section: { length: 600 } })
    expect([bare.leak, bare.detectable, bare.hole]).toEqual([null, null, null])
    expect(bare.lacks[0]).toMatch(/What water a pressure is worth is not known/)
  })
})

describe('the pressurising part, reading by reading', () => {
  const P = 1000e3
  const takes = (Math.PI / 4) * 0.2578 ** 2 * 600 * (1 / 2.19e9 + 0.2578 / (0.0286 * 900e6))
  /** readings a minute apart: share of the test pressure and m³ by the meter; then a hold of five */
  const raised = (...readings: [number, number | null][]) => {
    const last = readings.at(-1)!
    const all = [...readings, ...Array.from({ length: 5 }, () => last)]
    return analyseLog(
      all.map(([share, makeup], i) => ({ t: i * 60, pressure: share * P, makeup, pipe: null, air: null })),
      { section, resolution: 0, testPressure: P },
      { from: readings.length * 60, to: 9e9 },
      false,
    )
  }
  const none = 'The pressurising part is not in the log.'
  const unmetered = 'No meter: nobody knows how much water was added.'
  const enough = 3 * takes * P
  it.each<[string, [number, number | null][], string]>([
    [
      'needs a reading before it',
      [
        [0.2, 0],
        [0.95, enough],
      ],
      none,
    ],
    [
      'must begin below half of the pressure',
      [
        [0, 0],
        [0.52, 0],
        [0.9, enough],
      ],
      none,
    ],
    [
      'without a meter at its beginning',
      [
        [0, 0],
        [0.3, null],
        [0.95, enough],
      ],
      unmetered,
    ],
    [
      'without a meter at its end',
      [
        [0, 0],
        [0.3, 0],
        [0.95, null],
      ],
      unmetered,
    ],
    [
      'through which the meter stood still',
      [
        [0, 0],
        [0.3, 0.01],
        [0.95, 0.01],
      ],
      unmetered,
    ],
  ])('%s', (_what, readings, why) => {
    const found = raised(...readings)
    expect(found.air).toBeNull()
    expect(found.lacks).toContain(why)
  })
  it('is read between a fifth and nine tenths of the pressure, ends included', () => {
    // By Boyle: what went in beyond water and pipe is what the air gave way by.
    const air = (from: number, to: number, added: number) => {
      const gave = added - takes * (to - from) * P
      const [a, b] = [from * P + 101_325, to * P + 101_325]
      return (gave / (101_325 / a - 101_325 / b)) * 1000
    }
    const at = raised([0, 0], [0.2, 0.01], [0.9, 0.41], [1, 0.5])
    expect(at.air!.litres).toBeCloseTo(air(0.2, 0.9, 0.4), 6)
    const between = raised([0, 0], [0.19, 0.005], [0.5, 0.03], [0.89, 0.3], [0.91, 0.33])
    expect(between.air!.litres).toBeCloseTo(air(0.5, 0.91, 0.3), 6)
    // Four tenths of the pressure are just enough to read it from.
    expect(raised([0, 0], [0.5, 0.01], [0.9, 0.31]).air!.litres).toBeCloseTo(air(0.5, 0.9, 0.3), 6)
  })
  it('in which no more went in than water and pipe take up held no air, and nothing lacks', () => {
    const found = raised([0, 0], [0.25, 0], [0.95, takes * 0.5 * P])
    expect(found.air).toBeNull()
    expect(found.lacks).toEqual(['Not corrected for temperature: no sensor, or the pipe is not described.'])
  })
})

it('of a pipe that nobody described only that is said', () => {
  const found = analysed({}, { section: { length: 600 } })
  expect(found.lacks).toEqual([expect.stringMatching(/What water a pressure is worth is not known/)])
  expect([found.temperature, found.air]).toEqual([null, null])
})
it('a hold that lost its pressure names no hole', () => {
  const falling = Array.from({ length: 20 }, (_v, i): Sample => ({
    ...{ t: i * 60, pressure: -1e3 * i, pipe: null, air: null, makeup: null },
  }))
  const found = analyseLog(
    falling,
    { section, resolution: 0, testPressure: 1e6 },
    { from: 0, to: 9e9 },
    false,
  )
  expect(found.leak!).toBeGreaterThan(found.detectable!)
  expect(found.hole).toBeNull()
  expect(found.left).toEqual([])
})
