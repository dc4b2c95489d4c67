import { clockOf, onlyWaits } from '../checks/registry'
import type { CompiledProcedure } from '../procedure/compile'
import type { Judgement, SubjectState, RunningClock, StepJudgement, TestReadiness } from './types'

/** What is read of a step's judgement to sum a joint up; its sentence may not be written yet. */
type Judged = Omit<StepJudgement, 'sentence'>

/** States after which a step asks nobody for anything. */
export const CLOSED: ReadonlySet<StepJudgement['state']> = new Set(['accepted', 'not-applicable'])

/** Clocks that run, in the order of their steps. */
function clocksOf(compiled: CompiledProcedure, steps: readonly Judged[]): RunningClock[] {
  return compiled.steps.flatMap(({ step, index, from }): RunningClock[] => {
    const s = steps[index]!
    const clock = clockOf(step.check)
    if (from < 0 || !clock || s.state === 'not-applicable') return []
    const { action, gate } = clock
    // A clock that only must not be late runs toward its latest time.
    const until = s.until ?? s.latest
    const due = s.state === 'not-started' && action !== null
    const runs = s.entry === null && (s.state === 'waiting' || s.state === 'overdue' || due)
    if (s.startedAt === null || until === null || !runs) return []
    const { key, title } = step
    return [{ step: key, title, startedAt: s.startedAt, until, latest: s.latest, action, gate }]
  })
}

/** Gates by their key: where several clocks hold one back, the last of them opens it. */
function gatesOf(compiled: CompiledProcedure, steps: readonly Judged[]): Judgement['gates'] {
  const gates: Judgement['gates'] = {}
  for (const { step, index, from } of compiled.steps) {
    const s = steps[index]!
    const gate = clockOf(step.check)?.gate
    if (from < 0 || !gate || s.state === 'not-applicable') continue
    const other = gates[gate] ?? { open: true, until: 0 }
    gates[gate] = {
      open: other.open && s.state === 'accepted',
      until: other.until === null || s.until === null ? null : Math.max(other.until, s.until),
    }
  }
  return gates
}

/** What comes after the test does not hold it back; the clock of the gate says when, not whether. */
function readiness(
  compiled: CompiledProcedure,
  steps: readonly Judged[],
  gates: Judgement['gates'],
): TestReadiness {
  const gate = gates['pressure-test']
  const before = compiled.steps.filter(({ step, afterTest }) => !afterTest && !clockOf(step.check)?.gate)
  const ready = before.every(({ index }) => CLOSED.has(steps[index]!.state))
  return { ready, gated: gate !== undefined, at: gate?.until ?? null }
}

const given = ({ ncr }: Judged) =>
  ncr !== null && !ncr.open && (ncr.disposition === 'scrap' || ncr.disposition === 'return')

/** The state of the joint: the worst of its steps first, then what it waits for. */
function stateOf(steps: readonly Judged[], next: Judged | null, untouched: boolean): SubjectState {
  const any = (...states: StepJudgement['state'][]) => steps.some((s) => states.includes(s.state))
  if (steps.some(given) || any('rejected', 'overdue', 'differs')) return 'rejected'
  if (steps.every((s) => CLOSED.has(s.state))) return 'accepted'
  if (any('held')) return 'held'
  if (any('too-close')) return 'too-close'
  if (next === null || next.state === 'waiting') return 'waiting'
  return untouched ? 'not-started' : 'in-work'
}

/**
 * What the steps of a joint come to: its state, what comes next, clocks, gates, and what it says to a
 * pressure test.
 *
 * @param untouched nothing is recorded at any of its steps
 */
export function sumUp(
  compiled: CompiledProcedure,
  steps: readonly Judged[],
  untouched: boolean,
): Omit<Judgement, 'steps' | 'drafts'> {
  const next = steps.find((s, i) => !CLOSED.has(s.state) && !onlyWaits(compiled.steps[i]!.step.check)) ?? null
  const gates = gatesOf(compiled, steps)
  return {
    state: stateOf(steps, next, untouched),
    next: next?.key ?? null,
    clocks: clocksOf(compiled, steps),
    gates,
    test: readiness(compiled, steps, gates),
    done: steps.filter((s) => s.state === 'accepted').length,
    applicable: steps.filter((s) => s.state !== 'not-applicable').length,
  }
}
