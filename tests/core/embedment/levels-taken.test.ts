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
    const { rows, faults } = take('bs,fs\n1.42,\n,high\n')
    expect(faults).toEqual([{ row: 3, column: 'fs', message: expect.stringContaining('number') }])
    expect(rows).toEqual([{ backsight: 1.42 }])
  })
  it('a file without foresights is asked about', () =>
    expect(() => take('bs,is\n1,2\n')).toThrow(/Say which column of the file is "Foresight"/))
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
  it('falls are told between the pipes, in the direction of flow', () =>
    expect(section(booked('one', 1, [0, 99], [6, 98.94], [12, 98.97])).grades).toEqual([
      { from: 0, to: 6, slope: expect.closeTo(0.01, 9) },
      { from: 6, to: 12, slope: expect.closeTo(-0.005, 9) },
    ]))
})
