import type { CompiledStep } from '../procedure/compile'
import type { InterventionPoint } from '../procedure/types'
import type { Formula } from '../formula/formula'
import type { Entry } from '../record/entry'
import { NO_RELEASE } from './decisions'
import type { Asked, StepJudgement } from './types'

/** A step being judged: its sentence is written only when somebody reads it. */
export type Judging = Omit<StepJudgement, 'sentence'> & { sentence: string | (() => string) }

export const say = (sentence: Judging['sentence']) => (typeof sentence === 'string' ? sentence : sentence())

export const settle = (out: Judging, state: Judging['state'], sentence: Judging['sentence']): Judging => {
  out.state = state
  out.sentence = sentence
  return out
}

/** What an inspector has decided about a step, with a reason. */
export function decide(out: Judging, decision: Entry): void {
  const decided = decision.payload.verdict === 'accept' ? 'accepted' : 'rejected'
  if (decided === out.state) return
  // What cannot be worked out is not accepted by a word: its figure is given, or its report decides.
  if (decided === 'accepted' && out.state === 'blocked') return
  out.computed = out.state
  const word = decided === 'accepted' ? 'Accepted' : 'Rejected'
  settle(out, decided, `${word} by decision: ${String(decision.payload.reason)}`)
}

const NOTHING_ASKED: readonly Asked[] = []
const NONE_BESIDE: readonly InterventionPoint[] = []
const NO_LIMITS: StepJudgement['limits'] = []
const NO_FINDINGS: Judging['findings'] = []
const NO_FAULTS: Judging['faults'] = []
const NOTHING_BETWEEN: Judging['between'] = []

interface Known {
  /** states only: nobody reads its limits */
  brief: boolean
  point: InterventionPoint | null
  beside: readonly InterventionPoint[] | undefined
  /** what a formula comes to; null when it cannot be worked out */
  worth(formula: Formula | null): number | null
}

/** A step of which nothing is known yet but what is asked there. */
export const asAsked = (step: CompiledStep, { brief, point, beside, worth }: Known): Judging => ({
  key: step.key,
  end: step.end,
  state: 'not-started',
  sentence: '',
  value: brief && !step.definition.workOut ? null : worth(step.value),
  readings: brief ? null : worth(step.readings),
  limits: brief
    ? NO_LIMITS
    : step.limits.map((l) => ({
        title: l.limit.title ?? step.title,
        of: l.limit.of,
        dimension: l.dimension,
        unit: l.unit,
        min: worth(l.min),
        max: worth(l.max),
      })),
  findings: NO_FINDINGS,
  faults: NO_FAULTS,
  point,
  beside: beside ?? NONE_BESIDE,
  release: NO_RELEASE,
  witness: null,
  review: null,
  watch: null,
  asked: NOTHING_ASKED,
  startedAt: null,
  until: null,
  latest: null,
  entry: null,
  computed: null,
  ncr: null,
  between: NOTHING_BETWEEN,
  waivable: false,
})
