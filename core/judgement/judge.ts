import type { CompiledProcedure, CompiledStep } from '../procedure/compile'
import type { FactValue, Formula, Slots } from '../procedure/formula/formula'
import type { Entry } from '../record/entry'
import { nameKey } from '../record/names'
import { answering, conceded, lookThrough, NO_RELEASE, releaseOf, type AtStep, type NcrState } from './decisions'
import { draftOf } from './draft'
import { explainAll, judgeReadings } from './measure'
import { fillSlots } from './slots'
import { byStep } from './standing'
import { judgeEntry, registeredLot, type CheckContext, type Verdict } from './step'
import type { Draft, JointJudgement, JointState, JudgeOptions, RunningClock, StepJudgement } from './types'

/** A step being judged: its sentence is written only when somebody reads it. */
export type Judging = Omit<StepJudgement, 'sentence'> & { sentence: string | (() => string) }

const CLOSED = new Set(['accepted', 'not-applicable'])
const say = (sentence: string | (() => string)) => (typeof sentence === 'string' ? sentence : sentence())
const settle = (out: Judging, state: Judging['state'], sentence: Judging['sentence']): Judging => {
  out.state = state
  out.sentence = sentence
  return out
}

class Judge {
  private readonly slots: Slots
  private readonly byStep: readonly (readonly Entry[])[]
  private readonly verdicts: (Judging | undefined)[]
  private readonly drafts: Draft[] = []
  /** hold points that apply, and since when they were first open; Infinity while they are not */
  private readonly holds: { index: number; title: string; since: number }[] = []
  private readonly context: CheckContext

  constructor(private readonly compiled: CompiledProcedure, facts: Record<string, FactValue>, entries: readonly Entry[], private readonly now: number, private readonly options: JudgeOptions) {
    this.byStep = byStep(compiled, entries)
    this.slots = fillSlots(compiled, facts, options.schools, this.byStep)
    this.verdicts = new Array<Judging | undefined>(compiled.steps.length)
    this.context = { slots: this.slots, rule: options.rule ?? 'guarded', instruments: options.instruments ?? {}, lots: options.lots ?? {}, startedAt: null }
    for (const step of compiled.steps) {
      if (this.point(step) !== 'H' || !this.applies(step)) continue
      const opened = this.byStep[step.index]!.find((e) => e.kind === 'release' || e.kind === 'waiver')
      this.holds.push({ index: step.index, title: step.step.title, since: opened?.recordedAt ?? Infinity })
    }
  }

  private title(index: number) {
    return this.compiled.steps[index]!.step.title
  }

  private point(step: CompiledStep) {
    const planned = this.options.plan?.[step.step.key]
    return planned === undefined ? (step.step.point ?? null) : planned
  }

  private applies(step: CompiledStep): boolean {
    return !step.when || step.when.evaluate(this.slots) === true
  }

  private number(formula: Formula | null): number | null {
    const v = formula ? formula.evaluate(this.slots) : null
    return typeof v === 'number' && Number.isFinite(v) ? v : null
  }

  private blank(step: CompiledStep): Judging {
    const brief = this.options.brief === true
    return {
      key: step.step.key, state: 'not-started', sentence: '',
      value: brief && step.step.check.kind !== 'calculated' ? null : this.number(step.value),
      readings: brief ? null : this.number(step.readings),
      limits: brief ? [] : step.limits.map((l) => ({ title: l.limit.title ?? step.step.title, of: l.limit.of, dimension: l.dimension, unit: l.unit, min: this.number(l.min), max: this.number(l.max) })),
      findings: [], point: this.point(step), release: NO_RELEASE, startedAt: null, until: null, latest: null, entry: null, computed: null, ncr: null,
    }
  }

  step(index: number): Judging {
    return (this.verdicts[index] ??= this.judgeStep(this.compiled.steps[index]!))
  }

  private judgeStep(step: CompiledStep): Judging {
    const out = this.blank(step)
    if (!this.applies(step)) return settle(out, 'not-applicable', 'Does not apply to this joint.')
    const all = this.byStep[step.index]!
    const found = lookThrough(all)
    const { ncr } = found
    if (ncr) out.ncr = { number: ncr.number, open: ncr.open, disposition: ncr.disposition }
    if (out.point === 'H') out.release = releaseOf(all)
    if (step.from >= 0) this.startClock(step, out)
    if (conceded(ncr)) {
      out.computed = 'rejected'
      return settle(out, 'accepted', `Used as is by concession, ${ncr!.number}.`)
    }
    this.answer(step, out, found)
    if (ncr?.open) return settle(out, 'rejected', `${ncr.number} is open.${out.state === 'accepted' ? ' The new reading conforms; the rework waits to be verified.' : ''}`)
    if (this.passedHold(step, ncr, out)) return out
    if (found.last && out.state === 'rejected' && step.step.check.kind === 'lot') this.applyLotWaiver(found.last, all, out)
    if (found.decision) this.applyDecision(found.decision, out)
    // What an inspector accepted with a reason is no nonconformance; what was decided against is one.
    if (out.state === 'rejected') this.drafts.push(draftOf(step, out, say(out.sentence)))
    if (out.point === 'H') this.applyHold(out)
    return out.state === 'not-started' ? this.applyOrder(step, out) : out
  }

