import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { evaluateTest, readRequest } from '../../../core/pressure/evaluate'
import { testMethods } from '../../../core/pressure/methods/registry'
import { Problem } from '../../../core/problem'

interface Case {
  id: string
  note: string
  request: { method: string }
  expect: {
    error?: string
    verdict?: string
    numbers?: Record<string, number | null>
    verdicts?: Record<string, string>
    notes?: Record<string, number>
  }
  tolerance: number
}

const cases = (
  JSON.parse(readFileSync(new URL('../../reference/test-cases.json', import.meta.url), 'utf8')) as Case[]
).filter((c) => testMethods.has(c.request.method) || c.expect.error === 'method')

/** Worked by an independent program. */
describe('logs of tests', () => {
  it.each(cases)('$id: $note', ({ request, expect: wanted, tolerance }) => {
    if (wanted.error) {
      const refused = () => evaluateTest(readRequest(request))
      expect(refused).toThrow(Problem)
      expect(refused).toThrow(expect.objectContaining({ field: wanted.error }))
      return
    }
    const found = evaluateTest(readRequest(request))
    expect([found.verdict, found.sentence]).toEqual([wanted.verdict, found.sentence])
    for (const [key, value] of Object.entries(wanted.numbers ?? {})) {
      const is = found.numbers[key]!.value
      if (value === null || is === null) expect([key, is]).toEqual([key, value])
      else
        expect(Math.abs(is - value), `${key}: ${is}, not ${value}`).toBeLessThanOrEqual(
          Math.max(1e-9, Math.abs(value) * tolerance),
        )
    }
    for (const [key, verdict] of Object.entries(wanted.verdicts ?? {}))
      expect([key, found.numbers[key]!.verdict]).toEqual([key, verdict])
    if (wanted.notes)
      expect(Object.fromEntries(found.notes.map((n) => [n.kind, n.count]))).toEqual(wanted.notes)
  })
})
