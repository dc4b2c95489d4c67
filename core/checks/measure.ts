import * as yup from 'yup'
import { typeOfDimension } from '../formula/formula'
import type { DimensionKey } from '../quantity/dimension'
import { showQuantity } from '../quantity/show'
import { isBare, unitShown } from '../quantity/site-units'
import { answer, finite } from '../record/payload'
import { defineCheck, type CheckContext, type CheckDefinition, type Limit, type Made } from './define'
import { instrumentFault } from './instruments'
import { compileLimits, limitsSchema, writtenSpan } from './limits'
import { judgeReadings, sumOf } from './readings'
import { dimension, formula, list, record, text } from './schema'
import { readingOfStep } from './records'
import { plain, type Verdict } from './verdict'
import type { Entry } from '../record/entry'

export interface Measured {
  quantity: DimensionKey
  unit: string
  /** how many; a formula where the joint decides (one a bolt) */
  readings?: number | string
  places?: string[]
  limits: Limit[]
  /** expanded uncertainty when no instrument is named */
  uncertainty?: string
  instrument?: string
  /** `readings` names the input that takes them; the other arguments are formulas, words or lists */
  calculator?: { key: string; readings: string; arguments?: Record<string, unknown> }
}
export type MeasureCheck = { kind: 'measure' } & Measured
/** Air, surface, dew point: measured like anything else, of what is round the work. */
export type EnvironmentCheck = { kind: 'environment' } & Measured

const schema = {
  quantity: dimension().required(),
  unit: yup.string().max(20).defined(),
  readings: yup
    .mixed((v): v is number | string =>
      typeof v === 'number'
        ? Number.isInteger(v) && v >= 1 && v <= 72
        : typeof v === 'string' && v.length <= 400,
    )
    .meta({ json: { type: ['integer', 'string'], minimum: 1, maximum: 72 } }),
  places: list(text(40)),
  limits: limitsSchema(),
  uncertainty: formula(),
  instrument: text(40),
  calculator: record({
    key: text(60).required(),
    readings: text(40).required(),
    arguments: yup.object(),
  }).default(undefined),
}

const reading = answer({
  values: yup.array().of(finite().required()).min(1).max(72).required(),
  typed: yup.array().of(yup.string().max(60).defined()).max(72),
})

/** Readings that are numbers; anything else in a stored payload counts as not taken. */
function numbersIn(values: unknown): number[] {
  const numbers: number[] = []
  if (Array.isArray(values))
    for (const v of values as unknown[]) if (typeof v === 'number' && Number.isFinite(v)) numbers.push(v)
  return numbers
}

function judge(made: Made<Measured>, entry: Entry, context: CheckContext): Verdict {
  const { slots, missing, rule, instruments } = context
  const values = numbersIn(entry.payload.values)
  const wanted = made.readings ? (made.readings.evaluate(slots) as number) : 1
  if (Number.isNaN(wanted))
    return plain('blocked', `How many readings it takes cannot be worked out: ${missing(made.readings)}.`)
  if (values.length < wanted) return plain('not-started', `${values.length} of ${wanted} readings taken.`)
  const fault = entry.instrument
    ? instrumentFault(instruments[entry.instrument], values, entry.recordedAt)
    : null
  if (fault) return plain('not-started', fault)
  const own = made.uncertainty ? (made.uncertainty.evaluate(slots) as number) : 0
  const uncertainty = entry.instrument ? instruments[entry.instrument]!.uncertainty : own
  if (Number.isNaN(uncertainty))
    return plain('blocked', `How sure the reading is cannot be worked out: ${missing(made.uncertainty)}.`)
  const findings = judgeReadings(made, slots, values, uncertainty, rule)
  if (findings.length < made.limits.length)
    return plain(
      'blocked',
      `The limits cannot be worked out: ${missing(...made.limits.flatMap((l) => [l.min, l.max]))}.`,
    )
  return sumOf(findings)
}

const measured = <K extends 'measure' | 'environment'>(kind: K): CheckDefinition<{ kind: K } & Measured> => ({
  kind,
  schema,
  answers: { reading },
  compile(check, compiler) {
    if (check.unit) compiler.unit(check.unit, check.quantity, 'unit')
    return {
      limits: compileLimits(check, compiler),
      readings: compiler.formula(check.readings ?? 1, 'readings', 'ratio'),
      uncertainty: compiler.formula(check.uncertainty, 'uncertainty', check.quantity),
      arguments: calculatorArguments(check, compiler),
    }
  },
  records: { reading: readingOfStep((check) => typeOfDimension(check.quantity)) },
  judge,
  describe: {
    rule: (check) => check.limits.map((l) => `${l.title ?? l.of}${writtenSpan(l)}`).join('; '),
    entry({ typed, values }, { quantity, unit }) {
      if (!Array.isArray(typed) || typed.length === 0)
        return (values as number[]).map((v) => showQuantity(v, quantity, unit)).join(' · ')
      // Bare numbers are of the procedure's unit: said where the site reads another.
      const other = unitShown(unit) !== unit
      return (typed as string[]).map((t) => (other && isBare(t) ? `${t} ${unit}` : t)).join(' · ')
    },
  },
})

function calculatorArguments(check: Measured, compiler: Parameters<typeof compileLimits>[1]) {
  if (!check.calculator) return {}
  const { key, readings, arguments: given } = check.calculator
  const calculator = compiler.calculator(key, 'calculator.key')
  if (!calculator.inputs[readings])
    compiler.refuse(`Calculator "${calculator.key}" has no input "${readings}".`, 'calculator.readings')
  return compiler.arguments(calculator, given, 'calculator.arguments')
}

export const measure = defineCheck<MeasureCheck>(measured('measure'))
export const environment = defineCheck<EnvironmentCheck>(measured('environment'))
