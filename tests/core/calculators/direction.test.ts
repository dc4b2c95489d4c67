import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { value } from './run'

/**
 * Which way each result goes when one input grows: what an inspector knows without
 * arithmetic. A formula turned upside down, or an input swapped for another, shows here.
 */
type Rule = [
  key: string,
  output: string,
  input: string,
  way: 'rises' | 'falls' | 'stays',
  base: Record<string, unknown>,
  from: number,
  to: number,
]

const pipe = { insideDiameter: 0.26, wall: 0.028, modulus: 9e8 }
const rules: Rule[] = [
  ['diameter-from-girth', 'diameter', 'girth', 'rises', { tapeThickness: 0.001 }, 0.1, 6],
  ['diameter-from-girth', 'diameter', 'tapeThickness', 'falls', { girth: 3 }, 0, 0.01],
  ['cut-squareness', 'angle', 'outOfSquare', 'rises', { diameter: 0.3 }, 0, 0.1],
  ['cut-squareness', 'angle', 'diameter', 'falls', { outOfSquare: 0.003 }, 0.1, 2],
  ['gouge', 'percent', 'depth', 'rises', { wall: 0.02 }, 0, 0.02],
  ['gouge', 'percent', 'wall', 'falls', { depth: 0.002 }, 0.002, 0.1],
  ['stab-depth', 'stabDepth', 'fittingWidth', 'rises', {}, 0.05, 0.6],
  ['stab-depth', 'stabDepth', 'fittingWidth', 'stays', { stopDepth: 0.02 }, 0.05, 0.6],
  ['scrape-length', 'length', 'fittingWidth', 'rises', {}, 0.05, 0.6],
  ['sight-mark', 'insertion', 'measured', 'falls', { socketDepth: 0.1 }, 0, 0.2],
  ['peel-passes', 'passes', 'perPass', 'falls', { target: 0.01 }, 0.0001, 0.002],
  ['joint-gap', 'angle', 'diameter', 'falls', { gaps: [0.01, 0.012, 0.014, 0.012] }, 0.2, 3],
  ['joint-deflection', 'offset', 'angle', 'rises', { pipeLength: 6 }, 0.1, 60],
  ['joint-deflection', 'radius', 'angle', 'falls', { pipeLength: 6 }, 0.1, 60],
  ['arc-radius', 'radius', 'pipeLength', 'rises', { angle: 2 }, 1, 12],
  ['insertion-angle', 'angle', 'offset', 'rises', { pipeLength: 6 }, 0, 1],
  ['insertion-angle', 'angle', 'pipeLength', 'falls', { offset: 0.1 }, 1, 18],
  ['bolt-torque', 'torque', 'preload', 'rises', { diameter: 0.02 }, 0, 1e5],
  ['bolt-torque', 'torque', 'nutFactor', 'rises', { diameter: 0.02, preload: 5e4 }, 0.1, 0.3],
  ['bolt-torque', 'preload', 'diameter', 'falls', { torque: 100 }, 0.01, 0.06],
  ['gasket-squeeze', 'percent', 'annulus', 'falls', { cord: 0.02 }, 0, 0.03],
  ['cement-open-time', 'seconds', 'temperature', 'falls', {}, 5, 40],
  ['wrap-tape', 'length', 'jacket', 'rises', {}, 0.1, 1.2],
  ['foam-mix', 'mass', 'density', 'rises', { casingId: 0.3, pipeOd: 0.2, length: 0.5 }, 20, 120],
  ['foam-mix', 'volume', 'density', 'stays', { casingId: 0.3, pipeOd: 0.2, length: 0.5 }, 20, 120],
  ['foam-mix', 'volume', 'pipeOd', 'falls', { casingId: 0.3, length: 0.5, density: 60 }, 0.05, 0.29],
  ['strut-length', 'length', 'over', 'rises', { insideDiameter: 0.9 }, 0, 0.1],
  ['pipe-mass', 'mass', 'id', 'falls', { od: 0.4, length: 6, density: 2400 }, 0.1, 0.39],
  ['sling-force', 'perLeg', 'angle', 'rises', { mass: 1000, legs: 2 }, 0, 60],
  ['sling-force', 'perLeg', 'mass', 'rises', { angle: 30, legs: 2 }, 1, 9000],
  ['density-field', 'dry', 'moisture', 'falls', { wetDensity: 2000 }, 0, 0.4],
  [
    'sand-replacement',
    'wet',
    'soilMass',
    'rises',
    { sandBefore: 6, sandAfter: 2, sandDensity: 1400, moisture: 0.1 },
    1,
    9,
  ],
  [
    'sand-replacement',
    'wet',
    'coneMass',
    'rises',
    { soilMass: 4, sandBefore: 6, sandAfter: 2, sandDensity: 1400, moisture: 0.1 },
    0,
    3,
  ],
  ['deflection-measured', 'percent', 'vertical', 'falls', { base: 0.4 }, 0.3, 0.42],
  ['deflection-predicted', 'percent', 'soilModulus', 'falls', { load: 1e5, pipeStiffness: 2e5 }, 1e6, 2e7],
  ['deflection-predicted', 'percent', 'dr', 'rises', { load: 1e5, modulus: 9e8, soilModulus: 7e6 }, 9, 41],
  ['soil-prism', 'pressure', 'depth', 'rises', { unitWeight: 19e3 }, 0, 8],
  ['wheel-pressure', 'pressure', 'depth', 'falls', { load: 7e4 }, 0.3, 6],
  [
    'ring-collapse',
    'pressure',
    'dr',
    'falls',
    { modulus: 9e8, poisson: 0.45, ovality: 0.02, safety: 2 },
    9,
    41,
  ],
  [
    'ring-collapse',
    'pressure',
    'ovality',
    'falls',
    { modulus: 9e8, dr: 26, poisson: 0.45, safety: 2 },
    0,
    0.2,
  ],
  ['ring-collapse', 'pressure', 'safety', 'falls', { modulus: 9e8, dr: 26, poisson: 0.45, ovality: 0 }, 1, 4],
  ['flotation', 'safety', 'cover', 'rises', { od: 0.6, massPerMetre: 40, soilUnitWeight: 19e3 }, 0, 3],
  [
    'flotation',
    'safety',
    'waterAboveCrown',
    'falls',
    { od: 0.6, massPerMetre: 40, cover: 2, soilUnitWeight: 19e3 },
    0,
    2,
  ],
  ['grade', 'percent', 'downstream', 'falls', { upstream: 20, distance: 50 }, 10, 21],
  ['hydro-allowance', 'litresPerHour', 'pressure', 'rises', { length: 600, diameter: 0.3 }, 1e4, 2e6],
  ['pe-air-check', 'allowed', 'drop', 'rises', { ...pipe, volume: 40, released: 0.1 }, 1e4, 5e5],
  [
    'pe-air-check',
    'allowed',
    'wall',
    'falls',
    { volume: 40, drop: 1e5, insideDiameter: 0.26, modulus: 9e8, released: 0.1 },
    0.005,
    0.05,
  ],
  ['plug-force', 'force', 'diameter', 'rises', { pressure: 35e3 }, 0.1, 2],
  ['pressure-at', 'pressure', 'elevation', 'falls', { gauge: 1e6, gaugeElevation: 10 }, -50, 80],
  ['pressure-at', 'pressure', 'gaugeElevation', 'rises', { gauge: 1e6, elevation: 10 }, -50, 80],
  ['thrust', 'force', 'angle', 'rises', { pressure: 1e6, diameter: 0.3, kind: 'bend' }, 1, 180],
  ['thrust', 'force', 'smaller', 'falls', { pressure: 1e6, diameter: 0.3, kind: 'reducer' }, 0.05, 0.29],
  ['thrust', 'force', 'smaller', 'rises', { pressure: 1e6, diameter: 0.3, kind: 'tee' }, 0.05, 0.29],
  ['thrust-block', 'area', 'soilBearing', 'falls', { force: 1e5 }, 2e4, 4e5],
  ['trapped-air', 'air', 'added', 'rises', { volume: 40, from: 1e5, to: 5e5 }, 0.01, 1],
  ['trapped-air', 'air', 'elastic', 'falls', { volume: 40, from: 1e5, to: 5e5, added: 0.5 }, 0, 0.4],
  ['water-to-raise', 'volume', 'pressure', 'rises', { ...pipe, length: 600 }, 0, 2e6],
  [
    'water-to-raise',
    'volume',
    'modulus',
    'falls',
    { insideDiameter: 0.26, wall: 0.028, length: 600, pressure: 1e6 },
    2e8,
    2e11,
  ],
  [
    'temperature-drift',
    'pascalPerKelvin',
    'waterTemperature',
    'rises',
    { ...pipe, poisson: 0.45, pipeExpansion: 0, restrained: false },
    5,
    35,
  ],
  [
    'temperature-drift',
    'pascalPerKelvin',
    'pipeExpansion',
    'falls',
    { ...pipe, poisson: 0.45, waterTemperature: 15, restrained: false },
    0,
    2e-4,
  ],
  ['air-test-time', 'seconds', 'length', 'rises', { diameter: 0.6 }, 200, 900],
  ['air-test-time', 'seconds', 'length', 'stays', { diameter: 0.15 }, 1, 100],
  ['air-test-time', 'seconds', 'drop', 'rises', { diameter: 0.3, length: 100 }, 1000, 7000],
  ['vacuum-time', 'seconds', 'depth', 'rises', { diameter: 1.2 }, 2.5, 6],
  ['vacuum-time', 'seconds', 'depth', 'stays', { diameter: 1.2 }, 0, 2.4],
  ['vacuum-time', 'seconds', 'diameter', 'rises', { depth: 4 }, 0.77, 1.82],
  ['exfiltration-allowance', 'litres', 'duration', 'rises', { length: 90, diameter: 0.6, rate: 4 }, 0, 9e4],
]

