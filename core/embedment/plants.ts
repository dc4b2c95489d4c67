import { plants, type Fill, type LiftLimits, type Plant } from '../checks/lifts'
import { showSteps } from '../quantity/show'

/** Whether one machine may run over the pipe now, and why. */
export interface PlantAnswer {
  plant: Exclude<Plant, 'none'>
  may: boolean
  why: string
  /** m of compacted cover that are still lacking; 0 where it may run */
  lacking: number
}

const NEAR = 1e-9
const mm = (si: number) => showSteps(si, 'mm', true)
const asked = (plant: Plant, limits: LiftLimits): number =>
  plant === 'vehicle' ? limits.vehicleFrom : plant === 'hand' ? 0 : limits.handBelow

/**
 * "May this machine run here now?" – for each plant, by the compacted cover over the crown as it stands on
 * the lower side. Hand plant may always run: it is how the cover comes about.
 *
 * @param fill levels over the outside bottom of the pipe, m
 * @param limits of the step that asks for the lifts
 */
export function plantsNow(fill: Pick<Fill, 'left' | 'right'>, limits: LiftLimits): PlantAnswer[] {
  const cover = Math.min(fill.left, fill.right) - limits.od
  return plants
    .filter((p): p is PlantAnswer['plant'] => p !== 'none')
    .map((plant) => {
      const needs = asked(plant, limits)
      const may = plant === 'hand' || cover >= needs - NEAR
      const lacking = may ? 0 : needs - cover
      const why = may
        ? plant === 'hand'
          ? 'beside the pipe and in layers over it'
          : `${mm(needs)} of cover asked`
        : `${mm(lacking)} of cover more`
      return { plant, may, why, lacking }
    })
}
