import * as yup from 'yup'
import { showDuration } from '../quantity/show'
import { answer } from '../record/payload'
import { yesOrNo } from './confirm'
import { defineCheck } from './define'
import { basis, formula, stepName, text } from './schema'
import { plain, WORD } from './verdict'

export interface ClockCheck {
  kind: 'clock'
  from: string
  earliest?: string
  latest?: string
  action?: string
  gate?: 'pressure-test'
  basis?: 'project'
}

/** A time that must pass, or must not be missed, from an earlier step. */
export const clock = defineCheck<ClockCheck>({
  kind: 'clock',
  schema: {
    from: stepName().required(),
    earliest: formula(),
    latest: formula(),
    action: text(),
    gate: yup.string().oneOf(['pressure-test']),
    basis: basis(),
  },
  answers: { clock: answer({ answer: yup.string().oneOf(['yes', 'no']).required() }) },
  plain: true,
  compile: (check, compiler) => ({
    from: compiler.find(check.from, 'from'),
    earliest: compiler.formula(check.earliest, 'earliest', 'time'),
    latest: compiler.formula(check.latest, 'latest', 'time'),
  }),
  clock: ({ action, gate }) => ({ action: action ?? null, gate: gate ?? null }),
  unanswered(made, { start, now }) {
    const { action } = made.step.check
    if (start.at === null) return plain('not-started', 'Its clock has not started.')
    if (start.timeless !== null)
      return plain('blocked', `How long it takes cannot be worked out: ${start.timeless}.`)
    if (start.until !== null && now < start.until) return plain('waiting', '')
    if (!action) return plain('accepted', 'The time has passed.')
    if (start.latest !== null && now > start.latest) return plain('overdue', 'The latest time has passed.')
    return plain('not-started', 'The time has come.')
  },
  judge(made, entry, { slots, start, missing }) {
    if (entry.payload.answer === 'no') return plain('rejected', 'Recorded as not done as it should be.')
    if (start.at === null) return plain('rejected', 'Recorded before its clock had started.')
    const span = (f: typeof made.earliest) => (f ? (f.evaluate(slots) as number) * 1000 : null)
    const [earliest, latest] = [span(made.earliest), span(made.latest)]
    if (Number.isNaN(earliest) || Number.isNaN(latest))
      return plain('blocked', `Its times cannot be worked out: ${missing(made.earliest, made.latest)}.`)
    const after = entry.recordedAt - start.at
    if (earliest !== null && after < earliest)
      return plain('rejected', `Done ${showDuration((earliest - after) / 1000)} too early.`)
    if (latest !== null && after > latest)
      return plain('rejected', `Done ${showDuration((after - latest) / 1000)} too late.`)
    if (entry.late || start.late)
      return plain(
        'held',
        `${entry.late ? 'This' : 'Its start'} was recorded late, and proves no time. ${WORD}`,
      )
    return plain('accepted', () => `Done ${showDuration(after / 1000)} after the start, in time.`)
  },
  describe: {
    rule: (check) =>
      [check.earliest && `not before ${check.earliest}`, check.latest && `not after ${check.latest}`]
        .filter(Boolean)
        .join(', '),
    entry: yesOrNo,
  },
})
