import { describe, expect, it } from 'vitest'
import { calculators } from '../../core/calculators/registry'
import { Problem } from '../../core/problem'
import { readQuantity } from '../../core/quantity/read'

const refusal = (act: () => unknown): Problem => {
  try {
    act()
  } catch (error) {
    if (error instanceof Problem) return error
    throw error
  }
  throw new Error('It was not refused.')
}
const formWord = (key: string) => `the ${key.toUpperCase()} field`

describe('a refusal in the words of whoever reads it', () => {
  it('says the field by its key, or as the form calls it', () => {
    const problem = refusal(() => readQuantity('3 bar', 'length', { field: 'wall' }))
    expect(problem.message).toBe('wall must be a length, but "bar" is a pressure.')
    expect(problem.named(() => 'Wall thickness')).toBe(
      'Wall thickness must be a length, but "bar" is a pressure.',
    )
  })

  it('names every field of a contradiction, also those that it is not about', () => {
    const thrust = calculators.find((c) => c.key === 'thrust')!
    const problem = refusal(() =>
      thrust.run({ kind: 'reducer', pressure: '10 bar', diameter: '200 mm', smaller: '300 mm' }),
    )
    expect(problem.field).toBe('smaller')
    expect(problem.message).toBe('smaller is larger than diameter.')
    expect(problem.named(formWord)).toBe('the SMALLER field is larger than the DIAMETER field.')
  })

  it.each(calculators.map((c) => [c.key, c] as const))('%s: what misses is called as on its form', (_, c) => {
    const problem = refusal(() => c.run({}))
    expect(problem.named(formWord)).not.toBe(problem.message)
    expect(problem.named(formWord).toLowerCase()).toContain(formWord(problem.field!).toLowerCase())
  })

  it('a sentence without a field is the same for everybody', () => {
    expect(new Problem('busy', 'Another one is at work.').named(formWord)).toBe('Another one is at work.')
  })
})
