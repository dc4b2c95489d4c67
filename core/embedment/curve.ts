import { proctorFit } from '../calculators/soil'
import type { CurvePoint } from '../plan/lists/soil'

/** What a laboratory's points come to, for one material of one source. */
export interface CompactionCurve {
  name: string
  material: string
  source: string
  /** day, YYYY-MM-DD */
  dated: string
  points: CurvePoint[]
  specificGravity: number | null
}

/** @returns optimum moisture (ratio) and maximum dry density (kg/m³) */
export function peakOf({ points, specificGravity }: Pick<CompactionCurve, 'points' | 'specificGravity'>): {
  optimum: number
  maximum: number
} {
  const { optimum, maximum } = proctorFit.run({
    points,
    ...(specificGravity === null ? {} : { specificGravity }),
  }).outputs as { optimum: number; maximum: number }
  return { optimum, maximum }
}

/** The parabola through the points, as pairs along the water contents that were tested. */
export function curveLine(points: readonly CurvePoint[], steps = 60): CurvePoint[] {
  const { optimum, maximum } = peakOf({ points: [...points], specificGravity: null })
  // A parabola is given by its peak and one more number: how fast it falls off, by least squares.
  const [num, den] = points.reduce(
    ([n, d], p) => {
      const x2 = (p.moisture - optimum) ** 2
      return [n + x2 * (p.dryDensity - maximum), d + x2 * x2]
    },
    [0, 0],
  )
  const bend = num / den
  const xs = points.map((p) => p.moisture)
  const [low, high] = [Math.min(...xs), Math.max(...xs)]
  return Array.from({ length: steps + 1 }, (_v, i) => {
    const moisture = low + ((high - low) * i) / steps
    return { moisture, dryDensity: maximum + bend * (moisture - optimum) ** 2 }
  })
}

/** Dry density at which no air would be left at a water content, kg/m³. */
export const withoutAir = (specificGravity: number, moisture: number): number =>
  (specificGravity * 1000) / (1 + specificGravity * moisture)
