import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { lookAtLog, readPressureLog, writePressureLog, type Sample } from '../../../core/pressure/log'
import { momentReader, readerOf, type LogMap } from '../../../core/pressure/log-map'

const csv = (header: string, ...rows: string[]) => [header, ...rows].join('\n')
const two = (header: string, a: string, b: string) => csv(header, a, b)
const refusal = (text: string, map: Partial<LogMap> = {}) => {
  try {
    readPressureLog(text, map)
  } catch (error) {
    return error as { code: string; field: string; details?: Record<string, unknown> }
  }
  return null
}

describe('what a logger wrote, and what only a person can say of it', () => {
  it.each<[string, string, Partial<LogMap>, Partial<Sample>]>([
    ['bar in brackets', 'Time,Pressure (bar)', {}, { pressure: 12.5e5 }],
    ['psi', 'Time,Pressure [psi]', {}, { pressure: 12.5 * 6894.757293168361 }],
    ['a unit that was said', 'Time,P', { pressure: 'P', pressureUnit: 'mbar' }, { pressure: 1250 }],
  ])('a pressure in %s', (_what, header, map, expected) => {
    const log = readPressureLog(two(header, '2026-03-09T06:00:00Z,12.5', '2026-03-09T06:01:00Z,12.5'), map)
    expect(log.samples[1]!.pressure).toBeCloseTo(expected.pressure!, 6)
  })
  it.each<[string, string, Partial<LogMap>, string]>([
    [
      'a pressure without a unit',
      two('time,pressure', '2026-03-09T06:00:00Z,1', '2026-03-09T06:01:00Z,1'),
      {},
      'pressureUnit',
    ],
    [
      'water without a unit',
      two('time,pressure kPa,makeup', '2026-03-09T06:00:00Z,1,0', '2026-03-09T06:01:00Z,1,0'),
      {},
      'makeupUnit',
    ],
    [
      'times without a zone',
      two('time,pressure kPa', '2026-03-09 06:00:00,1', '2026-03-09 06:01:00,1'),
      {},
      'zone',
    ],
    [
      'days that may be months',
      two('time,pressure kPa', '03/04/2026 06:00:00,1', '03/04/2026 06:01:00,1'),
      { zone: 'UTC' },
      'form',
    ],
    ['seconds from nowhere', two('seconds,pressure kPa', '0,1', '60,1'), {}, 'begin'],
    ['no time at all', two('level,pressure kPa', 'low,1', 'high,1'), {}, 'file'],
  ])('%s is asked for, never guessed', (_what, text, map, field) =>
    expect(refusal(text, map)?.field).toBe(field),
  )
  it('the same local time is another moment in another zone', () => {
    const text = two('time,pressure kPa', '2026-07-09 06:00:00,1', '2026-07-09 06:01:00,1')
    const at = (zone: string) => readPressureLog(text, { zone }).startedAt
    expect(at('UTC') - at('Europe/Dublin')).toBe(3_600_000)
  })
  it('day and month are read as they were said, or as only one of them can be', () => {
    const text = two('time,pressure kPa', '03/04/2026 06:00:00,1', '03/04/2026 06:01:00,1')
    const day = (form: 'day-first' | 'month-first') =>
      new Date(readPressureLog(text, { zone: 'UTC', form }).startedAt).toISOString().slice(0, 10)
    expect([day('day-first'), day('month-first')]).toEqual(['2026-04-03', '2026-03-04'])
    const clear = two('time,pressure kPa', '03.04.2026 06:00:00,1', '23.04.2026 06:01:00,1')
    expect(lookAtLog(clear, { zone: 'UTC' })).toMatchObject({ map: { form: 'day-first' }, asks: [] })
  })
  it('a day in a column of its own, and seconds counted from a begin', () => {
    const split = two('Date,Time,Pressure kPa', '2026-03-09,06:00:00,1', '2026-03-09,06:01:30,1')
    expect(readPressureLog(split, { zone: 'UTC' })).toMatchObject({
      startedAt: Date.parse('2026-03-09T06:00:00Z'),
      samples: [{ t: 0 }, { t: 90 }],
    })
    const counted = two('Elapsed,Pressure kPa', '0,1', '12.5,1')
    expect(readPressureLog(counted, { begin: '2026-03-09T06:00:00Z' })).toMatchObject({
      startedAt: Date.parse('2026-03-09T06:00:00Z'),
      samples: [{ t: 0 }, { t: 12.5 }],
    })
  })
  it('water by the row is added up; a running total is taken as it stands', () => {
    const text = csv('time,pressure kPa,makeup L', ...[0, 1, 2].map((i) => `2026-03-09T06:0${i}:00Z,1,2`))
    const water = (map: Partial<LogMap>) => readPressureLog(text, map).samples.map((s) => s.makeup)
    expect(water({})).toEqual([0.002, 0.002, 0.002])
    expect(water({ makeupEach: true }).map((m) => Math.round(m! * 1e6))).toEqual([2000, 4000, 6000])
  })
  it('no meter is not the same as no water', () => {
    const log = readPressureLog(two('time,pressure kPa', '2026-03-09T06:00:00Z,1', '2026-03-09T06:01:00Z,1'))
    expect(log.samples.map((s) => [s.makeup, s.pipe, s.air])).toEqual([
      [null, null, null],
      [null, null, null],
    ])
  })
  it('pipe and air are told apart, in the unit that was said', () => {
    const text = two(
      'time,pressure kPa,air temp,pipe temp',
      '2026-03-09T06:00:00Z,1,50,68',
      '2026-03-09T06:01:00Z,1,50,68',
    )
    const [first] = readPressureLog(text, { temperatureUnit: 'degF' }).samples
    expect(first!.pipe).toBeCloseTo(20, 9)
    expect(first!.air).toBeCloseTo(10, 9)
  })
  it('every bad row is named, up to twenty', () => {
    const rows = Array.from(
      { length: 40 },
      (_v, i) => `2026-03-09T06:${String(i).padStart(2, '0')}:00Z,${i % 4 ? 'x' : 1}`,
    )
    const { details, field } = refusal(csv('time,pressure kPa', ...rows))!
    expect(field).toBe('pressure kPa')
    expect(details!.faults).toHaveLength(20)
    expect(details!.row).toBe(3)
  })
  it.each<[string, Partial<LogMap>, string]>([
    ['a column that the file has not', { pressure: 'other' }, 'pressure'],
    ['a zone that there is not', { zone: 'Atlantis/Port' }, 'zone'],
  ])('a map with %s is refused', (_what, map, field) => {
    const text = two('time,pressure kPa', '2026-03-09 06:00:00,1', '2026-03-09 06:01:00,1')
    expect(refusal(text, { pressureUnit: 'kPa', zone: 'UTC', ...map })?.field).toBe(field)
  })
  it('what this tool writes it reads back as it was', () =>
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            pressure: fc.integer({ min: -90_000, max: 4_000_000 }),
            pipe: fc.option(fc.integer({ min: -20, max: 60 })),
            air: fc.option(fc.integer({ min: -20, max: 60 })),
            makeup: fc.option(fc.integer({ min: 0, max: 900 })),
          }),
          { minLength: 2, maxLength: 30 },
        ),
        (rows) => {
          const samples = rows.map((r, i) => ({
            ...r,
            t: i * 2,
            makeup: r.makeup === null ? null : r.makeup / 1000,
          }))
          const startedAt = Date.parse('2026-03-09T06:00:00Z')
          const back = readPressureLog(writePressureLog({ startedAt, samples }))
          expect(back.startedAt).toBe(startedAt)
          back.samples.forEach((s, i) => {
            expect(s.pressure).toBeCloseTo(samples[i]!.pressure, 6)
            expect([s.t, s.pipe, s.air]).toEqual([samples[i]!.t, samples[i]!.pipe, samples[i]!.air])
            expect(s.makeup === null).toBe(samples[i]!.makeup === null)
            expect(s.makeup ?? 0).toBeCloseTo(samples[i]!.makeup ?? 0, 9)
          })
        },
      ),
    ))
})

