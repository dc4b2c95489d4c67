import type { Point } from './curve'
import { median } from './rows'

export interface Slope {
  /** per second */
  slope: number
  /** half the width of its 95 % interval */
  half: number
  /** standard deviation of what is left over */
  noise: number
}

const MOST = 600

/** At most so many points, evenly taken, ends among them. */
export const evenly = <T>(list: readonly T[], most = MOST): readonly T[] =>
  list.length <= most
    ? list
    : Array.from({ length: most }, (_v, i) => list[Math.round((i * (list.length - 1)) / (most - 1))]!)

/**
 * Robust trend: the median of the slopes between pairs (Theil–Sen), with a 95 % interval from what is
 * left over, widened for its correlation and by the steps that the gauge reads in.
 *
 * @param resolution of the gauge, in the unit of the points
 * @returns null with fewer than four points
 */
export function robustSlope(points: readonly Point[], resolution: number): Slope | null {
  const list = evenly(points)
  const n = list.length
  if (n < 4) return null
  const slopes = new Float64Array((n * (n - 1)) / 2)
  let k = 0
  for (let i = 0; i < n; i++)
    for (let j = i + 1; j < n; j++) slopes[k++] = (list[j]!.v - list[i]!.v) / (list[j]!.t - list[i]!.t)
  slopes.sort()
  const middle = slopes.length >> 1
  const slope = slopes.length % 2 ? slopes[middle]! : (slopes[middle - 1]! + slopes[middle]!) / 2
  const offset = median(list.map((p) => p.v - slope * p.t))
  const rest = list.map((p) => p.v - offset - slope * p.t)
  const squares = rest.reduce((sum, r) => sum + r * r, 0)
  const noise = Math.sqrt(squares / (n - 2))
  const mean = list.reduce((sum, p) => sum + p.t, 0) / n
  const spread = Math.sqrt(list.reduce((sum, p) => sum + (p.t - mean) ** 2, 0))
  const together = rest.slice(1).reduce((sum, r, i) => sum + r * rest[i]!, 0)
  const rho = squares > 0 ? Math.min(0.95, Math.max(0, together / squares)) : 0
  const scatter = ((1.96 + 2.4 / (n - 2)) * noise * Math.sqrt((1 + rho) / (1 - rho))) / spread
  const duration = list.at(-1)!.t - list[0]!.t
  return { slope, half: Math.hypot(scatter, resolution / duration), noise }
}