describe('which way a result goes', () => {
  it.each(rules.map((r) => [`${r[0]}: ${r[1]} ${r[3]} with ${r[2]} from ${r[5]} to ${r[6]}`, r] as const))(
    '%s',
    (_title, [key, output, input, way, base, from, to]) => {
      fc.assert(
        fc.property(
          fc.double({ min: 0, max: 1, noNaN: true }),
          fc.double({ min: 0, max: 1, noNaN: true }),
          (u, v) => {
            const [low, high] = [Math.min(u, v), Math.max(u, v)].map((t) => from + t * (to - from)) as [
              number,
              number,
            ]
            const at = (x: number) => value(key, output, { ...base, [input]: x })
            const change = at(high) - at(low)
            const slack = 1e-9 * Math.max(1, Math.abs(at(low)))
            if (way === 'rises') expect(change).toBeGreaterThanOrEqual(-slack)
            if (way === 'falls') expect(change).toBeLessThanOrEqual(slack)
            if (way === 'stays') expect(Math.abs(change)).toBeLessThanOrEqual(slack)
          },
        ),
        { numRuns: 60 },
      )
      if (way !== 'stays')
        expect(value(key, output, { ...base, [input]: from })).not.toBe(
          value(key, output, { ...base, [input]: to }),
        )
    },
  )
})
