import { showNumber as n } from '../quantity/show'
import { defineCalculator, fail } from './define'
import { list, notNegative, optional, positive, quantity, withDefault } from './input'

export const DEGREES = 180 / Math.PI
const mm = (si: number) => `${n(si * 1000, 6)} mm`

export const ovality = defineCalculator({
  key: 'ovality',
  title: 'Ovality from diameters',
  inputs: {
    diameters: list(positive('length', 'mm'), { min: 2 }),
    angles: optional(list(quantity('angle'))),
  },
  outputs: {
    mean: 'length',
    max: 'length',
    min: 'length',
    outOfRoundness: 'length',
    percent: 'percent',
    longAxis: 'angle',
  },
  source: 'Out-of-roundness over the mean; long axis from the second harmonic of evenly spaced diameters.',
  compute({ diameters, angles }, wanted = 'longAxis') {
    let [max, min, sum] = [-Infinity, Infinity, 0]
    for (const d of diameters) {
      if (d > max) max = d
      if (d < min) min = d
      sum += d
    }
    const mean = sum / diameters.length
    const percent = ((max - min) / mean) * 100
    let longAxis: number | null = null
    if (angles) {
      if (angles.length !== diameters.length)
        fail('angles', '{angles} must be as many as {diameters}.', 'wrong-length')
      if (max > min && wanted === 'longAxis') {
        let [s, c] = [0, 0]
        diameters.forEach((d, i) => {
          s += d * Math.sin((2 * angles[i]!) / DEGREES)
          c += d * Math.cos((2 * angles[i]!) / DEGREES)
        })
        longAxis = ((Math.atan2(s, c) * DEGREES) / 2 + 180) % 180
      }
    }
    const working = () => [
      `mean of ${diameters.length} = ${mm(mean)}`,
      `out-of-roundness = ${mm(max)} − ${mm(min)} = ${mm(max - min)}`,
      `percent = ${mm(max - min)} / ${mm(mean)} · 100 = ${n(percent)} %`,
      ...(longAxis === null ? [] : [`long axis = ½·atan2(Σ d·sin 2a, Σ d·cos 2a) = ${n(longAxis)}°`]),
    ]
    return { outputs: { mean, max, min, outOfRoundness: max - min, percent, longAxis }, working }
  },
})

export const diameterFromGirth = defineCalculator({
  key: 'diameter-from-girth',
  title: 'Diameter from girth',
  inputs: { girth: positive('length', 'mm'), tapeThickness: withDefault(notNegative('length', 'mm'), 0) },
  outputs: { diameter: 'length' },
  source: 'Circumference over π, less the tape.',
  compute({ girth, tapeThickness }) {
    const diameter = girth / Math.PI - tapeThickness
    if (diameter <= 0) fail('tapeThickness', '{tapeThickness} takes up the whole diameter.')
    return {
      outputs: { diameter },
      working: () => [`diameter = ${mm(girth)} / π − ${mm(tapeThickness)} = ${mm(diameter)}`],
    }
  },
})

export const cutSquareness = defineCalculator({
  key: 'cut-squareness',
  title: 'Squareness of a cut',
  inputs: { diameter: positive('length', 'mm'), outOfSquare: notNegative('length', 'mm') },
  outputs: { angle: 'angle', percent: 'percent' },
  source: 'Angle whose tangent is out-of-square over diameter.',
  compute({ diameter, outOfSquare }) {
    const angle = Math.atan(outOfSquare / diameter) * DEGREES
    const percent = (outOfSquare / diameter) * 100
    return {
      outputs: { angle, percent },
      working: () => [
        `angle = atan(${mm(outOfSquare)} / ${mm(diameter)}) = ${n(angle)}°`,
        `percent = ${n(percent)} %`,
      ],
    }
  },
})

export const gouge = defineCalculator({
  key: 'gouge',
  title: 'Gouge depth in percent of wall',
  inputs: { depth: notNegative('length', 'mm'), wall: positive('length', 'mm') },
  outputs: { percent: 'percent' },
  source: 'Depth over wall.',
  compute({ depth, wall }) {
    if (depth > wall) fail('depth', '{depth} is more than {wall}: the pipe is holed.')
    const percent = (depth / wall) * 100
    return {
      outputs: { percent },
      working: () => [`percent = ${mm(depth)} / ${mm(wall)} · 100 = ${n(percent)} %`],
    }
  },
})

