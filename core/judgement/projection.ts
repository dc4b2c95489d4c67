import type { Made } from '../checks/define'
import type { FactValue } from '../formula/formula'
import type { CompiledProcedure } from '../procedure/compile'
import type { Entry } from '../record/entry'
import { judgeAhead, type Change } from './ahead'
import { slotsOf } from './slots'
import { byStep } from './standing'
import type {
  Asked,
  Draft,
  JudgeOptions,
  RunningClock,
  StepJudgement,
  SubjectState,
  TestReadiness,
} from './types'

/** What is kept of a judgement beside its state: enough for lists, Today and the strip. */
export interface Summary {
  next: string | null
  nextTitle: string | null
  clocks: RunningClock[]
  /** states that it comes into by time alone, the next first */
  changes: Change[]
  /** null until something has been judged */
  test: TestReadiness | null
  holds: { step: string; title: string; since: number; by: string; afterTest?: boolean }[]
  drafts: Draft[]
  /** witness points that somebody was invited to and that are not over */
  invited: { step: string; title: string; state: 'invited' | 'accepted'; for: number; at: number }[]
  /** what its checks measure by the way, such as the levels of the fill */
  figures: Record<string, number>
  /** queries and conditions that are open, records to be read, and what is under surveillance; where some are */
  asked?: OpenAsked[]
  reviews?: { step: string; title: string; since: number }[]
  watches?: { step: string; title: string; drawn: boolean; done: boolean; watched: boolean }[]
}

/** A query or a condition that is not answered. */
export interface OpenAsked extends Pick<Asked, 'id' | 'kind' | 'index' | 'text' | 'to' | 'by'> {
  step: string
  title: string
  since: number
}

/** What is stored of a subject, so that nobody needs to judge it again to list it. Times are ms. */
export interface Projection {
  state: SubjectState
  /** when time alone changes its state for the last time, and into what */
  until: number | null
  then: SubjectState | null
  testableAt: number | null
  heldSince: number | null
  drafts: number
  done: number
  applicable: number
  summary: Summary
}

export const emptySummary: Summary = {
  next: null,
  nextTitle: null,
  clocks: [],
  changes: [],
  test: null,
  holds: [],
  drafts: [],
  invited: [],
  figures: {},
}

/** What the checks of a subject measure by the way. */
function figuresOf(
  compiled: CompiledProcedure,
  facts: Record<string, FactValue>,
  entries: readonly Entry[],
  options: JudgeOptions,
): Record<string, number> {
  const measuring = compiled.steps.filter((s) => s.definition.figures)
  if (measuring.length === 0) return {}
  const slots = slotsOf(compiled, facts, entries, options.schools)
  const at = byStep(compiled, entries)
  return Object.assign(
    {},
    ...measuring.map((s) => {
      const { takes, figures } = s.definition
      const given = at[s.index]!.filter((e) => takes.has(e.kind))
      return figures!(s as unknown as Made<{ kind: string }>, given, slots)
    }),
  ) as Record<string, number>
}

/** What its queries, review points and surveillance ask for; nothing where they ask for nothing. */
function pointsOf(
  steps: readonly StepJudgement[],
  title: (key: string) => string,
): Pick<Summary, 'asked' | 'reviews' | 'watches'> {
  const named = ({ key }: StepJudgement) => ({ step: key, title: title(key) })
  const asked = steps.flatMap((s) =>
    s.asked
      .filter((a) => a.answer === null)
      .map(({ id, kind, index, text, to, by, at }): OpenAsked => ({
        ...named(s),
        ...{ id, kind, index, text, to, by, since: at },
      })),
  )
  const reviews = steps
    .filter((s) => s.review?.state === 'due')
    .map((s) => ({ ...named(s), since: s.review!.at! }))
  const watches = steps
    .filter((s) => s.watch !== null && s.state !== 'not-applicable')
    .map((s) => ({
      ...named(s),
      drawn: s.watch!.drawn === true,
      done: s.entry !== null,
      watched: s.watch!.watched !== null,
    }))
  return {
    ...(asked.length > 0 ? { asked } : {}),
    ...(reviews.length > 0 ? { reviews } : {}),
    ...(watches.length > 0 ? { watches } : {}),
  }
}

/** What is stored of a subject, from its entries at a moment. */
export function projectSubject(
  compiled: CompiledProcedure,
  facts: Record<string, FactValue>,
  entries: readonly Entry[],
  now: number,
  options: JudgeOptions,
): Projection {
  const { judgement, changes } = judgeAhead(compiled, facts, entries, now, options)
  const made = (key: string) => compiled.steps[compiled.stepIndex.get(key)!]!
  const asked = judgement.state === 'withdrawn' ? [] : judgement.steps
  const holds = asked
    .filter((s) => s.release.state === 'requested' && s.state === 'held')
    .map((s) => ({
      step: s.key,
      title: made(s.key).step.title,
      since: s.release.at!,
      by: s.release.by!,
      afterTest: made(s.key).afterTest,
    }))
  return {
    state: judgement.state,
    until: changes.at(-1)?.at ?? null,
    then: changes.at(-1)?.state ?? null,
    testableAt: judgement.test.at,
    heldSince: holds[0]?.since ?? null,
    drafts: judgement.drafts.length,
    done: judgement.done,
    applicable: judgement.applicable,
    summary: {
      next: judgement.next,
      nextTitle: judgement.next ? made(judgement.next).step.title : null,
      clocks: judgement.clocks,
      changes,
      test: judgement.test,
      holds,
      drafts: judgement.drafts,
      invited: asked.flatMap((s) => {
        const state = s.witness?.state
        return state === 'invited' || state === 'accepted'
          ? [
              {
                step: s.key,
                title: made(s.key).step.title,
                state,
                for: s.witness!.for ?? s.witness!.invitedAt!,
                at: s.witness!.invitedAt!,
              },
            ]
          : []
      }),
      figures: figuresOf(compiled, facts, entries, options),
      ...pointsOf(asked, (key) => made(key).step.title),
    },
  }
}
