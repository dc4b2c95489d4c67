import { guardBandVerdict, type BandRule } from '../calculators/guard-band'
import { outputScale, type Calculator } from '../calculators/define'
import { findCalculator } from '../calculators/registry'
import { Problem } from '../problem'
import type { Slots } from '../formula/formula'
import type { DimensionKey } from '../quantity/dimension'
import { showQuantity } from '../quantity/show'
import type { Made } from './define'
import { statistics } from './statistics'
import type { Finding, Verdict } from './verdict'

/** What is looked at of a check whose readings are judged. */
type Read = Made<{ quantity?: DimensionKey; unit?: string; calculator?: { key: string; readings: string } }>
/** A step of whatever kind whose limits are judged. */
type Limited = Made<object>

/**
 * Works out of readings the quantity that a limit speaks of; percent outputs become fractions. NaN where
 * it cannot be worked out.
 */
type Statistic = (values: number[]) => number

function statisticOf(step: Read, slots: Slots, of: string): Statistic {
  const plain = statistics[of]
  if (plain) return plain
  const check = step.step.check
  if (!check.calculator) return () => NaN
  const calculator = findCalculator(check.calculator.key)
  const { readings } = check.calculator
  const list = calculator.inputs[readings]!.describe.kind === 'list'
  const scale = outputScale(calculator.outputs[of]!)
  let read: Record<string, unknown> | null = null
  return (values) => {
    const taken = list ? values : values[0]
    try {
      // What was read is checked once; the small shifts that follow only change the readings.
      if (read) read[readings] = taken
      else read = readFor(calculator, step, slots, readings, taken)
      const output = calculator.compute(read, of).outputs[of]
      return typeof output === 'number' ? output * scale : NaN
    } catch (error) {
      if (error instanceof Problem) return NaN
      throw error
    }
  }
}

/** The inputs of a step's calculator. What the document gives as it stands was read when it was compiled. */
function readFor(calculator: Calculator, step: Read, slots: Slots, readings: string, taken: unknown) {
  const read: Record<string, unknown> = {}
  for (const name in calculator.inputs) {
    const given = step.arguments[name]
    const input = calculator.inputs[name]!
    if (name === readings) read[name] = input.read(taken, name)
    else if (given === undefined) read[name] = input.absent ? input.absent.value : input.read(undefined, name)
    else read[name] = 'formula' in given ? input.read(given.formula.evaluate(slots), name) : given.value
  }
  return read
}

/**
 * How far a statistic may be off when each reading may be off by U: the root
 * sum of squares of what one reading at a time does to it (first order).
 */
function propagate(statistic: Statistic, of: string, values: number[], uncertainty: number): number {
  if (uncertainty === 0) return 0
  if (of === 'mean') return uncertainty
  const base = statistic(values)
  const shifted = [...values]
  let sum = 0
  for (let i = 0; i < values.length; i++) {
    shifted[i] = values[i]! + uncertainty
    const up = Math.abs(statistic(shifted) - base)
    shifted[i] = values[i]! - uncertainty
    const down = Math.abs(statistic(shifted) - base)
    shifted[i] = values[i]!
    // A shift that cannot be worked out says nothing.
    const most = down > up || Number.isNaN(up) ? down : up
    if (most > 0) sum += most ** 2
  }
  return Math.sqrt(sum)
}

/** How sure one reading is, in its own quantity. */
function readingOf({ readings, step }: Read, uncertainty: number): Finding['reading'] {
  const { quantity, unit } = step.check
  return readings && quantity ? { uncertainty, dimension: quantity, unit: unit ?? '' } : null
}

/**
 * How far off it may be, for a person: of what was made of the readings, and of one reading where that
 * differs. The sign stays with its figure on one line.
 */
export function howSure({
  uncertainty,
  dimension,
  unit,
  reading,
}: Pick<Finding, 'uncertainty' | 'dimension' | 'unit' | 'reading'>): string {
  const whole = `±\u00a0${showQuantity(uncertainty, dimension, unit, 2)}`
  return reading
    ? `${whole}, as each reading is ±\u00a0${showQuantity(reading.uncertainty, reading.dimension, reading.unit, 2)}`
    : whole
}

/** The worst reading against a limit on each: the one with the least margin. */
function worst(values: number[], min: number | null, max: number | null): number {
  if (values.length === 1) return values[0]!
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
export function judgeReadings(
  step: Limited,
  slots: Slots,
  values: number[],
  uncertainty: number,
  rule: BandRule,
): Finding[] {
  const findings: Finding[] = []
  for (const { limit, min, max, unit, dimension } of step.limits) {
    const low = min ? (min.evaluate(slots) as number) : null
    const high = max ? (max.evaluate(slots) as number) : null
    if (Number.isNaN(low) || Number.isNaN(high)) continue
    const each = limit.of === 'each'
    const statistic = each ? null : statisticOf(step as Read, slots, limit.of)
    const value = statistic ? statistic(values) : worst(values, low, high)
    if (Number.isNaN(value)) continue
    const spread = statistic ? propagate(statistic, limit.of, values, uncertainty) : uncertainty
    const { verdict, margin } = guardBandVerdict(value, low, high, spread, rule)
    findings.push({
      title: limit.title ?? step.step.title,
      of: limit.of,
      dimension,
      unit,
      value,
      min: low,
      max: high,
      uncertainty: spread,
      reading: spread === uncertainty ? null : readingOf(step as Read, uncertainty),
      margin,
      verdict,
    })
  }
  return findings
}

/** "3.2 mm is over the limit of 3 mm" – the reason of a verdict, for a person. */
export function explainFinding(f: Finding): string {
  const show = (v: number) => showQuantity(v, f.dimension, f.unit)
  const range =
    f.min !== null && f.max !== null
      ? f.min === f.max
        ? `exactly ${show(f.min)}`
        : `${show(f.min)} to ${show(f.max)}`
      : f.max !== null
        ? `at most ${show(f.max)}`
        : `at least ${show(f.min!)}`
  if (f.verdict === 'accept') return `${f.title} ${show(f.value)}, allowed ${range}.`
  if (f.verdict === 'reject') return `${f.title} ${show(f.value)} is outside: allowed ${range}.`
  return (
    `${f.title} ${show(f.value)} is too close to the limit (${range}) to call: it is ` +
    `known to ${howSure(f)}. So measure again, or with a better tool.`
  )
}

/** The reasons of several limits, one after the other. */
export const explainAll = (findings: readonly Finding[]): string =>
  findings.length === 1 ? explainFinding(findings[0]!) : findings.map(explainFinding).join(' ')

/** The worst of several findings: a rejection before one too close to call; none where all conform. */
export const worstOf = (findings: readonly Finding[]): Finding | undefined =>
  findings.find((f) => f.verdict === 'reject') ?? findings.find((f) => f.verdict === 'too-close')

/** What findings come to: the worst of them, and why. */
export function sumOf(findings: Finding[]): Verdict {
  const worst = worstOf(findings)
  return {
    state: worst ? (worst.verdict === 'reject' ? 'rejected' : 'too-close') : 'accepted',
    sentence: () => (worst ? explainFinding(worst) : explainAll(findings)),
    findings,
  }
}
