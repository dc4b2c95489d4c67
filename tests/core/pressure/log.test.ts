import { describe, expect, it } from 'vitest'
import { lookAtLog, readPressureLog } from '../../../core/pressure/log'
import { elevationAt, profileBetween } from '../../../core/pressure/pack'

const at = (minute: number) => new Date(Date.UTC(2026, 2, 9, 6, minute)).toISOString()
const csv = (header: string, ...rows: string[]) => [header, ...rows].join('\n')

describe('reading a log', () => {
  it.each([
    ['pressure kPa', '1250', 1.25e6],
    ['pressure bar', '12.5', 1.25e6],
    ['pressure Pa', '1250000', 1.25e6],
    ['Pressure kPa', '1250', 1.25e6],
  ])('%s is read as what it says', (column, cell, pascals) =>
    expect(
      readPressureLog(csv(`time,${column}`, `${at(0)},${cell}`, `${at(1)},${cell}`)).samples.map(
        (s) => s.pressure,
      ),
    ).toEqual([pascals, pascals]),
  )
  it('a comma for a point, a mark at the beginning, semicolons and blank lines are taken', () => {
    const log = readPressureLog(
      `\uFEFFtime;pressure bar;temperature;makeup L\n${at(0)};12,5;11,4;0\n\n${at(1)};12,6;;0,5\n`,
    )
    expect(log.samples).toEqual([
      { t: 0, pressure: 12.5e5, pipe: 11.4, air: null, makeup: 0 },
      { t: 60, pressure: 12.6e5, pipe: null, air: null, makeup: 0.0005 },
    ])
  })
  it('times with any zone are one time', () =>
    expect(
      readPressureLog(csv('time,pressure kPa', '2026-03-09T06:00:00Z,1', '2026-03-09T08:01:00+02:00,1'))
        .samples[1]!.t,
    ).toBe(60))
  it.each([
    ['no rows', csv('time,pressure kPa'), 'bad-file'],
    ['one row', csv('time,pressure kPa', `${at(0)},1`), 'bad-file'],
    ['no pressure', csv('time,level', `${at(0)},1`, `${at(1)},1`), 'bad-file'],
    ['nothing at all', '', 'bad-file'],
    ['an empty pressure', csv('time,pressure kPa', `${at(0)},1`, `${at(1)},`), 'bad-row'],
    [
      'a time without its zone',
      csv('time,pressure kPa', '2026-03-09T06:00:00,1', '2026-03-09T06:01:00,1'),
      'unsaid',
    ],
    [
      'a day that does not exist',
      csv('time,pressure kPa', '2026-02-31T06:00:00Z,1', `${at(1)},1`),
      'bad-row',
    ],
    ['a formula for a number', csv('time,pressure kPa', `${at(0)},=1+1`, `${at(1)},1`), 'bad-row'],
    ['words for water', csv('time,pressure kPa,makeup L', `${at(0)},1,none`, `${at(1)},1,0`), 'bad-row'],
  ])('%s is refused', (_what, text, code) =>
    expect(() => readPressureLog(text)).toThrow(expect.objectContaining({ code })),
  )
})

describe('what of a log is no reading', () => {
  const good = [`${at(0)},1`, `${at(1)},1`]
  const refusal = (text: string) => {
    try {
      readPressureLog(text)
    } catch (error) {
      return error as { code: string; message: string; details?: { faults: object[]; row: number } }
    }
    throw new Error('It was read.')
  }
  it('rows of blanks are passed over; a row that says anything is not', () => {
    expect(readPressureLog(csv('time,pressure kPa', good[0]!, ' , ', good[1]!)).samples).toHaveLength(2)
    expect(refusal(csv('time,pressure kPa', good[0]!, ' ,3', good[1]!)).details).toEqual({
      ...{ row: 3, faults: [{ row: 3, column: 'time', message: 'is empty' }] },
    })
  })
  it('what is no pressure is said with what stands there, cut to what can be read', () => {
    const { details, message } = refusal(csv('time,pressure kPa', good[0]!, `${at(1)},${'x'.repeat(50)}`))
    expect(details!.faults).toEqual([
      { row: 3, column: 'pressure kPa', message: `"${'x'.repeat(30)}" is not a number` },
    ])
    expect(message).toContain('Row 3, column "pressure kPa"')
  })
  it('a file without its columns is told which it has', () => {
    expect(refusal(csv('level,flow', '1,2', '2,3')).message).toContain('Columns found: level, flow.')
    expect(refusal(csv(' ', '1', '2')).message).toContain('Columns found: none.')
  })
  it('is looked at by its first rows, and needs one', () => {
    expect(
      lookAtLog(csv('time,pressure kPa', ...Array.from({ length: 9 }, () => good[0]!))).rows,
    ).toHaveLength(5)
    expect(() => lookAtLog('time,pressure kPa')).toThrow(expect.objectContaining({ code: 'bad-file' }))
  })
  it('has at most so many rows', () =>
    expect(refusal(`time,pressure kPa\n${'0,1\n'.repeat(200_001)}`)).toMatchObject({
      code: 'bad-file',
      message: 'The log has more than 200000 samples.',
    }))
})

describe('a profile', () => {
  const profile = [
    { station: 0, elevation: 10 },
    { station: 100, elevation: 20 },
    { station: 300, elevation: 0 },
  ]
  it.each([
    [0, 10],
    [50, 15],
    [100, 20],
    [200, 10],
    [300, 0],
    [-5, 10],
    [999, 0],
  ])('at %i m lies at %i m', (station, elevation) => expect(elevationAt(profile, station)).toBe(elevation))
  it('between two stations keeps its bends and gets its ends', () =>
    expect(profileBetween(profile, 50, 200)).toEqual([
      { station: 50, elevation: 15 },
      { station: 100, elevation: 20 },
      { station: 200, elevation: 10 },
    ]))
})
