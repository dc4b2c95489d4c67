import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { cleanRows, readRows, type Row } from '../../../core/pressure/rows'

const line = (count: number, step: number, pressure: (t: number) => number | null): Row[] =>
  Array.from({ length: count }, (_v, i) => ({
    t: i * step,
    pressure: pressure(i * step),
    pipe: null,
    air: null,
    makeup: 0,
  }))
const kinds = (rows: Row[]) => Object.fromEntries(cleanRows(rows).notes.map((n) => [n.kind, n.count]))

describe('cleaning a log', () => {
  it('a good log stays as it is', () => {
    const good = line(100, 60, (t) => 1e6 - t)
    expect(cleanRows(good)).toMatchObject({ rows: good, notes: [] })
  })
  it('a time already taken is a duplicate, a time that runs backward a clock jump', () => {
    const good = line(60, 30, () => 1e6)
    const broken = [
      ...good.slice(0, 30),
      { ...good[29]!, pressure: 1 },
      good[10]!,
      { ...good[20]!, t: 605 },
      ...good.slice(30),
    ]
    expect(kinds(broken)).toEqual({ duplicate: 2, 'clock-jump': 1 })
    expect(cleanRows(broken).rows).toEqual(good)
  })
  it.each([
    [1e6, 6001, 1],
    [1e6, 5999, 0],
    [24e3, 241, 1],
    [24e3, 239, 0],
  ])('at %i Pa a row %i Pa off its neighbours counts as %i spikes', (level, off, want) => {
    const rows = line(20, 30, (t) => (t === 300 ? level + off : level))
    expect(kinds(rows).spike ?? 0).toBe(want)
  })
  it('the first and last two rows are never spikes', () =>
    expect(kinds(line(20, 30, (t) => (t < 60 || t > 510 ? 2e6 : 1e6)))).toEqual({}))
  it('a true step is no spike', () => {
    const stepped = line(60, 30, (t) => (t < 900 ? 1e6 : 0.93e6))
    expect(cleanRows(stepped).rows).toEqual(stepped)
  })
  it.each([
    [300, {}],
    [301, { gap: 1 }],
  ])('a hole of %i s in rows of a minute', (hole, want) => {
    const rows = line(40, 60, () => 1e6).map((r) => (r.t > 600 ? { ...r, t: r.t + hole - 60 } : r))
    expect(kinds(rows)).toEqual(want)
  })
  it('a null reading is passed over', () =>
    expect(kinds(line(20, 30, (t) => (t === 300 ? null : 1e6)))).toEqual({}))
  it('times come out rising and no row is made up, whatever came in', () => {
    const row = fc.record({
      t: fc.integer({ min: 0, max: 5000 }),
      pressure: fc.double({ min: -1e5, max: 2e6, noNaN: true }),
      pipe: fc.constant(null),
      air: fc.constant(null),
      makeup: fc.constant(0),
    })
    fc.assert(
      fc.property(fc.array(row, { minLength: 2, maxLength: 60 }), (rows) => {
        const kept = cleanRows(rows).rows
        for (let i = 1; i < kept.length; i++) expect(kept[i]!.t).toBeGreaterThan(kept[i - 1]!.t)
        for (const r of kept) expect(rows).toContain(r)
      }),
    )
  })
})

describe('rows as they come', () => {
  it.each<[string, unknown]>([
    ['no list', {}],
    ['one row', [[0, 1, null, null, null]]],
    [
      'four columns',
      [
        [0, 1, null, null],
        [1, 1, null, null],
      ],
    ],
    [
      'a word',
      [
        [0, 'x', null, null, null],
        [1, 1, null, null, null],
      ],
    ],
    [
      'no time',
      [
        [null, 1, null, null, null],
        [1, 1, null, null, null],
      ],
    ],
  ])('%s is refused', (_what, raw) =>
    expect(() => readRows(raw)).toThrow(expect.objectContaining({ field: 'rows' })),
  )
})
