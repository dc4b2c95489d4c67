import { describe, expect, it } from 'vitest'
import { plainPayloads, timing } from '../../../core/record/entry'
import { answer, day, finite, words } from '../../../core/record/payload'
import { boundTo } from '../../../core/record/release-here'

const takes = (schema: { isValidSync(v: unknown): boolean }, value: unknown) => schema.isValidSync(value)

describe('the pieces of a payload', () => {
  it.each<[string, unknown, boolean]>([
    ['a day', '2026-03-09', true],
    ['the last of February in a leap year', '2028-02-29', true],
    ['a day that is none', '2026-02-30', false],
    ['a month that is none', '2026-13-01', false],
    ['the zeroth', '2026-03-00', false],
    ['a moment', '2026-03-09T10:00', false],
    ['another way of writing', '9.3.2026', false],
    ['nothing said', undefined, true],
  ])('day: %s', (_what, value, is) => expect(takes(day(), value)).toBe(is))
  it.each<[unknown, boolean]>([
    [0, true],
    [-1.5, true],
    [undefined, true],
    [Infinity, false],
    [NaN, false],
    ['1', false],
  ])('number: %s', (value, is) => expect(takes(finite(), value)).toBe(is))
  it('a number that may be missing may be null', () => expect(takes(finite().nullable(), null)).toBe(true))
  it.each<[string, unknown, boolean]>([
    ['words', 'Cut again', true],
    ['spaces', '   ', false],
    ['nothing', '', false],
    ['the longest', 'x'.repeat(20), true],
    ['one more', 'x'.repeat(21), false],
    ['a number', 7, false],
  ])('words: %s', (_what, value, is) => expect(takes(words(20), value)).toBe(is))
  it('an answer has its own keys, a reason, and no other', () => {
    const schema = answer({ answer: words(3).required() })
    expect(takes(schema, { answer: 'yes' })).toBe(true)
    expect(takes(schema, { answer: 'yes', reason: 'again' })).toBe(true)
    expect(takes(schema, { answer: 'yes', loud: true })).toBe(false)
    expect(takes(schema, { reason: 'again' })).toBe(false)
    expect(takes(schema, undefined)).toBe(false)
  })
})

describe('a moment in a payload', () => {
  const invites = (at: unknown) => takes(plainPayloads.invitation, { for: at })
  it.each<[string, unknown, boolean]>([
    ['a time', '2026-05-04T10:00:00.000Z', true],
    ['of the last century', '1999-12-31T23:59:59.999Z', false],
    ['no time', 'soon', false],
    ['nothing', undefined, false],
  ])('that somebody is invited for: %s', (_what, at, is) => expect(invites(at)).toBe(is))
  it.each<[string, unknown, boolean]>([
    ['to the millisecond', '2026-05-04T10:00:00.123Z', true],
    ['to the second', '2026-05-04T10:00:00Z', true],
    ['of a zone', '2026-05-04T10:00:00+01:00', false],
    ['of another century', '2100-01-01T00:00:00Z', false],
    ['that does not exist', '2026-05-04T25:00:00Z', false],
    ['nothing', undefined, false],
  ])('of an entry: %s', (_what, at, is) => expect(takes(timing.recordedAt, at)).toBe(is))
})

it('a PIN given on another’s device opens for one step of one subject by one person', () => {
  const own = { id: 'e', subject: 's', step: 'hold', by: 'ines' }
  expect(boundTo(own)).toBe('e\ns\nhold\nines')
  for (const key of ['id', 'subject', 'step', 'by'] as const)
    expect(boundTo({ ...own, [key]: 'other' })).not.toBe(boundTo(own))
})
