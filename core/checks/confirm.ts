import * as yup from 'yup'
import { answer } from '../record/payload'
import { defineCheck } from './define'
import { text } from './schema'
import { plain } from './verdict'

export interface ConfirmCheck {
  kind: 'confirm'
  question: string
  photo?: boolean
}

/** A yes or no. */
export const confirmation = answer({
  answer: yup.string().oneOf(['yes', 'no']).required(),
  at: yup.string(),
})
export const yesOrNo = ({ answer }: Record<string, unknown>) => (answer === 'yes' ? 'yes' : 'no')

const CONFIRMED = plain('accepted', 'Confirmed.')
const NOT_SO = plain('rejected', 'Answered no.')
/** What an answer to a question with yes for what conforms says. */
export const confirmed = ({ answer }: Record<string, unknown>) => (answer === 'yes' ? CONFIRMED : NOT_SO)

/** A question with yes for what conforms. */
export const confirm = defineCheck<ConfirmCheck>({
  kind: 'confirm',
  schema: { question: text().required(), photo: yup.boolean() },
  answers: { confirmation },
  mayStand: true,
  plain: true,
  judge: (_made, { payload }) => confirmed(payload),
  describe: { rule: (check) => check.question, entry: yesOrNo },
})
