import { compliance, pressureAt, thrust } from '../calculators/hydro'
import { Problem } from '../problem'

/** What a pack says of the pipe under test, m and Pa. */
export interface PipeSection {
  length: number
  insideDiameter: number
  wall: number
  modulus: number
}

/** A point of the line's profile, m. */
export interface ProfilePoint {
  station: number
  elevation: number
}

export interface PackDesign {
  section: PipeSection
  outsideDiameter: number
  /** class of the weakest component, Pa, and its name */
  rating: number
  weakest: string
  gaugeElevation: number
  testPressure: number
  /** lowest pressure that the highest point must see, Pa */
  required: number
  /** filled with air between plugs: no head, and the plugs are as wide as the bore */
  air?: boolean
}

export interface PackPlan {
  points: (ProfilePoint & { pressure: number })[]
  highest: ProfilePoint & { pressure: number }
  lowest: ProfilePoint & { pressure: number }
  highOk: boolean
  lowOk: boolean
  /** N at each closure */
  endThrust: number
  fillVolume: number
  /** s at half a metre a second */
  fillTime: number
  /** m³ to raise from empty gauge to test pressure, without air */
  waterToRaise: number
}

/** Elevation at a station, between the points of the profile. @throws Problem `no-profile` without any */
export function elevationAt(profile: readonly ProfilePoint[], station: number): number {
  if (profile.length === 0)
    throw new Problem('no-profile', 'The line has no profile: elevations cannot be worked out.', 'profile')
  const after = profile.findIndex((p) => p.station >= station)
  if (after < 0) return profile.at(-1)!.elevation
  if (after === 0) return profile[0]!.elevation
  const [a, b] = [profile[after - 1]!, profile[after]!]
  return a.elevation + ((b.elevation - a.elevation) * (station - a.station)) / (b.station - a.station)
}

/** The part of a profile between two stations, ends included. */
export function profileBetween(profile: readonly ProfilePoint[], from: number, to: number): ProfilePoint[] {
  const inner = profile.filter((p) => p.station > from && p.station < to)
  return [
    { station: from, elevation: elevationAt(profile, from) },
    ...inner,
    { station: to, elevation: elevationAt(profile, to) },
  ]
}

/**
 * What a test pack means along its profile: pressure at every point while testing,
 * whether the highest sees enough and the lowest too much, thrust, fill and water.
 */
export function planPack(profile: readonly ProfilePoint[], design: PackDesign): PackPlan {
  const at = (elevation: number) =>
    design.air
      ? design.testPressure
      : (pressureAt.compute({
          ...{ gauge: design.testPressure, gaugeElevation: design.gaugeElevation },
          ...{ elevation, density: 1000 },
        }).outputs.pressure as number)
  const points = profile.map((p) => ({ ...p, pressure: at(p.elevation) }))
  const highest = points.reduce((a, b) => (b.elevation > a.elevation ? b : a))
  const lowest = points.reduce((a, b) => (b.elevation < a.elevation ? b : a))
  const { length, insideDiameter, wall, modulus } = design.section
  const fillVolume = (Math.PI / 4) * insideDiameter ** 2 * length
  return {
    points,
    highest,
    lowest,
    highOk: highest.pressure >= design.required,
    lowOk: lowest.pressure <= design.rating,
    endThrust: thrust.compute({
      pressure: lowest.pressure,
      diameter: design.air ? insideDiameter : design.outsideDiameter,
      kind: 'dead-end',
      angle: null,
      smaller: null,
    }).outputs.force as number,
    fillVolume,
    fillTime: length / 0.5,
    waterToRaise: fillVolume * design.testPressure * compliance(insideDiameter, wall, modulus, 2.19e9, 1),
  }
}
