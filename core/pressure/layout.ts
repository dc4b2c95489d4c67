import { thrust, thrustBlock } from '../calculators/hydro'
import { detectableLeak } from '../calculators/leak'
import { Problem } from '../problem'
import { isDay } from '../quantity/day'
import {
  elevationAt,
  planPack,
  profileBetween,
  type PackDesign,
  type PackPlan,
  type ProfilePoint,
} from './pack'

/** Something that stands on the line, as far as a test pack sees it. */
export interface OnLine {
  name: string
  kind: string
  station: number
  /** of a bend, degrees */
  angle: number | null
}

/** What somebody lays out: where, with what pipe and pressure. SI. */
export interface LaidOut {
  from: number
  to: number
  gaugeStation: number
  outsideDiameter: number
  wall: number
  modulus: number
  testPressure: number
  required: number
  rating: number
  /** what the ground bears behind a block, Pa; null where nobody has said */
  soilBearing: number | null
}

/** A push that something has to take. */
export interface Push {
  name: string
  station: number
  kind: 'closure' | 'bend'
  /** N */
  force: number
  /** m² that a block of concrete has against the ground; null while nobody says what that bears */
  block: number | null
}

export interface Layout {
  design: Omit<PackDesign, 'weakest'>
  plan: PackPlan
  pushes: Push[]
  /** stations at which air gathers: tops of the profile that nothing drains */
  tops: ProfilePoint[]
}

/** Tops of a profile between two lower points; an end that is the highest has its own vent. */
export function topsOf(points: readonly ProfilePoint[]): ProfilePoint[] {
  return points.filter(
    (p, i) =>
      i > 0 &&
      i < points.length - 1 &&
      p.elevation > points[i - 1]!.elevation + 1e-9 &&
      p.elevation >= points[i + 1]!.elevation,
  )
}

/**
 * A test pack as it is being laid out: pressures along the profile, the push at each closure and bend, and
 * where the air goes.
 *
 * @throws Problem naming what cannot be: `to` before `from`, a wall that leaves no bore
 */
export function layOut(profile: readonly ProfilePoint[], onLine: readonly OnLine[], laid: LaidOut): Layout {
  const { from, to, outsideDiameter, wall, modulus, testPressure, required, rating } = laid
  if (!(to > from)) throw new Problem('contradiction', 'The end lies before the beginning.', 'to')
  const insideDiameter = outsideDiameter - 2 * wall
  if (!(insideDiameter > 0)) throw new Problem('contradiction', 'The wall leaves no bore.', 'wall')
  const design = {
    section: { length: to - from, insideDiameter, wall, modulus },
    ...{ outsideDiameter, rating, testPressure, required },
    gaugeElevation: elevationAt(profile, laid.gaugeStation),
  }
  const plan = planPack(profileBetween(profile, from, to), { ...design, weakest: '' })
  const pressureAt = (station: number) => {
    const points = plan.points
    const after = points.findIndex((p) => p.station >= station)
    if (after <= 0) return points[Math.max(0, after)]!.pressure
    const [a, b] = [points[after - 1]!, points[after]!]
    return a.pressure + ((b.pressure - a.pressure) * (station - a.station)) / (b.station - a.station || 1)
  }
  const force = (station: number, kind: 'dead-end' | 'bend', angle: number | null) =>
    thrust.compute({
      ...{ pressure: pressureAt(station), diameter: outsideDiameter, kind, angle, smaller: null },
    }).outputs.force as number
  const block = (force: number): number | null =>
    laid.soilBearing === null
      ? null
      : (thrustBlock.compute({ force, soilBearing: laid.soilBearing, safety: BLOCK_SAFETY }).outputs
          .area as number)
  const push = (name: string, station: number, kind: Push['kind'], angle: number | null): Push => {
    const pushes = force(station, kind === 'bend' ? 'bend' : 'dead-end', angle)
    return { name, station, kind, force: pushes, block: block(pushes) }
  }
  const inside = onLine.filter((s) => s.station > from && s.station < to)
  return {
    design,
    plan,
    tops: topsOf(plan.points),
    pushes: [
      push('Closure', from, 'closure', null),
      ...inside.flatMap((s): Push[] =>
        s.kind === 'bend' && s.angle !== null ? [push(s.name, s.station, 'bend', s.angle)] : [],
      ),
      push('Closure', to, 'closure', null),
    ],
  }
}

/** Over what a block of concrete has to bear. */
export const BLOCK_SAFETY = 1.5

/**
 * How old the concrete of blocks is on the day of a test, whole days. How old it must be is the engineer's
 * word, by its mix and the weather.
 *
 * @param cast, due days as YYYY-MM-DD
 * @returns null where a day is missing; negative where it is cast after the test
 */
export function concreteAge(cast: string, due: string): number | null {
  if (!isDay(cast) || !isDay(due)) return null
  return Math.round((Date.parse(due) - Date.parse(cast)) / 86_400_000)
}

/** Readings are kept so often where nobody says otherwise, s. */
const EVERY = 30

/**
 * The least leak that a gauge could show over a hold, before anybody fills the pipe. L/h
 *
 * @param gauge its expanded uncertainty and resolution, Pa: half the uncertainty is taken as its noise
 */
export function couldSee(
  { section }: Pick<PackDesign, 'section'>,
  gauge: { uncertainty: number; resolution: number },
  duration: number,
): number {
  return detectableLeak.run({
    ...{ length: section.length, insideDiameter: section.insideDiameter, wall: section.wall },
    ...{ modulus: section.modulus, noise: gauge.uncertainty / 2, interval: EVERY, duration },
    resolution: gauge.resolution,
  }).outputs.litresPerHour as number
}