export const stabDepth = defineCalculator({
  key: 'stab-depth',
  title: 'Stab depth of a coupler',
  inputs: { fittingWidth: notNegative('length', 'mm'), stopDepth: optional(notNegative('length', 'mm')) },
  outputs: { stabDepth: 'length', school: 'word' },
  source: 'From the inner stop to the end where the fitting has stops, else half the overall width.',
  compute({ fittingWidth, stopDepth }) {
    if (stopDepth === null)
      return {
        outputs: { stabDepth: fittingWidth / 2, school: 'half' },
        working: () => [`no stop: stab depth = ${mm(fittingWidth)} / 2 = ${mm(fittingWidth / 2)}`],
      }
    if (stopDepth > fittingWidth / 2) fail('stopDepth', '{stopDepth} is more than half the fitting.')
    return {
      outputs: { stabDepth: stopDepth, school: 'stop' },
      working: () => [`stab depth = depth to the inner stop = ${mm(stopDepth)}`],
    }
  },
})

export const scrapeLength = defineCalculator({
  key: 'scrape-length',
  title: 'How far to scrape',
  inputs: {
    fittingWidth: notNegative('length', 'mm'),
    margin: withDefault(notNegative('length', 'mm'), 0.02),
  },
  outputs: { length: 'length' },
  source: 'Half the fitting and a margin that shows outside it, as proof.',
  compute({ fittingWidth, margin }) {
    const length = fittingWidth / 2 + margin
    return {
      outputs: { length },
      working: () => [`length = ${mm(fittingWidth)} / 2 + ${mm(margin)} = ${mm(length)}`],
    }
  },
})

export const sightMark = defineCalculator({
  key: 'sight-mark',
  title: 'Insertion read from a sight mark',
  inputs: {
    socketDepth: notNegative('length', 'mm'),
    offset: withDefault(notNegative('length', 'mm'), 0.05),
    measured: notNegative('length', 'mm'),
  },
  outputs: { insertion: 'length', shortBy: 'length' },
  source: 'A second mark beyond the depth mark, read after assembly.',
  compute({ socketDepth, offset, measured }) {
    const shortBy = measured - offset
    const insertion = socketDepth - shortBy
    return {
      outputs: { insertion, shortBy },
      working: () => [
        `short by = ${mm(measured)} − ${mm(offset)} = ${mm(shortBy)}`,
        `insertion = ${mm(socketDepth)} − ${mm(shortBy)} = ${mm(insertion)}`,
      ],
    }
  },
})

export const corrugationCut = defineCalculator({
  key: 'corrugation-cut',
  title: 'Cut in a valley',
  inputs: {
    wanted: notNegative('length', 'm'),
    pitch: positive('length', 'mm'),
    firstValley: notNegative('length', 'mm'),
  },
  outputs: { cut: 'length', error: 'length', corrugations: 'number' },
  source: 'Nearest valley to the wanted length; of two equally near, the longer.',
  compute({ wanted, pitch, firstValley }) {
    const corrugations = Math.max(0, Math.floor((wanted - firstValley) / pitch + 0.5 + 1e-9))
    const cut = firstValley + corrugations * pitch
    return {
      outputs: { cut, error: cut - wanted, corrugations },
      working: () => [
        `cut = ${mm(firstValley)} + ${corrugations} · ${mm(pitch)} = ${mm(cut)}`,
        `error = ${mm(cut - wanted)}`,
      ],
    }
  },
})

export const centreCut = defineCalculator({
  key: 'centre-cut',
  title: 'Cut length from centre to centre',
  inputs: {
    centreToCentre: notNegative('length', 'mm'),
    takeouts: list(notNegative('length', 'mm')),
    gap: withDefault(notNegative('length', 'mm'), 0),
  },
  outputs: { length: 'length' },
  source: 'Centre distance less the take-outs of the fittings and the total gap.',
  compute({ centreToCentre, takeouts, gap }) {
    const length = centreToCentre - takeouts.reduce((sum, t) => sum + t, 0) - gap
    if (length <= 0) fail('takeouts', '{takeouts} and {gap} leave no pipe between the fittings.')
    return {
      outputs: { length },
      working: () => [
        `length = ${mm(centreToCentre)} − ${takeouts.map(mm).join(' − ')} − ${mm(gap)} = ${mm(length)}`,
      ],
    }
  },
})

export const peelPasses = defineCalculator({
  key: 'peel-passes',
  title: 'Passes of the peeler',
  inputs: { target: notNegative('length', 'mm'), perPass: positive('length', 'mm') },
  outputs: { passes: 'number' },
  source: 'Whole passes that reach the target.',
  compute({ target, perPass }) {
    const passes = Math.max(0, Math.ceil(target / perPass - 1e-9))
    return { outputs: { passes }, working: () => [`passes = ⌈${mm(target)} / ${mm(perPass)}⌉ = ${passes}`] }
  },
})
