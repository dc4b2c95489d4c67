import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { judge } from '../../../core/judgement/judge'
import { readFacts } from '../../../core/procedure/facts'
import { loadProcedure } from '../../../core/procedure/load'
import { Problem } from '../../../core/problem'
import type { Entry } from '../../../core/record/entry'

interface Case {
  id: string
  note: string
  record: {
    procedure: string
    facts: Record<string, unknown>
    now: string
    entries: (Omit<Entry, 'recordedAt'> & { recordedAt: string })[]
  }
  expect: { refused: true } | { step: string; state: string; codes?: Record<string, string[]> }[]
}

const cases = JSON.parse(
  readFileSync(new URL('../../reference/reach-cases.json', import.meta.url), 'utf8'),
) as Case[]

/** Worked by an independent program: levels, codes and states of reaches. */
describe('reach cases', () => {
  it.each(cases)('$id: $note', ({ record, expect: wanted }) => {
    if ('refused' in wanted) return expect(() => loadProcedure(record.procedure)).toThrow(Problem)
    const compiled = loadProcedure(record.procedure)
    const entries = record.entries.map((e) => ({ ...e, recordedAt: Date.parse(e.recordedAt) }))
    const { steps } = judge(
      compiled,
      readFacts(compiled.procedure, record.facts),
      entries,
      Date.parse(record.now),
    )
    for (const { step, state, codes } of wanted) {
      const found = steps.find((s) => s.key === step)!
      expect([step, found.state, found.sentence]).toEqual([step, state, found.sentence])
      for (const [entry, list] of Object.entries(codes ?? {}))
        expect(found.faults.filter((f) => f.entry === entry).map((f) => f.code)).toEqual(list)
    }
  })
})
