import { describe, expect, it } from 'vitest'
import { answer } from '../../../core/calculators/define'
import { calculators, findCalculator } from '../../../core/calculators/registry'
import { Problem } from '../../../core/problem'
import cases from '../../reference/calculator-cases.json'

interface Case {
  key: string
  inputs: Record<string, unknown>
  expect?: Record<string, unknown>
  error?: string
  tolerance?: number
  note?: string
}

const bare = (value: unknown): unknown =>
  Array.isArray(value)
    ? value.map(bare)
    : typeof value === 'object' && value !== null && 'value' in value
      ? value.value
      : value

const close = (got: unknown, want: unknown, tolerance: number): boolean => {
  if (Array.isArray(want))
    return (
      Array.isArray(got) && got.length === want.length && want.every((w, i) => close(got[i], w, tolerance))
    )
  if (typeof want === 'number' && typeof got === 'number')
    return Math.abs(got - want) <= (want === 0 ? 1e-12 : tolerance * Math.abs(want))
  return got === want
}

describe('worked cases computed by an independent program', () => {
  it.each((cases as Case[]).map((c, i) => [`${c.key} #${i}: ${c.note ?? ''}`, c] as const))(
    '%s',
    (_name, c) => {
      if (c.error) {
        let problem: unknown
        try {
          answer(findCalculator(c.key), c.inputs)
        } catch (error) {
          problem = error
        }
        expect(problem).toBeInstanceOf(Problem)
        expect((problem as Problem).field).toBe(c.error)
        return
      }
      const { outputs, working } = answer(findCalculator(c.key), c.inputs)
      for (const [key, want] of Object.entries(c.expect!)) {
        expect(
          close(bare(outputs[key]), want, c.tolerance ?? 1e-9),
          `${key}: got ${JSON.stringify(outputs[key])}, want ${JSON.stringify(want)}`,
        ).toBe(true)
      }
      expect(working.length).toBeGreaterThan(0)
    },
  )

  it('covers most of the registry', () => {
    const covered = new Set((cases as Case[]).map((c) => c.key))
    expect(calculators.filter((c) => !covered.has(c.key)).map((c) => c.key)).toEqual([])
  })
})
