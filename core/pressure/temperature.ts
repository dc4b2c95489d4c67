import { temperatureDrift } from '../calculators/hydro'
import { meanOf, valueAt, type Point } from './curve'
import type { Section } from './section'

/** The water's temperature: what the sensor on the pipe reads, through a first-order lag of τ seconds. */
export function laggedTemperature(sensor: readonly Point[], lag: number): Point[] {
  const out: Point[] = []
  sensor.forEach((p, i) => {
    const last = out.at(-1)
    const v =
      !last || lag <= 0 ? p.v : last.v + (p.v - last.v) * (1 - Math.exp(-(p.t - sensor[i - 1]!.t) / lag))
    out.push({ t: p.t, v })
  })
  return out
}

/** Pa/K of a full, closed pipe at a temperature of its water. @throws Problem outside 0 to 40 °C */
export const driftOf = (
  section: Required<Pick<Section, 'insideDiameter' | 'wall' | 'modulus'>> & Section,
  water: number,
) =>
  temperatureDrift.run({
    insideDiameter: section.insideDiameter,
    wall: section.wall,
    modulus: section.modulus,
    poisson: section.poisson,
    pipeExpansion: section.pipeExpansion,
    restrained: section.restrained,
    waterTemperature: water,
  }).outputs.pascalPerKelvin as number

/** What a temperature does to the pressure of a hold: k at the mean of the hold, and the corrected curve. */
export interface Correction {
  k: number
  corrected: Point[]
  /** K over the hold */
  moved: number
}

/**
 * Takes out of a hold what the temperature did: p(t) − k·(T(t) − T(t₀)).
 *
 * @param hold pressure in the hold
 * @param water lagged temperature; null when it does not cover the hold
 */
export function correctHold(
  hold: readonly Point[],
  water: readonly Point[],
  section: Section,
): Correction | null {
  const [first, last] = [hold[0]!, hold.at(-1)!]
  const within = water.filter((p) => p.t > first.t && p.t < last.t)
  // A sensor that began a little later or ended a little earlier says what it last said.
  const held = (t: number) => valueAt(water, t) ?? (t < water[0]!.t ? water[0]!.v : water.at(-1)!.v)
  if (water.length === 0) return null
  const begin = held(first.t)
  const mean = meanOf([{ t: first.t, v: begin }, ...within, { t: last.t, v: held(last.t) }])
  const k = driftOf(section as never, mean)
  return {
    k,
    corrected: hold.map((p) => ({ t: p.t, v: p.v - k * (held(p.t) - begin) })),
    moved: held(last.t) - begin,
  }
}
