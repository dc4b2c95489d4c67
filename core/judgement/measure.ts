import { guardBandVerdict, type BandRule } from '../calculators/guard-band'
import { findCalculator } from '../calculators/registry'
import { Problem } from '../problem'
import type { CompiledStep } from '../procedure/compile'
import type { Slots } from '../procedure/formula'
import type { Check } from '../procedure/types'
import { showQuantity } from '../quantity/show'
import type { Finding } from './types'

type Measured = Extract<Check, { kind: 'measure' | 'environment' }>

const statistics: Record<string, (values: number[]) => number> = {
  mean: (v) => v.reduce((sum, x) => sum + x, 0) / v.length,
  min: (v) => Math.min(...v),
  max: (v) => Math.max(...v),
  range: (v) => Math.max(...v) - Math.min(...v),
}

/** The quantity that a limit speaks of, worked out from the readings; percent outputs become fractions. */
function statistic(check: Measured, of: string, values: number[]): number {
  const plain = statistics[of]
  if (plain) return plain(values)
  const calculator = findCalculator(check.calculator!.key)
  const input = calculator.inputs[check.calculator!.readings]!
  try {
    const output = calculator.run({ ...check.calculator!.arguments, [check.calculator!.readings]: input.describe.kind === 'list' ? values : values[0] }).outputs[of]
    if (typeof output !== 'number') return NaN
    return calculator.outputs[of] === 'percent' ? output / 100 : output
  } catch (error) {
    if (error instanceof Problem) return NaN
    throw error
  }
}

/**
 * How far a statistic may be off when each reading may be off by U: the root
 * sum of squares of what one reading at a time does to it (first order).
 */
function propagate(check: Measured, of: string, values: number[], uncertainty: number): number {
  if (uncertainty === 0) return 0
  if (of === 'mean') return uncertainty
  const base = statistic(check, of, values)
  const squares = values.map((_v, i) => {
    const shifted = (by: number) => statistic(check, of, values.map((v, k) => (k === i ? v + by : v)))
    return Math.max(Math.abs(shifted(uncertainty) - base), Math.abs(shifted(-uncertainty) - base)) ** 2
  })
  return Math.sqrt(squares.reduce((sum, s) => sum + s, 0))
}

/** The worst reading against a limit on each: the one with the least margin. */
function worst(values: number[], min: number | null, max: number | null): number {
  const margin = (v: number) => Math.min(min === null ? Infinity : v - min, max === null ? Infinity : max - v)
  return values.reduce((a, b) => (margin(b) < margin(a) ? b : a))
}

/**
 * Judges readings against the limits of a step.
 *
 * @param values readings in SI, as many as the step asks
 * @param uncertainty expanded uncertainty of one reading, SI
 * @returns one finding a limit; a limit that cannot be worked out is left out
 */
export function judgeReadings(step: CompiledStep, slots: Slots, values: number[], uncertainty: number, rule: BandRule): Finding[] {
  const check = step.step.check
  const findings: Finding[] = []
  for (const { limit, min, max, unit, dimension } of step.limits) {
    const low = min ? (min.evaluate(slots) as number) : null
    const high = max ? (max.evaluate(slots) as number) : null
    if (Number.isNaN(low) || Number.isNaN(high)) continue
    const each = limit.of === 'each'
    const value = each ? worst(values, low, high) : statistic(check as Measured, limit.of, values)
    if (Number.isNaN(value)) continue
    const spread = each ? uncertainty : propagate(check as Measured, limit.of, values, uncertainty)
    findings.push({ title: limit.title ?? step.step.title, of: limit.of, dimension, unit, value, min: low, max: high, uncertainty: spread, ...guardBandVerdict(value, low, high, spread, rule) })
  }
  return findings
}

/** "3.2 mm is over the limit of 3 mm" – the reason of a verdict, for a person. */
export function explainFinding(f: Finding): string {
  const show = (v: number) => showQuantity(v, f.dimension, f.unit)
  const range = f.min !== null && f.max !== null ? (f.min === f.max ? `exactly ${show(f.min)}` : `${show(f.min)} to ${show(f.max)}`) : f.max !== null ? `at most ${show(f.max)}` : `at least ${show(f.min!)}`
  if (f.verdict === 'accept') return `${f.title} ${show(f.value)}, allowed ${range}.`
  if (f.verdict === 'reject') return `${f.title} ${show(f.value)} is outside: allowed ${range}.`
  return `${f.title} ${show(f.value)} is within ${show(f.uncertainty)} of the limit (${range}): measure again, or with a better tool.`
}
