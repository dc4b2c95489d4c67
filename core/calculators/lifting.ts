import { showNumber as n } from '../quantity/show'
import { defineCalculator, fail } from './define'
import { count, list, nominalSize, notNegative, positive, quantity, word } from './input'
import { DEGREES } from './pipe-end'

export const GRAVITY = 9.80665

export const slingForce = defineCalculator({
  key: 'sling-force',
  title: 'Force in a sling leg',
  inputs: { mass: notNegative('mass'), legs: count({ min: 1, max: 4 }), angle: quantity('angle', { min: 0, max: 60 }) },
  outputs: { perLeg: 'force' },
  source: 'W/(n·cos θ), angle from the vertical; three or four rigid legs count as two.',
  cautions: ['Certified gear, tag lines, nobody under a load. Lifts are planned by a competent person.'],
  compute({ mass, legs, angle }) {
    if (legs === 1 && angle !== 0) fail('angle', 'angle must be 0 with one leg: it hangs vertical.')
    const counted = Math.min(legs, 2)
    const perLeg = (mass * GRAVITY) / (counted * Math.cos(angle / DEGREES))
    return { outputs: { perLeg }, working: () => [`per leg = ${n(mass)} kg · g / (${counted} · cos ${n(angle)}°) = ${n(perLeg / 1000)} kN`] }
  },
})

export const pipeMass = defineCalculator({
  key: 'pipe-mass',
  title: 'Mass of a pipe',
  inputs: { od: positive('length', 'mm'), id: notNegative('length', 'mm'), length: notNegative('length'), density: positive('density') },
  outputs: { mass: 'mass' },
  source: 'Volume of the annulus times density.',
  compute({ od, id, length, density }) {
    if (id >= od) fail('id', 'id must be less than od.', 'contradiction')
    const mass = (Math.PI / 4) * (od ** 2 - id ** 2) * length * density
    return { outputs: { mass }, working: () => [`mass = π/4·(${n(od)}² − ${n(id)}²) · ${n(length)} m · ${n(density)} kg/m³ = ${n(mass)} kg`] }
  },
})

export const stackLayers = defineCalculator({
  key: 'stack-layers',
  title: 'Layers of a stack',
  inputs: { diameter: nominalSize(), material: word(['concrete', 'plastic']) },
  outputs: { layers: 'number' },
  source: 'Sample rule: concrete by size, plastic up to 1.5 m high.',
  cautions: ['Level ground, chocked, nobody on the stack.'],
  compute({ diameter, material }) {
    const layers = material === 'concrete' ? (diameter <= 0.4 + 1e-9 ? 4 : diameter <= 0.6 + 1e-9 ? 3 : 1) : Math.max(1, Math.floor(1.5 / diameter + 1e-9))
    return { outputs: { layers }, working: () => [material === 'concrete' ? `DN ${n(diameter * 1000)} concrete: ${layers}` : `max(1, ⌊1.5 m / ${n(diameter)} m⌋) = ${layers}`] }
  },
})

/** The chance of exactly k bad in a sample, without replacement, through logarithms of factorials. */
function hypergeometric(lot: number, bad: number, sample: number, k: number, logFactorial: Float64Array): number {
  if (k > bad || sample - k > lot - bad) return 0
  const choose = (a: number, b: number) => logFactorial[a]! - logFactorial[b]! - logFactorial[a - b]!
  return Math.exp(choose(bad, k) + choose(lot - bad, sample - k) - choose(lot, sample))
}

export const samplingPlan = defineCalculator({
  key: 'sampling-plan',
  title: 'Operating characteristic of a sampling plan',
  inputs: { lot: count({ min: 1, max: 1_000_000 }), sample: count({ min: 1 }), acceptance: count({ min: 0 }), p: list(quantity('ratio', { min: 0, max: 1 }), { max: 1000 }) },
  outputs: { probability: 'number' },
  source: 'Hypergeometric: the chance that a lot with a share p of bad items is accepted.',
  compute({ lot, sample, acceptance, p }) {
    if (sample > lot) fail('sample', 'sample is more than the lot.', 'contradiction')
    if (acceptance > sample) fail('acceptance', 'acceptance is more than the sample.', 'contradiction')
    const logFactorial = new Float64Array(lot + 1)
    for (let i = 2; i <= lot; i++) logFactorial[i] = logFactorial[i - 1]! + Math.log(i)
    const probability = p.map((share) => {
      const bad = Math.round(share * lot)
      if (bad <= acceptance) return 1
      let sum = 0
      for (let k = 0; k <= Math.min(acceptance, bad); k++) sum += hypergeometric(lot, bad, sample, k, logFactorial)
      return Math.min(1, sum)
    })
    return { outputs: { probability }, working: () => p.map((share, i) => `${n(share * 100)} % bad (${Math.round(share * lot)} of ${lot}): accepted with probability ${n(probability[i]!)}`) }
  },
})
