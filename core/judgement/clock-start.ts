import type { ClockStart } from '../checks/define'
import type { Formula } from '../formula/formula'
import type { CompiledStep } from '../procedure/compile'
import type { Entry } from '../record/entry'
import { lookThrough } from './decisions'
import type { StepJudgement } from './types'

/** A clock that no step starts. */
export const NO_START: ClockStart = {
  at: null,
  late: false,
  state: null,
  until: null,
  latest: null,
  timeless: null,
}

interface Known {
  /** the step that starts it, as it stands, and what is recorded there */
  from: Pick<StepJudgement, 'state' | 'entry'>
  entries: readonly Entry[]
  /** what a formula comes to; null when it cannot be worked out */
  worth(formula: Formula | null): number | null
  missing(...formulas: (Formula | null)[]): string
}

/** When a clock has begun by the step that it counts from, and when its times come. */
export function clockStart(step: CompiledStep, { from, entries, worth, missing }: Known): ClockStart {
  const done = from.state === 'accepted' || from.state === 'rejected'
  const entry = done ? entries.find((e) => e.id === from.entry) : undefined
  if (!entry) return { ...NO_START, state: from.state }
  // A start that came late proves no time: what must have passed counts from its arrival.
  const late = entry.late === true && lookThrough(entries).decision?.payload.verdict !== 'accept'
  const after = (formula: Formula | null, start: number | null) => {
    const seconds = worth(formula)
    return seconds === null || start === null ? null : start + seconds * 1000
  }
  const until = after(step.earliest, late ? (entry.receivedAt ?? null) : entry.recordedAt)
  const latest = after(step.latest, entry.recordedAt)
  const lost = (step.earliest && until === null) || (step.latest && latest === null)
  const unproved = late && entry.receivedAt === undefined
  return {
    at: entry.recordedAt,
    late,
    state: from.state,
    until,
    latest,
    timeless: lost ? (unproved ? 'its start was recorded late' : missing(step.earliest, step.latest)) : null,
  }
}
