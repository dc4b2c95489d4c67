import { describe, expect, it } from 'vitest'
import { missedBy, scores, together, type Mutant } from '../mutants/scores'

/** What a run of `npm run mutants` says must not flatter. */
const fault = (file: string, line: number, status: string, change = 'true'): Mutant => ({
  file: `core/${file}`,
  location: { start: { line, column: 5 }, end: { line, column: 9 } },
  ...{ status, change },
})

describe('the score of a folder', () => {
  it('is what was noticed of what says something of the tests', () => {
    const told = scores([
      fault('record/chain.ts', 1, 'Killed'),
      fault('record/chain.ts', 2, 'Timeout'),
      fault('record/chain.ts', 3, 'Survived'),
      fault('record/late.ts', 4, 'NoCoverage'),
      fault('record/late.ts', 5, 'Ignored'),
    ])
    expect(told.table).toMatch(/^core\/record +2 of 4 +50\.0 % +85 asked$/)
    expect(told.survivors.map((s) => s.location.start.line)).toEqual([3, 4])
    expect(told.reached).toBe(false)
  })
  it.each([
    ['judgement', 84, false],
    ['judgement', 85, true],
    ['yard', 74, false],
    ['yard', 75, true],
  ])('of %s with %i of 100 is enough: %s', (folder, killed, enough) => {
    const faults = Array.from({ length: 100 }, (_, i) =>
      fault(`${folder}/a.ts`, i + 1, i < killed ? 'Killed' : 'Survived'),
    )
    expect(scores(faults).reached).toBe(enough)
  })
  it('is not enough in all where one folder falls short', () =>
    expect(scores([fault('yard/a.ts', 1, 'Killed'), fault('lots/a.ts', 1, 'Survived')]).reached).toBe(false))
})

describe('what the tests of the own folder missed', () => {
  const near = [
    fault('yard/a.ts', 1, 'Killed'),
    fault('yard/a.ts', 2, 'Survived', 'true'),
    fault('yard/a.ts', 2, 'Survived', 'false'),
    fault('yard/a.ts', 3, 'NoCoverage'),
  ]
  it('goes to the others place by place, each once, with columns from 0', () =>
    expect(missedBy(near)).toEqual(['core/yard/a.ts:2:4-2:8', 'core/yard/a.ts:3:4-3:8']))
  it('counts as noticed only where they noticed that very fault', () => {
    const far = [
      fault('yard/a.ts', 2, 'Killed', 'false'),
      fault('yard/a.ts', 2, 'NoCoverage', 'true'),
      fault('yard/a.ts', 3, 'Ignored'),
      // Within a place that was missed, but noticed before: it changes nothing.
      fault('yard/a.ts', 1, 'Survived'),
    ]
    expect(together(near, far).map((m) => m.status)).toEqual(['Killed', 'Survived', 'Killed', 'NoCoverage'])
  })
})
