import type { FormulaType, Slots } from '../formula/formula'
import { answer, words } from '../record/payload'
import { defineCheck, type CheckParts } from './define'
import { key, list, record, text, truth } from './schema'
import { plain, stray } from './verdict'

export interface ProcedureChoice {
  key: string
  title: string
  /** whether it conforms; a formula where the joint decides */
  conforms: boolean | string
  reason?: string
}
export interface ChoiceCheck {
  kind: 'choice'
  question: string
  choices: ProcedureChoice[]
}

const TRUTH: FormulaType = { kind: 'truth' }

/** Whether the choice at this place conforms for this joint. */
export const choiceConforms = (parts: Pick<CheckParts, 'conforms'>, at: number, slots: Slots): boolean => {
  const conforms = parts.conforms[at]!
  return typeof conforms === 'boolean' ? conforms : conforms.evaluate(slots) === true
}

/** One of several; each says whether it conforms. */
export const choice = defineCheck<ChoiceCheck>({
  kind: 'choice',
  schema: {
    question: text().required(),
    choices: list(
      record({
        key: key().required(),
        title: text().required(),
        conforms: truth().required(),
        reason: text(),
      }),
      12,
    )
      .required()
      .min(2),
  },
  answers: { choice: answer({ choice: words(60).required() }) },
  mayStand: true,
  plain: true,
  compile(check, compiler) {
    const keys = check.choices.map((c) => c.key)
    keys.forEach((key, i) => {
      if (keys.indexOf(key) !== i) compiler.refuse(`The choice "${key}" stands twice.`, `choices[${i}].key`)
    })
    return {
      conforms: check.choices.map((c, i) => {
        if (c.conforms !== true && !c.reason)
          compiler.refuse(`Say why "${c.title}" does not conform.`, `choices[${i}]`)
        return typeof c.conforms === 'boolean'
          ? c.conforms
          : compiler.formula(c.conforms, `choices[${i}].conforms`, TRUTH)!
      }),
    }
  },
  records: {
    answer: {
      type: () => ({ kind: 'word' }),
      value(_made, entries) {
        const last = entries.findLast((e) => e.kind === 'choice')
        return last && String(last.payload.choice)
      },
    },
  },
  judge(made, { kind, payload }, { slots, lacks, missing }) {
    const { choices } = made.step.check
    const at = choices.findIndex((c) => c.key === payload.choice)
    if (at < 0) return stray(kind)
    const { title, reason } = choices[at]!
    const rule = made.conforms[at]!
    if (typeof rule !== 'boolean' && lacks(rule))
      return plain('blocked', `Whether "${title}" conforms cannot be worked out: ${missing(rule)}.`)
    return choiceConforms(made, at, slots)
      ? plain('accepted', `${title}.`)
      : plain('rejected', `${title}: ${reason ?? 'does not conform.'}`)
  },
  describe: {
    rule: (check) => check.question,
    entry: ({ choice }, check) => check.choices.find((c) => c.key === choice)?.title ?? String(choice),
  },
})
