import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { analyseLog } from '../../../core/pressure/analysis'
import { creepOrLeak } from '../../../core/pressure/creep'
import {
  canBeShut,
  expectedTests,
  nextSplit,
  suspectStretches,
  tightBy,
} from '../../../core/pressure/halving'
import type { Sample } from '../../../core/pressure/log'
import { seededRandom } from '../../../core/random'

/** A hold of an hour, a reading every ten seconds: creep, leak and noise as asked. */
function hold({ creep = 0, leak = 0, noise = 300, seed = 1, tau = 60 }) {
  const random = seededRandom(seed)
  const rough = () => (random() + random() + random() - 1.5) * noise
  return Array.from({ length: 361 }, (_v, i) => {
    const t = i * 10
    return { t, v: 12e5 - creep * Math.log1p(t / tau) - (leak * t) / 3600 + rough() }
  })
}

describe('creep or leak', () => {
  it('finds a fall that is creep alone to be creep, nineteen times of twenty', () => {
    const found = Array.from({ length: 40 }, (_v, seed) => creepOrLeak(hold({ creep: 5000, seed }))!)
    expect(found.filter((f) => Math.abs(f.leak) <= f.half).length).toBeGreaterThanOrEqual(35)
    expect(found[0]!.sentence).toMatch(/Creep explains all/)
    for (const f of found) expect(Math.abs(f.creep + f.leak - 5000 * Math.log1p(60))).toBeLessThan(1500)
  })
  it('finds the leak beside the creep, as large as it is', () => {
    const found = creepOrLeak(hold({ creep: 5000, leak: 30_000 }))!
    expect(found.sentence).toMatch(/it leaks/)
    expect(found.leak).toBeGreaterThan(30_000 - 2 * found.half)
    expect(found.leak).toBeLessThan(30_000 + 2 * found.half)
  })
  it('says when the pressure rises beside it', () =>
    expect(creepOrLeak(hold({ creep: 4000, leak: -30_000 }))!.sentence).toMatch(/rises beside/))
  it('cannot tell from fewer than twelve readings, nor from one moment', () => {
    const exact = hold({ creep: 5000, noise: 0 })
    expect(creepOrLeak(exact.slice(0, 11))).toBeNull()
    expect(creepOrLeak(exact.slice(0, 12))).not.toBeNull()
    expect(creepOrLeak(exact.slice(0, 20).map((p) => ({ ...p, t: 7 })))).toBeNull()
  })
  it('of readings without noise finds creep, leak and time constant as they are', () => {
    const found = creepOrLeak(hold({ creep: 5000, leak: 20_000, noise: 0, tau: 100 }))!
    expect(found.leak).toBeCloseTo(20_000, -2)
    expect(found.creep).toBeCloseTo(5000 * Math.log1p(36), -2)
    expect(found.tau / 100).toBeCloseTo(1, 1)
    expect(found.noise).toBeLessThan(20)
    expect(found.slope * 3600).toBeCloseTo(-found.leak, 6)
  })
  it('when it was measured does not matter', () => {
    const points = hold({ creep: 5000, leak: 10_000 })
    const later = points.map((p) => ({ ...p, t: p.t + 86_400 }))
    expect(creepOrLeak(later)!.leak).toBeCloseTo(creepOrLeak(points)!.leak, 3)
    expect(creepOrLeak(later)!.tau).toBeCloseTo(creepOrLeak(points)!.tau, 3)
  })
  it('more noise makes it less sure', () => {
    const half = (noise: number) => creepOrLeak(hold({ creep: 5000, noise }))!.half
    expect(half(900)).toBeGreaterThan(2 * half(300))
  })
  it('a larger leak is never found smaller', () =>
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 50 }), fc.integer({ min: 5, max: 40 }), (seed, more) => {
        const [small, large] = [10_000, 10_000 + more * 1000].map((leak) =>
          creepOrLeak(hold({ creep: 3000, leak, seed }))!,
        )
        expect(large!.leak).toBeGreaterThan(small!.leak)
      }),
      { numRuns: 25 },
    ))
})

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

describe('halving down to the leak', () => {
  it.each<[string, string | null, boolean | null]>([
    ['failed', null, false],
    ['evaluated', 'accept', true],
    ['evaluated', 'reject', false],
    ['evaluated', 'too-close', false],
    ['signed', 'accept', true],
    ['planned', null, null],
    ['running', 'accept', null],
  ])('a part that is %s, %s, is tight: %s', (state, verdict, tight) =>
    expect(tightBy(state, verdict)).toBe(tight),
  )
  it('a line is shut at valves, closures and manholes', () =>
    expect(['valve', 'closure', 'manhole', 'bend', 'crossing'].map(canBeShut)).toEqual([
      ...[true, true, true],
      ...[false, false],
    ]))
  const whole = { from: 0, to: 100 }
  it.each([
    ['nothing tested yet', [], [[0, 100]]],
    ['a tight half is out', [{ from: 0, to: 50, tight: true }], [[50, 100]]],
    ['a failed half has it', [{ from: 0, to: 50, tight: false }], [[0, 50]]],
    [
      'tight in the middle leaves both ends',
      [{ from: 40, to: 60, tight: true }],
      [
        [0, 40],
        [60, 100],
      ],
    ],
    [
      'part by part to one joint',
      [
        { from: 0, to: 50, tight: true },
        { from: 50, to: 75, tight: false },
        { from: 50, to: 62, tight: true },
      ],
      [[62, 75]],
    ],
    ['all tight: it has closed, or was at the ends', [{ from: 0, to: 100, tight: true }], []],
  ] as const)('%s', (_what, parts, left) =>
    expect(suspectStretches(whole, parts).map((s) => [s.from, s.to])).toEqual(left),
  )
  it('parts at an isolation near the middle, else between joints', () => {
    const joints = [10, 30, 47, 70].map((at) => ({ at, name: null }))
    expect(nextSplit(whole, joints)).toEqual({ at: 47, name: null })
    expect(nextSplit(whole, [...joints, { at: 60, name: 'Valve 3' }])).toEqual({ at: 60, name: 'Valve 3' })
    expect(nextSplit(whole, [...joints, { at: 90, name: 'Valve 4' }])).toEqual({ at: 47, name: null })
    expect(nextSplit({ from: 48, to: 69 }, joints)).toBeNull()
  })
  it('takes as many tests as it takes to tell so many joints apart', () => {
    expect([1, 2, 4, 8, 3, 50].map(expectedTests)).toEqual([
      0,
      1,
      2,
      3,
      1 + 4 / 3 - 2 / 3,
      expect.closeTo(5.72, 2),
    ])
  })
  it('never leaves out where the leak is', () =>
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 999 }),
        fc.array(fc.tuple(fc.integer({ min: 0, max: 1000 }), fc.integer({ min: 1, max: 400 })), {
          maxLength: 12,
        }),
        (leak, spans) => {
          const at = leak + 0.5
          const parts = spans.map(([from, length]) => ({
            ...{ from, to: from + length },
            tight: !(at > from && at < from + length),
          }))
          const left = suspectStretches({ from: 0, to: 1000 }, parts)
          expect(left.some((s) => at > s.from && at < s.to)).toBe(true)
        },
      ),
    ))
})
