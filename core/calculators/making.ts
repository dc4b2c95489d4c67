import { showDuration, showNumber as n } from '../quantity/show'
import { defineCalculator, fail } from './define'
import { flag, instant, nominalSize, notNegative, positive, quantity, withDefault } from './input'

const mm = (si: number) => `${n(si * 1000, 6)} mm`
const MIN = 60
const H = 3600
const D = 86400

export const cementOpenTime = defineCalculator({
  key: 'cement-open-time',
  title: 'Open time of solvent cement',
  inputs: { temperature: quantity('temperature', { min: 5, max: 40 }), reference: withDefault(notNegative('time'), 60) },
  outputs: { seconds: 'seconds' },
  source: 'Sample law: the time at 20 °C halves for every 10 K above. A maker’s table is preferred.',
  cautions: ['Solvent vapour: moving air, no flame, gloves and eye protection.'],
  compute({ temperature, reference }) {
    const seconds = reference * 2 ** (-(temperature - 20) / 10)
    return { outputs: { seconds }, working: () => [`open time = ${n(reference)} s · 2^(−(${n(temperature)} − 20)/10) = ${n(seconds)} s`] }
  },
})

const sizes = [0.032, 0.05, 0.2, 0.38, Infinity]
const LOW = 1.104e6
const HIGH = 2.552e6
/** Rows by temperature band, warmest first; columns by size. */
const setTimes = [[2 * MIN, 5 * MIN, 30 * MIN, 2 * H, 4 * H], [5 * MIN, 10 * MIN, 2 * H, 8 * H, 16 * H], [10 * MIN, 15 * MIN, 12 * H, 24 * H, 48 * H]]
const cureLow = [[15 * MIN, 30 * MIN, 1.5 * H, 48 * H, 72 * H], [20 * MIN, 45 * MIN, 4 * H, 96 * H, 6 * D], [30 * MIN, 1 * H, 72 * H, 8 * D, 14 * D]]
const cureHigh = [[6 * H, 12 * H, 24 * H], [12 * H, 24 * H, 48 * H], [48 * H, 96 * H, 8 * D]]

export const cementCure = defineCalculator({
  key: 'cement-cure',
  title: 'Set and cure of a solvent-welded joint',
  inputs: { size: nominalSize(), temperature: quantity('temperature', { min: -18, max: 38 }), pressure: notNegative('pressure', 'kPa'), wet: withDefault(flag(), false) },
  outputs: { set: 'time', cure: 'time' },
  source: 'Sample table by nominal size, temperature and test pressure; half as long again in wet weather.',
  cautions: ['A maker’s table comes first.'],
  compute({ size, temperature, pressure, wet }) {
    const column = sizes.findIndex((limit) => size <= limit + 1e-9)
    const band = temperature > 16 ? 0 : temperature > 5 ? 1 : 2
    if (pressure > HIGH) fail('pressure', 'pressure is over 2.552 MPa, beyond the table.')
    if (pressure > LOW && column > 2) fail('pressure', 'pressure is over 1.104 MPa, beyond the table for sizes over 200 mm.')
    const factor = wet ? 1.5 : 1
    const set = setTimes[band]![column]! * factor
    const cure = (pressure > LOW ? cureHigh : cureLow)[band]![column]! * factor
    const where = `${n(size * 1000)} mm, ${['16–38', '5–16', '−18–5'][band]} °C, ${pressure > LOW ? 'up to 2.552' : 'up to 1.104'} MPa${wet ? ', wet × 1.5' : ''}`
    return { outputs: { set, cure }, working: () => [`table at ${where}: set ${showDuration(set)}, cure ${showDuration(cure)} (h:min:s)`] }
  },
})

export const electrofusionTimes = defineCalculator({
  key: 'electrofusion-times',
  title: 'Clamps off and earliest test after fusion',
  inputs: { start: instant(), fusion: notNegative('time'), cooling: notNegative('time', 'min'), testFactor: withDefault(notNegative('ratio'), 4) },
  outputs: { undoAt: 'instant', testAt: 'instant' },
  source: 'Start + fusion + cooling; start + fusion + factor · cooling.',
  cautions: ['The joint is not moved in fusion and cooling.'],
  compute({ start, fusion, cooling, testFactor }) {
    const at = (seconds: number) => {
      const date = new Date(start + seconds * 1000)
      if (Number.isNaN(date.getTime())) fail('cooling', 'cooling runs past the end of the calendar.')
      return date.toISOString()
    }
    const undoAt = at(fusion + cooling)
    const testAt = at(fusion + testFactor * cooling)
    return { outputs: { undoAt, testAt }, working: () => [`clamps off = start + ${showDuration(fusion)} + ${showDuration(cooling)} = ${undoAt}`, `earliest test = start + ${showDuration(fusion)} + ${n(testFactor)} · ${showDuration(cooling)} = ${testAt}`] }
  },
})

export const wrapTape = defineCalculator({
  key: 'wrap-tape',
  title: 'Length of wrap-around tape',
  inputs: { jacket: positive('length', 'mm'), overlap: withDefault(notNegative('length', 'mm'), 0.1) },
  outputs: { length: 'length' },
  source: 'Girth of the jacket plus overlap.',
  compute({ jacket, overlap }) {
    const length = Math.PI * jacket + overlap
    return { outputs: { length }, working: () => [`length = π · ${mm(jacket)} + ${mm(overlap)} = ${mm(length)}`] }
  },
})

export const foamMix = defineCalculator({
  key: 'foam-mix',
  title: 'Foam for a casing joint',
  inputs: { casingId: positive('length', 'mm'), pipeOd: positive('length', 'mm'), length: notNegative('length', 'mm'), density: positive('density'), packing: withDefault(positive('ratio'), 1.1) },
  outputs: { volume: 'volume', mass: 'mass' },
  source: 'Annulus between casing and pipe; packing multiplies the mass.',
  cautions: ['Foam components: gloves, eyes, moving air. Follow the pack.'],
  compute({ casingId, pipeOd, length, density, packing }) {
    if (pipeOd >= casingId) fail('pipeOd', 'pipeOd leaves no annulus inside the casing.')
    const volume = (Math.PI / 4) * (casingId ** 2 - pipeOd ** 2) * length
    const mass = volume * density * packing
    return { outputs: { volume, mass }, working: () => [`volume = π/4·(D² − d²)·L = ${n(volume * 1000)} L`, `mass = volume · ${n(density)} kg/m³ · ${n(packing)} = ${n(mass)} kg`] }
  },
})

export const strutLength = defineCalculator({
  key: 'strut-length',
  title: 'Strut length',
  inputs: { insideDiameter: positive('length', 'mm'), over: withDefault(notNegative('ratio'), 0.03) },
  outputs: { length: 'length' },
  source: 'Inside diameter and an over-length that gives an upward ovality beforehand.',
  cautions: ['Struts come out before anything goes over the pipe.'],
  compute({ insideDiameter, over }) {
    const length = insideDiameter * (1 + over)
    return { outputs: { length }, working: () => [`length = ${mm(insideDiameter)} · (1 + ${n(over)}) = ${mm(length)}`] }
  },
})
