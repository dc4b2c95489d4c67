import { deflectionPredicted, soilPrism } from '../calculators/soil'
import type { FactValue } from '../formula/formula'

/** Unit weight of compacted fill that is assumed where nobody has measured it, N/m³. */
const FILL = 18_000

/**
 * Deflection that is foreseen under the design cover, by the modified Iowa formula with the soil prism as
 * load and a lag of 1.5 for the years to come.
 *
 * @returns a ratio; null while the stiffness of the pipe or of the soil, or the cover, is not known
 */
export function foreseenDeflection(facts: Record<string, FactValue>): number | null {
  const [cover, stiffness, soil] = ['site.designCover', 'pipe.stiffness', 'site.soilModulus'].map(
    (key) => facts[key],
  )
  if (![cover, stiffness, soil].every((v) => typeof v === 'number' && Number.isFinite(v) && v > 0))
    return null
  const { pressure } = soilPrism.run({ depth: cover, unitWeight: FILL }).outputs
  const { percent } = deflectionPredicted.run({
    load: pressure,
    pipeStiffness: stiffness,
    soilModulus: soil,
    lag: 1.5,
  }).outputs
  return (percent as number) / 100
}