describe('what the cells of times can mean', () => {
  const formOf = (...cells: string[]) => {
    const { map, asks } = lookAtLog(csv('time,pressure kPa', ...cells.map((c) => `${c},1`)), { zone: 'UTC' })
    return [map.form, asks]
  }
  it.each<[string, string[], string, string[]]>([
    ['a day over twelve stands first', ['03/04/2026 06:00', '13/04/2026 06:01'], 'day-first', []],
    ['a day over twelve stands second', ['03/04/2026 06:00', '03/13/2026 06:01'], 'month-first', []],
    ['both may be months', ['12/12/2026 06:00', '03/12/2026 06:01'], 'iso', ['form']],
    ['all are numbers', ['0', '1,5'], 'elapsed', ['begin']],
    ['not all are numbers', ['0', 'one'], 'iso', []],
    ['one is empty', ['0', ''], 'iso', []],
  ])('%s', (_what, cells, form, asks) => expect(formOf(...cells)).toEqual([form, asks]))
  it('the only column of dates holds the times too, unless somebody said that it does not', () => {
    const text = two('Date,Pressure kPa', '2026-03-09 06:00:00,1', '2026-03-09 06:01:00,1')
    expect(lookAtLog(text, { zone: 'UTC' })).toMatchObject({ map: { time: 'Date', date: null }, asks: [] })
    expect(lookAtLog(text, { zone: 'UTC', date: 'Date' }).asks).toEqual(['time'])
  })
})

