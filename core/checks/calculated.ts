import * as yup from 'yup'
import type { DimensionKey } from '../quantity/dimension'
import { defineCheck } from './define'
import { singleLimit, writtenSpan } from './limits'
import { explainAll, judgeReadings } from './readings'
import { basis, dimension, formula } from './schema'
import { plain } from './verdict'

export interface CalculatedCheck {
  kind: 'calculated'
  formula: string
  quantity: DimensionKey
  unit: string
  min?: string
  max?: string
  basis?: 'project'
}

/** A value worked out of facts and of what was recorded before; nobody answers it. */
export const calculated = defineCheck<CalculatedCheck>({
  kind: 'calculated',
  schema: {
    formula: formula().required(),
    quantity: dimension().required(),
    unit: yup.string().max(20).defined(),
    min: formula(),
    max: formula(),
    basis: basis(),
  },
  answers: {},
  compile(check, compiler) {
    if (check.unit) compiler.unit(check.unit, check.quantity, 'unit')
    return {
      limits: singleLimit(check, check.quantity, check.unit, compiler),
      value: compiler.formula(check.formula, 'formula', check.quantity),
    }
  },
  workOut(made, value, { slots, rule, missing }) {
    if (value === null) return plain('not-started', `Cannot be worked out yet: ${missing(made.value)}.`)
    const findings = judgeReadings(made, slots, [value], 0, rule)
    if (findings.length < made.limits.filter((l) => l.min !== null || l.max !== null).length)
      return {
        ...plain(
          'blocked',
          `The limits cannot be worked out: ${missing(...made.limits.flatMap((l) => [l.min, l.max]))}.`,
        ),
        findings,
      }
    return {
      state: findings.some((f) => f.verdict !== 'accept') ? 'rejected' : 'accepted',
      sentence: () => explainAll(findings),
      findings,
    }
  },
  describe: { rule: (check) => `${check.formula}${writtenSpan(check)}`, entry: () => '' },
})
