import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { travelTimes, type Place } from '../../../core/round/travel'

const going = { speed: 2, between: 900 }
const at = (line: string, station: number, place: Place['at'] = null): Place => ({ line, station, at: place })

describe('how long each way is', () => {
  it('along a line by its stations, to another line as long as is said', () =>
    expect(travelTimes([at('A', 0), at('A', 300), at('B', 10)], going)).toEqual([
      [0, 150, 900],
      [150, 0, 900],
      [900, 900, 0],
    ]))
  it('between lines on the earth by their distance and a detour', () => {
    // A thousandth of a degree of latitude is 111 m.
    const [[, way]] = travelTimes([at('A', 0, [-9, 53]), at('B', 0, [-9, 53.001])], going) as [
      [number, number],
    ]
    expect(way).toBeCloseTo((111.3 * 1.3) / 2, 0)
  })
  it('one way is as long as back, and faster going is never longer', () =>
    fc.assert(
      fc.property(
        fc.array(fc.record({ line: fc.constantFrom('A', 'B'), station: fc.integer({ min: 0, max: 900 }) }), {
          minLength: 1,
          maxLength: 6,
        }),
        (list) => {
          const places = list.map((p) => at(p.line, p.station))
          const slow = travelTimes(places, going)
          const fast = travelTimes(places, { ...going, speed: 4 })
          slow.forEach((row, i) =>
            row.forEach((way, j) => {
              expect(way).toBe(slow[j]![i])
              expect(fast[i]![j]).toBeLessThanOrEqual(way)
            }),
          )
        },
      ),
    ))
})
