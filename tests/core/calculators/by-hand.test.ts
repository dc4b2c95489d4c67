import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { run, value } from './run'

/** Cases that a person can do on paper or in the head, and laws that hold for every input. */
const near = (got: number, want: number, digits = 9) => expect(got).toBeCloseTo(want, digits)
const length = fc.double({ min: 0.001, max: 3, noNaN: true })

describe('pipe ends', () => {
  it('a circle is not oval, in whatever direction it is measured', () =>
    fc.assert(
      fc.property(
        length,
        fc.integer({ min: 2, max: 12 }),
        (d, n) => void expect(value('ovality', 'percent', { diameters: Array(n).fill(d) })).toBe(0),
      ),
    ))
  it('ovality does not mind the unit of length', () =>
    fc.assert(
      fc.property(
        fc.array(length, { minLength: 2, maxLength: 8 }),
        (d) =>
          void near(
            value('ovality', 'percent', { diameters: d }),
            value('ovality', 'percent', { diameters: d.map((x) => x * 1000) }),
            6,
          ),
      ),
    ))
  it('the long axis turns with the pipe', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 179 }), (turn) => {
        const angles = [0, 45, 90, 135]
        const diameters = angles.map((a) => 0.4 + 0.002 * Math.cos((2 * (a - turn) * Math.PI) / 180))
        const axis = value('ovality', 'longAxis', { diameters, angles })
        expect(Math.min(Math.abs(axis - turn), 180 - Math.abs(axis - turn))).toBeLessThan(1e-6)
      }),
    )
  })
  it('the girth of a circle gives its diameter', () =>
    fc.assert(
      fc.property(
        length,
        fc.double({ min: 0, max: 0.002, noNaN: true }),
        (d, tape) =>
          void near(
            value('diameter-from-girth', 'diameter', { girth: Math.PI * (d + tape), tapeThickness: tape }),
            d,
          ),
      ),
    ))
  it('a cut as far out of square as the pipe is wide stands at 45°', () =>
    near(value('cut-squareness', 'angle', { diameter: 0.3, outOfSquare: 0.3 }), 45))
  it.each([
    [0, 0],
    [0.00001, 1],
    [0.0002, 1],
    [0.00021, 2],
    [0.0004, 2],
    [0.001, 5],
  ])('to peel %f m at 0.2 mm a pass takes %i passes', (target, passes) =>
    expect(value('peel-passes', 'passes', { target, perPass: 0.0002 })).toBe(passes),
  )
  it('read at the offset itself the pipe is home', () =>
    expect(run('sight-mark', { socketDepth: 0.12, measured: 0.05 })).toMatchObject({
      insertion: 0.12,
      shortBy: 0,
    }))
  it('a cut in a valley is never further off than half a pitch', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.2, max: 6, noNaN: true }),
        fc.double({ min: 0.01, max: 0.2, noNaN: true }),
        fc.double({ min: 0, max: 0.1, noNaN: true }),
        (wanted, pitch, firstValley) => {
          const { cut, error, corrugations } = run('corrugation-cut', {
            wanted,
            pitch,
            firstValley,
          }) as unknown as { cut: number; error: number; corrugations: number }
          expect(Math.abs(error)).toBeLessThanOrEqual(pitch / 2 + 1e-9)
          near(cut, firstValley + corrugations * pitch)
        },
      ),
    )
  })
  it.each([
    [6.0, 0.05, 0.02, 6.02],
    [6.0, 0.1, 0.05, 6.05],
    [0, 0.1, 0.05, 0.05],
  ])(
    'to cut %f m at a pitch of %f m from a first valley at %f m, cut at %f m',
    (wanted, pitch, firstValley, cut) =>
      near(value('corrugation-cut', 'cut', { wanted, pitch, firstValley }), cut),
  )
  it('between two elbows, the pipe is what is left', () =>
    near(value('centre-cut', 'length', { centreToCentre: 1, takeouts: [0.12, 0.18], gap: 0.004 }), 0.696))
})

