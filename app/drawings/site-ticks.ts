import { scaleLinear } from 'd3-scale'
import { unitShown } from '#core/quantity/site-units'
import { findUnit, fromSi, toSi } from '#core/quantity/units'

/** A mark of an axis: where it stands, SI, and the round number that it shows. */
export interface SiteTick {
  at: number
  text: string
}

/**
 * Marks at round numbers of the unit in which the site reads, not of the one in which the axis is kept.
 *
 * @param from SI @param to SI
 * @param unit the unit that the axis is written in
 */
export function siteTicks(from: number, to: number, count: number, unit = 'm'): SiteTick[] {
  const shown = findUnit(unitShown(unit))!
  return scaleLinear()
    .domain([fromSi(from, shown), fromSi(to, shown)])
    .ticks(count)
    .map((t) => ({ at: toSi(t, shown), text: String(t).replace('-', '−') }))
}
