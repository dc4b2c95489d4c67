import { showNumber as n } from '../quantity/show'
import { defineCalculator, fail } from './define'
import { count, nominalSize, notNegative, positive, quantity, word } from './input'
import { DEGREES } from './pipe-end'

export const GRAVITY = 9.80665

export const slingForce = defineCalculator({
  key: 'sling-force',
  title: 'Force in a sling leg',
  inputs: {
    mass: notNegative('mass'),
    legs: count({ min: 1, max: 4 }),
    angle: quantity('angle', { min: 0, max: 60 }),
  },
  outputs: { perLeg: 'force' },
  source: 'W/(n·cos θ), angle from the vertical; three or four rigid legs count as two.',
  cautions: ['Certified gear, tag lines, nobody under a load. Lifts are planned by a competent person.'],
  compute({ mass, legs, angle }) {
    if (legs === 1 && angle !== 0) fail('angle', '{angle} must be 0 with one leg: it hangs vertical.')
    const counted = Math.min(legs, 2)
    const perLeg = (mass * GRAVITY) / (counted * Math.cos(angle / DEGREES))
    return {
      outputs: { perLeg },
      working: () => [
        `per leg = ${n(mass)} kg · g / (${counted} · cos ${n(angle)}°) = ${n(perLeg / 1000)} kN`,
      ],
    }
  },
})

export const pipeMass = defineCalculator({
  key: 'pipe-mass',
  title: 'Mass of a pipe',
  inputs: {
    od: positive('length', 'mm'),
    id: notNegative('length', 'mm'),
    length: notNegative('length'),
    density: positive('density'),
  },
  outputs: { mass: 'mass' },
  source: 'Volume of the annulus times density.',
  compute({ od, id, length, density }) {
    if (id >= od) fail('id', '{id} must be less than {od}.', 'contradiction')
    const mass = (Math.PI / 4) * (od ** 2 - id ** 2) * length * density
    return {
      outputs: { mass },
      working: () => [
        `mass = π/4·(${n(od)}² − ${n(id)}²) · ${n(length)} m · ${n(density)} kg/m³ = ${n(mass)} kg`,
      ],
    }
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
    const layers =
      material === 'concrete'
        ? diameter <= 0.4 + 1e-9
          ? 4
          : diameter <= 0.6 + 1e-9
            ? 3
            : 1
        : Math.max(1, Math.floor(1.5 / diameter + 1e-9))
    return {
      outputs: { layers },
      working: () => [
        material === 'concrete'
          ? `DN ${n(diameter * 1000)} concrete: ${layers}`
          : `max(1, ⌊1.5 m / ${n(diameter)} m⌋) = ${layers}`,
      ],
    }
  },
})
