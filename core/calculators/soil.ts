import { showNumber as n } from '../quantity/show'
import { defineCalculator, fail } from './define'
import { list, notNegative, optional, positive, quantity, record, withDefault } from './input'
import { GRAVITY } from './lifting'

const kPa = (pa: number) => `${n(pa / 1000)} kPa`

export const densityField = defineCalculator({
  key: 'density-field',
  title: 'Dry density in the field',
  inputs: {
    wetDensity: positive('density'),
    moisture: notNegative('ratio', '%'),
    maximum: optional(positive('density')),
  },
  outputs: { dry: 'density', percent: 'percent' },
  source: 'Dry = wet / (1 + w); compaction against the laboratory maximum.',
  compute({ wetDensity, moisture, maximum }) {
    const dry = wetDensity / (1 + moisture)
    const percent = maximum === null ? null : (dry / maximum) * 100
    const working = () => [
      `dry = ${n(wetDensity)} / (1 + ${n(moisture)}) = ${n(dry, 5)} kg/m³`,
      ...(percent === null ? [] : [`compaction = ${n(dry, 5)} / ${n(maximum!, 5)} · 100 = ${n(percent)} %`]),
    ]
    return { outputs: { dry, percent }, working }
  },
})

/**
 * Least-squares parabola y = a + b·x + c·x², x centred for a well-conditioned solution; null when
 * singular.
 */
function fitParabola(xs: number[], ys: number[]): { a: number; b: number; c: number; centre: number } | null {
  const centre = xs.reduce((s, x) => s + x, 0) / xs.length
  const scale = Math.max(...xs.map((x) => Math.abs(x - centre))) || 1
  const u = xs.map((x) => (x - centre) / scale)
  const power = (k: number) => u.reduce((s, x) => s + x ** k, 0)
  const moment = (k: number) => u.reduce((s, x, i) => s + x ** k * ys[i]!, 0)
  const rows = [0, 1, 2].map((i) => [power(i), power(i + 1), power(i + 2), moment(i)])
  for (let i = 0; i < 3; i++) {
    const pivot = rows.slice(i).reduce((best, row) => (Math.abs(row[i]!) > Math.abs(best[i]!) ? row : best))
    rows.splice(rows.indexOf(pivot), 1)
    rows.splice(i, 0, pivot)
    if (Math.abs(pivot[i]!) < 1e-12) return null
    for (let j = 0; j < 3; j++)
      if (j !== i) rows[j] = rows[j]!.map((v, k) => v - (rows[j]![i]! / pivot[i]!) * pivot[k]!)
  }
  const [a, b, c] = rows.map((row, i) => row[3]! / row[i]!) as [number, number, number]
  return { a, b: b / scale, c: c / scale ** 2, centre }
}

export const proctorFit = defineCalculator({
  key: 'proctor-fit',
  title: 'Optimum moisture and maximum dry density',
  inputs: {
    points: list(record({ moisture: notNegative('ratio', '%'), dryDensity: positive('density') }), {
      min: 4,
      max: 100,
    }),
    specificGravity: optional(positive('ratio')),
  },
  outputs: { optimum: 'ratio', maximum: 'density', zeroAirVoids: 'density' },
  source: 'Least-squares parabola through the laboratory points; zero-air-voids line Gs·1000/(1 + Gs·w).',
  compute({ points, specificGravity }) {
    const xs = points.map((p) => p.moisture)
    if (new Set(xs).size < 3) fail('points', '{points} need at least three different moistures.')
    const fit = fitParabola(
      xs,
      points.map((p) => p.dryDensity),
    )
    if (!fit || fit.c >= 0) return fail('points', '{points} give no maximum: the curve opens upward.')
    const optimum = fit.centre - fit.b / (2 * fit.c)
    if (optimum < Math.min(...xs) || optimum > Math.max(...xs))
      fail('points', '{points} do not reach the optimum: it lies outside them.')
    const maximum = fit.a - fit.b ** 2 / (4 * fit.c)
    const zeroAirVoids =
      specificGravity === null ? null : (specificGravity * 1000) / (1 + specificGravity * optimum)
    return {
      outputs: { optimum, maximum, zeroAirVoids },
      working: () => [
        `parabola through ${points.length} points: optimum at ${n(optimum * 100)} %, maximum ${n(maximum, 5)} kg/m³`,
      ],
    }
  },
})

