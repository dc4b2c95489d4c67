import { showNumber as n } from '../quantity/show'
import { defineCalculator, fail } from './define'
import { count, list, notNegative, optional, positive, quantity, withDefault, word } from './input'
import { DEGREES } from './pipe-end'

const mm = (si: number) => `${n(si * 1000, 6)} mm`

export const jointGap = defineCalculator({
  key: 'joint-gap',
  title: 'Joint angle from four gaps',
  inputs: { gaps: list(notNegative('length', 'mm'), { exactly: 4 }), diameter: positive('length', 'mm') },
  outputs: { mean: 'length', min: 'length', max: 'length', angle: 'angle', direction: 'angle' },
  source:
    'Gaps at 12, 3, 6 and 9 o’clock looking along the flow; direction clockwise from 12 toward the wider side.',
  compute({ gaps, diameter }) {
    const [g12, g3, g6, g9] = gaps as [number, number, number, number]
    const up = g12 - g6
    const right = g3 - g9
    const size = Math.hypot(up, right)
    const angle = Math.atan(size / diameter) * DEGREES
    const direction = size > 1e-12 ? (Math.atan2(right, up) * DEGREES + 360) % 360 : null
    const mean = gaps.reduce((sum, g) => sum + g, 0) / 4
    return {
      outputs: {
        mean,
        min: Math.min(...gaps),
        max: Math.max(...gaps),
        angle: size > 1e-12 ? angle : 0,
        direction,
      },
      working: () => [
        `mean gap = ${mm(mean)}`,
        `angle = atan(√((g12 − g6)² + (g3 − g9)²) / d) = atan(${mm(size)} / ${mm(diameter)}) = ${n(angle)}°`,
        direction === null
          ? 'no difference, no direction'
          : `wider toward ${n(direction)}° clockwise from 12`,
      ],
    }
  },
})

const deflectionAngle = () => quantity('angle', { above: 0, below: 90 })
const radiusOf = (angle: number, pipeLength: number) => pipeLength / (2 * Math.tan(angle / 2 / DEGREES))

export const jointDeflection = defineCalculator({
  key: 'joint-deflection',
  title: 'Offset and radius of deflected joints',
  inputs: { angle: deflectionAngle(), pipeLength: notNegative('length', 'm') },
  outputs: { offset: 'length', radius: 'length' },
  source: 'Chord geometry: L·sin θ and L/(2·tan(θ/2)).',
  compute({ angle, pipeLength }) {
    const offset = pipeLength * Math.sin(angle / DEGREES)
    const radius = radiusOf(angle, pipeLength)
    return {
      outputs: { offset, radius },
      working: () => [
        `offset = ${n(pipeLength)} m · sin ${n(angle)}° = ${mm(offset)}`,
        `radius = ${n(pipeLength)} m / (2·tan ${n(angle / 2)}°) = ${n(radius)} m`,
      ],
    }
  },
})

export const arcRadius = defineCalculator({
  key: 'arc-radius',
  title: 'Radius of a curve of deflected joints',
  inputs: { angle: deflectionAngle(), pipeLength: notNegative('length', 'm') },
  outputs: { radius: 'length' },
  source: 'Chord geometry: L/(2·tan(θ/2)).',
  compute({ angle, pipeLength }) {
    const radius = radiusOf(angle, pipeLength)
    return {
      outputs: { radius },
      working: () => [`radius = ${n(pipeLength)} m / (2·tan ${n(angle / 2)}°) = ${n(radius)} m`],
    }
  },
})

export const insertionAngle = defineCalculator({
  key: 'insertion-angle',
  title: 'Insertion angle',
  inputs: { offset: notNegative('length', 'mm'), pipeLength: positive('length', 'm') },
  outputs: { angle: 'angle' },
  source: 'Offset square to the line over length along it.',
  compute({ offset, pipeLength }) {
    const angle = Math.atan(offset / pipeLength) * DEGREES
    return {
      outputs: { angle },
      working: () => [`angle = atan(${mm(offset)} / ${n(pipeLength)} m) = ${n(angle)}°`],
    }
  },
})

