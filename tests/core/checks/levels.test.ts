import { describe, expect, it } from 'vitest'
import type { LevelRow } from '../../../core/calculators/level-book'
import { entry } from '../support'
import { reachOf } from './reach'

const check = { kind: 'levels', start: 100, close: null, distance: null }
const booked = (rows: LevelRow[], more: object = {}) =>
  reachOf({ levels: { ...check, ...more } }).judge([entry('levels', 'levels', { rows })]).steps[0]!
const codes = (rows: LevelRow[], more: object = {}) => booked(rows, more).faults.map((f) => f.code)

/** A run over pipes at these stations with these inverts, against a design. */
const pipes = (...list: [station: number | undefined, invert: number, design?: number][]): LevelRow[] => [
  { backsight: 1.5 },
  ...list.map(([station, invert, design = invert]) => ({
    intermediate: 101.5 - invert,
    design,
    ...(station === undefined ? {} : { station }),
  })),
  { foresight: 1.5 },
]

describe('inverts against design', () => {
  it.each<[number, string[]]>([
    [0.01, []],
    [-0.01, []],
    [0.011, ['off-level']],
    [-0.011, ['off-level']],
  ])('%f m off: %j', (off, want) => expect(codes(pipes([0, 99 + off, 99]))).toEqual(want))
  it('within a limit of the procedure’s own', () =>
    expect(codes(pipes([0, 99.02, 99]), { limits: { level: '25 mm' } })).toEqual([]))
  it('says which pipe lies how', () =>
    expect(booked(pipes([0, 99], [6, 98.97, 99])).sentence).toMatch(/The pipe at 6 m lies 30 mm too low/))
})

describe('a gravity line', () => {
  const gravity = { gravity: true }
  it.each<[string, LevelRow[], object, string[]]>([
    ['falls', pipes([0, 99], [6, 98.99], [12, 98.98]), {}, []],
    ['stands level', pipes([0, 99], [6, 99]), {}, ['back-fall']],
    ['rises by a millimetre', pipes([0, 99], [6, 99.001]), {}, ['back-fall']],
    ['is booked in another order', pipes([6, 98.99], [0, 99]), {}, []],
    ['flows the other way', pipes([0, 99], [6, 99.01]), { against: true }, []],
    ['falls where it should rise', pipes([0, 99], [6, 98.99]), { against: true }, ['back-fall']],
    ['has a pipe without a station', pipes([0, 99], [undefined, 98.9]), {}, ['no-station']],
  ])('that %s', (_what, rows, more, want) => expect(codes(rows, { ...gravity, ...more })).toEqual(want))
  it('a pressure line may rise', () => expect(codes(pipes([0, 99], [6, 99.5], [undefined, 99]))).toEqual([]))
})

describe('how the run closes', () => {
  const close = (off: number, more: object = {}) =>
    booked(pipes([0, 99, 90]), { close: 100 - off, distance: 160, ...more })
  // 12 mm · √0.16 = 4.8 mm
  it.each<[number, string[]]>([
    [0.0048, ['off-level']],
    [0.0049, ['misclosure']],
    [-0.0049, ['misclosure']],
  ])('%f m off: %j', (off, want) => expect(close(off).faults.map((f) => f.code)).toEqual(want))
  it('is not known without the length of the run', () =>
    expect(booked(pipes([0, 99]), { close: 100 }).state).toBe('in-work'))
})

describe('a booking', () => {
  it('that makes no run is blocked, with the row at fault', () => {
    const found = booked([{ backsight: 1 }, { intermediate: 1, foresight: 1 }])
    expect([found.state, found.sentence]).toEqual(['blocked', expect.stringMatching(/Row 2 of sights/)])
  })
  it('without any pipe is not finished', () =>
    expect(booked([{ backsight: 1.5 }, { foresight: 1.4 }]).state).toBe('in-work'))
  it('of later is judged, and alone has findings', () => {
    const reach = reachOf({ levels: check })
    const [wrong, right] = [pipes([0, 99.5, 99]), pipes([0, 99])].map((rows, minute) =>
      entry('levels', 'levels', { rows }, minute),
    ) as [ReturnType<typeof entry>, ReturnType<typeof entry>]
    expect(reach.judge([wrong, right]).steps[0]).toMatchObject({ state: 'accepted', faults: [] })
    expect(reach.judge([wrong]).steps[0]!.state).toBe('rejected')
  })
  it('without the benchmark cannot be worked out', () => {
    const reach = reachOf({ levels: { ...check, start: 'benchmark * 1 m' } }, { benchmark: NaN })
    expect(reach.judge([entry('levels', 'levels', { rows: pipes([0, 99]) })]).steps[0]!.state).toBe('blocked')
  })
})
