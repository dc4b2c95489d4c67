import { Problem } from '../problem'
import { dimensions, type DimensionKey } from '../quantity/dimension'
import { readQuantity, writtenDimension } from '../quantity/read'
import { showNumber as n } from '../quantity/show'
import { anyQuantity } from './any-quantity'
import { defineCalculator } from './define'
import { list } from './input'

/** Mean range of two neighbours over the standard deviation, normal distribution. */
const D2 = 1.128
const RUN = 9
const TREND = 6

export interface IndividualsChart {
  mean: number
  sigma: number
  upper: number
  lower: number
  /** `N:beyond`, `N:run`, `N:trend`, N from 1, in order of N then beyond, run, trend */
  signals: string[]
}

/**
 * Individuals chart with its run rules: outside three sigma, the ninth in a row on one side of the mean,
 * the sixth in a row each higher or each lower than the one before.
 *
 * @param values at least two, of one unit
 * @returns all in that unit; without any spread there are no signals
 */
export function individuals(values: readonly number[]): IndividualsChart {
  const mean = values.reduce((sum, v) => sum + v, 0) / values.length
  const steps = values.slice(1).map((v, i) => Math.abs(v - values[i]!))
  const sigma = steps.reduce((sum, s) => sum + s, 0) / steps.length / D2
  const [upper, lower] = [mean + 3 * sigma, mean - 3 * sigma]
  const signals: string[] = []
  let [side, sideLength, way, wayLength] = [0, 0, 0, 1]
  for (const [i, value] of sigma > 0 ? values.entries() : []) {
    const itsSide = Math.sign(value - mean)
    sideLength = itsSide !== 0 && itsSide === side ? sideLength + 1 : Math.abs(itsSide)
    side = itsSide
    if (i > 0) {
      const itsWay = Math.sign(value - values[i - 1]!)
      wayLength = itsWay === 0 ? 1 : itsWay === way ? wayLength + 1 : 2
      way = itsWay
    }
    if (value > upper || value < lower) signals.push(`${i + 1}:beyond`)
    if (sideLength >= RUN) signals.push(`${i + 1}:run`)
    if (wayLength >= TREND) signals.push(`${i + 1}:trend`)
  }
  return { mean, sigma, upper, lower, signals }
}

export const individualsChart = defineCalculator({
  key: 'individuals-chart',
  title: 'Individuals chart',
  inputs: { values: list(anyQuantity(), { min: 2 }) },
  outputs: { mean: 'same', sigma: 'same', upper: 'same', lower: 'same', signals: 'word' },
  source: 'Sigma from the mean moving range over 1.128; limits at three sigma; runs of 9, trends of 6.',
  compute({ values }) {
    const written = values.map((v) => writtenDimension(v, 'values'))
    const dimension: DimensionKey | null = written[0] ?? null
    const same = (d: DimensionKey | null) =>
      d === null ? dimension === null : dimension !== null && dimensions[d] === dimensions[dimension]
    if (!written.every(same))
      throw new Problem(
        'wrong-dimension',
        '{values} must all be written in units of one kind, or all bare.',
        'values',
      )
    const numbers = values.map((v) => readQuantity(v, dimension ?? 'ratio', { field: 'values' }))
    const chart = individuals(numbers)
    return {
      outputs: { ...chart },
      same: dimension,
      working: () => [
        `mean of ${numbers.length} = ${n(chart.mean, 5)}`,
        `sigma = mean step / 1.128 = ${n(chart.sigma)}`,
        `limits = mean ± 3 sigma: ${n(chart.lower, 5)} to ${n(chart.upper, 5)}`,
        chart.signals.length === 0 ? 'no signal' : `signals: ${chart.signals.join(', ')}`,
      ],
    }
  },
})
