import { showNumber as n } from '../quantity/show'
import { defineCalculator, fail } from './define'
import { notNegative, optional, positive, quantity, withDefault, word, flag } from './input'
import { GRAVITY } from './lifting'
import { DEGREES } from './pipe-end'
import { waterExpansion, waterModulus as waterModulusAt } from './water'

const kPa = (pa: number) => `${n(pa / 1000)} kPa`
const litres = (m3: number) => `${n(m3 * 1000)} L`
const area = (d: number) => (Math.PI / 4) * d ** 2

export const thrust = defineCalculator({
  key: 'thrust',
  title: 'Thrust of pressure',
  inputs: {
    pressure: notNegative('pressure', 'kPa'),
    diameter: positive('length', 'mm'),
    kind: word(['bend', 'dead-end', 'tee', 'reducer']),
    angle: optional(quantity('angle', { above: 0, max: 180 })),
    smaller: optional(positive('length', 'mm')),
  },
  outputs: { force: 'force' },
  source: 'Pressure on the outside section: 2·p·A·sin(θ/2) at a bend.',
  cautions: ['Nobody in front of a closure. Restraint in place and cured before pressure.'],
  compute({ pressure, diameter, kind, angle, smaller }) {
    if (kind === 'bend') {
      if (angle === null) return fail('angle', '{angle} is required for a bend.', 'missing')
      const force = 2 * pressure * area(diameter) * Math.sin(angle / 2 / DEGREES)
      return { outputs: { force }, working: () => [`force = 2·p·A·sin(θ/2) = ${n(force / 1000)} kN`] }
    }
    if (kind === 'dead-end')
      return {
        outputs: { force: pressure * area(diameter) },
        working: () => [`force = p·A = ${n((pressure * area(diameter)) / 1000)} kN`],
      }
    if (smaller === null) return fail('smaller', `{smaller} is required for a ${kind}.`, 'missing')
    if (smaller > diameter) fail('smaller', '{smaller} is larger than {diameter}.', 'contradiction')
    const force = pressure * (kind === 'tee' ? area(smaller) : area(diameter) - area(smaller))
    return {
      outputs: { force },
      working: () => [
        `force = ${kind === 'tee' ? 'p·A of the branch' : 'p·(A − a)'} = ${n(force / 1000)} kN`,
      ],
    }
  },
})

export const thrustBlock = defineCalculator({
  key: 'thrust-block',
  title: 'Bearing area of a thrust block',
  inputs: {
    force: notNegative('force', 'kN'),
    soilBearing: positive('pressure', 'kPa'),
    safety: withDefault(positive('ratio'), 1.5),
  },
  outputs: { area: 'area' },
  source: 'Force times safety over bearing.',
  compute: ({ force, soilBearing, safety }) => ({
    outputs: { area: (force * safety) / soilBearing },
    working: () => [
      `area = ${n(force / 1000)} kN · ${n(safety)} / ${kPa(soilBearing)} = ${n((force * safety) / soilBearing)} m²`,
    ],
  }),
})

export const pressureAt = defineCalculator({
  key: 'pressure-at',
  title: 'Pressure at another elevation',
  inputs: {
    gauge: quantity('pressure', {}, 'kPa'),
    gaugeElevation: quantity('length'),
    elevation: quantity('length'),
    density: withDefault(positive('density'), 1000),
  },
  outputs: { pressure: 'pressure' },
  source: 'Hydrostatics.',
  compute({ gauge, gaugeElevation, elevation, density }) {
    const pressure = gauge + density * GRAVITY * (gaugeElevation - elevation)
    return {
      outputs: { pressure },
      working: () => [
        `pressure = ${kPa(gauge)} + ρ·g·(${n(gaugeElevation)} − ${n(elevation)}) m = ${kPa(pressure)}`,
      ],
    }
  },
})

export const hydroAllowance = defineCalculator({
  key: 'hydro-allowance',
  title: 'Makeup allowance of a gasketed line',
  inputs: {
    length: notNegative('length'),
    diameter: positive('length', 'mm'),
    pressure: notNegative('pressure', 'kPa'),
  },
  outputs: { litresPerHour: 'litresPerHour' },
  source: 'S·D·√P/794 797 (m, mm, kPa).',
  compute({ length, diameter, pressure }) {
    const litresPerHour = (length * diameter * 1000 * Math.sqrt(pressure / 1000)) / 794_797
    return {
      outputs: { litresPerHour },
      working: () => [
        `allowance = ${n(length)} · ${n(diameter * 1000)} · √${n(pressure / 1000)} / 794 797 = ${n(litresPerHour)} L/h`,
      ],
    }
  },
})

/** Compliance of a full pipe, 1/Pa: how much of its volume one pascal takes up. */
export const compliance = (
  insideDiameter: number,
  wall: number,
  modulus: number,
  waterModulus: number,
  restraint: number,
) => 1 / waterModulus + (restraint * insideDiameter) / (modulus * wall)

