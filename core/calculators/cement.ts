import { showDuration, showNumber as n } from '../quantity/show'
import { defineCalculator, fail } from './define'
import { count, flag, list, nominalSize, notNegative, positive, quantity, record, withDefault } from './input'

const mm = (si: number) => `${n(si * 1000, 6)} mm`
const MIN = 60
const H = 3600
const D = 86400

const openTime = (temperature: number, reference: number) => reference * 2 ** (-(temperature - 20) / 10)

export const cementOpenTime = defineCalculator({
  key: 'cement-open-time',
  title: 'Open time of solvent cement',
  inputs: {
    temperature: quantity('temperature', { min: 5, max: 40 }),
    reference: withDefault(notNegative('time'), 60),
  },
  outputs: { seconds: 'seconds' },
  source: 'Sample law: the time at 20 °C halves for every 10 K above. A maker’s table is preferred.',
  cautions: ['Solvent vapour: moving air, no flame, gloves and eye protection.'],
  compute({ temperature, reference }) {
    const seconds = openTime(temperature, reference)
    return {
      outputs: { seconds },
      working: () => [`open time = ${n(reference)} s · 2^(−(${n(temperature)} − 20)/10) = ${n(seconds)} s`],
    }
  },
})

export const coatingTime = defineCalculator({
  key: 'coating-time',
  title: 'Whether the cement can be on before it skins',
  inputs: {
    diameter: positive('length', 'mm'),
    depth: positive('length', 'mm'),
    coats: count({ min: 1, max: 20 }),
    pace: quantity('ratio', { above: 0 }),
    people: withDefault(count({ min: 1, max: 20 }), 1),
    temperature: quantity('temperature', { min: 5, max: 40 }),
    reference: withDefault(notNegative('time'), 60),
  },
  outputs: { needed: 'seconds', open: 'seconds', ok: 'flag' },
  source:
    'Area of all coats over what a person spreads in a second and the people at it, against the open time of the cement.',
  cautions: ['Solvent vapour: moving air, no flame, gloves and eye protection.'],
  compute({ diameter, depth, coats, pace, people, temperature, reference }) {
    const needed = (Math.PI * diameter * depth * coats) / (pace * people)
    const open = openTime(temperature, reference)
    const ok = needed <= open
    return {
      outputs: { needed, open, ok },
      working: () => [
        `needed = π · ${mm(diameter)} · ${mm(depth)} · ${coats} / (${n(pace)} m²/s · ${people}) = ${n(needed)} s`,
        `open time at ${n(temperature)} °C = ${n(open)} s: ${ok ? 'in time' : 'too slow'}`,
      ],
    }
  },
})

const sizes = [0.032, 0.05, 0.2, 0.38, Infinity]
const LOW = 1.104e6
const HIGH = 2.552e6
const [COLDEST, WARMEST] = [-18, 38]
/** Rows by temperature band, warmest first; columns by size. */
const setTimes = [
  [2 * MIN, 5 * MIN, 30 * MIN, 2 * H, 4 * H],
  [5 * MIN, 10 * MIN, 2 * H, 8 * H, 16 * H],
  [10 * MIN, 15 * MIN, 12 * H, 24 * H, 48 * H],
]
const cureLow = [
  [15 * MIN, 30 * MIN, 1.5 * H, 48 * H, 72 * H],
  [20 * MIN, 45 * MIN, 4 * H, 96 * H, 6 * D],
  [30 * MIN, 1 * H, 72 * H, 8 * D, 14 * D],
]
const cureHigh = [
  [6 * H, 12 * H, 24 * H],
  [12 * H, 24 * H, 48 * H],
  [48 * H, 96 * H, 8 * D],
]

const columnOf = (size: number) => sizes.findIndex((limit) => size <= limit + 1e-9)
/** A temperature on an inner boundary takes the longer time. */
const bandOf = (temperature: number) => (temperature > 16 ? 0 : temperature > 5 ? 1 : 2)

function checkPressure(size: number, pressure: number) {
  if (pressure > HIGH) fail('pressure', '{pressure} is over 2.552 MPa, beyond the table.')
  if (pressure > LOW && columnOf(size) > 2)
    fail('pressure', '{pressure} is over 1.104 MPa, beyond the table for sizes over 200 mm.')
}
const cureOf = (size: number, temperature: number, pressure: number, wet: boolean) =>
  (pressure > LOW ? cureHigh : cureLow)[bandOf(temperature)]![columnOf(size)]! * (wet ? 1.5 : 1)

export const cementCure = defineCalculator({
  key: 'cement-cure',
  title: 'Set and cure of a solvent-welded joint',
  inputs: {
    size: nominalSize(),
    temperature: quantity('temperature', { min: COLDEST, max: WARMEST }),
    pressure: notNegative('pressure', 'kPa'),
    wet: withDefault(flag(), false),
  },
  outputs: { set: 'time', cure: 'time' },
  source: 'Sample table by nominal size, temperature and test pressure; half as long again in wet weather.',
  cautions: ['A maker’s table comes first.'],
  compute({ size, temperature, pressure, wet }) {
    checkPressure(size, pressure)
    const set = setTimes[bandOf(temperature)]![columnOf(size)]! * (wet ? 1.5 : 1)
    const cure = cureOf(size, temperature, pressure, wet)
    const where =
      `${n(size * 1000)} mm, ${['16–38', '5–16', '−18–5'][bandOf(temperature)]} °C, ` +
      `${pressure > LOW ? 'up to 2.552' : 'up to 1.104'} MPa${wet ? ', wet × 1.5' : ''}`
    return {
      outputs: { set, cure },
      working: () => [`table at ${where}: set ${showDuration(set)}, cure ${showDuration(cure)}`],
    }
  },
})

export const cureProgress = defineCalculator({
  key: 'cure-progress',
  title: 'How far a joint has cured, from logged temperatures',
  inputs: {
    size: nominalSize(),
    pressure: notNegative('pressure', 'kPa'),
    wet: withDefault(flag(), false),
    steps: list(record({ temperature: quantity('temperature'), duration: notNegative('time') }), {
      min: 1,
      max: 5000,
    }),
  },
  outputs: { fraction: 'number', remaining: 'time' },
  source:
    'Each spell counts by its share of the cure at its temperature; below −18 °C nothing cures. The rest is at the last temperature.',
  cautions: ['A maker’s table comes first.'],
  compute({ size, pressure, wet, steps }) {
    checkPressure(size, pressure)
    if (steps.some((s) => s.temperature > WARMEST))
      fail('steps', '{steps} holds a temperature over 38 °C, beyond the table.')
    const cure = (temperature: number) =>
      temperature < COLDEST ? null : cureOf(size, temperature, pressure, wet)
    const shares = steps.map((s) => (cure(s.temperature) === null ? 0 : s.duration / cure(s.temperature)!))
    const fraction = shares.reduce((sum, share) => sum + share, 0)
    const last = cure(steps.at(-1)!.temperature)
    const remaining = fraction >= 1 - 1e-12 ? 0 : last === null ? null : (1 - fraction) * last
    const rest =
      remaining === null
        ? 'nothing cures below −18 °C'
        : remaining === 0
          ? 'cured'
          : `${showDuration(remaining)} left at ${n(steps.at(-1)!.temperature)} °C`
    return {
      outputs: { fraction, remaining },
      working: () => [`Σ duration / cure = ${shares.map((s) => n(s)).join(' + ')} = ${n(fraction)}: ${rest}`],
    }
  },
})
