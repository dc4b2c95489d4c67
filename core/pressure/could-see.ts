import { hydroAllowance } from '../calculators/hydro'
import { Problem } from '../problem'
import { requestFor } from './evaluate'
import type { PackTest } from './report'
import { stiffness } from './section'

/** What a gauge leaves in doubt against what is allowed, both in one unit. */
export interface Sight {
  doubt: number
  allowed: number
  unit: 'L' | 'Pa/h'
}

/**
 * Whether the gauge of a test could tell a leak that matters, before the line is filled: what it leaves in
 * doubt at the end of the hold against what is allowed, by the method's own uncertainty. null for methods that
 * are not judged by a leak, and where a figure is missing.
 */
export function couldSee(test: PackTest): Sight | null {
  let request: ReturnType<typeof requestFor>
  try {
    request = requestFor({ ...test })
  } catch (error) {
    if (error instanceof Problem) return null
    throw error
  }
  const { method, section, gauge } = request
  const p = request.parameters as { testPressure: number; duration: number; maxRate: number }
  if (method.key === 'hydro-makeup') {
    const { litresPerHour } = hydroAllowance.run({
      ...{ length: section.length, diameter: section.nominal, pressure: p.testPressure },
    }).outputs as { litresPerHour: number }
    const doubt = stiffness(section) * Math.SQRT2 * gauge.uncertainty * 1000
    return { doubt, allowed: (litresPerHour * p.duration) / 3600, unit: 'L' }
  }
  if (method.key === 'hydro-drop')
    return { doubt: (gauge.resolution / p.duration) * 3600, allowed: p.maxRate, unit: 'Pa/h' }
  return null
}
