import type { StepJudgement } from '#core/judgement/types'

/** What was found against its limits, or the limits alone while nothing is. */
export const barsOf = (judged: StepJudgement) =>
  judged.findings.length > 0
    ? judged.findings
    : judged.limits.map((l) => ({ ...l, value: null, uncertainty: 0, verdict: null }))
