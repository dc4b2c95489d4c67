import { holeFromLeak } from '../calculators/leak'
import { trappedAir } from '../calculators/hydro'
import { Problem } from '../problem'
import { creepOrLeak, type CreepOrLeak } from './creep'
import type { Point } from './curve'
import { readSection, stiffness, filledVolume, type Section } from './section'
import { cleanRows } from './rows'
import { evenly, robustSlope, type Slope } from './slope'
import { correctHold, laggedTemperature } from './temperature'
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
  /** what the water's temperature did to the hold: K, Pa/K and the pressure without it; null unknown */
  temperature: { moved: number; k: number; corrected: Point[] } | null
  /** readings that were left out, as they came */
  left: Point[]
  lacks: string[]
}

/** Air is worked out between these shares of the test pressure. */
const LOW = 0.2
const HIGH = 0.9
const ATMOSPHERE = 101_325

/** so many points of a corrected curve are drawn */
const DRAWN = 400

const curve = (samples: readonly Sample[], from: number, to: number): Point[] =>
  samples.filter((s) => s.t >= from - 1e-9 && s.t <= to + 1e-9).map((s) => ({ t: s.t, v: s.pressure }))

/** The hold without what the temperature did; null without a sensor, or of a pipe that nobody described. */
function correctionOf(samples: readonly Sample[], hold: readonly Point[], section: Section, lag: number) {
  const sensor = samples.flatMap((s) => (s.pipe === null ? [] : [{ t: s.t, v: s.pipe }]))
  const known = [section.poisson, section.pipeExpansion, section.restrained].every((v) => v !== null)
  if (sensor.length === 0 || !known || hold.length < 2) return null
  try {
    return correctHold(hold, laggedTemperature(sensor, lag), section)
  } catch (error) {
    // Water outside the range of the tables: said by what lacks, not by a guess.
    if (error instanceof Problem) return null
    throw error
  }
}

/** Water added while the pressure was raised, against what pipe and water take up by themselves. */
function airOf(samples: readonly Sample[], testPressure: number, section: Section): Analysis['air'] | string {
  const rising = samples.findIndex((s) => s.pressure >= HIGH * testPressure)
  if (rising < 2) return 'The pressurising part is not in the log.'
  const start = samples.slice(0, rising + 1).findIndex((s) => s.pressure >= LOW * testPressure)
  const [a, b] = [samples[start]!, samples[rising]!]
  if (b.pressure - a.pressure < 0.4 * testPressure) return 'The pressurising part is not in the log.'
  if (a.makeup === null || b.makeup === null || b.makeup === a.makeup)
    return 'No meter: nobody knows how much water was added.'
  const added = b.makeup - a.makeup
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
  log: readonly Sample[],
  test: { section: Record<string, unknown>; resolution: number; testPressure: number; lag?: number },
  hold: { from: number; to: number },
  creeps: boolean,
): Analysis {
  const lacks: string[] = []
  const cleaned = cleanRows(log)
  const samples = cleaned.rows as Sample[]
  const raw = curve(samples, hold.from, hold.to)
  let section: Section | null = null
  try {
    section = readSection(test.section, ['length', 'insideDiameter', 'wall', 'modulus'])
  } catch (error) {
    if (!(error instanceof Problem)) throw error
    lacks.push(`What water a pressure is worth is not known: ${error.message}`)
  }
  const correction = section ? correctionOf(samples, raw, section, test.lag ?? 0) : null
  if (section && !correction)
    lacks.push('Not corrected for temperature: no sensor, or the pipe is not described.')
  const points = correction?.corrected ?? raw
  const slope = robustSlope(points, test.resolution)
  if (!slope) lacks.push('The hold has fewer than four readings: it has no trend.')
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
    temperature: correction && { ...correction, corrected: [...evenly(correction.corrected, DRAWN)] },
    left: [...cleaned.left].map((i) => ({ t: log[i]!.t, v: log[i]!.pressure })),
    lacks,
  }
}