describe('joints', () => {
  it('even gaps are a straight joint, with no direction', () =>
    expect(run('joint-gap', { gaps: [0.01, 0.01, 0.01, 0.01], diameter: 0.6 })).toMatchObject({
      angle: 0,
      direction: null,
    }))
  it.each([
    [[20, 10, 0, 10], 0],
    [[10, 20, 10, 0], 90],
    [[0, 10, 20, 10], 180],
    [[10, 0, 10, 20], 270],
    [[15, 15, 5, 5], 45],
  ])('gaps %j mm open toward %i°', (gaps, direction) =>
    near(value('joint-gap', 'direction', { gaps: gaps.map((g) => g / 1000), diameter: 0.6 }), direction),
  )
  it('turning the gaps by a quarter turns the direction by 90° and leaves the angle', () => {
    fc.assert(
      fc.property(fc.tuple(length, length, length, length), (g) => {
        const [a, b] = [
          [g[0], g[1], g[2], g[3]],
          [g[3], g[0], g[1], g[2]],
        ].map(
          (gaps) =>
            run('joint-gap', { gaps, diameter: 1 }) as unknown as { angle: number; direction: number | null },
        )
        near(a!.angle, b!.angle)
        if (a!.direction !== null && a!.angle > 1e-6)
          expect(Math.abs(((((b!.direction! - a!.direction - 90) % 360) + 540) % 360) - 180)).toBeLessThan(
            1e-6,
          )
      }),
    )
  })
  it('a pipe of 6 m at 90° less nothing would close a square: radius 3 m', () =>
    near(value('arc-radius', 'radius', { angle: 89.9999999, pipeLength: 6 }), 3, 6))
  it('both radii agree', () =>
    fc.assert(
      fc.property(
        fc.double({ min: 0.1, max: 45, noNaN: true }),
        (angle) =>
          void expect(value('joint-deflection', 'radius', { angle, pipeLength: 6 })).toBe(
            value('arc-radius', 'radius', { angle, pipeLength: 6 }),
          ),
      ),
    ))
  it('torque from preload and preload from torque are each other’s inverse', () =>
    fc.assert(
      fc.property(
        fc.double({ min: 1, max: 2e5, noNaN: true }),
        fc.double({ min: 0.006, max: 0.06, noNaN: true }),
        fc.double({ min: 0.08, max: 0.4, noNaN: true }),
        (preload, diameter, nutFactor) => {
          const torque = value('bolt-torque', 'torque', { preload, diameter, nutFactor })
          expect(value('bolt-torque', 'preload', { torque, diameter, nutFactor }) / preload).toBeCloseTo(1, 9)
        },
      ),
    ))
  it.each(['opposed', 'star', 'circular'])('%s touches every bolt once a pass', (pattern) => {
    fc.assert(
      fc.property(fc.integer({ min: 2, max: 60 }), fc.integer({ min: 1, max: 4 }), (half, passes) => {
        const count = 2 * half
        const order = run('bolt-sequence', { count, pattern, stages: Array(passes).fill(1) })
          .order as unknown as number[][]
        expect(order).toHaveLength(passes)
        for (const pass of order)
          expect([...pass].sort((a, b) => a - b)).toEqual(Array.from({ length: count }, (_v, i) => i + 1))
      }),
    )
  })
  it('opposed goes straight across each time', () => {
    const [pass] = run('bolt-sequence', { count: 8, pattern: 'opposed', stages: [1] })
      .order as unknown as number[][]
    for (let i = 0; i < 8; i += 2) expect(pass![i + 1]! - pass![i]!).toBe(4)
  })
  it('star goes by quarters', () =>
    expect(run('bolt-sequence', { count: 8, pattern: 'star', stages: [0.3, 1] }).order).toEqual([
      [1, 5, 3, 7, 2, 6, 4, 8],
      [1, 5, 3, 7, 2, 6, 4, 8],
    ]))
  it.each([
    [0.02, 0.02, 0],
    [0.02, 0.012, 40],
    [0.02, 0.024, -20],
  ])('a cord of %f m in an annulus of %f m is squeezed %f %%', (cord, annulus, percent) =>
    near(value('gasket-squeeze', 'percent', { cord, annulus }), percent),
  )
})

