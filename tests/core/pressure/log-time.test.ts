import { describe, expect, it } from 'vitest'
import { draftOfTest } from '../../../core/pressure/draft'
import { checkLogTime } from '../../../core/pressure/log-time'
import { entry, T0 } from '../support'

const minute = 60_000
const fits = (startedAt: number, endedAt: number) =>
  checkLogTime({ startedAt: T0 + startedAt * minute, endedAt: T0 + endedAt * minute }, T0, T0 + 120 * minute)

describe('a log belongs to a run', () => {
  it.each([
    ['within it', 0, 120],
    ['begun half an hour before it', -30, 60],
    ['of a clock ten minutes ahead', 0, 130],
  ])('%s', (_what, from, to) => expect(fits(from, to)).toBeNull())
  it.each([
    ['before it', -31, 60, /begins on 2026-03-09 07:29 UTC, before .*2026-03-09 08:00 UTC.*another run/],
    ['to come', 0, 131, /ends on 2026-03-09 10:11 UTC, which is still to come/],
  ])('not %s', (_what, from, to, says) => expect(fits(from, to)).toMatch(says))
})

describe('a rejected test drafts its report', () => {
  const number = (verdict: string, title: string) => ({
    ...{ verdict, title, formula: 'p₁ − p₂', text: '12 kPa' },
  })
  const evaluated = (verdict: string, at: number, ...numbers: object[]) =>
    entry('test', 'evaluation', { verdict, numbers, sentence: 'It fell too far.' }, at)
  it('by the first number that does not conform', () =>
    expect(
      draftOfTest([evaluated('reject', 1, number('accept', 'Lowest'), number('reject', 'Fall'))]),
    ).toEqual({ criterion: 'Fall: p₁ − p₂', reading: '12 kPa' }))
  it('by its sentence where no number says so', () =>
    expect(draftOfTest([evaluated('reject', 1, number('accept', 'Lowest'))])).toEqual({
      criterion: 'Pressure test',
      reading: 'It fell too far.',
    }))
  it('not where it was accepted, started again, or never evaluated', () => {
    const fall = evaluated('reject', 1, number('reject', 'Fall'))
    expect(draftOfTest([evaluated('accept', 1)])).toBeNull()
    expect(draftOfTest([fall, entry('test', 'start', {}, 2)])).toBeNull()
    expect(draftOfTest([fall, evaluated('accept', 2)])).toBeNull()
    expect(draftOfTest([evaluated('accept', 1), { ...fall, recordedAt: T0 + 9 * minute }])).not.toBeNull()
    expect(draftOfTest([])).toBeNull()
  })
  it('nor where the evaluation was struck', () => {
    const fall = evaluated('reject', 1, number('reject', 'Fall'))
    expect(draftOfTest([fall, entry('test', 'correction', { strikes: fall.id, reason: 'x' }, 2)])).toBeNull()
  })
})
