import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { pareto, weekly, type Counted } from '../../../core/ncr/analysis'
import { repeatOf } from '../../../core/ncr/causes'

const report = (number: string, step: string | null) => ({ id: number, number, step })

describe('one of several', () => {
  it.each([
    ['the first', 'ovality', [], 1, false],
    ['the second', 'ovality', [report('N-1', 'ovality')], 2, false],
    [
      'the third asks for an action',
      'ovality',
      [report('N-2', 'ovality'), report('N-1', 'ovality')],
      3,
      true,
    ],
    ['another step is none', 'ovality', [report('N-1', 'scrape')], 1, false],
    ['either end is the same step', 'mark@upstream', [report('N-1', 'mark@downstream')], 2, false],
    ['a report without a step repeats nothing', null, [report('N-1', null)], 1, false],
  ] as const)('%s', (_what, own, others, times, asks) =>
    expect(repeatOf(own, others)).toMatchObject({ times, asksForAction: asks }),
  )
})

const row = (more: Partial<Counted> = {}): Counted => ({
  ...{ id: 'i', number: 'N', step: 'Ovality', crew: 'North', system: 'sockets', cause: null },
  ...{ week: '2026-03-02', closed: false, ...more },
})

describe('what comes most often', () => {
  it('comes first, with the share that it reaches', () => {
    const bars = pareto(
      [row(), row({ step: 'Scrape' }), row(), row({ step: 'Gap' }), row({ step: 'Gap' }), row()],
      'step',
    )
    expect(bars.map((b) => [b.key, b.count, Math.round(b.reached * 100)])).toEqual([
      ['Ovality', 3, 50],
      ['Gap', 2, 83],
      ['Scrape', 1, 100],
    ])
  })
  it('counts every report once, whatever it is counted by', () =>
    fc.assert(
      fc.property(fc.array(fc.constantFrom('a', 'b', 'c', null)), (list) => {
        const rows = list.map((cause) => row({ cause }))
        const bars = pareto(rows, 'cause')
        expect(bars.reduce((n, b) => n + b.count, 0)).toBe(rows.length)
        if (rows.length > 0) expect(bars.at(-1)!.reached).toBeCloseTo(1, 9)
      }),
    ))
  it('weeks without any stand between those with some', () =>
    expect(weekly([row(), row({ week: '2026-03-16' }), row({ week: '2026-03-16' })])).toEqual([
      { week: '2026-03-02', count: 1 },
      { week: '2026-03-09', count: 0 },
      { week: '2026-03-16', count: 2 },
    ]))
  it('nothing gives nothing', () => expect([pareto([], 'crew'), weekly([])]).toEqual([[], []]))
})