export const waterToRaise = defineCalculator({
  key: 'water-to-raise',
  title: 'Water to raise the pressure',
  inputs: {
    length: notNegative('length'),
    insideDiameter: positive('length', 'mm'),
    wall: positive('length', 'mm'),
    modulus: positive('pressure', 'MPa'),
    pressure: notNegative('pressure', 'kPa'),
    waterModulus: withDefault(positive('pressure', 'MPa'), 2.19e9),
    restraint: withDefault(positive('ratio'), 1),
  },
  outputs: { volume: 'volume' },
  source: 'V·Δp·(1/K + c·D/(e·E)).',
  compute({ length, insideDiameter, wall, modulus, pressure, waterModulus, restraint }) {
    const filled = area(insideDiameter) * length
    const volume = filled * pressure * compliance(insideDiameter, wall, modulus, waterModulus, restraint)
    return {
      outputs: { volume },
      working: () => [
        `filled volume = ${n(filled)} m³`,
        `water = V·Δp·(1/K + c·D/(e·E)) = ${litres(volume)}`,
      ],
    }
  },
})

export const peAirCheck = defineCalculator({
  key: 'pe-air-check',
  title: 'Air left in a polyethylene line',
  inputs: {
    volume: notNegative('volume'),
    drop: notNegative('pressure', 'kPa'),
    insideDiameter: positive('length', 'mm'),
    wall: positive('length', 'mm'),
    modulus: positive('pressure', 'MPa'),
    waterModulus: withDefault(positive('pressure', 'MPa'), 2.1e9),
    released: notNegative('volume', 'L'),
  },
  outputs: { allowed: 'volume', ok: 'flag' },
  source: '1.2·V·Δp·(1/K + D/(e·E)) against the water let out.',
  compute({ volume, drop, insideDiameter, wall, modulus, waterModulus, released }) {
    const allowed = 1.2 * volume * drop * compliance(insideDiameter, wall, modulus, waterModulus, 1)
    return {
      outputs: { allowed, ok: released <= allowed },
      working: () => [
        `allowed = 1.2·V·Δp·(1/K + D/(e·E)) = ${litres(allowed)}`,
        `released ${litres(released)}: ${released <= allowed ? 'within' : 'too much air, vent and repeat'}`,
      ],
    }
  },
})

export const trappedAir = defineCalculator({
  key: 'trapped-air',
  title: 'Trapped air from pressurising',
  inputs: {
    volume: positive('volume'),
    from: notNegative('pressure', 'kPa'),
    to: notNegative('pressure', 'kPa'),
    added: notNegative('volume', 'L'),
    elastic: withDefault(notNegative('volume', 'L'), 0),
    atmosphere: withDefault(positive('pressure', 'kPa'), 101_325),
  },
  outputs: { air: 'volume', percent: 'percent' },
  source: 'Boyle’s law on the water that the pipe and the water themselves do not take up.',
  compute({ volume, from, to, added, elastic, atmosphere }) {
    if (to <= from) fail('to', '{to} must be above {from}.', 'contradiction')
    if (elastic > added) fail('elastic', '{elastic} is more than the water added.', 'contradiction')
    const air = (added - elastic) / (atmosphere / (from + atmosphere) - atmosphere / (to + atmosphere))
    return {
      outputs: { air, percent: (air / volume) * 100 },
      working: () => [
        `air = (added − elastic)/(pa/p₁ − pa/p₂) = ${litres(air)} at atmospheric pressure`,
        `= ${n((air / volume) * 100)} % of the line`,
      ],
    }
  },
})

export const temperatureDrift = defineCalculator({
  key: 'temperature-drift',
  title: 'Pressure change with temperature',
  inputs: {
    insideDiameter: positive('length', 'mm'),
    wall: positive('length', 'mm'),
    modulus: positive('pressure', 'MPa'),
    poisson: quantity('ratio', { min: 0, max: 0.5 }),
    pipeExpansion: notNegative('expansion'),
    waterTemperature: quantity('temperature', { min: 0, max: 40 }),
    restrained: flag(),
  },
  outputs: { pascalPerKelvin: 'pressurePerKelvin' },
  source: 'Expansion of water (fit of Kell 1975) less that of the pipe, over their joint compliance.',
  compute({ insideDiameter, wall, modulus, poisson, pipeExpansion, waterTemperature, restrained }) {
    const pipe = restrained ? 2 * pipeExpansion * (1 + poisson) : 3 * pipeExpansion
    const c = restrained ? 1 - poisson ** 2 : 1.25 - poisson
    const water = waterExpansion(waterTemperature)
    const pascalPerKelvin =
      (water - pipe) / compliance(insideDiameter, wall, modulus, waterModulusAt(waterTemperature), c)
    return {
      outputs: { pascalPerKelvin },
      working: () => [
        `water expands ${n(water * 1e6)}, the pipe’s volume ${n(pipe * 1e6)} millionths per K`,
        `drift = ${n(pascalPerKelvin / 1000)} kPa/K`,
      ],
    }
  },
})

export const plugForce = defineCalculator({
  key: 'plug-force',
  title: 'Force on a plug',
  inputs: { pressure: notNegative('pressure', 'kPa'), diameter: positive('length', 'mm') },
  outputs: { force: 'force' },
  source: 'Pressure times area.',
  cautions: ['Brace the plug. Nobody in front of it. Vent before loosening anything.'],
  compute: ({ pressure, diameter }) => ({
    outputs: { force: pressure * area(diameter) },
    working: () => [
      `force = ${kPa(pressure)} · π/4 · ${n(diameter)}² m² = ${n((pressure * area(diameter)) / 1000)} kN`,
    ],
  }),
})
