import { describe, expect, it } from 'vitest'
import { judge } from '../../../core/judgement/judge'
import { checkPayload } from '../../../core/checks/sent'
import { readFact } from '../../../core/procedure/facts'
import { loadProcedure } from '../../../core/procedure/load'
import type { ProcedureFact } from '../../../core/procedure/types'
import { readQuantity } from '../../../core/quantity/read'
import { entry, read, yes } from '../support'
import { at } from './support'

/** Steps whose limits read what was recorded at earlier ones. */
const document = (choice = 'reason: It leaks.') => `
key: reads
title: Reads
revision: A
system: reads
material: none
basis: made up for tests
cautions: []
facts:
  - { key: pipe.nominal, title: Size, dimension: length, unit: in, from: pipe, nominal: true, min: 50 mm, max: 1200 mm, optional: true }
stages:
  - key: one
    title: One
    steps:
      - { key: before, title: Before, instruction: Measure.,
          check: { kind: measure, quantity: length, unit: mm, readings: 2, uncertainty: 0 mm,
          limits: [ { of: each, title: Before, min: 0 mm } ] } }
      - { key: mean, title: Mean, instruction: Measure.,
          check: { kind: measure, quantity: length, unit: mm, uncertainty: 0 mm,
          limits: [ { of: each, title: Mean, max: 'reading("before")' } ] } }
      - { key: second, title: Second, instruction: Measure.,
          check: { kind: measure, quantity: length, unit: mm, uncertainty: 0 mm,
          limits: [ { of: each, title: Second, max: 'reading("before", 2)' } ] } }
      - { key: pieces, title: Pieces, instruction: Count., check: { kind: count, question: Pieces?, min: ceil(3 * 0.1 / 0.1) } }
      - { key: seal, title: Seal, instruction: Look.,
          check: { kind: choice, question: Which?,
          choices: [ { key: good, title: Good, conforms: true }, { key: bad, title: Bad, conforms: false, ${choice} } ] } }
`
const compiled = loadProcedure(document())
const step = (key: string, ...entries: ReturnType<typeof entry>[]) =>
  judge(compiled, {}, entries, at(90)).steps.find((s) => s.key === key)!

describe('a limit that reads an earlier step', () => {
  it('reads its last standing readings, not its first', () => {
    const list = [read('before', [0.01, 0.01], 1), read('before', [0.02, 0.02], 2)]
    expect(step('mean', ...list, read('mean', [0.015], 3)).state).toBe('accepted')
    expect(step('mean', ...list, read('mean', [0.025], 3)).state).toBe('rejected')
  })
  it('reads the n-th of several, counted from one', () => {
    const list = [read('before', [0.01, 0.03], 1)]
    expect(step('second', ...list, read('second', [0.025], 3)).state).toBe('accepted')
    expect(step('second', ...list, read('second', [0.035], 3)).state).toBe('rejected')
    expect(step('second', ...list).limits[0]!.max).toBe(0.03)
  })
  it('a whole number that arithmetic misses by a hair is that number', () =>
    expect(step('pieces').limits[0]!.min).toBe(3))
})

describe('what is refused when it is written', () => {
  it('a choice that does not conform says why', () =>
    expect(() => loadProcedure(document('min: 1').replace(', min: 1', ''))).toThrow(
      /Say why "Bad" does not conform/,
    ))
  it('a key that stands twice in a map, with its line', () =>
    expect(() => loadProcedure(`${document()}title: Again\n`)).toThrow(/"title" stands here twice/))
  it('a count below nothing', () => {
    expect(() => checkPayload('count', { count: -1 })).toThrow(expect.objectContaining({ field: 'count' }))
    expect(checkPayload('count', { count: 0 })).toEqual({ count: 0 })
  })
  it('a decision that names no entry', () =>
    expect(() => checkPayload('decision', { verdict: 'accept', reason: 'x', stands: 'that one' })).toThrow(
      expect.objectContaining({ field: 'stands' }),
    ))
})

describe('a nominal size', () => {
  const fact = compiled.procedure.facts[0] as ProcedureFact
  it.each([
    ['8 in', 0.2],
    ['18"', 0.45],
    ['24', 0.6],
    ['1/2 in', null],
    ['200 mm', 0.2],
    [0.2, 0.2],
  ])('%j by trade', (typed, want) => {
    if (want === null)
      expect(() => readFact(fact, typed)).toThrow(expect.objectContaining({ code: 'out-of-bounds' }))
    else expect(readFact(fact, typed)).toBeCloseTo(want, 12)
  })
  it('has a lower and an upper bound', () => {
    expect(() => readFact(fact, '49 mm')).toThrow(expect.objectContaining({ code: 'out-of-bounds' }))
    expect(() => readFact(fact, '1201 mm')).toThrow(expect.objectContaining({ code: 'out-of-bounds' }))
    expect(readFact(fact, '50 mm')).toBeCloseTo(0.05, 12)
  })
})

describe('quantities', () => {
  it.each([
    ['-1/2 in', -0.0127],
    ['−1 1/2 in', -0.0381],
    ['-3/32 in', -0.00238125],
  ])('%s keeps its sign', (text, want) => expect(readQuantity(text, 'length')).toBeCloseTo(want, 12))
  it.each([
    ['1 mbar', 100],
    ['1013.25 mbar', 101325],
    ['1 bar', 1e5],
    ['1 kPa', 1000],
    ['1 N/mm²', 1e6],
  ])('%s is %d Pa', (text, pascal) => expect(readQuantity(text, 'pressure')).toBeCloseTo(pascal, 6))
})

describe('the joint as a whole', () => {
  const ines = { person: 'ines', role: 'inspector' as const }
  const raised = (number: string) => entry('before', 'ncr', { event: 'raised', number }, 5, ines)
  it.each(['return', 'scrap'])(
    'whose parts a report sends to %s is rejected, whatever else was done',
    (disposition) => {
      const list = [
        raised('NCR-1'),
        entry('before', 'ncr', { event: 'closed', number: 'NCR-1', disposition }, 6, ines),
        read('before', [0.01, 0.01], 7),
      ]
      expect(judge(compiled, {}, list, at(90)).state).toBe('rejected')
    },
  )
  it('used as is by concession it goes on', () => {
    const list = [
      raised('NCR-1'),
      entry('before', 'ncr', { event: 'closed', number: 'NCR-1', disposition: 'use-as-is' }, 6, ines),
    ]
    expect(step('before', ...list).state).toBe('accepted')
  })
  it('an answer of another kind of step counts as nothing', () =>
    expect(step('before', yes('before', 1)).state).toBe('not-started'))
})