describe('making', () => {
  it.each([
    [20, 60],
    [30, 30],
    [10, 120],
    [40, 15],
  ])('cement stays open at %i °C for %i s', (temperature, seconds) =>
    near(value('cement-open-time', 'seconds', { temperature }), seconds),
  )
  it('wet weather takes half as long again, whatever the size', () => {
    for (const size of [0.025, 0.05, 0.11, 0.3, 0.5])
      for (const temperature of [-5, 10, 25]) {
        const dry = run('cement-cure', { size, temperature, pressure: 5e5 }) as unknown as {
          set: number
          cure: number
        }
        expect(run('cement-cure', { size, temperature, pressure: 5e5, wet: true })).toMatchObject({
          set: dry.set * 1.5,
          cure: dry.cure * 1.5,
        })
        expect(dry.cure).toBeGreaterThan(dry.set)
      }
  })
  it('colder, larger or under more pressure never cures sooner', () => {
    const sizes = [0.025, 0.05, 0.11, 0.3, 0.5]
    const cure = (size: number, temperature: number, pressure: number) =>
      value('cement-cure', 'cure', { size, temperature, pressure })
    for (let i = 1; i < sizes.length; i++)
      for (const t of [-10, 10, 30])
        expect(cure(sizes[i]!, t, 0)).toBeGreaterThanOrEqual(cure(sizes[i - 1]!, t, 0))
    for (const s of sizes)
      expect([cure(s, -10, 0) >= cure(s, 10, 0), cure(s, 10, 0) >= cure(s, 30, 0)]).toEqual([true, true])
    for (const s of [0.025, 0.05, 0.11]) expect(cure(s, 10, 2e6)).toBeGreaterThan(cure(s, 10, 1e6))
  })
  it('clamps come off after fusion and cooling, the test waits for four coolings', () => {
    expect(
      run('electrofusion-times', { start: '2026-03-09T08:00:00Z', fusion: '210 s', cooling: '20 min' }),
    ).toEqual({ undoAt: '2026-03-09T08:23:30.000Z', testAt: '2026-03-09T09:23:30.000Z' })
    expect(
      run('electrofusion-times', {
        start: '2026-03-09T23:50:00Z',
        fusion: '210 s',
        cooling: '20 min',
        testFactor: 1,
      }),
    ).toEqual({ undoAt: '2026-03-10T00:13:30.000Z', testAt: '2026-03-10T00:13:30.000Z' })
  })
  it('without overlap a wrap is the girth', () =>
    near(value('wrap-tape', 'length', { jacket: 1 / Math.PI, overlap: 0 }), 1))
})

describe('lifting', () => {
  it('forces of the legs hold up the load, at every angle', () =>
    fc.assert(
      fc.property(
        fc.double({ min: 1, max: 20_000, noNaN: true }),
        fc.double({ min: 0, max: 60, noNaN: true }),
        (mass, angle) => {
          const perLeg = value('sling-force', 'perLeg', { mass, legs: 2, angle })
          expect((2 * perLeg * Math.cos((angle * Math.PI) / 180)) / (mass * 9.80665)).toBeCloseTo(1, 9)
        },
      ),
    ))
  it('three and four legs count as two', () => {
    for (const legs of [3, 4])
      expect(value('sling-force', 'perLeg', { mass: 500, legs, angle: 20 })).toBe(
        value('sling-force', 'perLeg', { mass: 500, legs: 2, angle: 20 }),
      )
  })
  it('two halves of a pipe weigh what the pipe does', () =>
    fc.assert(
      fc.property(
        fc.double({ min: 0.5, max: 18, noNaN: true }),
        (l) =>
          void near(
            2 * value('pipe-mass', 'mass', { od: 0.6, id: 0.5, length: l / 2, density: 2400 }),
            value('pipe-mass', 'mass', { od: 0.6, id: 0.5, length: l, density: 2400 }),
            6,
          ),
      ),
    ))
})

