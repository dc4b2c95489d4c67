import fc from 'fast-check'
import { seededRandom } from '../../../core/random'
import type { RoundRequest } from '../../../core/round/timing'

/** Stops strewn over some km, ready within a shift. */
export const rounds = (most: number, least = 1) =>
  fc.tuple(fc.integer({ min: least, max: most }), fc.integer()).map(([n, seed]): RoundRequest => {
    const random = seededRandom(seed)
    const places = Array.from({ length: n + 1 }, () => [random() * 4000, random() * 500] as const)
    return {
      at: 0,
      stops: Array.from({ length: n }, (_v, i) => ({
        key: `S${i}`,
        ready: Math.round(random() * 8000),
        service: Math.round(random() * 1500),
        weight: Math.round(random() * 4),
      })),
      travel: places.map((a) => places.map((b) => Math.round(Math.hypot(a[0] - b[0], a[1] - b[1])))),
    }
  })
