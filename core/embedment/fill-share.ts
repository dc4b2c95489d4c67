/**
 * How far a reach is filled, by its lower side: 0 to 1. Null where no level is known.
 *
 * @param figures what the checks of the reach measure by the way, m
 */
export function fillShare({ left, right, target }: Readonly<Record<string, number>>): number | null {
  if (left === undefined || right === undefined || target === undefined || !(target > 0)) return null
  return Math.min(1, Math.max(0, Math.min(left, right) / target))
}
