import { afterEach, describe, expect, it } from 'vitest'
import { readFact, readFacts, unitOfFact, withUnitOfFact } from '../../../core/procedure/facts'
import type { Procedure, ProcedureFact } from '../../../core/procedure/types'
import { showEverythingIn } from '../../../core/quantity/site-units'
import { refusal } from '../refusal'

/** What somebody types of a pipe, a fitting or the weather, against what the procedure asks. */
const fact = (more: Partial<ProcedureFact> = {}): ProcedureFact =>
  ({
    key: 'pipe.wall',
    title: 'Wall',
    dimension: 'length',
    unit: 'mm',
    from: 'pipe',
    ...more,
  }) as ProcedureFact
const sentence = (run: () => unknown) => {
  try {
    run()
  } catch (error) {
    return (error as Error).message
  }
  return null
}
afterEach(() => showEverythingIn('as-written'))

describe('a figure', () => {
  it.each<[unknown, number]>([
    ['12', 0.012],
    ['12 mm', 0.012],
    ['1.2 cm', 0.012],
    [0.012, 0.012],
  ])('%j is read', (given, value) => expect(readFact(fact(), given)).toBeCloseTo(value, 12))
  it('lies between its bounds, ends included', () => {
    const bounded = fact({ min: '2 mm', max: '9 mm' })
    expect([readFact(bounded, '2'), readFact(bounded, '9')]).toEqual([0.002, expect.closeTo(0.009, 12)])
    for (const given of ['1.9', '9.1'])
      expect(refusal(() => readFact(bounded, given))).toEqual(['out-of-bounds', 'pipe.wall'])
    expect(sentence(() => readFact(bounded, '1'))).toBe('Wall must lie between 2 mm and 9 mm.')
    expect(sentence(() => readFact(fact({ max: '9 mm' }), '10'))).toBe('Wall must lie between … and 9 mm.')
    expect(sentence(() => readFact(fact({ min: '2 mm' }), '1'))).toBe('Wall must lie between 2 mm and ….')
  })
  it.each([['thick'], ['12 bar'], [true], [Number.NaN]])('%j is refused by its name', (given) => {
    expect(refusal(() => readFact(fact(), given))![1]).toBe('pipe.wall')
    expect(sentence(() => readFact(fact(), given))).toMatch(/Wall/)
  })
  it('of a nominal size in inches is the size that goes by them', () => {
    const nominal = fact({ key: 'pipe.nominal', title: 'Nominal size', nominal: true })
    expect(readFact(nominal, '6 in')).toBeCloseTo(0.15, 9)
    expect(readFact(nominal, '150')).toBeCloseTo(0.15, 9)
    expect(readFact(fact({ ...nominal, unit: 'in' }), '6')).toBeCloseTo(0.15, 9)
    // Of what is no name an inch is an inch.
    expect(readFact(fact(), '6 in')).toBeCloseTo(0.1524, 9)
    // A value that was stored is what it is.
    expect(readFact(nominal, 0.1524)).toBe(0.1524)
  })
})

describe('a word, and a yes or no', () => {
  const word = fact({ title: 'Grade', dimension: 'word', choices: ['X', 'Y'] })
  const flag = fact({ title: 'Wet', dimension: 'flag' })
  it('are one of theirs', () => {
    expect([readFact(word, 'Y'), readFact(flag, false)]).toEqual(['Y', false])
    expect(readFact({ ...word, choices: undefined }, 'Z'.repeat(80))).toHaveLength(80)
  })
  it.each<[string, ProcedureFact, unknown, string]>([
    ['another word', word, 'Z', 'Grade must be one of X, Y.'],
    ['no word', word, 7, 'Grade must be one of X, Y.'],
    [
      'a word without end',
      { ...word, choices: undefined },
      'Z'.repeat(81),
      'Grade must be one of the known words.',
    ],
    ['a word for a yes', flag, 'yes', 'Wet must be yes or no.'],
  ])('%s is refused', (_what, asked, given, why) => {
    expect(sentence(() => readFact(asked, given))).toBe(why)
    expect(refusal(() => readFact(asked, given))![1]).toBe('pipe.wall')
  })
})

describe('the facts of a joint', () => {
  const procedure = {
    facts: [
      fact(),
      fact({ key: 'site.air', title: 'Air', dimension: 'temperature', unit: 'degC', optional: true }),
    ],
  } as unknown as Procedure
  it('are each read; one that need not be there may be left out', () => {
    expect(readFacts(procedure, { 'pipe.wall': '12' })).toEqual({ 'pipe.wall': 0.012 })
    for (const nothing of [undefined, null, ''])
      expect(readFacts(procedure, { 'pipe.wall': '12', 'site.air': nothing })).toEqual({ 'pipe.wall': 0.012 })
    expect(readFacts(procedure, { 'pipe.wall': '12', 'site.air': '0' })['site.air']).toBeCloseTo(0, 9)
  })
  it('one that must be there is asked for', () => {
    for (const nothing of [undefined, null, ''])
      expect(refusal(() => readFacts(procedure, { 'pipe.wall': nothing }))).toEqual(['missing', 'pipe.wall'])
  })
  it('one that nobody asks is refused', () =>
    expect(refusal(() => readFacts(procedure, { 'pipe.wall': '12', 'pipe.od': '1' }))).toEqual([
      ...['unknown-fact', 'pipe.od'],
    ]))
})

describe('the unit beside its field', () => {
  it('is that of the site, but for a nominal size, which is a name', () => {
    const units = () => [
      unitOfFact({ unit: 'mm' }),
      unitOfFact({ unit: 'mm', nominal: true }),
      unitOfFact({}),
    ]
    expect(units()).toEqual(['mm', 'mm', ''])
    showEverythingIn('us')
    expect(units()).toEqual(['in', 'mm', ''])
    expect(unitOfFact({ nominal: true })).toBe('')
  })
  it('goes with what was typed without one', () => {
    showEverythingIn('us')
    expect(withUnitOfFact('2', { unit: 'mm' })).toBe('2 in')
    expect(withUnitOfFact('2 mm', { unit: 'mm' })).toBe('2 mm')
    expect(withUnitOfFact('150', { unit: 'mm', nominal: true })).toBe('150')
    expect(withUnitOfFact('X', {})).toBe('X')
  })
})
