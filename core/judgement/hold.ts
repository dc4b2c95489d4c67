import { answering } from '../checks/registry'
import type { CompiledProcedure, CompiledStep } from '../procedure/compile'
import { ofOtherEnd } from '../procedure/ends'
import type { Entry } from '../record/entry'
import { beforeTheTest } from './after-test'
import { ofRelease, type NcrState } from './decisions'
import { say, type Judging } from './judging'
import { speaksAgainst, waived } from './release'

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

/**
 * The first work recorded past a hold point that was not open then; what lies before a report of it was seen
 * and decided about.
 *
 * @param released when the hold point was opened, ms; Infinity while it is not
 */
export function workPast(
  compiled: Pick<CompiledProcedure, 'steps'>,
  entries: readonly (readonly Entry[])[],
  hold: CompiledStep,
  released: number,
  ncr: Pick<NcrState, 'raisedAt'> | null,
): { title: string; entry: string } | null {
  const since = ncr ? ncr.raisedAt : -Infinity
  for (let i = hold.index + 1; i < compiled.steps.length; i++) {
    const step = compiled.steps[i]!
    if (ofOtherEnd(step, hold)) continue
    for (const e of entries[i]!)
      if (e.recordedAt < released && e.recordedAt > since && answering.has(e.kind))
        return { title: step.title, entry: e.id }
  }
  return null
}

/**
 * What a hold point comes to by its release. A release lets the crew go on; what the point's own check says
 * it does not take away: that a figure does not conform, or is not there yet, is decided with a reason, or
 * waived.
 *
 * @param own the point as its own check says
 * @param tested as in {@link beforeTheTest}
 * @returns whether the release counts, with the state and sentence that follow
 */
export function heldAs(
  own: Pick<Judging, 'state' | 'sentence' | 'release'>,
  opening: HoldOpening,
  tested: number | null | undefined,
): { state: Judging['state']; sentence: Judging['sentence']; counts: boolean } {
  const { state, reason, at } = own.release
  const { sentence } = own
  const opened = state === 'released' || state === 'waived'
  const as = (state: Judging['state'], sentence: Judging['sentence'], counts = true) => ({
    ...{ state, sentence, counts },
  })
  if (opened && opening.since === Infinity) {
    const before = opening.lacking.map((t) => `"${t}"`).join(', ')
    return as('held', `The release does not count: it was given before ${before}.`, false)
  }
  if (state === 'released' && tested !== undefined && (tested === null || at! < tested))
    return as(
      'held',
      'The release does not count: it was given before the pressure test of this section was accepted.',
      false,
    )
  if (tested === null && state !== 'waived') return { ...beforeTheTest(null, null)!, counts: true }
  if (state === 'waived') return as('accepted', `Waived: ${reason}`)
  if (state === 'released')
    return own.state === 'accepted' || own.state === 'held'
      ? as('accepted', 'Released.')
      : as(own.state, () => `Released. ${say(sentence)}`)
  if (state === 'refused') return as('rejected', `Refused: ${reason}`)
  if (state === 'requested')
    return speaksAgainst(own)
      ? as(own.state, () => `${say(sentence)} Release is requested.`)
      : as('held', 'Release requested.')
  if (own.state === 'accepted') return as('held', 'Waits for release.')
  return as(own.state, sentence)
}