  private startClock(step: CompiledStep, out: Judging) {
    const from = this.step(step.from)
    if (from.state !== 'accepted' && from.state !== 'rejected') return
    const entry = this.byStep[step.from]!.find((e) => e.id === from.entry)
    if (!entry) return
    const span = (f: CompiledStep['earliest']) => {
      const seconds = this.number(f)
      return seconds === null ? null : entry.recordedAt + seconds * 1000
    }
    out.startedAt = entry.recordedAt
    out.until = span(step.earliest)
    out.latest = span(step.latest)
  }

  private take(out: Judging, verdict: Verdict, entry: Entry | null) {
    out.findings = verdict.findings
    if (entry) out.entry = entry.id
    settle(out, verdict.state, verdict.sentence)
  }

  /** What the answers at a step say. */
  private answer(step: CompiledStep, out: Judging, { last, other }: AtStep) {
    this.context.startedAt = out.startedAt
    if (step.step.check.kind === 'calculated') return this.take(out, this.calculated(step, out.value), null)
    if (!last) {
      if (step.from >= 0) this.runningClock(step, out)
      return
    }
    this.take(out, judgeEntry(step, last, this.context), last)
    if (other && judgeEntry(step, other, this.context).state !== out.state) settle(out, 'differs', 'Two people recorded this differently: an inspector decides.')
  }

  private calculated(step: CompiledStep, value: number | null): Verdict {
    if (value === null) return { state: 'not-started', sentence: 'Cannot be worked out yet: a fact of this joint, or an earlier reading, is missing.', findings: [] }
    const findings = judgeReadings(step, this.slots, [value], 0, this.context.rule)
    return { state: findings.some((f) => f.verdict !== 'accept') ? 'rejected' : 'accepted', sentence: () => explainAll(findings), findings }
  }

  private runningClock(step: CompiledStep, out: Judging): Judging {
    const action = (step.step.check as { action?: string }).action
    if (out.startedAt === null) return settle(out, 'not-started', 'Its clock has not started.')
    if (out.until !== null && this.now < out.until) return settle(out, 'waiting', '')
    if (!action) return settle(out, 'accepted', 'The time has passed.')
    if (out.latest !== null && this.now > out.latest) return settle(out, 'overdue', 'The latest time has passed.')
    return settle(out, 'not-started', 'The time has come.')
  }

  /** Work recorded past a hold point that nobody had released is a nonconformance of that hold point. */
  private passedHold(step: CompiledStep, ncr: NcrState | null, out: Judging): boolean {
    if (out.point !== 'H') return false
    const released = this.holds.find((h) => h.index === step.index)!.since
    const since = ncr ? ncr.raisedAt : -Infinity
    for (let i = step.index + 1; i < this.compiled.steps.length; i++) {
      const next = this.compiled.steps[i]!
      let entry: Entry | null = null
      for (const e of this.byStep[i]!) {
        if (e.recordedAt >= released || e.recordedAt <= since || !answering.has(e.kind)) continue
        entry = e
        break
      }
      if (!entry) continue
      this.drafts.push({ step: step.step.key, kind: 'past-hold', criterion: `Released before any later step.`, reading: `"${next.step.title}" was recorded without release.`, entry: entry.id })
      out.entry = entry.id
      out.computed = null
      settle(out, 'rejected', `"${next.step.title}" was done past this hold point, which was not released.`)
      return true
    }
    return false
  }

  /** A lot past its date may be used when somebody who may says so by name; a quarantined one may not. */
  private applyLotWaiver(used: Entry, all: readonly Entry[], out: Judging) {
    const lot = String(used.payload.lot)
    const register = registeredLot(this.context.lots, lot)
    if (register?.quarantinedAt !== null && register?.quarantinedAt !== undefined && used.recordedAt >= register.quarantinedAt) return
    const waiver = all.find((e) => e.kind === 'waiver' && e.payload.lot !== undefined && nameKey(String(e.payload.lot)) === nameKey(lot))
    if (!waiver) return
    out.computed = 'rejected'
    settle(out, 'accepted', `Lot ${lot} is used past its date by waiver: ${String(waiver.payload.reason)}`)
  }

  private applyDecision(decision: Entry, out: Judging) {
    const decided = decision.payload.verdict === 'accept' ? 'accepted' : 'rejected'
    if (decided === out.state) return
    out.computed = out.state
    settle(out, decided, `${decided === 'accepted' ? 'Accepted' : 'Rejected'} by decision: ${String(decision.payload.reason)}`)
  }

  private applyHold(out: Judging) {
    const { state, reason } = out.release
    if (state === 'released' || state === 'waived') settle(out, 'accepted', state === 'waived' ? `Waived: ${reason}` : 'Released.')
    else if (state === 'refused') settle(out, 'rejected', `Refused: ${reason}`)
    else if (state === 'requested') settle(out, 'held', 'Release requested.')
    else if (out.state === 'accepted') settle(out, 'held', 'Waits for release.')
  }