export const sandReplacement = defineCalculator({
  key: 'sand-replacement',
  title: 'Density by sand replacement',
  inputs: {
    soilMass: notNegative('mass'),
    sandBefore: notNegative('mass'),
    sandAfter: notNegative('mass'),
    coneMass: withDefault(notNegative('mass'), 0),
    sandDensity: positive('density'),
    moisture: notNegative('ratio', '%'),
  },
  outputs: { wet: 'density', dry: 'density' },
  source: 'The hole’s volume from the sand that filled it.',
  compute({ soilMass, sandBefore, sandAfter, coneMass, sandDensity, moisture }) {
    if (sandAfter >= sandBefore)
      fail('sandAfter', '{sandAfter} must be less than {sandBefore}.', 'contradiction')
    const inHole = sandBefore - sandAfter - coneMass
    if (inHole <= 0) fail('coneMass', '{coneMass} leaves no sand in the hole.', 'contradiction')
    const wet = (soilMass * sandDensity) / inHole
    const dry = wet / (1 + moisture)
    return {
      outputs: { wet, dry },
      working: () => [
        `sand in the hole = ${n(inHole)} kg`,
        `wet = ${n(soilMass)} · ${n(sandDensity)} / ${n(inHole)} = ${n(wet, 5)} kg/m³`,
        `dry = ${n(dry, 5)} kg/m³`,
      ],
    }
  },
})

export const deflectionMeasured = defineCalculator({
  key: 'deflection-measured',
  title: 'Measured deflection',
  inputs: { base: positive('length', 'mm'), vertical: notNegative('length', 'mm') },
  outputs: { percent: 'percent' },
  source: 'Loss of vertical inside diameter over the base; negative is taller than base.',
  compute({ base, vertical }) {
    const percent = ((base - vertical) / base) * 100
    return {
      outputs: { percent },
      working: () => [`percent = (${n(base)} − ${n(vertical)}) / ${n(base)} · 100 = ${n(percent)} %`],
    }
  },
})

export const deflectionPredicted = defineCalculator({
  key: 'deflection-predicted',
  title: 'Predicted deflection',
  inputs: {
    load: notNegative('pressure', 'kPa'),
    pipeStiffness: optional(notNegative('pressure', 'kPa')),
    dr: optional(quantity('ratio', { above: 1 })),
    modulus: optional(positive('pressure', 'MPa')),
    soilModulus: positive('pressure', 'MPa'),
    bedding: withDefault(positive('ratio'), 0.1),
    lag: withDefault(positive('ratio'), 1),
  },
  outputs: { percent: 'percent' },
  source: 'Modified Iowa formula; pipe stiffness 4.47·E/(dr − 1)³ where not given.',
  compute({ load, pipeStiffness, dr, modulus, soilModulus, bedding, lag }) {
    if (pipeStiffness !== null && dr !== null)
      fail('dr', 'Give {pipeStiffness}, or {dr} and {modulus}, not both.', 'contradiction')
    if (pipeStiffness !== null && modulus !== null)
      fail('modulus', 'Give {pipeStiffness}, or {dr} and {modulus}, not both.', 'contradiction')
    if (pipeStiffness === null && dr === null && modulus === null)
      fail('pipeStiffness', 'Give {pipeStiffness}, or {dr} and {modulus}.', 'missing')
    if (pipeStiffness === null && dr === null) fail('dr', '{dr} is missing beside {modulus}.', 'missing')
    if (pipeStiffness === null && modulus === null)
      fail('modulus', '{modulus} is missing beside {dr}.', 'missing')
    const stiffness = pipeStiffness ?? (4.47 * modulus!) / (dr! - 1) ** 3
    const percent = ((lag * bedding * load) / (0.149 * stiffness + 0.061 * soilModulus)) * 100
    return {
      outputs: { percent },
      working: () => [
        `pipe stiffness = ${kPa(stiffness)}`,
        `percent = ${n(lag)}·${n(bedding)}·${kPa(load)} / (0.149·PS + 0.061·E′) · 100 = ${n(percent)} %`,
      ],
    }
  },
})

