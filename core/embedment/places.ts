import { seededRandom, seedOf } from '../random'

/** Where a density test is due. */
export interface TestPlace {
  /** m along the line */
  station: number
  side: 'left' | 'right'
}

/**
 * The places where density is tested, drawn from the reach's own id so that nobody chooses them: one in
 * each of as many equal lengths as tests are due, anywhere in it, on a side drawn as well.
 *
 * @param id of the reach
 * @param from start of the reach, m
 * @param to its end, m
 * @param due how many, a whole number; 200 at most
 */
export function testPlaces(id: string, from: number, to: number, due: number): TestPlace[] {
  const random = seededRandom(seedOf(id))
  const count = Number.isFinite(due) ? Math.min(200, Math.max(0, Math.ceil(due - 1e-9))) : 0
  const length = (to - from) / count
  return Array.from({ length: count }, (_v, i) => {
    const station = Math.round((from + (i + random()) * length) * 10) / 10
    return { station: Math.min(to, Math.max(from, station)), side: random() < 0.5 ? 'left' : 'right' }
  })
}

/** How near a test has to lie to count for its place, m. */
export const AT_PLACE = 2

/** The places at which nobody has tested yet. */
export const placesLeft = (
  places: readonly TestPlace[],
  tested: readonly { station: number; side: string }[],
): TestPlace[] =>
  places.filter(
    (p) =>
      !tested.some(
        (t) => Math.abs(t.station - p.station) <= AT_PLACE + 1e-9 && (t.side === p.side || t.side === 'both'),
      ),
  )
