import { describe, expect, it } from 'vitest'
import { isRate, occasionsAt, rateWords, type BegunBefore } from '../../../core/plan/occasions'

describe('what beginning a piece of work is the occasion of', () => {
  const day = '2026-05-04'
  it.each<[what: string, before: BegunBefore | null, expected: string[]]>([
    ['the first of a crew is the first of its day too', null, ['first-of-day', 'first-of-crew']],
    ['the second of a day is nothing', { day, rejected: false }, []],
    ['the first of another day', { day: '2026-05-03', rejected: false }, ['first-of-day']],
    ['the one after a rejection', { day, rejected: true }, ['after-rejection']],
    [
      'the first of the day after a rejection the evening before',
      { day: '2026-05-03', rejected: true },
      ['first-of-day', 'after-rejection'],
    ],
  ])('%s', (_what, before, expected) => expect(occasionsAt(day, before)).toEqual(expected))
})

describe('a rate', () => {
  it.each([1, 5, 1000, 'first-of-day', 'first-of-crew', 'after-rejection'])('is %s', (rate) =>
    expect(isRate(rate)).toBe(true),
  )
  it.each([0, 1001, 2.5, -1, NaN, '5', 'often', null, undefined, {}, ['first-of-day']])('is not %s', (rate) =>
    expect(isRate(rate)).toBe(false),
  )
  it.each([
    [5, '1 in 5'],
    ['first-of-day', 'first of the day'],
    ['first-of-crew', 'first of a crew'],
    ['after-rejection', 'after a rejection'],
  ] as const)('%s reads "%s"', (rate, words) => expect(rateWords(rate)).toBe(words))
})