describe('a moment', () => {
  const map = (more: Partial<LogMap>): LogMap => ({
    ...{ time: 't', date: null, form: 'iso', zone: 'UTC', begin: null, pressure: 'p', pressureUnit: 'kPa' },
    ...{ pipe: null, air: null, temperatureUnit: 'degC', makeup: null, makeupUnit: null, makeupEach: false },
    ...more,
  })
  const read = (more: Partial<LogMap>, time: string, day = '') => {
    const at = momentReader(map(more))(day, time)
    return at === null ? null : new Date(at).toISOString()
  }
  const march = '2026-03-09T06:00:00.000Z'
  it.each<[string, Partial<LogMap>, string, string | null]>([
    ['of ISO', {}, '2026-03-09T06:00:00Z', march],
    ['of ISO with blanks', {}, '2026-03-09   06:00:00', march],
    ['of ISO that says its own zone', { zone: 'Europe/Dublin' }, '2026-03-09 08:00:00+02:00', march],
    ['of ISO that says no zone', { zone: null }, '2026-03-09 06:00:00', null],
    ['of a day that there is not', {}, '2026-02-30 06:00:00', null],
    ['of an hour that there is not', {}, '2026-03-09 26:00:00', null],
    ['that does not begin with its day', {}, 'on 2026-03-09 06:00', null],
    ['with points, day first', { form: 'day-first' }, '9.3.2026 06:00:00', march],
    ['with points, two digits each', { form: 'day-first' }, '09.03.2026 06:00', march],
    [
      'with points, to the millisecond',
      { form: 'day-first' },
      '9.3.2026 06:00:00.250',
      march.replace('000', '250'),
    ],
    ['with slashes, month first', { form: 'month-first' }, '3/9/2026  6:00', march],
    ['with slashes, twelve hours', { form: 'month-first' }, '3/9/2026 6:00:00 AM', march],
    ['with slashes and without a zone', { form: 'day-first', zone: null }, '9/3/2026 06:00', null],
    ['of seconds', { form: 'elapsed', begin: '2026-03-09T05:59:58.500Z' }, '1,5', march],
    ['of no seconds', { form: 'elapsed', begin: march }, '', null],
    ['of what is no number', { form: 'elapsed', begin: march }, 'one', null],
    ['of seconds from nowhere', { form: 'elapsed', begin: null }, '1', null],
  ])('%s', (_what, more, time, expected) => expect(read(more, time)).toBe(expected))
  it('of a day of its own', () => expect(read({}, '06:00:00', '2026-03-09')).toBe(march))
})

it('a figure is read in its unit, with comma or point; in a unit that nobody knows it is none', () => {
  expect(readerOf('bar')('1,5')).toBe(1.5e5)
  expect(readerOf('m3')('0.5')).toBe(0.5)
  expect(readerOf('bar')('1,5,5')).toBeNull()
  expect(readerOf('furlong')('1')).toBeNull()
})
