import { defineCheck } from './define'
import { confirmation, yesOrNo } from './confirm'
import { formula, text } from './schema'
import { plain } from './verdict'

export interface MarkCheck {
  kind: 'mark'
  formula: string
  unit: string
  from: string
  question: string
}

/** A mark drawn at a distance that is worked out. */
export const mark = defineCheck<MarkCheck>({
  kind: 'mark',
  schema: {
    formula: formula().required(),
    unit: text(20).required(),
    from: text().required(),
    question: text().required(),
  },
  answers: { confirmation },
  plain: true,
  compile(check, compiler) {
    if (check.unit) compiler.unit(check.unit, 'length', 'unit')
    return { value: compiler.formula(check.formula, 'formula', 'length') }
  },
  judge(made, { payload }, { slots, missing }) {
    if (payload.answer !== 'yes') return plain('rejected', 'Not marked as it should be.')
    if (made.value && Number.isNaN(made.value.evaluate(slots)))
      return plain('blocked', `Where the mark belongs cannot be worked out: ${missing(made.value)}.`)
    return plain('accepted', 'Marked.')
  },
  describe: { rule: (check) => `${check.formula} from the ${check.from}`, entry: yesOrNo },
})