describe('soil', () => {
  it('dry soil is what is left without its water', () =>
    near(value('density-field', 'dry', { wetDensity: 2200, moisture: 0.1 }), 2000))
  it('the parabola through a parabola finds its top', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.08, max: 0.16, noNaN: true }),
        fc.double({ min: 1600, max: 2200, noNaN: true }),
        fc.double({ min: 5000, max: 90_000, noNaN: true }),
        (top, most, bend) => {
          const points = [-0.04, -0.02, 0.01, 0.03, 0.05].map((x) => ({
            moisture: top + x,
            dryDensity: most - bend * x ** 2,
          }))
          const fit = run('proctor-fit', { points }) as unknown as { optimum: number; maximum: number }
          near(fit.optimum, top, 6)
          near(fit.maximum, most, 4)
        },
      ),
    )
  })
  it('no compaction curve goes over the line of no air', () => {
    const fit = run('proctor-fit', {
      points: [
        [0.08, 1850],
        [0.1, 1930],
        [0.12, 1950],
        [0.14, 1900],
      ].map(([moisture, dryDensity]) => ({ moisture, dryDensity })),
      specificGravity: 2.65,
    }) as unknown as { maximum: number; zeroAirVoids: number }
    expect(fit.maximum).toBeLessThan(fit.zeroAirVoids)
  })
  it('stiffness from the dimension ratio gives what that stiffness gives', () =>
    fc.assert(
      fc.property(
        fc.double({ min: 7, max: 41, noNaN: true }),
        (dr) =>
          void near(
            value('deflection-predicted', 'percent', { load: 1e5, dr, modulus: 9e8, soilModulus: 7e6 }),
            value('deflection-predicted', 'percent', {
              load: 1e5,
              pipeStiffness: (4.47 * 9e8) / (dr - 1) ** 3,
              soilModulus: 7e6,
            }),
            9,
          ),
      ),
    ))
  it('an empty pipe of no weight under no cover floats', () =>
    expect(value('flotation', 'safety', { od: 0.6, massPerMetre: 0, cover: 0, soilUnitWeight: 19e3 })).toBe(
      0,
    ))
  it('a pipe as heavy as the water it displaces just does not', () =>
    near(
      value('flotation', 'safety', {
        od: 0.6,
        massPerMetre: (1000 * Math.PI * 0.36) / 4,
        cover: 0,
        soilUnitWeight: 0,
      }),
      1,
    ))
})

describe('levels', () => {
  const sights = [
    { backsight: 1.5 },
    { intermediate: 1.2 },
    { backsight: 0.8, foresight: 1.9 },
    { foresight: 1.1 },
  ]
  it('rise and fall, station by station', () => {
    const { levels, misclosure, allowed } = run('level-run', {
      sights,
      startLevel: 10,
      closeLevel: 9.295,
      distance: 1000,
    }) as unknown as { levels: number[]; misclosure: number; allowed: number }
    ;[10, 10.3, 9.6, 9.3].forEach((want, i) => near(levels[i]!, want))
    near(misclosure, 0.005)
    near(allowed, 0.012)
  })
  it('the last level is start plus backsights less foresights', () =>
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(fc.double({ min: 0, max: 4, noNaN: true }), fc.double({ min: 0, max: 4, noNaN: true })),
          { minLength: 1, maxLength: 20 },
        ),
        (turns) => {
          const list = [
            { backsight: turns[0]![0] },
            ...turns.slice(1).map(([backsight, foresight]) => ({ backsight, foresight })),
            { foresight: turns[0]![1] },
          ]
          const levels = run('level-run', { sights: list, startLevel: 50 }).levels as unknown as number[]
          near(levels.at(-1)!, 50 + turns.reduce((s, [b, f]) => s + b - f, 0), 6)
        },
      ),
    ))
  it.each([
    ['an empty row', [{ backsight: 1 }, {}, { foresight: 1 }]],
    ['no backsight first', [{ foresight: 1 }, { foresight: 1 }]],
    ['a backsight last', [{ backsight: 1 }, { backsight: 1 }]],
    ['a mixed row', [{ backsight: 1 }, { intermediate: 1, foresight: 1 }, { foresight: 1 }]],
    ['half a change point', [{ backsight: 1 }, { foresight: 1 }, { foresight: 1 }]],
  ])('%s is a bad booking, said by its row', (_what, list) =>
    expect(() => run('level-run', { sights: list, startLevel: 0 })).toThrow(
      expect.objectContaining({ code: 'bad-booking', field: 'sights' }),
    ),
  )
})

