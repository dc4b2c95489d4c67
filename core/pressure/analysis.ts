import { holeFromLeak } from '../calculators/leak'
import { trappedAir } from '../calculators/hydro'
import { Problem } from '../problem'
import { creepOrLeak, type CreepOrLeak } from './creep'
import type { Point } from './curve'
import { readSection, stiffness, filledVolume, type Section } from './section'
import { robustSlope, type Slope } from './slope'
import type { Sample } from './log'

/** What a log tells beyond its verdict. What cannot be worked out is null, with why in `lacks`. */
export interface Analysis {
  /** the stretch of the log that was looked at, s */
  from: number
  to: number
  /** trend of the hold, Pa/s, with half its 95 % interval */
  slope: Slope | null
  /** L/h that the trend is worth, and the least that this log could have shown */
  leak: number | null
  detectable: number | null
  /** diameter of a round hole that would leak so, m */
  hole: number | null
  /** of the pressurising part: L at atmospheric pressure, and share of the line */
  air: { litres: number; share: number } | null
  creep: CreepOrLeak | null
  lacks: string[]
}

/** Air is worked out between these shares of the test pressure. */
const LOW = 0.2
const HIGH = 0.9
const ATMOSPHERE = 101_325

const curve = (samples: readonly Sample[], from: number, to: number): Point[] =>
  samples.filter((s) => s.t >= from - 1e-9 && s.t <= to + 1e-9).map((s) => ({ t: s.t, v: s.pressure }))

/** Water added while the pressure was raised, against what pipe and water take up by themselves. */
function airOf(samples: readonly Sample[], testPressure: number, section: Section): Analysis['air'] | string {
  const rising = samples.findIndex((s) => s.pressure >= HIGH * testPressure)
  if (rising < 2) return 'The pressurising part is not in the log.'
  const start = samples.slice(0, rising + 1).findIndex((s) => s.pressure >= LOW * testPressure)
  const [a, b] = [samples[start]!, samples[rising]!]
  if (b.pressure - a.pressure < 0.4 * testPressure) return 'The pressurising part is not in the log.'
  const added = b.makeup - a.makeup
  if (added === 0) return 'No meter: nobody knows how much water was added.'
  const elastic = stiffness(section) * (b.pressure - a.pressure)
  const volume = filledVolume(section)
  if (added <= elastic) return null
  try {
    const { air, percent } = trappedAir.run({
      ...{ volume, from: a.pressure, to: b.pressure, added, elastic, atmosphere: ATMOSPHERE },
    }).outputs as { air: number; percent: number }
    return { litres: air * 1000, share: percent / 100 }
  } catch (error) {
    if (error instanceof Problem) return error.message
    throw error
  }
}

/**
 * Reads a log as an expert would, beside its verdict.
 *
 * @param hold the phase that is looked at, s; the last of the evaluation
 * @param creeps whether the pipe is of a material that creeps
 */
export function analyseLog(
  samples: readonly Sample[],
  test: { section: Record<string, unknown>; resolution: number; testPressure: number },
  hold: { from: number; to: number },
  creeps: boolean,
): Analysis {
  const lacks: string[] = []
  const points = curve(samples, hold.from, hold.to)
  const slope = robustSlope(points, test.resolution)
  if (!slope) lacks.push('The hold has fewer than four readings: it has no trend.')
  let section: Section | null = null
  try {
    section = readSection(test.section, ['length', 'insideDiameter', 'wall', 'modulus'])
  } catch (error) {
    if (!(error instanceof Problem)) throw error
    lacks.push(`What water a pressure is worth is not known: ${error.message}`)
  }
  const litres = (perSecond: number) => perSecond * stiffness(section!) * 3.6e6
  const leak = slope && section ? litres(-slope.slope) : null
  const detectable = slope && section ? litres(slope.half) : null
  const mean = points.reduce((sum, p) => sum + p.v, 0) / Math.max(1, points.length)
  const hole =
    leak !== null && detectable !== null && leak > detectable && mean > 0
      ? (holeFromLeak.run({ rate: leak / 3.6e6, pressure: mean }).outputs.diameter as number)
      : null
  const air = section ? airOf(samples, test.testPressure, section) : null
  if (typeof air === 'string') lacks.push(air)
  return {
    ...hold,
    slope,
    leak,
    detectable,
    hole,
    air: typeof air === 'string' ? null : air,
    creep: creeps ? creepOrLeak(points) : null,
    lacks,
  }
}
