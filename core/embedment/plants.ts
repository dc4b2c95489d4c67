import { wheelPressure } from '../calculators/soil'
import type { Fill, LiftLimits, Plant } from '../checks/lifts'
import { plantKinds, type Machine, type PlantKind } from '../plan/lists/plants'
import { showQuantity, showSteps } from '../quantity/show'

/** Whether one machine may run over the pipe now, and why. */
export interface PlantAnswer {
  plant: PlantKind
  may: boolean
  why: string
  /** m of compacted cover that are still lacking; 0 where it may run */
  lacking: number
}

const NEAR = 1e-9
const mm = (si: number) => showSteps(si, 'mm', true)
const kPa = (si: number) => showQuantity(si, 'pressure', 'kPa', 2)
const asked = (plant: Plant, limits: LiftLimits): number =>
  plant === 'vehicle' ? limits.vehicleFrom : plant === 'hand' ? 0 : limits.handBelow

/**
 * Under the cover that is asked of vehicles one may still cross where its heaviest wheel presses on the
 * crown with no more than the pipe bears. Null where a figure is missing: then nothing is let through by it.
 */
function underWheel(cover: number, wheelLoad: number | null, allowed: number | null): PlantAnswer | null {
  if (wheelLoad === null || allowed === null || cover <= 0) return null
  const pressure = wheelPressure.run({ load: wheelLoad, depth: cover }).outputs.pressure as number
  const may = pressure <= allowed + NEAR
  return {
    ...{ plant: 'vehicle', may, lacking: 0 },
    why: may
      ? `to cross only: ${kPa(pressure)} on the crown, the pipe bears ${kPa(allowed)}`
      : `${kPa(pressure)} on the crown, the pipe bears ${kPa(allowed)}`,
  }
}

/**
 * "May this machine run here now?", by the compacted cover over the crown as it stands on the lower side.
 * Hand plant may always run: it is how the cover comes about.
 *
 * @param cover m over the crown, negative below it
 * @param limits of the step that asks for the lifts
 * @param allowed pressure on the crown that the pipe bears from a wheel, Pa; null when nobody said
 */
export function mayRun(
  cover: number,
  { kind, wheelLoad }: Pick<Machine, 'kind' | 'wheelLoad'>,
  limits: LiftLimits,
  allowed: number | null = null,
): PlantAnswer {
  if (kind === 'hand')
    return { plant: kind, may: true, why: 'beside the pipe and in layers over it', lacking: 0 }
  const needs = asked(kind, limits)
  if (cover >= needs - NEAR) return { plant: kind, may: true, why: `${mm(needs)} of cover asked`, lacking: 0 }
  const lacking = needs - cover
  const crossing = kind === 'vehicle' ? underWheel(cover, wheelLoad, allowed) : null
  if (crossing) return { ...crossing, lacking: crossing.may ? 0 : lacking }
  return { plant: kind, may: false, why: `${mm(lacking)} of cover more`, lacking }
}

const coverOf = (fill: Pick<Fill, 'left' | 'right'>, limits: LiftLimits) =>
  Math.min(fill.left, fill.right) - limits.od

/** The answer for each kind of plant, where a crew has no list of its own. */
export const plantsNow = (fill: Pick<Fill, 'left' | 'right'>, limits: LiftLimits): PlantAnswer[] =>
  plantKinds.map((kind) => mayRun(coverOf(fill, limits), { kind, wheelLoad: null }, limits))

/** The answer for each machine of a crew, in the order of its list. */
export const machinesNow = (
  fill: Pick<Fill, 'left' | 'right'>,
  limits: LiftLimits,
  machines: readonly Machine[],
  allowed: number | null,
): (PlantAnswer & { name: string })[] =>
  machines.map((m) => ({ name: m.name, ...mayRun(coverOf(fill, limits), m, limits, allowed) }))