describe('pressure', () => {
  it('ten metres of water are about one bar', () =>
    near(value('pressure-at', 'pressure', { gauge: 0, gaugeElevation: 10, elevation: 0 }), 98_066.5))
  it('up and down again is the same pressure', () =>
    fc.assert(
      fc.property(
        fc.double({ min: -80, max: 80, noNaN: true }),
        (h) =>
          void near(
            value('pressure-at', 'pressure', {
              gauge: value('pressure-at', 'pressure', { gauge: 1e6, gaugeElevation: 0, elevation: h }),
              gaugeElevation: h,
              elevation: 0,
            }),
            1e6,
            4,
          ),
      ),
    ))
  it('a bend of 60° pushes like a dead end, one of 180° like two', () => {
    const dead = value('thrust', 'force', { pressure: 1e6, diameter: 0.3, kind: 'dead-end' })
    near(value('thrust', 'force', { pressure: 1e6, diameter: 0.3, kind: 'bend', angle: 60 }), dead, 4)
    near(value('thrust', 'force', { pressure: 1e6, diameter: 0.3, kind: 'bend', angle: 180 }), 2 * dead, 4)
  })
  it('reducer and branch share the dead end between them', () =>
    near(
      value('thrust', 'force', { pressure: 1e6, diameter: 0.3, kind: 'reducer', smaller: 0.2 }) +
        value('thrust', 'force', { pressure: 1e6, diameter: 0.3, kind: 'tee', smaller: 0.2 }),
      value('thrust', 'force', { pressure: 1e6, diameter: 0.3, kind: 'dead-end' }),
      4,
    ))
  it('the makeup allowance goes with length, diameter and the root of pressure', () => {
    const base = value('hydro-allowance', 'litresPerHour', { length: 100, diameter: 0.2, pressure: 4e5 })
    near(value('hydro-allowance', 'litresPerHour', { length: 300, diameter: 0.2, pressure: 4e5 }), 3 * base)
    near(value('hydro-allowance', 'litresPerHour', { length: 100, diameter: 0.4, pressure: 4e5 }), 2 * base)
    near(value('hydro-allowance', 'litresPerHour', { length: 100, diameter: 0.2, pressure: 16e5 }), 2 * base)
  })
  it('air of a known volume is found again', () =>
    fc.assert(
      fc.property(fc.double({ min: 0.01, max: 5, noNaN: true }), (air) => {
        const pa = 101_325
        const added = air * (pa / (1e5 + pa) - pa / (5e5 + pa))
        near(value('trapped-air', 'air', { volume: 40, from: 1e5, to: 5e5, added }), air, 6)
      }),
    ))
  it('water neither expands nor shrinks at 4 °C: an unheated steel line hardly drifts', () =>
    expect(
      Math.abs(
        value('temperature-drift', 'pascalPerKelvin', {
          insideDiameter: 0.3,
          wall: 0.008,
          modulus: 2.07e11,
          poisson: 0.27,
          pipeExpansion: 0,
          waterTemperature: 4,
          restrained: true,
        }),
      ),
    ).toBeLessThan(2500))
  it.each([
    [4, 2.4384, 0.762, 11],
    [4, 6.096, 1.8288, 81],
    [4, 3.6576, 1.2192, 30],
  ])('%# vacuum times stand in the table', (_n, depth, diameter, seconds) =>
    near(value('vacuum-time', 'seconds', { depth, diameter }), seconds, 6),
  )
})

describe('close enough', () => {
  const verdict = (v: number, uncertainty: number, rule = 'guarded') =>
    run('guard-band', { value: v, min: 10, max: 20, uncertainty, rule }).verdict
  it.each([
    [15, 'accept'],
    [11, 'accept'],
    [10.99, 'too-close'],
    [10, 'too-close'],
    [9.01, 'too-close'],
    [9, 'reject'],
    [19, 'accept'],
    [19.5, 'too-close'],
    [21, 'reject'],
  ])('%f between 10 and 20 known to 1: %s', (v, want) => expect(verdict(v, 1)).toBe(want))
  it('without uncertainty nothing is too close', () =>
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 30, noNaN: true }),
        (v) => void expect(verdict(v, 0)).toBe(v >= 10 - 1e-9 && v <= 20 + 1e-9 ? 'accept' : 'reject'),
      ),
    ))
  it('under the simple rule too', () =>
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 30, noNaN: true }),
        fc.double({ min: 0, max: 5, noNaN: true }),
        (v, u) => void expect(verdict(v, u, 'simple')).not.toBe('too-close'),
      ),
    ))
  it('a coarser tool never turns a reject into an accept, nor back', () =>
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 30, noNaN: true }),
        fc.double({ min: 0, max: 3, noNaN: true }),
        fc.double({ min: 0, max: 3, noNaN: true }),
        (v, a, b) => {
          const [fine, coarse] = [
            verdict(v, Math.min(a, b)),
            verdict(v, Math.max(a, b)),
          ] as unknown as string[]
          expect([fine, 'too-close']).toContain(coarse)
        },
      ),
    ))
})
