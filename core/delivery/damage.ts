import { gouge } from '../calculators/pipe-end'

/** Damage of a pipe: clock position looking at the end, then metres. */
export interface Damage {
  clock: number
  fromEnd: number
  length: number
  depth: number
}

/** The share of the wall that a gouge may take; ordinary practice for pressure polyethylene. */
export const MOST_OF_WALL = 0.1

export interface DamageVerdict {
  percent: number
  conforms: boolean
  sentence: string
}

/**
 * What the criterion says of damage: depth as percent of the wall against a tenth. Through the wall is
 * 100 %.
 */
export function judgeDamage(damage: Damage, wall: number): DamageVerdict {
  const percent =
    damage.depth > wall ? 100 : (gouge.compute({ depth: damage.depth, wall }).outputs.percent as number)
  const conforms = percent <= MOST_OF_WALL * 100 + 1e-9
  return {
    percent,
    conforms,
    sentence: `${percent.toFixed(1)} % of wall: ${conforms ? 'within a tenth' : 'over a tenth, cut out or quarantine'}.`,
  }
}
