import { outputDimension } from '../calculators/define'
import { dimensions, type DimensionKey } from '../quantity/dimension'
import { basis, formula, list, record, text } from './schema'
import type { CheckCompiler, CompiledLimit, Limit } from './define'
import { statistics } from './statistics'

export const limitSchema = record({
  of: text(40).required(),
  title: text(),
  min: formula(),
  max: formula(),
  unit: text(20),
  basis: basis(),
}).test(
  'some',
  '${path} needs min or max',
  (value) => value == null || value.min !== undefined || value.max !== undefined,
)
export const limitsSchema = () => list(limitSchema, 12).required().min(1)

interface Measured {
  quantity: DimensionKey
  unit: string
  limits: Limit[]
  calculator?: { key: string }
}

/** The limits of readings: on a statistic of them, or on what a calculator makes of them. */
export function compileLimits(check: Measured, compiler: CheckCompiler): CompiledLimit[] {
  const calculator = check.calculator ? compiler.calculator(check.calculator.key, 'calculator.key') : null
  return check.limits.map((limit, i) => {
    const here = `limits[${i}]`
    const plain = limit.of === 'each' || Object.hasOwn(statistics, limit.of)
    if (!plain && !(calculator && limit.of in calculator.outputs))
      compiler.refuse(
        `"${limit.of}" is neither ${['each', ...Object.keys(statistics)].join(', ')} nor an output of the ` +
          `step's calculator.`,
        `${here}.of`,
      )
    const dimension = plain ? check.quantity : outputDimension(calculator!.outputs[limit.of]!)
    const unit = limit.unit ?? (plain ? check.unit : dimensions[dimension].unit)
    if (unit) compiler.unit(unit, dimension, `${here}.unit`)
    return {
      limit,
      unit,
      dimension,
      min: compiler.formula(limit.min, `${here}.min`, dimension),
      max: compiler.formula(limit.max, `${here}.max`, dimension),
    }
  })
}

/** The one limit of a check that has only `min` and `max`. */
export const singleLimit = (
  check: { min?: string; max?: string },
  dimension: DimensionKey,
  unit: string,
  compiler: CheckCompiler,
): CompiledLimit[] => [
  {
    limit: { of: 'each', title: compiler.title, min: check.min, max: check.max },
    min: compiler.formula(check.min, 'min', dimension),
    max: compiler.formula(check.max, 'max', dimension),
    unit,
    dimension,
  },
]

/** " ≥ 2 mm ≤ 5 mm": the span of a limit as the document writes it. */
export const writtenSpan = ({ min, max }: { min?: string; max?: string }): string =>
  `${min !== undefined ? ` ≥ ${min}` : ''}${max !== undefined ? ` ≤ ${max}` : ''}`
