import { showDuration, showNumber as n } from '../quantity/show'
import { defineCalculator, fail } from './define'
import { notNegative, positive, withDefault } from './input'

const INCH = 0.0254
const FOOT = 0.3048

export const airTestTime = defineCalculator({
  key: 'air-test-time',
  title: 'Time of a low-pressure air test',
  inputs: {
    diameter: positive('length', 'mm'),
    length: notNegative('length'),
    drop: withDefault(notNegative('pressure', 'kPa'), 6895),
  },
  outputs: { seconds: 'seconds', k: 'number' },
  source:
    '0.085·D·k/q s, D in inches, k = max(1, 0.000419·D·L), L in feet, q = 0.0015; in proportion to the drop.',
  cautions: ['Air stores energy: brace plugs, nobody in front of them.'],
  compute({ diameter, length, drop }) {
    const inches = diameter / INCH
    const k = Math.max(1, 0.000419 * inches * (length / FOOT))
    const seconds = ((0.085 * inches * k) / 0.0015) * (drop / 6895)
    return {
      outputs: { seconds, k },
      working: () => [
        `k = max(1, 0.000419·${n(inches)}·${n(length / FOOT)}) = ${n(k)}`,
        `time = 0.085·${n(inches)}·k/0.0015 · ${n(drop)}/6895 = ${showDuration(seconds)}`,
      ],
    }
  },
})

const diameters = [30, 36, 42, 48, 60, 72]
const depths = [8, 12, 16, 20]
const times = [
  [11, 14, 17, 20, 26, 33],
  [17, 21, 25, 30, 39, 49],
  [22, 29, 34, 40, 52, 67],
  [28, 35, 42, 50, 65, 81],
]

/** Where a value lies in an ascending axis: index of the lower neighbour and the share toward the next. */
function place(axis: number[], value: number): [index: number, share: number] {
  const upper = Math.max(
    1,
    axis.findIndex((a, i) => i === axis.length - 1 || value <= a),
  )
  return [upper - 1, (value - axis[upper - 1]!) / (axis[upper]! - axis[upper - 1]!)]
}

export const vacuumTime = defineCalculator({
  key: 'vacuum-time',
  title: 'Time of a manhole vacuum test',
  inputs: { diameter: positive('length', 'mm'), depth: notNegative('length') },
  outputs: { seconds: 'seconds' },
  source: 'Sample table by diameter and depth, linear in both.',
  compute({ diameter, depth }) {
    const d = diameter / INCH
    const h = Math.max(8, depth / FOOT)
    if (d < 30 - 1e-9 || d > 72 + 1e-9)
      fail('diameter', '{diameter} must be between 30 and 72 in (762 and 1829 mm).')
    if (h > 20 + 1e-9) fail('depth', '{depth} must be at most 20 ft (6.096 m).')
    const [i, u] = place(diameters, Math.min(72, Math.max(30, d)))
    const [j, v] = place(depths, Math.min(20, h))
    const at = (row: number[]) => row[i]! + (row[i + 1]! - row[i]!) * u
    const seconds = at(times[j]!) + (at(times[j + 1]!) - at(times[j]!)) * v
    return { outputs: { seconds }, working: () => [`table at ${n(d)} in and ${n(h)} ft: ${n(seconds)} s`] }
  },
})

export const exfiltrationAllowance = defineCalculator({
  key: 'exfiltration-allowance',
  title: 'Exfiltration allowance',
  inputs: {
    length: notNegative('length'),
    diameter: positive('length', 'mm'),
    rate: notNegative('ratio'),
    duration: notNegative('time', 'h'),
  },
  outputs: { litres: 'litres' },
  source: 'Rate in litres per mm of diameter, km and day.',
  compute({ length, diameter, rate, duration }) {
    const litres = rate * diameter * 1000 * (length / 1000) * (duration / 86_400)
    return {
      outputs: { litres },
      working: () => [
        `allowance = ${n(rate)} · ${n(diameter * 1000)} mm · ${n(length / 1000)} km · ${n(duration / 86_400)} d = ${n(litres)} L`,
      ],
    }
  },
})
