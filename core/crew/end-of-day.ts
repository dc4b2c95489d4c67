import type { CompiledProcedure } from '../procedure/compile'
import type { Judgement, StepJudgement } from '../judgement/types'
import type { Entry } from '../record/entry'

/** The stage of a reach's procedure that is asked before the crew leaves, each day. */
export const END_OF_DAY = 'end'

/** Something that a crew would leave open over night. */
export interface LeftOpen {
  id: string
  /** number of a joint, name of a reach */
  name: string
  of: 'joint' | 'reach'
  kind: 'joint' | 'fill' | 'end'
  /** where it is put right */
  step: string | null
  says: string
}

/** What a crew works at, judged as of now. */
export interface AtWorkToday {
  id: string
  name: string
  of: 'joint' | 'reach'
  compiled: CompiledProcedure
  judgement: Pick<Judgement, 'state' | 'steps'>
  /** all that stands, in order */
  entries: readonly Entry[]
}

const done = ({ state }: Pick<StepJudgement, 'state'>) => state === 'accepted' || state === 'not-applicable'
/** What is finished, cools by itself or was never begun is left without a care. */
const AT_REST: ReadonlySet<string> = new Set(['not-started', 'accepted', 'waiting', 'withdrawn'])

function jointLeft({ id, name, compiled, judgement }: AtWorkToday): LeftOpen[] {
  if (AT_REST.has(judgement.state)) return []
  const next = judgement.steps.find((s) => !done(s))
  const title = compiled.steps.find((s) => s.step.key === next?.key)?.step.title
  const says =
    judgement.state === 'held' ? 'waits for a release' : `next: ${title ?? 'nothing the crew can do'}`
  return [{ id, name, of: 'joint', kind: 'joint', step: next?.key ?? null, says: `Open joint, ${says}.` }]
}

/**
 * A reach that is not filled, and its open end: that was closed when somebody said so since the day began,
 * not yesterday.
 */
function reachLeft({ id, name, compiled, judgement, entries }: AtWorkToday, since: number): LeftOpen[] {
  if (AT_REST.has(judgement.state)) return []
  const own = { id, name, of: 'reach' as const }
  const at = (key: string) => judgement.steps.find((s) => s.key === key)
  const fills = compiled.steps.filter((s) => s.step.check.kind === 'lifts')
  const unfilled = fills.flatMap(({ step: { key } }): LeftOpen[] => {
    const s = at(key)
    if (!s || done(s)) return []
    const laid = entries.some((e) => e.step === key && e.kind === 'lift')
    const says = laid ? s.sentence : 'Not filled yet.'
    return [{ ...own, kind: 'fill', step: key, says }]
  })
  // What is filled to the top has no open end.
  if (unfilled.length === 0) return []
  const ends = compiled.procedure.stages.find((s) => s.key === END_OF_DAY)?.steps ?? []
  const open = ends.filter(({ key }) => {
    if (at(key)?.state === 'not-applicable') return false
    const last = entries.findLast((e) => e.step === key && e.kind === 'confirmation')
    return !(last?.payload.answer === 'yes' && last.recordedAt >= since)
  })
  return [
    ...unfilled,
    ...open.map(({ key, title }): LeftOpen => ({
      ...own,
      kind: 'end',
      step: key,
      says: `${title}: not said today.`,
    })),
  ]
}

/**
 * What a crew would leave open if it went home now: joints begun and not done, reaches not filled, ends not
 * closed today.
 *
 * @param since when the day began, ms
 */
export const leftOpen = (work: readonly AtWorkToday[], since: number): LeftOpen[] =>
  // A trench costs more than a joint when it is left as it is.
  [
    ...work.filter((w) => w.of === 'reach').flatMap((w) => reachLeft(w, since)),
    ...work.filter((w) => w.of === 'joint').flatMap(jointLeft),
  ]

/** What rain does to what is left open; null where it does nothing. */
export const rainCaution = (left: readonly LeftOpen[]): string | null =>
  left.some((l) => l.kind === 'fill')
    ? 'An empty pipe floats in a flooded trench: hold it down or fill over it, and close its end, before you leave.'
    : left.length > 0
      ? 'Keep water and dirt out of what is open.'
      : null
