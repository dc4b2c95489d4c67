import { describe, expect, it } from 'vitest'
import { calculators, calculatorsBySubject } from '../../core/calculators/registry'
import { entryKinds } from '../../core/record/entry'
import { access } from '../../server/http/access'
import { entryWords, quantityWord, roleWords, stateWords, subjectWords } from '../../app/words'

describe('words for a person', () => {
  it.each([
    ['pipeLength', 'Pipe length'],
    ['gaps', 'Gaps'],
    ['od', 'Outside diameter'],
    ['waterAboveCrown', 'Water above crown'],
    ['toString', 'To string'],
  ])('%s reads %s', (key, words) => expect(quantityWord(key)).toBe(words))
  it('no input or output of a calculator reads like code', () => {
    for (const c of calculators)
      for (const key of [...Object.keys(c.inputs), ...Object.keys(c.outputs)])
        expect(quantityWord(key, c.key), `${c.key} ${key}`).toMatch(/^[A-Z][a-z-]+( [a-z-]+)*$/)
  })
  it('no two values of one calculator are called the same', () => {
    for (const c of calculators)
      for (const keys of [Object.keys(c.inputs), Object.keys(c.outputs)])
        expect(new Set(keys.map((k) => quantityWord(k, c.key))).size, c.key).toBe(keys.length)
  })
  it('the same key is called by what each calculator means', () =>
    expect(['cement-cure', 'sand-replacement'].map((c) => quantityWord('wet', c))).toEqual([
      'Wet weather',
      'Wet density',
    ]))
  it('every subject has its heading', () =>
    expect(Object.keys(calculatorsBySubject).filter((s) => !subjectWords[s])).toEqual([]))
  it('every role of the access table has its word', () => {
    for (const who of Object.values(access))
      if (Array.isArray(who))
        for (const role of who) expect(roleWords[role as keyof typeof roleWords]).toBeTruthy()
  })
  it('no two states read alike', () =>
    expect(new Set(Object.values(stateWords)).size).toBe(Object.values(stateWords).length))
  it('what is recorded at a step is called by a word', () => {
    for (const kind of [
      'reading',
      'confirmation',
      'choice',
      'count',
      'clock',
      'lot',
      'remark',
      'photo',
      'request',
      'release',
      'refusal',
      'waiver',
      'decision',
      'correction',
      'ncr',
    ] as const) {
      expect(entryKinds).toContain(kind)
      expect(entryWords[kind], kind).toBeTruthy()
    }
  })
})
