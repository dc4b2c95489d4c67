import { describe, expect, it } from 'vitest'
import { knownCalibrated, type RegisteredInstrument } from '../../../core/checks/instruments'
import { knownQualified } from '../../../core/crew/qualification'
import { judge } from '../../../core/judgement/judge'
import { electrofusion, entry, facts180, T0, yes } from '../support'

const DAY = 86_400_000
const tool = (name: string, kind: string, from: number, until: number): RegisteredInstrument => ({
  ...{ id: name, name, kind, quantity: 'length', min: 0, max: 1, resolution: 0.001, uncertainty: 0.001 },
  calibrations: [
    {
      from: new Date(T0 + from * DAY).toISOString(),
      until: new Date(T0 + until * DAY).toISOString(),
      certificate: null,
    },
  ],
  calibratedUntil: new Date(T0 + until * DAY).toISOString(),
})

describe('what the register knows of a crew lead', () => {
  it.each([
    ['valid', '2027-04-05', 'qualified until 2027-04-05.'],
    ['valid', null, 'qualified, without an end.'],
    ['expired', '2026-01-01', null],
    ['not-yet', '2027-01-01', null],
    ['none', null, null],
  ] as const)('%s, %s', (state, day, said) => expect(knownQualified({ state, day })).toBe(said))
})

describe('what the register knows of instruments', () => {
  const good = [tool('C-2', 'calliper', -300, 60), tool('R-1', 'rule', -300, 60)]
  it('is that one of each kind is in calibration, by name, each kind once', () =>
    expect(knownCalibrated(['calliper', 'rule', 'calliper'], good, T0)).toBe('C-2, R-1 in calibration.'))
  it('is told of one that is, where another of its kind is not', () =>
    expect(knownCalibrated(['calliper'], [tool('C-1', 'calliper', -800, -400), ...good], T0)).toBe(
      'C-2 in calibration.',
    ))
  it.each([
    ['where one kind is missing', ['calliper', 'micrometer'], good],
    ['where the only one of a kind ran out', ['rule'], [tool('R-1', 'rule', -300, -1)]],
    ['before its calibration begins', ['rule'], [tool('R-1', 'rule', 1, 300)]],
    ['where the procedure names none', [], good],
  ])('is nothing %s', (_what, kinds, list) => expect(knownCalibrated(kinds, list, T0)).toBeNull())
})

describe('a step that a register may answer', () => {
  const at = (...entries: ReturnType<typeof entry>[]) =>
    judge(electrofusion, facts180, entries, T0 + DAY).steps.find((s) => s.key === 'installer')!
  it('is accepted by what the register knew', () =>
    expect(at(entry('installer', 'gathered', { found: 'qualified until 2027-04-05.' }, 0))).toMatchObject({
      ...{ state: 'accepted', sentence: 'By the register: qualified until 2027-04-05.' },
    }))
  it('is a question where it knew nothing', () => {
    expect(at().state).toBe('not-started')
    expect(at(yes('installer', 0))).toMatchObject({ state: 'accepted', sentence: 'Confirmed.' })
    expect(at(entry('installer', 'confirmation', { answer: 'no' }, 0)).state).toBe('rejected')
  })
})
