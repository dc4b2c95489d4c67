import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { concreteAge, couldSee, layOut, topsOf, type LaidOut } from '../../../core/pressure/layout'

const profile = [
  [0, 10],
  [100, 14],
  [200, 9],
  [300, 16],
  [400, 12],
].map(([station, elevation]) => ({ station: station!, elevation: elevation! }))
const laid = (more: Partial<LaidOut> = {}): LaidOut => ({
  ...{ from: 0, to: 400, gaugeStation: 0, outsideDiameter: 0.315, wall: 0.0286, modulus: 0.9e9 },
  ...{ testPressure: 12e5, required: 11e5, rating: 16e5, soilBearing: null },
  ...more,
})
const bends = [
  { name: 'Bend 1', kind: 'bend', station: 150, angle: 45 },
  { name: 'Valve', kind: 'valve', station: 200, angle: null },
  { name: 'Bend 2', kind: 'bend', station: 390, angle: 90 },
]

describe('a pack that is laid out', () => {
  it('has the pressure of each point: a metre of water is 9.807 kPa', () => {
    const { plan } = layOut(profile, [], laid())
    expect(plan.highest.pressure).toBeCloseTo(12e5 - 6 * 9806.65, 0)
    expect(plan.lowest.pressure).toBeCloseTo(12e5 + 1 * 9806.65, 0)
    expect([plan.highOk, plan.lowOk]).toEqual([true, true])
    expect(layOut(profile, [], laid({ required: 11.8e5 })).plan.highOk).toBe(false)
    expect(layOut(profile, [], laid({ gaugeStation: 300 })).plan.lowest.pressure).toBeCloseTo(
      12e5 + 7 * 9806.65,
      0,
    )
  })
  it('has a block at each push: half as much again as it takes, over what the ground bears', () => {
    const { pushes } = layOut(profile, bends, laid({ soilBearing: 100e3 }))
    for (const { force, block } of pushes) expect(block).toBeCloseTo((force * 1.5) / 100e3, 9)
    expect(layOut(profile, bends, laid()).pushes.map((p) => p.block)).toEqual([null, null, null, null])
  })
  it.each([
    ['2026-03-02', '2026-03-09', 7],
    ['2026-02-27', '2026-03-01', 2],
    ['2026-03-09', '2026-03-09', 0],
    ['2026-03-10', '2026-03-09', -1],
    ['', '2026-03-09', null],
    ['2026-03-09', '', null],
  ])('concrete of %s is on %s so many days old: %s', (cast, due, age) =>
    expect(concreteAge(cast, due)).toBe(age),
  )
  it('pushes at both closures and at each bend within it, by the pressure there', () => {
    const { pushes } = layOut(profile, bends, laid())
    const area = (Math.PI / 4) * 0.315 ** 2
    expect(pushes.map((p) => [p.name, p.station])).toEqual([
      ['Closure', 0],
      ['Bend 1', 150],
      ['Bend 2', 390],
      ['Closure', 400],
    ])
    expect(pushes[0]!.force).toBeCloseTo(12e5 * area, 0)
    // half way from 14 m down to 9 m: 1.5 m over the gauge
    const there = 12e5 - 1.5 * 9806.65
    expect(pushes[1]!.force).toBeCloseTo(2 * there * area * Math.sin((45 / 2) * (Math.PI / 180)), 0)
    expect(layOut(profile, bends, laid({ to: 350 })).pushes.map((p) => p.name)).not.toContain('Bend 2')
  })
  it('gathers air at its tops, not at its ends', () => {
    expect(layOut(profile, [], laid()).tops.map((t) => t.station)).toEqual([100, 300])
    expect(layOut(profile, [], laid({ from: 200, to: 300 })).tops).toEqual([])
    expect(topsOf([])).toEqual([])
  })
  it.each([
    ['an end before its beginning', { from: 200, to: 100 }, 'to'],
    ['a wall that leaves no bore', { wall: 0.2 }, 'wall'],
  ])('%s is refused by its field', (_what, more, field) =>
    expect(() => layOut(profile, [], laid(more))).toThrow(expect.objectContaining({ field })),
  )
  it('two packs beside one need no more water than one', () =>
    fc.assert(
      fc.property(fc.integer({ min: 10, max: 390 }), (at) => {
        const one = layOut(profile, [], laid()).plan.fillVolume
        const two = [laid({ to: at }), laid({ from: at, gaugeStation: at })].map(
          (l) => layOut(profile, [], l).plan.fillVolume,
        )
        expect(two[0]! + two[1]!).toBeCloseTo(one, 9)
      }),
    ))
})

describe('what a gauge could see', () => {
  const { design } = layOut(profile, [], laid())
  const gauge = { uncertainty: 2500, resolution: 100 }
  it('is less in a longer hold and a shorter pack, more with a coarser gauge', () => {
    const hour = couldSee(design, gauge, 3600)
    expect(couldSee(design, gauge, 4 * 3600)).toBeLessThan(hour)
    expect(couldSee(layOut(profile, [], laid({ to: 200 })).design, gauge, 3600)).toBeCloseTo(hour / 2, 6)
    expect(couldSee(design, { ...gauge, uncertainty: 10_000 }, 3600)).toBeGreaterThan(hour)
  })
})
