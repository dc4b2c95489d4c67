import type { Sample } from './log'

export interface Trend {
  /** Pa/s */
  slope: number
  /** half width of its 95 % interval, Pa/s */
  interval: number
  /** standard deviation of what is left over, Pa */
  noise: number
}

const MAX_POINTS = 400

/**
 * Robust trend of pressure over time: the median of slopes between pairs (Theil–Sen),
 * with an interval from the spread of the residuals about it.
 *
 * @returns null with fewer than five samples
 */
export function pressureTrend(samples: readonly Sample[]): Trend | null {
  if (samples.length < 5) return null
  const every = Math.max(1, Math.ceil(samples.length / MAX_POINTS))
  const points = samples.filter((_s, i) => i % every === 0)
  const slopes: number[] = []
  for (let i = 0; i < points.length; i++)
    for (let k = i + 1; k < points.length; k++)
      slopes.push((points[k]!.pressure - points[i]!.pressure) / (points[k]!.t - points[i]!.t))
  slopes.sort((a, b) => a - b)
  const slope = slopes[slopes.length >> 1]!
  const offsets = points.map((p) => p.pressure - slope * p.t).sort((a, b) => a - b)
  const offset = offsets[offsets.length >> 1]!
  const residuals = points.map((p) => p.pressure - offset - slope * p.t)
  const noise = Math.sqrt(residuals.reduce((sum, r) => sum + r * r, 0) / (points.length - 2))
  const mean = points.reduce((sum, p) => sum + p.t, 0) / points.length
  const spread = Math.sqrt(points.reduce((sum, p) => sum + (p.t - mean) ** 2, 0))
  return { slope, interval: (1.96 * noise) / spread, noise }
}
