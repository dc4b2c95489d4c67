import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { run, value } from './run'

/** Of making, lifting and soil: cases that a person can do on paper, and laws that hold for every input. */
const near = (got: number, want: number, digits = 9) => expect(got).toBeCloseTo(want, digits)

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