export const soilPrism = defineCalculator({
  key: 'soil-prism',
  title: 'Soil prism load',
  inputs: { depth: notNegative('length'), unitWeight: notNegative('unitWeight', 'kN/m³') },
  outputs: { pressure: 'pressure' },
  source: 'Depth times unit weight.',
  compute: ({ depth, unitWeight }) => ({
    outputs: { pressure: depth * unitWeight },
    working: () => [`pressure = ${n(depth)} m · ${n(unitWeight / 1000)} kN/m³ = ${kPa(depth * unitWeight)}`],
  }),
})

export const wheelPressure = defineCalculator({
  key: 'wheel-pressure',
  title: 'Wheel load at depth',
  inputs: {
    load: notNegative('force', 'kN'),
    depth: positive('length'),
    impact: withDefault(quantity('ratio', { min: 1 }), 1),
  },
  outputs: { pressure: 'pressure' },
  source: 'Point load on an elastic half space, straight below: 3·P·I/(2πH²).',
  compute({ load, depth, impact }) {
    const pressure = (3 * load * impact) / (2 * Math.PI * depth ** 2)
    return {
      outputs: { pressure },
      working: () => [
        `pressure = 3 · ${n(load / 1000)} kN · ${n(impact)} / (2π · ${n(depth)}²) = ${kPa(pressure)}`,
      ],
    }
  },
})

export const ringCollapse = defineCalculator({
  key: 'ring-collapse',
  title: 'Collapse pressure of a ring',
  inputs: {
    modulus: positive('pressure', 'MPa'),
    dr: quantity('ratio', { above: 1 }),
    poisson: quantity('ratio', { min: 0, max: 0.5 }),
    ovality: quantity('ratio', { min: 0, below: 1 }),
    safety: positive('ratio'),
  },
  outputs: { pressure: 'pressure' },
  source: 'Elastic ring buckling with an ovality factor ((1 − o)/(1 + o)²)³.',
  compute({ modulus, dr, poisson, ovality, safety }) {
    const f = ((1 - ovality) / (1 + ovality) ** 2) ** 3
    const pressure = (((2 * modulus) / (1 - poisson ** 2)) * (1 / (dr - 1)) ** 3 * f) / safety
    return {
      outputs: { pressure },
      working: () => [
        `ovality factor = ${n(f)}`,
        `pressure = 2E/(1 − ν²)·(1/(dr − 1))³·f/N = ${kPa(pressure)}`,
      ],
    }
  },
})

export const flotation = defineCalculator({
  key: 'flotation',
  title: 'Safety against flotation',
  inputs: {
    od: positive('length', 'mm'),
    massPerMetre: notNegative('massPerLength'),
    cover: notNegative('length'),
    soilUnitWeight: notNegative('unitWeight', 'kN/m³'),
    waterUnitWeight: withDefault(positive('unitWeight', 'kN/m³'), 9806.65),
    waterAboveCrown: withDefault(notNegative('length'), 0),
  },
  outputs: { safety: 'number' },
  source: 'Own weight and soil above the crown over buoyancy of the empty pipe.',
  compute({ od, massPerMetre, cover, soilUnitWeight, waterUnitWeight, waterAboveCrown }) {
    const wet = Math.min(cover, waterAboveCrown)
    const soil = od * (soilUnitWeight * (cover - wet) + (soilUnitWeight - waterUnitWeight) * wet)
    const buoyancy = waterUnitWeight * (Math.PI / 4) * od ** 2
    const safety = (massPerMetre * GRAVITY + soil) / buoyancy
    return {
      outputs: { safety },
      working: () => [
        `own weight ${n((massPerMetre * GRAVITY) / 1000)} kN/m, soil ${n(soil / 1000)} kN/m, buoyancy ${n(buoyancy / 1000)} kN/m`,
        `safety = ${n(safety)}`,
      ],
    }
  },
})
