import { showNumber as n } from '../quantity/show'
import { defineCalculator, fail } from './define'
import { notNegative, optional, positive, quantity, withDefault } from './input'

const mm = (metres: number) => `${n(metres * 1000)} mm`
const level = () => quantity('length')

/** More bells than any reach has: a pitch typed in the wrong unit, not a job. */
const MOST_BELLS = 100_000

export const liftCompacted = defineCalculator({
  key: 'lift-compacted',
  title: 'Loose lift after compaction',
  inputs: {
    loose: notNegative('length', 'mm'),
    factor: withDefault(quantity('ratio', { above: 0, max: 1 }), 0.85),
  },
  outputs: { compacted: 'length' },
  source: 'Loose thickness times the material’s factor, found on the first lifts of each source.',
  compute({ loose, factor }) {
    const compacted = loose * factor
    return {
      outputs: { compacted },
      working: () => [`compacted = ${mm(loose)} · ${n(factor)} = ${mm(compacted)}`],
    }
  },
})

export const trenchBottom = defineCalculator({
  key: 'trench-bottom',
  title: 'Level of the trench bottom',
  inputs: {
    invert: level(),
    wall: positive('length', 'mm'),
    bed: notNegative('length', 'mm'),
    found: optional(level()),
  },
  outputs: { bottom: 'length', overdig: 'length' },
  source: 'Invert less wall less bed; overdig is positive where the trench is deeper than that.',
  cautions: ['Nobody in an unsupported trench: levels are taken from the edge or under support.'],
  compute({ invert, wall, bed, found }) {
    const bottom = invert - wall - bed
    const overdig = found === null ? null : bottom - found
    return {
      outputs: { bottom, overdig },
      working: () => [
        `bottom = ${n(invert, 7)} − ${n(wall)} − ${n(bed)} = ${n(bottom, 7)} m`,
        ...(overdig === null ? [] : [`overdig = ${n(bottom, 7)} − ${n(found!, 7)} = ${mm(overdig)}`]),
      ],
    }
  },
})

export const bellHoles = defineCalculator({
  key: 'bell-holes',
  title: 'Where bell holes are dug',
  inputs: {
    from: notNegative('length'),
    to: notNegative('length'),
    pipeLength: positive('length'),
    firstBell: notNegative('length'),
    width: notNegative('length', 'mm'),
  },
  outputs: { stations: 'length' },
  source: 'Every pipe length from the first bell on, both ends of the reach included.',
  compute({ from, to, pipeLength, firstBell, width }) {
    if (to < from) fail('to', '{to} is before {from}.', 'contradiction')
    if (width >= pipeLength)
      fail('width', '{width} leaves nothing of {pipeLength} on the bed.', 'contradiction')
    const first = Math.max(0, Math.ceil((from - firstBell) / pipeLength - 1))
    const count = (to - Math.max(from, firstBell)) / pipeLength
    if (count > MOST_BELLS) fail('pipeLength', `{pipeLength} gives more than ${MOST_BELLS} bells.`)
    const stations: number[] = []
    for (let i = first; firstBell + i * pipeLength <= to + 1e-9; i++) {
      const station = firstBell + i * pipeLength
      if (station >= from - 1e-9) stations.push(station)
    }
    return {
      outputs: { stations },
      working: () => [
        `${n(firstBell)} m + n · ${n(pipeLength)} m between ${n(from)} and ${n(to)} m: ${stations.length} bells`,
        `on the bed between two holes: ${n(pipeLength - width)} m`,
      ],
    }
  },
})

export const mandrel = defineCalculator({
  key: 'mandrel',
  title: 'Diameter of a mandrel',
  inputs: {
    base: positive('length', 'mm'),
    limit: withDefault(quantity('ratio', { min: 0, below: 1 }, '%'), 0.05),
  },
  outputs: { diameter: 'length' },
  source: 'Base inside diameter less the allowed deflection.',
  compute({ base, limit }) {
    const diameter = base * (1 - limit)
    return {
      outputs: { diameter },
      working: () => [`diameter = ${mm(base)} · (1 − ${n(limit)}) = ${mm(diameter)}`],
    }
  },
})

export const strutWindow = defineCalculator({
  key: 'strut-window',
  title: 'May the struts come out?',
  inputs: {
    od: positive('length', 'mm'),
    sideLevel: level(),
    coverLevel: level(),
    ready: withDefault(notNegative('ratio'), 0.7),
  },
  outputs: { state: 'word' },
  source: 'From the ready share of the outside diameter on the sides until anything lies over the crown.',
  cautions: ['Struts come out only as the pipe’s maker says; nobody inside while the sides are filled.'],
  compute({ od, sideLevel, coverLevel, ready }) {
    const state = coverLevel > 0 ? 'late' : sideLevel >= ready * od - 1e-9 ? 'open' : 'early'
    return {
      outputs: { state },
      working: () => [
        `sides at ${mm(sideLevel)} of ${mm(ready * od)} asked, ${mm(coverLevel)} over the crown: ${state}`,
      ],
    }
  },
})
