import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { levelBook, levelSights, type LevelRow } from '../../../core/calculators/level-book'

const book: LevelRow[] = [
  { backsight: 1.5 },
  { intermediate: 2.1, station: 0, design: 99.4 },
  { foresight: 1.2, backsight: 1.8 },
  { intermediate: 2.4 },
  { foresight: 2.105 },
]

describe('a level book reduced both ways', () => {
  const { rows, ...sums } = levelBook({ rows: book }, 100)
  it('gives rises, falls and the height of each setup', () => {
    expect(rows.map((r) => [r.rise, r.fall].map((v) => v && Math.round(v * 1000)))).toEqual([
      [null, null],
      [null, 600],
      [900, null],
      [null, 600],
      [295, null],
    ])
    expect(rows.map((r) => Number(r.sight.toFixed(3)))).toEqual([101.5, 101.5, 102.1, 102.1, 102.1])
  })
  it('proves itself by its sums', () => {
    expect(sums.agrees).toBe(true)
    expect(sums.backsights - sums.foresights).toBeCloseTo(-0.005, 9)
    expect(sums.rises - sums.falls).toBeCloseTo(-0.005, 9)
  })
})

const reading = fc.integer({ min: 1, max: 4000 }).map((mm) => mm / 1000)
const run = fc
  .record({
    first: reading,
    between: fc.array(
      fc.oneof(
        reading.map((intermediate) => ({ intermediate })),
        fc.tuple(reading, reading).map(([foresight, backsight]) => ({ foresight, backsight })),
      ),
      { maxLength: 40 },
    ),
    last: reading,
  })
  .map(({ first, between, last }): LevelRow[] => [{ backsight: first }, ...between, { foresight: last }])

it('whatever is booked, both ways agree at every row', () => {
  fc.assert(
    fc.property(run, fc.integer({ min: -50, max: 900 }), (rows, start) => {
      const { rows: reduced, agrees } = levelBook({ rows }, start)
      expect(agrees).toBe(true)
      for (const r of reduced) expect(r.byCollimation).toBeCloseTo(r.byRise, 9)
    }),
  )
})

describe('a laser’s beam', () => {
  /** A beam 1.2 m over a benchmark of 100 m at station 10, falling 1 % toward rising stations. */
  const laser = { station: 10, grade: 0.01 }
  const read = (...rows: LevelRow[]) =>
    levelBook({ rows: [{ backsight: 1.2 }, ...rows], laser }, 100).rows.map((r) =>
      Number(r.byRise.toFixed(6)),
    )
  it('falls with the line: an equal reading everywhere is a pipe at its grade', () =>
    expect(
      read(
        { intermediate: 0.5, station: 20 },
        { intermediate: 0.5, station: 30 },
        { foresight: 0.5, station: 60 },
      ),
    ).toEqual([100, 100.6, 100.5, 100.2]))
  it('against rising stations it rises', () =>
    expect(
      levelSights({
        rows: [{ backsight: 1 }, { foresight: 1, station: 0 }],
        laser: { station: 10, grade: 0.01 },
      }).map((s) => s.foresight ?? s.backsight),
    ).toEqual([1, 0.9]))
  it.each<[string, LevelRow[], RegExp]>([
    ['a reading without a station', [{ foresight: 1 }], /Row 2: what is read off a beam needs its station/],
    [
      'a change point',
      [
        { foresight: 1, backsight: 1.1, station: 5 },
        { foresight: 1, station: 9 },
      ],
      /Row 2: a beam has no change point/,
    ],
  ])('%s is refused', (_what, rows, says) => expect(() => read(...rows)).toThrow(says))
})
