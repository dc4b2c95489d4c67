import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { checkStorable, illFormed, isMoment, isWellFormed } from '../../../core/record/canonical'
import type { Problem } from '../../../core/problem'

const HALF = '\uD83D'
const WHOLE = '😀'

describe('a moment that a record can hold', () => {
  it.each([
    ['the first of the century', Date.UTC(2000, 0, 1), true],
    ['one before it', Date.UTC(2000, 0, 1) - 1, false],
    ['the last of it', Date.UTC(2100, 0, 1) - 1, true],
    ['the first after it', Date.UTC(2100, 0, 1), false],
    ['half a millisecond', Date.UTC(2026, 0, 1) + 0.5, false],
    ['no number', NaN, false],
    ['for ever', Infinity, false],
  ])('%s', (_what, at, is) => expect(isMoment(at)).toBe(is))
})

describe('text that is stored as it is hashed', () => {
  it.each([
    ['words', 'Re-rounded', true],
    ['both halves of a pair', WHOLE, true],
    ['a first half alone', `a${HALF}b`, false],
    ['a second half alone', '\uDE00', false],
    ['halves in the wrong order', '\uDE00\uD83D', false],
    ['nothing', '', true],
  ])('%s', (_what, text, is) => expect(isWellFormed(text)).toBe(is))
  it('is what UTF-8 gives back', () =>
    fc.assert(
      fc.property(
        fc.string({ unit: 'binary' }).chain((s) => fc.constantFrom(s, s + HALF, HALF + s)),
        (text) => isWellFormed(text) === (Buffer.from(text, 'utf8').toString('utf8') === text),
      ),
    ))
  it.each<[string, unknown, (string | number)[] | null]>([
    ['a good one', { a: ['b', { c: WHOLE }], n: 1, x: null }, null],
    ['a text', HALF, []],
    ['deep in it', { a: [1, { c: HALF }] }, ['a', 1, 'c']],
    ['a key, by what has it', { a: { [HALF]: 1 } }, ['a']],
    ['an entry of a list', ['x', HALF], [1]],
  ])('%s is found by its path', (_what, data, path) => expect(illFormed(data)).toEqual(path))
})

describe('an entry', () => {
  const good = {
    payload: { text: 'Dry' },
    step: 'ovality',
    device: 'D-1',
    recordedAt: new Date('2026-05-04'),
  }
  const refused = (more: object) => {
    try {
      checkStorable({ ...good, ...more })
    } catch (error) {
      const { code, field } = error as Problem
      return [code, field]
    }
    return null
  }
  it.each<[string, object, string[] | null]>([
    ['that is good', {}, null],
    ['without a device and a step', { step: null, device: undefined, instrument: null }, null],
    ['with half a letter in its words', { payload: { list: [{ text: HALF }] } }, ['bad-text', 'list.0.text']],
    ['with half a letter for words', { payload: HALF }, ['bad-text', 'payload']],
    ['with half a letter in its step', { step: HALF }, ['bad-text', 'payload']],
    ['with half a letter in its device', { device: HALF }, ['bad-text', 'payload']],
    ['with half a letter in its instrument', { instrument: HALF }, ['bad-text', 'payload']],
    ['of another century', { recordedAt: new Date('1999-12-31') }, ['bad-time', 'recordedAt']],
    ['of no time', { recordedAt: new Date(NaN) }, ['bad-time', 'recordedAt']],
  ])('%s', (_what, more, is) => expect(refused(more)).toEqual(is))
})
