import { readdirSync, readFileSync } from 'node:fs'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { readFact, startOf, typedFact } from '../../../core/procedure/facts'
import { loadProcedure } from '../../../core/procedure/load'
import type { ProcedureFact } from '../../../core/procedure/types'
import { readQuantity } from '../../../core/quantity/read'

const procedures = readdirSync('procedures').filter((f) => f.endsWith('.yaml'))
const facts = procedures.flatMap((f) =>
  loadProcedure(readFileSync(`procedures/${f}`, 'utf8')).procedure.facts.map(
    (fact) => [f, fact.key, fact] as const,
  ),
)

/** A value that the fact takes, SI. */
function within(fact: ProcedureFact): fc.Arbitrary<number | string | boolean> {
  if (fact.dimension === 'flag') return fc.boolean()
  if (fact.dimension === 'word') return fc.constantFrom(...(fact.choices ?? ['word']))
  const bound = (text: string | undefined, otherwise: number) =>
    text === undefined ? otherwise : readQuantity(text, fact.dimension as 'length')
  return fc.double({
    min: bound(fact.min, 0.001),
    max: bound(fact.max, 100),
    noNaN: true,
    noDefaultInfinity: true,
  })
}

describe('a fact taken over from the joint before', () => {
  it.each(facts)('%s %s: typed again it is the same value', (_file, _key, fact) => {
    fc.assert(
      fc.property(within(fact), (value) => {
        const again = readFact({ ...fact, min: undefined, max: undefined }, typedFact(fact, value))
        if (typeof value === 'number')
          expect(Math.abs((again as number) - value)).toBeLessThanOrEqual(
            1e-10 * Math.max(1000, Math.abs(value)),
          )
        else expect(again).toBe(value)
      }),
      { numRuns: 30 },
    )
  })
  it.each<[ProcedureFact['dimension'], string, number, string]>([
    ['length', 'mm', 0.76, '760'],
    ['length', 'in', 0.0254 * 1.5, '1.5'],
    ['pressure', 'bar', 16e5, '16'],
    ['temperature', '°C', -7.5, '-7.5'],
  ])('%s in %s: %s is typed "%s"', (dimension, unit, value, text) => {
    const fact = { key: 'x', title: 'X', dimension, unit, from: 'pipe' } as ProcedureFact
    expect(typedFact(fact, value)).toBe(text)
  })
})

describe('what the form of a fact starts with', () => {
  const fact = (more: Partial<ProcedureFact>): ProcedureFact =>
    ({ key: 'x', title: 'X', dimension: 'time', unit: 's', from: 'site', ...more }) as ProcedureFact
  it.each<[string, Partial<ProcedureFact>, string | boolean]>([
    ['its default, in the unit that stands beside it', { default: '1 min' }, '60'],
    ['nothing without one', {}, ''],
    ['no, where it is a yes or no', { dimension: 'flag' }, false],
    ['a default that cannot be read, as it is written', { default: '3 bar' }, '3 bar'],
    ['a default out of bounds, as it is written', { default: '90 s', max: '1 min' }, '90 s'],
  ])('%s', (_, more, start) => {
    expect(startOf(fact(more))).toBe(start)
  })
})
