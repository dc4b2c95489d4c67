import { showDuration, showNumber as n } from '../quantity/show'
import { defineCalculator, fail } from './define'
import { instant, notNegative, positive, withDefault } from './input'

const mm = (si: number) => `${n(si * 1000, 6)} mm`

export const electrofusionTimes = defineCalculator({
  key: 'electrofusion-times',
  title: 'Clamps off and earliest test after fusion',
  inputs: {
    start: instant(),
    fusion: notNegative('time'),
    cooling: notNegative('time', 'min'),
    testFactor: withDefault(positive('ratio'), 4),
  },
  outputs: { undoAt: 'instant', testAt: 'instant' },
  source: 'Start + fusion + cooling; start + fusion + factor · cooling.',
  cautions: ['The joint is not moved in fusion and cooling.'],
  compute({ start, fusion, cooling, testFactor }) {
    const at = (seconds: number) => {
      const date = new Date(start + seconds * 1000)
      if (Number.isNaN(date.getTime())) fail('cooling', '{cooling} runs past the end of the calendar.')
      return date.toISOString()
    }
    const undoAt = at(fusion + cooling)
    const testAt = at(fusion + testFactor * cooling)
    return {
      outputs: { undoAt, testAt },
      working: () => [
        `clamps off = start + ${showDuration(fusion)} + ${showDuration(cooling)} = ${undoAt}`,
        `earliest test = start + ${showDuration(fusion)} + ${n(testFactor)} · ${showDuration(cooling)} = ${testAt}`,
      ],
    }
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
    return {
      outputs: { length },
      working: () => [`length = π · ${mm(jacket)} + ${mm(overlap)} = ${mm(length)}`],
    }
  },
})

export const foamMix = defineCalculator({
  key: 'foam-mix',
  title: 'Foam for a casing joint',
  inputs: {
    casingId: positive('length', 'mm'),
    pipeOd: positive('length', 'mm'),
    length: notNegative('length', 'mm'),
    density: positive('density'),
    packing: withDefault(positive('ratio'), 1.1),
  },
  outputs: { volume: 'volume', mass: 'mass' },
  source: 'Annulus between casing and pipe; packing multiplies the mass.',
  cautions: ['Foam components: gloves, eyes, moving air. Follow the pack.'],
  compute({ casingId, pipeOd, length, density, packing }) {
    if (pipeOd >= casingId) fail('pipeOd', '{pipeOd} leaves no annulus inside the casing.')
    const volume = (Math.PI / 4) * (casingId ** 2 - pipeOd ** 2) * length
    const mass = volume * density * packing
    return {
      outputs: { volume, mass },
      working: () => [
        `volume = π/4·(D² − d²)·L = ${n(volume * 1000)} L`,
        `mass = volume · ${n(density)} kg/m³ · ${n(packing)} = ${n(mass)} kg`,
      ],
    }
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
    return {
      outputs: { length },
      working: () => [`length = ${mm(insideDiameter)} · (1 + ${n(over)}) = ${mm(length)}`],
    }
  },
})
