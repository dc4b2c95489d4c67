import { geodesicLength } from '../line/alignment'

/** Somewhere on a line, and on the earth where the line has a course. */
export interface Place {
  line: string
  /** m */
  station: number
  /** longitude and latitude, degrees */
  at: readonly [number, number] | null
}

/** How somebody gets about. */
export interface Going {
  /** along a line, m/s */
  speed: number
  /** from one line to another where nobody knows where they lie, s */
  between: number
}

/** Ways on the ground are longer than the straight line by so much. */
const DETOUR = 1.3

/**
 * How long each way is: along the line by its stations; from line to line by the straight distance and a
 * detour where both lie somewhere on the earth, else as long as is said.
 *
 * @returns s, a row and a column for each place; nothing from a place to itself
 */
export const travelTimes = (places: readonly Place[], { speed, between }: Going): number[][] =>
  places.map((a) =>
    places.map((b) => {
      if (a.line === b.line) return Math.abs(a.station - b.station) / speed
      return a.at && b.at ? (geodesicLength([...a.at], [...b.at]) * DETOUR) / speed : between
    }),
  )