export const boltTorque = defineCalculator({
  key: 'bolt-torque',
  title: 'Bolt torque and preload',
  inputs: {
    diameter: positive('length', 'mm'),
    nutFactor: withDefault(positive('ratio'), 0.2),
    preload: optional(notNegative('force', 'kN')),
    torque: optional(notNegative('torque')),
  },
  outputs: { preload: 'force', torque: 'torque' },
  source: 'Nut-factor relation T = K·D·F; the factor depends on lubricant and finish.',
  cautions: ['The maker’s torque table comes first. Use a calibrated wrench.'],
  compute({ diameter, nutFactor, preload, torque }) {
    if (preload !== null && torque !== null)
      fail('torque', 'Give {preload} or {torque}, not both.', 'contradiction')
    if (preload !== null)
      return {
        outputs: { preload: null, torque: nutFactor * diameter * preload },
        working: () => [
          `T = K·D·F = ${n(nutFactor)} · ${mm(diameter)} · ${n(preload)} N = ${n(nutFactor * diameter * preload)} N·m`,
        ],
      }
    if (torque === null) return fail('preload', 'Give {preload} or {torque}.', 'missing')
    return {
      outputs: { preload: torque / (nutFactor * diameter), torque: null },
      working: () => [
        `F = T / (K·D) = ${n(torque)} N·m / (${n(nutFactor)} · ${mm(diameter)}) = ${n(torque / (nutFactor * diameter))} N`,
      ],
    }
  },
})

const range = (size: number) => Array.from({ length: size }, (_, i) => i + 1)
const opposed = (n: number) => range(n / 2).flatMap((i) => [i, i + n / 2])

export const boltSequence = defineCalculator({
  key: 'bolt-sequence',
  title: 'Bolt tightening sequence',
  inputs: {
    count: count({ min: 3, max: 400 }),
    pattern: word(['opposed', 'star', 'circular']),
    stages: list(notNegative('ratio')),
  },
  outputs: { order: 'number' },
  source: 'Numbered clockwise from the top; opposite pairs, quarter turns, or round the circle.',
  cautions: ['Never over-torque to pull an angle straight.'],
  compute({ count, pattern, stages }) {
    if (pattern !== 'circular' && count % 2 !== 0)
      fail('pattern', `${pattern} needs an even number of bolts, not ${count}.`, 'contradiction')
    const quarter = count / 4
    const once =
      pattern === 'circular'
        ? range(count)
        : pattern === 'star' && count % 4 === 0
          ? range(quarter).flatMap((i) => [i, i + 2 * quarter, i + quarter, i + 3 * quarter])
          : opposed(count)
    return {
      outputs: { order: stages.map(() => [...once]) },
      working: () =>
        stages.map((stage, i) => `pass ${i + 1} to ${n(stage * 100)} % of final torque: ${once.join(', ')}`),
    }
  },
})

export const gasketLoops = defineCalculator({
  key: 'gasket-loops',
  title: 'Loops of a push-on gasket',
  inputs: { nominalInches: count({ min: 14, max: 64 }) },
  outputs: { loops: 'number' },
  source: 'Shop rule: as many loops as the first digit of the nominal size in inches.',
  compute({ nominalInches }) {
    const loops = Number(String(nominalInches)[0])
    return { outputs: { loops }, working: () => [`first digit of ${nominalInches} = ${loops}`] }
  },
})

export const gasketSqueeze = defineCalculator({
  key: 'gasket-squeeze',
  title: 'Squeeze of a round gasket',
  inputs: { cord: positive('length', 'mm'), annulus: notNegative('length', 'mm') },
  outputs: { percent: 'percent' },
  source: 'Loss of height over cord; negative means loose.',
  compute({ cord, annulus }) {
    const percent = ((cord - annulus) / cord) * 100
    return {
      outputs: { percent },
      working: () => [`percent = (${mm(cord)} − ${mm(annulus)}) / ${mm(cord)} · 100 = ${n(percent)} %`],
    }
  },
})
