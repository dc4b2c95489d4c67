import {
  backFalls,
  levelFigures,
  runOf,
  type FoundInvert,
  type LevelRow,
  type LevelsCheck,
} from '../checks/levels'
import { chainsOf } from '../checks/chain'
import type { Made } from '../checks/define'
import type { Slots } from '../formula/formula'
import { byStep } from '../judgement/standing'
import { Problem } from '../problem'
import type { CompiledProcedure } from '../procedure/compile'
import type { Entry } from '../record/entry'

/** One pipe of the reach as it was found. */
export interface PlacedInvert extends FoundInvert {
  station: number
  /** it stands farther off its design than is allowed */
  off: boolean
  /** it does not fall from the one before it */
  back: boolean
}

export interface LongSection {
  step: string
  inverts: PlacedInvert[]
  /** how far an invert may be off, m */
  tolerance: number
  gravity: boolean
  misclosure: number | null
  allowed: number | null
  /** the run closes worse than is allowed: none of its levels counts */
  void: boolean
}

/**
 * The inverts of a reach against their design, from the last booking that stands.
 *
 * @returns null where no levels are asked for, a figure is missing, or the booking cannot be worked through
 */
export function longSection(
  compiled: CompiledProcedure,
  slots: Slots,
  entries: readonly Entry[],
): LongSection | null {
  const step = compiled.steps.find((s) => s.step.check.kind === 'levels')
  if (!step) return null
  const { start, close, distance, level, gravity, against } = levelFigures(
    step as unknown as Made<LevelsCheck>,
    slots,
  )
  if ([start, close, distance, level].some((v) => Number.isNaN(v))) return null
  const last = chainsOf(byStep(compiled, entries)[step.index]!.filter((e) => e.kind === 'levels')).counted.at(
    -1,
  )
  if (!last) return null
  try {
    const run = runOf(last.entry.payload.rows as LevelRow[], start, close, distance)
    const backs = gravity ? backFalls(run.inverts, against) : []
    const inverts = run.inverts
      .filter((p): p is FoundInvert & { station: number } => p.station !== null)
      .map((p) => ({ ...p, off: Math.abs(p.level - p.design) > level + 1e-9, back: backs.includes(p) }))
      .sort((a, b) => a.station - b.station)
    const { misclosure, allowed } = run
    const closesBadly = misclosure !== null && allowed !== null && Math.abs(misclosure) > allowed + 1e-9
    return { step: step.step.key, inverts, tolerance: level, gravity, misclosure, allowed, void: closesBadly }
  } catch (error) {
    if (error instanceof Problem) return null
    throw error
  }
}
