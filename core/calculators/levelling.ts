import { showNumber as n } from '../quantity/show'
import { defineCalculator, fail } from './define'
import { list, notNegative, optional, positive, quantity, record } from './input'

const staff = () => optional(quantity('length'))
interface Sight {
  backsight: number | null
  intermediate: number | null
  foresight: number | null
}

const sightFault = (sight: Sight, index: number, last: number): string | null => {
  const has = (value: number | null) => value !== null
  const row = `Row ${index + 1} of sights`
  if (!has(sight.backsight) && !has(sight.intermediate) && !has(sight.foresight)) return `${row} is empty.`
  if (has(sight.intermediate) && (has(sight.backsight) || has(sight.foresight)))
    return `${row} mixes an intermediate sight with another.`
  if (index === 0)
    return has(sight.backsight) && !has(sight.foresight) ? null : `${row}: the start has a backsight only.`
  if (index === last)
    return has(sight.foresight) && !has(sight.backsight) ? null : `${row}: the end has a foresight only.`
  if (has(sight.backsight) !== has(sight.foresight))
    return `${row}: a change point has a foresight and a backsight.`
  return null
}

export const levelRun = defineCalculator({
  key: 'level-run',
  title: 'Level booking by rise and fall',
  inputs: {
    sights: list(record({ backsight: staff(), intermediate: staff(), foresight: staff() }), { min: 2 }),
    startLevel: quantity('length'),
    closeLevel: optional(quantity('length')),
    distance: optional(notNegative('length')),
  },
  outputs: { levels: 'length', misclosure: 'length', allowed: 'length' },
  source: 'Rise and fall; allowed misclosure 12 mm·√km.',
  compute({ sights, startLevel, closeLevel, distance }) {
    const levels = [startLevel]
    let previous = 0
    for (const [i, sight] of sights.entries()) {
      const fault = sightFault(sight, i, sights.length - 1)
      if (fault) fail('sights', fault, 'bad-booking')
      if (i > 0) levels.push(levels[i - 1]! + previous - (sight.foresight ?? sight.intermediate)!)
      previous = (sight.backsight ?? sight.intermediate)!
    }
    const found = levels.at(-1)!
    const misclosure = closeLevel === null ? null : found - closeLevel
    const allowed = distance === null ? null : 0.012 * Math.sqrt(distance / 1000)
    const working = () => {
      const lines = [`last level = ${n(found, 7)} m`]
      if (misclosure !== null)
        lines.push(`misclosure = ${n(found, 7)} − ${n(closeLevel!, 7)} = ${n(misclosure * 1000)} mm`)
      if (allowed !== null)
        lines.push(`allowed = 12 mm · √${n(distance! / 1000)} km = ${n(allowed * 1000)} mm`)
      return lines
    }
    return { outputs: { levels, misclosure, allowed }, working }
  },
})

export const grade = defineCalculator({
  key: 'grade',
  title: 'Grade between two levels',
  inputs: { upstream: quantity('length'), downstream: quantity('length'), distance: positive('length') },
  outputs: { slope: 'ratio', percent: 'percent' },
  source: 'Fall over distance, positive falling downstream.',
  compute({ upstream, downstream, distance }) {
    const slope = (upstream - downstream) / distance
    return {
      outputs: { slope, percent: slope * 100 },
      working: () => [
        `slope = (${n(upstream, 7)} − ${n(downstream, 7)}) / ${n(distance)} = ${n(slope * 100)} %`,
      ],
    }
  },
})
