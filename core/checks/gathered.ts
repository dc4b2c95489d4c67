import * as yup from 'yup'
import { shape, words } from '../record/payload'
import { confirmation, confirmed, yesOrNo } from './confirm'
import { defineCheck } from './define'
import { text } from './schema'
import { plain } from './verdict'

/** The registers that may know an answer: whether the crew lead is qualified, and instruments calibrated. */
export const registers = ['qualification', 'instruments'] as const
export type Register = (typeof registers)[number]

/** A question that a register answers where it can; where it cannot, a person is asked. */
export interface GatheredCheck {
  kind: 'gathered'
  register: Register
  question: string
}

export const gathered = defineCheck<GatheredCheck>({
  kind: 'gathered',
  schema: { register: yup.string().oneOf(registers).required(), question: text().required() },
  answers: {
    confirmation,
    /** entered when work is opened, of what the register knew then; never on somebody's word */
    gathered: shape({ found: words(400).required() }),
  },
  mayStand: true,
  plain: true,
  judge: (_made, { kind, payload }) =>
    kind === 'gathered' ? plain('accepted', `By the register: ${String(payload.found)}`) : confirmed(payload),
  describe: {
    rule: (check) => check.question,
    entry: (payload, _check, kind) => (kind === 'gathered' ? String(payload.found) : yesOrNo(payload)),
  },
})
