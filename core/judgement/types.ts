import type { WitnessJudgement } from './witness'
import type { BandRule } from '../calculators/guard-band'
import type { Fault, Finding, InstrumentFacts, LotFacts, StepState } from '../checks/verdict'
import type { End } from '../procedure/ends'
import type { InterventionPoint } from '../procedure/types'
import type { DimensionKey } from '../quantity/dimension'
import type { SiteUnits } from '../quantity/site-units'

export type SubjectState =
  'not-started' | 'in-work' | 'accepted' | 'rejected' | 'too-close' | 'waiting' | 'held' | 'withdrawn'

export interface ReleaseJudgement {
  state: 'none' | 'requested' | 'released' | 'refused' | 'waived'
  at: number | null
  by: string | null
  reason: string | null
}

/** Something that holds a step's acceptance until it is answered. */
export interface Asked {
  /** the entry that asks */
  id: string
  kind: 'query' | 'condition'
  /** of a condition: which of its release */
  index: number | null
  text: string
  to: 'crew' | 'inspector'
  by: string
  at: number
  answer: { good: boolean; text: string; by: string; at: number; entry: string } | null
}

/** Whether the record of a step with a review point was read since its last answer. */
export interface ReviewJudgement {
  state: 'due' | 'reviewed' | 'not-yet'
  by: string | null
  at: number | null
}

/** Whether a step under surveillance was drawn to be watched, and watched. */
export interface WatchJudgement {
  /** null where the draw is not told */
  drawn: boolean | null
  watched: { good: boolean; note: string; by: string; at: number } | null
}

export interface StepJudgement {
  key: string
  /** the end of the joint that it is made at, where the procedure tells them apart */
  end: End | null
  state: StepState
  /** Why, in one sentence; what to do next is in the step's `onFailure`. */
  sentence: string
  /** computed mark or calculated value, SI */
  value: number | null
  /** how many readings it takes; null when it takes none */
  readings: number | null
  /** limits worked out for this joint, also before anything is measured */
  limits: {
    title: string
    of: string
    dimension: DimensionKey
    unit: string
    min: number | null
    max: number | null
  }[]
  findings: readonly Finding[]
  /** of a step that takes many entries: what is wrong with which */
  faults: readonly Fault[]
  /** the strongest of what is asked of it, and what other parties want besides */
  point: InterventionPoint | null
  beside: readonly InterventionPoint[]
  release: ReleaseJudgement
  /** of a witness point: who was invited and who came */
  witness: WitnessJudgement | null
  /** of a review point */
  review: ReviewJudgement | null
  /** of a step under surveillance */
  watch: WatchJudgement | null
  /** queries and conditions: the step is not accepted while one is open */
  asked: readonly Asked[]
  /** clock: when it began, the earliest and latest time of the action */
  startedAt: number | null
  until: number | null
  latest: number | null
  /** the entry that decides */
  entry: string | null
  /** what the criterion gave, where a person decided otherwise */
  computed: StepState | null
  ncr: { number: string; open: boolean; disposition: string | null } | null
  /** answers that an inspector chooses between: two people's, or a rejected one and what was done again */
  between: readonly string[]
  /** a lot past its date, which a waiver that names it lets through */
  waivable: boolean
}

export interface Draft {
  step: string
  kind: 'rejected' | 'past-hold'
  criterion: string
  reading: string
  entry: string
}

export interface RunningClock {
  step: string
  title: string
  startedAt: number
  until: number
  latest: number | null
  /** what a person does when it has run; null when nothing */
  action: string | null
  gate: string | null
}

export interface Judgement {
  state: SubjectState
  steps: StepJudgement[]
  /** the step to do next */
  next: string | null
  clocks: RunningClock[]
  /** gates by key, such as pressure-test: when they open; null when not known yet */
  gates: Record<string, { open: boolean; until: number | null }>
  /** what the joint says to a pressure test */
  test: TestReadiness
  drafts: Draft[]
  done: number
  applicable: number
}

export interface TestReadiness {
  /** everything that comes before the test is accepted, but for the time that must pass */
  ready: boolean
  /** a clock of its procedure holds the test back until `at` */
  gated: boolean
  /** ms; null while that is not known, or when nothing holds the test back */
  at: number | null
}

export interface JudgeOptions {
  /** states only, without sentences, limits and marks: for judging thousands */
  brief?: boolean
  rule?: BandRule
  instruments?: Record<string, InstrumentFacts>
  /** lots of the register that have a date or are in quarantine */
  lots?: Record<string, LotFacts>
  /** what its sentences are worded in; as figures are shown now when left out */
  units?: SiteUnits
  /** where whole days begin and end; UTC when none is named */
  zone?: string
  /** schools chosen for this project */
  schools?: Record<string, string>
  /** s of notice that a witness is given; two hours when left out */
  notice?: number
  /** intervention points set by the inspection and test plan, over the procedure's defaults */
  plan?: Record<string, InterventionPoint | null>
  /** what other parties want at a step beside its strongest point */
  beside?: Record<string, readonly InterventionPoint[]>
  /** steps under surveillance that are drawn to be watched; left out where the draw is not told */
  drawn?: readonly string[]
  /**
   * when the pressure test of its section was accepted first, ms; null where one is planned and none is
   * accepted yet; left out where none is planned, and nothing waits for it
   */
  tested?: number | null
}
