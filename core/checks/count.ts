import { typeOfDimension } from '../formula/formula'
import { answer, finite } from '../record/payload'
import { defineCheck } from './define'
import { singleLimit, writtenSpan } from './limits'
import { explainFinding, judgeReadings } from './readings'
import { readingOfStep } from './records'
import { basis, formula, text } from './schema'
import { plain, stray } from './verdict'

export interface CountCheck {
  kind: 'count'
  question: string
  min?: string
  max?: string
  basis?: 'project'
}

/** A whole number of things. */
export const count = defineCheck<CountCheck>({
  kind: 'count',
  schema: { question: text().required(), min: formula(), max: formula(), basis: basis() },
  answers: { count: answer({ count: finite().required().min(0) }) },
  compile: (check, compiler) => ({ limits: singleLimit(check, 'ratio', '', compiler) }),
  records: { reading: readingOfStep(() => typeOfDimension('ratio')) },
  judge(made, { kind, payload }, { slots, rule, missing }) {
    if (typeof payload.count !== 'number') return stray(kind)
    const findings = judgeReadings(made, slots, [payload.count], 0, rule)
    if (findings.length < made.limits.filter((l) => l.min !== null || l.max !== null).length)
      return plain(
        'blocked',
        `The limits cannot be worked out: ${missing(...made.limits.flatMap((l) => [l.min, l.max]))}.`,
      )
    const bad = findings.find((f) => f.verdict !== 'accept')
    return {
      state: bad ? 'rejected' : 'accepted',
      sentence: () => (bad ? explainFinding(bad) : `${String(payload.count)} counted.`),
      findings,
    }
  },
  describe: {
    rule: (check) => `${check.question}:${writtenSpan(check)}`,
    entry: ({ count }) => String(count),
  },
})
