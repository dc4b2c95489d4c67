import type { CompiledProcedure, CompiledStep } from '../procedure/compile'
import type { Draft, Judgement, SubjectState, RunningClock, StepJudgement } from './types'

/** States after which a step asks nobody for anything. */
export const CLOSED: ReadonlySet<StepJudgement['state']> = new Set(['accepted', 'not-applicable'])

const closed = ({ state }: StepJudgement) => state === 'accepted' || state === 'not-applicable'

/** A clock of a step that applies, while it runs. */
function runningClock({ clock, key, title }: CompiledStep, s: StepJudgement): RunningClock | null {
  const { action, gate } = clock!
  // A clock that only must not be late runs toward its latest time.
  const until = s.until ?? s.latest
  const due = s.state === 'not-started' && action !== null
  const runs = s.entry === null && (s.state === 'waiting' || s.state === 'overdue' || due)
  if (s.startedAt === null || until === null || !runs) return null
  return { step: key, title, startedAt: s.startedAt, until, latest: s.latest, action, gate }
}

/** A gate with one more clock that holds it back: the last of them opens it. */
function heldBackBy(gate: Judgement['gates'][string] | undefined, s: StepJudgement) {
  const before = gate === undefined ? 0 : gate.until
  return {
    open: (gate === undefined || gate.open) && s.state === 'accepted',
    until: before === null || s.until === null ? null : Math.max(before, s.until),
  }
}

/** It was closed by giving the joint up. */
const givenUp = ({ ncr }: StepJudgement) =>
  ncr !== null && !ncr.open && (ncr.disposition === 'scrap' || ncr.disposition === 'return')

/**
 * What the steps of a joint come to: its state – the worst of its steps first, then what it waits for –,
 * what comes next, clocks, gates, and what it says to a pressure test. What comes after the test does not
 * hold the test back; the clock of its gate says when, not whether.
 *
 * @param untouched nothing is recorded at any of its steps
 */
export function sumUp(
  compiled: CompiledProcedure,
  steps: StepJudgement[],
  untouched: boolean,
  drafts: Draft[],
): Judgement {
  const clocks: RunningClock[] = []
  const gates: Judgement['gates'] = {}
  let next: StepJudgement | null = null
  let [done, applicable, ready] = [0, 0, true]
  let [rejected, open, held, close] = [false, false, false, false]
  for (let i = 0; i < steps.length; i++) {
    const s = steps[i]!
    const step = compiled.steps[i]!
    if (s.state === 'accepted') done++
    if (s.state === 'rejected' || s.state === 'overdue' || s.state === 'differs' || givenUp(s))
      rejected = true
    else if (s.state === 'held') held = true
    else if (s.state === 'too-close') close = true
    if (!closed(s)) {
      open = true
      if (next === null && !step.onlyWaits) next = s
      if (!step.afterTest && !step.clock?.gate) ready = false
    }
    if (s.state === 'not-applicable') continue
    applicable++
    if (step.from < 0 || step.clock === null) continue
    const { gate } = step.clock
    const running = runningClock(step, s)
    if (running) clocks.push(running)
    if (gate) gates[gate] = heldBackBy(gates[gate], s)
  }
  const waits = next === null || next.state === 'waiting'
  const state: SubjectState = rejected
    ? 'rejected'
    : !open
      ? 'accepted'
      : held
        ? 'held'
        : close
          ? 'too-close'
          : waits
            ? 'waiting'
            : untouched
              ? 'not-started'
              : 'in-work'
  const gate = gates['pressure-test']
  const test = { ready, gated: gate !== undefined, at: gate === undefined ? null : gate.until }
  return { state, steps, next: next?.key ?? null, clocks, gates, test, drafts, done, applicable }
}
