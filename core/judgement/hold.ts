import { answering } from '../checks/registry'
import type { CompiledStep } from '../procedure/compile'
import type { Entry } from '../record/entry'
import { ofRelease } from './decisions'
import { waived } from './release'

export interface HoldOpening {
  /** when the hold point was opened by a release or waiver that counts, ms; Infinity while it is not */
  since: number
  /** titles of what was open when it was released all the same; empty for one that counts */
  lacking: string[]
}

/** Something was answered by then, or its report stands for it. */
function spokenOf(entries: readonly Entry[], at: number): boolean {
  for (const e of entries) if (e.kind === 'ncr' || (e.recordedAt <= at && answering.has(e.kind))) return true
  return false
}

/**
 * A release counts when somebody had asked for it and everything before it had been answered by
 * then; a waiver counts when it names what it leaves open.
 *
 * @param applicable the steps before the hold point that apply, and the hold point itself last
 * @param entries standing entries by step index
 */
export function holdOpening(
  applicable: readonly CompiledStep[],
  entries: readonly (readonly Entry[])[],
): HoldOpening {
  const hold = applicable.at(-1)!
  const own = entries[hold.index]!
  let lacking: string[] = []
  for (const release of own) {
    if (!ofRelease(release) || (release.kind !== 'release' && release.kind !== 'waiver')) continue
    const open = applicable.filter(
      (step) =>
        !step.definition.workOut && !step.onlyWaits && !spokenOf(entries[step.index]!, release.recordedAt),
    )
    const named = release.kind === 'waiver' ? waived(release.payload) : []
    lacking = open.filter((s) => !named.includes(s.key)).map((s) => s.title)
    const asked =
      release.kind === 'waiver' || own.some((e) => e.kind === 'request' && e.recordedAt <= release.recordedAt)
    if (!asked) lacking.push('the request for it')
    if (lacking.length === 0) return { since: release.recordedAt, lacking }
  }
  return { since: Infinity, lacking }
}