  /** Steps that wait for others show it, as long as nothing is recorded at them. */
  private applyOrder(step: CompiledStep, out: Judging): Judging {
    const missing = step.after.find((i) => !CLOSED.has(this.step(i).state))
    if (missing !== undefined) return settle(out, 'blocked', `First: ${this.title(missing)}.`)
    const unread = step.reads.find((i) => this.step(i).entry === null && this.step(i).state !== 'not-applicable')
    if (unread !== undefined) return settle(out, 'blocked', `First: ${this.title(unread)}.`)
    const hold = this.holds.find((h) => h.index < step.index && h.since === Infinity)
    if (hold) return settle(out, 'blocked', `Behind the hold point "${hold.title}".`)
    if (step.from >= 0 && out.startedAt === null) return settle(out, 'blocked', `Starts with: ${this.title(step.from)}.`)
    return out
  }

  finish(): JointJudgement {
    const steps = this.compiled.steps.map((_s, i) => this.step(i))
    const clocks: RunningClock[] = []
    const gates: JointJudgement['gates'] = {}
    for (const { step, index, from } of this.compiled.steps) {
      const s = steps[index]!
      if (from < 0 || step.check.kind !== 'clock' || s.state === 'not-applicable') continue
      if (step.check.gate) gates[step.check.gate] = { open: s.state === 'accepted', until: s.until }
      const action = step.check.action ?? null
      // A clock that only must not be late runs toward its latest time.
      const until = s.until ?? s.latest
      const running = s.startedAt !== null && until !== null && s.entry === null && (s.state === 'waiting' || s.state === 'overdue' || (s.state === 'not-started' && action !== null))
      if (running) clocks.push({ step: step.key, title: step.title, startedAt: s.startedAt!, until, latest: s.latest, action, gate: step.check.gate ?? null })
    }
    let [applicable, done] = [0, 0]
    for (const s of steps) {
      if (s.state !== 'not-applicable') applicable++
      if (s.state === 'accepted') done++
      if (this.options.brief) s.sentence = ''
      else s.sentence = say(s.sentence)
    }
    const next = this.next(steps)
    return { state: this.jointState(steps, applicable, done, next), steps: steps as StepJudgement[], next: next?.key ?? null, clocks, gates, drafts: this.drafts, done, applicable }
  }

  private next(steps: Judging[]): Judging | null {
    const passive = (i: number) => {
      const check = this.compiled.steps[i]!.step.check
      return check.kind === 'clock' && !check.action
    }
    return steps.find((s, i) => !CLOSED.has(s.state) && !passive(i)) ?? null
  }

  private jointState(steps: Judging[], applicable: number, done: number, next: Judging | null): JointState {
    let [rejected, held, close] = [false, false, false]
    for (const s of steps) {
      if (s.ncr && !s.ncr.open && (s.ncr.disposition === 'scrap' || s.ncr.disposition === 'return')) return 'rejected'
      if (s.state === 'rejected' || s.state === 'overdue' || s.state === 'differs') rejected = true
      else if (s.state === 'held') held = true
      else if (s.state === 'too-close') close = true
    }
    if (rejected) return 'rejected'
    if (done === applicable) return 'accepted'
    if (held) return 'held'
    if (close) return 'too-close'
    if (next === null || next.state === 'waiting') return 'waiting'
    return this.byStep.every((list) => list.length === 0) ? 'not-started' : 'in-work'
  }
}

/**
 * Judges one joint from its entries. Pure and total: any entries in any order
 * give a result, and the order of arrival does not matter.
 *
 * @param facts the joint's parameters in SI
 * @param now milliseconds since 1970; decides only clocks
 */
export function judge(compiled: CompiledProcedure, facts: Record<string, FactValue>, entries: readonly Entry[], now: number, options: JudgeOptions = {}): JointJudgement {
  return new Judge(compiled, facts, entries, now, options).finish()
}

/**
 * The judgement and, where clocks run, when and into what the joint's state changes by
 * time alone. What is stored of a joint is this, so that no server needs to wake up for it.
 */
export function judgeAhead(compiled: CompiledProcedure, facts: Record<string, FactValue>, entries: readonly Entry[], now: number, options: JudgeOptions = {}): { judgement: JointJudgement; until: number | null; then: JointState | null } {
  const judgement = judge(compiled, facts, entries, now, options)
  const changes = judgement.clocks.map((c) => c.until).filter((t) => t > now)
  if (changes.length === 0) return { judgement, until: null, then: null }
  const ends = judgement.state === 'waiting' && judgement.next !== null ? Math.min(...changes) : Math.max(...changes)
  return { judgement, until: ends, then: judge(compiled, facts, entries, ends, { ...options, brief: true }).state }
}

/** The state shown at `now` from what is stored. */
export const stateAt = (stored: { state: JointState; until: number | null; then: JointState | null }, now: number): JointState => (stored.until !== null && stored.then !== null && now >= stored.until ? stored.then : stored.state)
