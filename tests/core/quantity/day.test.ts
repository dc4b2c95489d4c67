import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { dayOf, endOfDay, isDay, startOfDay, weekOf } from '../../../core/quantity/day'

const zones = ['UTC', 'Europe/London', 'America/Anchorage', 'Pacific/Auckland', 'Asia/Kathmandu']

describe('a day', () => {
  it.each([
    ['2026-03-09', true],
    ['2024-02-29', true],
    ['2026-02-29', false],
    ['2026-13-01', false],
    ['2026-3-9', false],
    ['09.03.2026', false],
    ['', false],
  ])('%j: %s', (text, is) => expect(isDay(text)).toBe(is))

  it.each([
    ['2026-03-09T23:30:00Z', 'UTC', '2026-03-09'],
    ['2026-03-09T23:30:00Z', 'Pacific/Auckland', '2026-03-10'],
    ['2026-03-09T05:30:00Z', 'America/Anchorage', '2026-03-08'],
    ['2026-06-30T23:30:00Z', 'Europe/London', '2026-07-01'],
  ])('at %s in %s it is %s', (at, zone, day) => expect(dayOf(Date.parse(at), zone)).toBe(day))

  it.each([
    ['2026-03-15T23:30:00Z', 'UTC', '2026-03-09'],
    ['2026-03-15T23:30:00Z', 'Pacific/Auckland', '2026-03-16'],
  ])('the week of %s in %s begins on %s', (at, zone, monday) =>
    expect(weekOf(Date.parse(at), zone)).toBe(monday),
  )

  it('begins and ends where the work is, however long it is there', () => {
    // Clocks go forward: 23 hours.
    const [begin, end] = [startOfDay('2026-03-29', 'Europe/London'), endOfDay('2026-03-29', 'Europe/London')]
    expect((end + 1 - begin) / 3_600_000).toBe(23)
    expect(new Date(startOfDay('2026-03-09', 'America/Anchorage')).toISOString()).toBe(
      '2026-03-09T08:00:00.000Z',
    )
  })

  it('holds every moment between its first and its last, and none beyond', () => {
    fc.assert(
      fc.property(
        fc.date({ min: new Date('2020-01-01'), max: new Date('2030-01-01'), noInvalidDate: true }),
        fc.constantFrom(...zones),
        (moment, zone) => {
          const day = dayOf(moment.getTime(), zone)
          const [begin, end] = [startOfDay(day, zone), endOfDay(day, zone)]
          expect(begin).toBeLessThanOrEqual(moment.getTime())
          expect(end).toBeGreaterThanOrEqual(moment.getTime())
          expect(dayOf(begin - 1, zone) < day && dayOf(end + 1, zone) > day).toBe(true)
        },
      ),
    )
  })
})
