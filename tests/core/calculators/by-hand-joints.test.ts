import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { run, value } from './run'

/** Of pipe ends and joints: cases that a person can do on paper, and laws that hold for every input. */
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
