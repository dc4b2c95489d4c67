import {
  backFalls,
  bookingOf,
  levelFigures,
  runOf,
  type FoundInvert,
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
  /** up since the booking before this one, m, as when the next pipe was pushed in; null where none was */
  moved: number | null
}

export interface LongSection {
  step: string
  inverts: PlacedInvert[]
  /** fall from each pipe to the next in the direction of flow, ratio; negative where it rises */
  grades: { from: number; to: number; slope: number }[]
  /** how far an invert may be off, m */
  tolerance: number
  gravity: boolean
  misclosure: number | null
  allowed: number | null
  /** the run closes worse than is allowed: none of its levels counts */
  void: boolean
}

/** Stations nearer than this are one pipe, m. */
const SAME = 0.05

/** The inverts that an earlier booking found; none where it cannot be worked through. */
function invertsOf(entry: Entry, start: number): FoundInvert[] {
  try {
    return runOf(bookingOf(entry), start, null, null).inverts
  } catch (error) {
    if (error instanceof Problem) return []
    throw error
  }
}

function movedSince(before: readonly FoundInvert[], now: FoundInvert & { station: number }): number | null {
  const was = before.find((p) => p.station !== null && Math.abs(p.station - now.station) <= SAME)
  return was ? now.level - was.level : null
}

const gradesOf = (inverts: readonly PlacedInvert[], against: boolean): LongSection['grades'] =>
  inverts.slice(1).flatMap((to, i) => {
    const from = inverts[i]!
    const apart = to.station - from.station
    if (apart <= SAME) return []
    const slope = (from.level - to.level) / apart
    return [{ from: from.station, to: to.station, slope: against ? -slope : slope }]
  })

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
  const given = byStep(compiled, entries)[step.index]!.filter((e) => e.kind === 'levels')
  const { counted } = chainsOf(given)
  const [last, earlier] = [counted.at(-1), counted.at(-2)]
  if (!last) return null
  try {
    const run = runOf(bookingOf(last.entry), start, close, distance)
    const before = earlier ? invertsOf(earlier.entry, start) : []
    const backs = gravity ? backFalls(run.inverts, against) : []
    const inverts = run.inverts
      .filter((p): p is FoundInvert & { station: number } => p.station !== null)
      .map((p) => ({
        ...p,
        off: Math.abs(p.level - p.design) > level + 1e-9,
        back: backs.includes(p),
        moved: movedSince(before, p),
      }))
      .sort((a, b) => a.station - b.station)
    const { misclosure, allowed } = run
    const closesBadly = misclosure !== null && allowed !== null && Math.abs(misclosure) > allowed + 1e-9
    return {
      ...{ step: step.step.key, inverts, grades: gradesOf(inverts, against), tolerance: level, gravity },
      ...{ misclosure, allowed, void: closesBadly },
    }
  } catch (error) {
    if (error instanceof Problem) return null
    throw error
  }
}
