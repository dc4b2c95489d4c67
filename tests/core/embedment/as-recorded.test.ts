import { describe, expect, it } from 'vitest'
import { asRecorded, AS_RECORDED } from '../../../core/embedment/as-recorded'
import { judge } from '../../../core/judgement/judge'
import { loadProcedure } from '../../../core/procedure/load'
import { lift } from '../checks/reach'
import { entry, T0 } from '../support'

const criteria = {
  ...{ maxLift: 0.3, minPasses: 3, maxDifference: 0.2, minCompaction: 0.95 },
  ...{ compactionUncertainty: 0.01, coverByHand: 0.3, liftsPerTest: 2 },
}
const document = asRecorded(criteria, 'A')
const compiled = loadProcedure(document)
const states = (...entries: ReturnType<typeof entry>[]) =>
  Object.fromEntries(
    judge(compiled, { 'pipe.od': 0.4 }, entries, T0 + 86_400_000).steps.map((s) => [s.key, s.state]),
  )
const density = (share: number, minute: number) =>
  entry(
    'density',
    'density',
    { station: 1, side: 'left', method: 'sand', wetDensity: share * 2160, maximum: 2000, moisture: 0.08 },
    minute,
  )

describe('what reaches were judged against before embedment had procedures', () => {
  it('is a procedure of reaches that holds nothing back', () => {
    const { procedure } = compiled
    expect([procedure.key, procedure.system, procedure.subject, procedure.gate]).toEqual([
      ...[AS_RECORDED, AS_RECORDED],
      ...['reach', 'none'],
    ])
    expect(procedure.cautions).toHaveLength(1)
  })
  it('is the same document for the same criteria, and another for others', () => {
    expect(asRecorded({ ...criteria }, 'A')).toBe(document)
    expect(asRecorded({ ...criteria, minPasses: 4 }, 'A')).not.toBe(document)
  })
  it.each([
    ['a lift as thick as was allowed stands', [lift('left', 0.3, { passes: 3 }, 1)], 'in-work'],
    ['a thicker one does not', [lift('left', 0.31, {}, 1)], 'rejected'],
    ['nor one of too few passes', [lift('left', 0.3, { passes: 2 }, 1)], 'rejected'],
  ])('%s', (_what, entries, state) => expect(states(...entries).lifts).toBe(state))
  it('one side may be ahead by what was allowed', () => {
    const left = (...thick: number[]) => states(...thick.map((t, i) => lift('left', t, {}, i + 1))).lifts
    expect(left(0.2, 0.1)).toBe('in-work')
    expect(left(0.2, 0.1, 0.1)).toBe('rejected')
  })
  it('a thickness booked as laid counts as compacted: cover over the crown ends it', () => {
    const both = (minute: number) => [lift('both', 0.2, {}, minute)]
    const upTo = (lifts: number) => Array.from({ length: lifts }, (_v, i) => both(i + 1)).flat()
    // 0.4 m of pipe and 0.3 m of cover are four lifts of 0.2 m.
    expect(states(...upTo(3)).lifts).toBe('in-work')
    expect(states(...upTo(4)).lifts).toBe('accepted')
  })
  it('density is asked once for so many lifts', () => {
    const fill = Array.from({ length: 4 }, (_v, i) => lift('both', 0.2, {}, i + 1))
    // 0.8 m at a test for each 2 · 0.3 m: two.
    expect(states(...fill, density(0.97, 10)).density).not.toBe('accepted')
    expect(states(...fill, density(0.97, 10), density(0.98, 11)).density).toBe('accepted')
    expect(states(...fill, density(0.93, 10), density(0.98, 11)).density).toBe('rejected')
  })
})
