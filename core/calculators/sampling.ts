import { showNumber as n } from '../quantity/show'
import { defineCalculator, fail } from './define'
import { count, list, quantity } from './input'

/** Logarithms of 0! … n!, so that chances of large lots do not overflow. */
export function logFactorials(most: number): Float64Array {
  const out = new Float64Array(most + 1)
  for (let i = 2; i <= most; i++) out[i] = out[i - 1]! + Math.log(i)
  return out
}

/**
 * The chance that a lot passes its sample: at most `acceptance` bad items among
 * `sample` drawn without replacement. Hypergeometric.
 *
 * @param bad bad items in the lot
 * @param table `logFactorials(lot)`
 */
export function acceptProbability(
  lot: number,
  bad: number,
  sample: number,
  acceptance: number,
  table: Float64Array,
): number {
  if (bad <= acceptance) return 1
  const choose = (a: number, b: number) => table[a]! - table[b]! - table[a - b]!
  let sum = 0
  for (let k = 0; k <= Math.min(acceptance, bad); k++)
    if (sample - k <= lot - bad && k <= sample)
      sum += Math.exp(choose(bad, k) + choose(lot - bad, sample - k) - choose(lot, sample))
  return Math.min(1, sum)
}

export const samplingPlan = defineCalculator({
  key: 'sampling-plan',
  title: 'Operating characteristic of a sampling plan',
  inputs: {
    lot: count({ min: 1, max: 1_000_000 }),
    sample: count({ min: 1 }),
    acceptance: count({ min: 0 }),
    p: list(quantity('ratio', { min: 0, max: 1 }), { max: 1000 }),
  },
  outputs: { probability: 'number' },
  source: 'Hypergeometric: the chance that a lot with a share p of bad items is accepted.',
  compute({ lot, sample, acceptance, p }) {
    if (sample > lot) fail('sample', '{sample} is more than {lot}.', 'contradiction')
    if (acceptance > sample) fail('acceptance', '{acceptance} is more than {sample}.', 'contradiction')
    const table = logFactorials(lot)
    const probability = p.map((share) =>
      acceptProbability(lot, Math.round(share * lot), sample, acceptance, table),
    )
    return {
      outputs: { probability },
      working: () =>
        p.map(
          (share, i) =>
            `${n(share * 100)} % bad (${Math.round(share * lot)} of ${lot}): accepted with probability ${n(probability[i]!)}`,
        ),
    }
  },
})
