import { describe, expect, it } from 'vitest'
import { levelColumns, readLevelFile } from '../../../core/embedment/level-file'
import { longSection } from '../../../core/embedment/long-section'
import { guessMapping } from '../../../core/files/columns'
import { readCsv } from '../../../core/files/table'
import { slotsOf } from '../../../core/judgement/slots'
import { reachOf } from '../checks/reach'
import { entry } from '../support'

const bytes = (text: string) => new TextEncoder().encode(text)
const take = (text: string, unit: 'm' | 'mm' | 'ft' = 'm', own = {}) => {
  const table = readCsv(bytes(text))
  return readLevelFile(table, { ...guessMapping(levelColumns, table.header), ...own }, unit)
}

describe('sights from an instrument’s file', () => {
  it('are found by their headings', () =>
    expect(
      take('Point,BS,IS,FS,Chainage,Design level\nBM,1.42,,,,\nP1,,2.1,,6,99.2\nBM,,,1.421,,\n'),
    ).toEqual({
      rows: [{ backsight: 1.42 }, { intermediate: 2.1, station: 6, design: 99.2 }, { foresight: 1.421 }],
      faults: [],
    }))
  it('by a map where the headings say nothing, in millimetres, with decimal commas', () =>
    expect(
      take('a;b;c\n1420,5;;\n;;1421\n', 'mm', { backsight: 'a', intermediate: 'b', foresight: 'c' }).rows,
    ).toEqual([{ backsight: expect.closeTo(1.4205, 9) }, { foresight: 1.421 }]))
  it('a cell that is no length is named, and nothing taken for it', () => {
    const { rows, faults } = take('bs,fs\n1.42,\n,high\n1.7O1,2 kPa\n')
    expect(faults.map((f) => `${f.row} ${f.column} ${f.message.split(' is no length')[0]}`)).toEqual([
      '3 fs "high"',
      '4 bs "1.7O1"',
      '4 fs "2 kPa"',
    ])
    expect(rows).toEqual([{ backsight: 1.42 }])
  })
  it('a file without foresights is asked about', () =>
    expect(() => take('bs,is\n1,2\n')).toThrow(/Say which column of the file is "Foresight"/))
  it('of an intermediate sight alone a row is made, of a design alone none', () =>
    expect(take('bs,is,fs,design\n,2.1,,\n,,,99.2\n').rows).toEqual([{ intermediate: 2.1 }]))
  it('a thousand rows are a booking', () =>
    expect(take(`bs,fs\n${'1,\n'.repeat(1000)}`).rows).toHaveLength(1000))
  it('spaces round a figure are none of it', () =>
    expect(take('bs,fs\n 1.42 ,\n').rows).toEqual([{ backsight: 1.42 }]))
  it('a file that is no booking any more is refused', () =>
    expect(() => take(`bs,fs\n${'1,\n'.repeat(1001)}`)).toThrow(/at most 1000 rows/))
})

describe('from the side', () => {
  const check = { kind: 'levels', start: 100, gravity: true }
  const booked = (id: string, minute: number, ...inverts: [number, number][]) =>
    entry(
      'levels',
      'levels',
      {
        rows: [
          { backsight: 1.5 },
          ...inverts.map(([station, level]) => ({ intermediate: 101.5 - level, station, design: 99 })),
          { foresight: 1.5 },
        ],
      },
      minute,
    )
  const section = (...entries: ReturnType<typeof booked>[]) => {
    const { compiled } = reachOf({ levels: check })
    return longSection(compiled, slotsOf(compiled, {}, entries), entries)!
  }
  it('a pipe that the next push moved shows by how much', () => {
    const moved = section(
      booked('before', 1, [0, 99.002], [6, 98.98]),
      booked('after', 9, [0, 99.005], [6, 98.98], [12, 98.95]),
    ).inverts.map((p) => p.moved)
    expect(moved.map((m) => m && Math.round(m * 1000))).toEqual([3, 0, null])
  })
  it('an earlier booking that cannot be worked through moves nothing', () => {
    const broken = entry('levels', 'levels', { rows: [{ foresight: 1.5 }] }, 1)
    expect(section(broken, booked('after', 9, [0, 99.005])).inverts.map((p) => p.moved)).toEqual([null])
  })
  it('a pipe within 50 mm of where it stood is the same pipe, and no other is', () => {
    const moved = (station: number) =>
      section(booked('before', 1, [0, 99]), booked('after', 9, [station, 99.01])).inverts[0]!.moved
    expect([moved(0.05), moved(0.06)]).toEqual([expect.closeTo(0.01, 9), null])
  })
  it('two sights of one pipe have no fall between them', () =>
    expect(section(booked('one', 1, [0, 99], [0.05, 98.9], [6, 98.94])).grades).toHaveLength(1))
  it('pipes stand in the order of the line, whatever order they were read in', () =>
    expect(section(booked('one', 1, [12, 98.9], [0, 99], [6, 98.95])).inverts.map((p) => p.station)).toEqual([
      0, 6, 12,
    ]))
  it('a sight without a station is none of the line', () => {
    const free = entry(
      'levels',
      'levels',
      { rows: [{ backsight: 1.5 }, { intermediate: 2.5, design: 99 }, { foresight: 1.5 }] },
      1,
    )
    expect(section(free).inverts).toEqual([])
  })
  it('as far off as is allowed is not off, and a hair more is', () => {
    const off = (by: number) => section(booked('one', 1, [0, 99 + by])).inverts[0]!.off
    const { tolerance } = section(booked('one', 1, [0, 99]))
    expect([off(tolerance), off(-tolerance), off(tolerance + 1e-6), off(-tolerance - 1e-6)]).toEqual([
      ...[false, false],
      ...[true, true],
    ])
  })
  it('a line laid against the flow falls the other way', () => {
    const { compiled } = reachOf({ levels: { ...check, against: 'true' } })
    const entries = [booked('one', 1, [0, 99], [6, 99.06])]
    const { grades, inverts } = longSection(compiled, slotsOf(compiled, {}, entries), entries)!
    expect(grades[0]!.slope).toBeCloseTo(0.01, 9)
    expect(inverts.some((p) => p.back)).toBe(false)
  })
  it('where nothing has to flow none falls back', () => {
    const { compiled } = reachOf({ levels: { ...check, gravity: false } })
    const entries = [booked('one', 1, [0, 99], [6, 99.06])]
    expect(longSection(compiled, slotsOf(compiled, {}, entries), entries)!.inverts.some((p) => p.back)).toBe(
      false,
    )
  })
  it('is nothing where no levels are asked for, and where a booking cannot be worked through', () => {
    const { compiled } = reachOf({ lifts: { kind: 'lifts', od: 'pipe.od' } })
    expect(longSection(compiled, slotsOf(compiled, {}, []), [])).toBeNull()
    expect(section(entry('levels', 'levels', { rows: [{ foresight: 1.5 }] }, 1))).toBeNull()
  })
  it('falls are told between the pipes, in the direction of flow', () =>
    expect(section(booked('one', 1, [0, 99], [6, 98.94], [12, 98.97])).grades).toEqual([
      { from: 0, to: 6, slope: expect.closeTo(0.01, 9) },
      { from: 6, to: 12, slope: expect.closeTo(-0.005, 9) },
    ]))
})
