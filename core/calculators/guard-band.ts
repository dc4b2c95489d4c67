import { Problem } from '../problem'
import { dimensions, type DimensionKey } from '../quantity/dimension'
import { readQuantity, writtenDimension } from '../quantity/read'
import { showNumber as n } from '../quantity/show'
import { findUnit } from '../quantity/units'
import { anyQuantity } from './any-quantity'
import { defineCalculator, fail } from './define'
import { optional, withDefault, word } from './input'

export type BandRule = 'guarded' | 'simple'
export type BandVerdict = 'accept' | 'reject' | 'too-close'

/**
 * Judges a value against limits in the light of its uncertainty.
 *
 * @param value, min, max, uncertainty in one unit; at least one of min and max
 * @param rule `guarded`: within U of a limit is too close to call; `simple`: the limit alone decides
 * @returns verdict and the margin to the nearest limit, positive inside
 */
export function guardBandVerdict(
  value: number,
  min: number | null,
  max: number | null,
  uncertainty: number,
  rule: BandRule,
): { verdict: BandVerdict; margin: number } {
  const margin = Math.min(min === null ? Infinity : value - min, max === null ? Infinity : max - value)
  const epsilon = 1e-12 * Math.max(1, Math.abs(value))
  if (rule === 'simple') return { verdict: margin >= -epsilon ? 'accept' : 'reject', margin }
  if (margin >= uncertainty - epsilon) return { verdict: 'accept', margin }
  return { verdict: margin <= -uncertainty + epsilon ? 'reject' : 'too-close', margin }
}

export const guardBand = defineCalculator({
  key: 'guard-band',
  title: 'Is this close enough?',
  inputs: {
    value: anyQuantity(),
    min: optional(anyQuantity()),
    max: optional(anyQuantity()),
    uncertainty: anyQuantity(),
    rule: withDefault(word(['guarded', 'simple']), 'guarded'),
  },
  outputs: { verdict: 'word', margin: 'same' },
  source: 'Guard band as wide as the uncertainty on both sides of each limit.',
  compute(given) {
    let dimension: DimensionKey | null = null
    for (const key of ['value', 'min', 'max', 'uncertainty'] as const) {
      const written = writtenDimension(given[key], key)
      if (written === null) continue
      if (dimension !== null && dimensions[written] !== dimensions[dimension])
        throw new Problem(
          'wrong-dimension',
          `{${key}} must be ${dimensions[dimension].noun} like the values before it.`,
          key,
        )
      dimension = written
    }
    const read = (key: 'value' | 'min' | 'max' | 'uncertainty') =>
      given[key] === null ? null : readQuantity(given[key], dimension ?? 'ratio', { field: key })
    const value = read('value')!
    const [min, max] = [read('min'), read('max')]
    if (min === null && max === null) fail('min', 'Give {min}, {max} or both.', 'missing')
    if (min !== null && max !== null && max < min) fail('max', '{max} is below {min}.', 'contradiction')
    const uncertainty =
      dimension === 'temperature' ? temperatureSpan(given.uncertainty) : read('uncertainty')!
    if (uncertainty < 0) fail('uncertainty', '{uncertainty} must be at least 0.')
    const { verdict, margin } = guardBandVerdict(value, min, max, uncertainty, given.rule)
    return {
      outputs: { verdict, margin },
      same: dimension,
      working: () => [
        `margin = ${n(margin)}, uncertainty = ${n(uncertainty)}: ${verdict === 'too-close' ? 'too close to call' : verdict}`,
      ],
    }
  },
})

/** An uncertainty in °F or °C is a difference: only the size of the degree counts, not its zero. */
function temperatureSpan(raw: unknown): number {
  const degrees = readQuantity(raw, 'temperature', { field: 'uncertainty' })
  const unit = typeof raw === 'string' && /°?F\s*$/.test(raw) ? findUnit('°F')! : findUnit('°C')!
  return degrees - unit.offset
}
