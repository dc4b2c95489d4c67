import type { CompiledProcedure, CompiledStep } from '../procedure/compile'
import type { FactValue, Slots } from '../procedure/formula'
import type { Entry } from '../record/entry'
import { showQuantity } from '../quantity/show'
import { judgeReadings, explainFinding } from './measure'
import { answering, judgeEntry, type CheckContext, type Verdict } from './step'
import type { Draft, JointJudgement, JointState, JudgeOptions, ReleaseJudgement, RunningClock, StepJudgement } from './types'

/** Entries in the order they were recorded, whatever order they arrived in. */
export const inOrder = (entries: readonly Entry[]): Entry[] => [...entries].sort((a, b) => a.recordedAt - b.recordedAt || (a.id < b.id ? -1 : a.id > b.id ? 1 : 0))

/** Entries that stand: those that no correction strikes, without the corrections. A struck correction no longer strikes. */
export function standing(entries: readonly Entry[]): Entry[] {
  const corrections = inOrder(entries).filter((e) => e.kind === 'correction')
  const struck = new Set<string>()
  // Later corrections are read first, so that one which strikes another correction takes its effect away.
  for (const correction of corrections.reverse()) if (!struck.has(correction.id)) struck.add(String(correction.payload.strikes))
  return inOrder(entries).filter((e) => e.kind !== 'correction' && !struck.has(e.id))
}

function releaseOf(entries: Entry[]): ReleaseJudgement {
  const states = { request: 'requested', release: 'released', refusal: 'refused', waiver: 'waived' } as const
  const last = entries.filter((e) => e.kind in states).at(-1)
  if (!last) return { state: 'none', at: null, by: null, reason: null }
  return { state: states[last.kind as keyof typeof states], at: last.recordedAt, by: last.person, reason: (last.payload.reason as string | undefined) ?? null }
}

interface NcrState {
  number: string
  open: boolean
  disposition: string | null
  raisedAt: number
}

function ncrOf(entries: Entry[]): NcrState | null {
  const events = entries.filter((e) => e.kind === 'ncr')
  const raised = events.filter((e) => e.payload.event === 'raised').at(-1)
  if (!raised) return null
  const number = String(raised.payload.number)
  const closed = events.find((e) => e.payload.event === 'closed' && e.payload.number === number)
  return { number, open: !closed, disposition: (closed?.payload.disposition as string | undefined) ?? null, raisedAt: raised.recordedAt }
}

const conceded = (ncr: NcrState | null) => ncr !== null && !ncr.open && ncr.disposition === 'use-as-is'

class Judge {
  private readonly slots: Slots
  private readonly byStep = new Map<string, Entry[]>()
  private readonly verdicts: (StepJudgement | undefined)[] = []
  private readonly drafts: Draft[] = []
  private readonly releases: { index: number; title: string; at: number[] }[] = []

  constructor(private readonly compiled: CompiledProcedure, facts: Record<string, FactValue>, entries: readonly Entry[], private readonly now: number, private readonly options: JudgeOptions) {
    this.slots = compiled.slots(facts, options.schools)
    for (const entry of standing(entries)) {
      if (entry.step === null) continue
      const list = this.byStep.get(entry.step)
      if (list) list.push(entry)
      else this.byStep.set(entry.step, [entry])
    }
    for (const step of compiled.steps) {
      if (this.point(step) !== 'H' || !this.applies(step)) continue
      const at = (this.byStep.get(step.step.key) ?? []).filter((e) => e.kind === 'release' || e.kind === 'waiver').map((e) => e.recordedAt)
      this.releases.push({ index: step.index, title: step.step.title, at })
    }
  }

  private point(step: CompiledStep) {
    const planned = this.options.plan?.[step.step.key]
    return planned === undefined ? (step.step.point ?? null) : planned
  }

  private applies(step: CompiledStep): boolean {
    return !step.when || step.when.evaluate(this.slots) === true
  }

  private blank(step: CompiledStep): StepJudgement {
    const number = (f: { evaluate: (s: Slots) => unknown } | null) => {
      const v = f ? f.evaluate(this.slots) : null
      return typeof v === 'number' && Number.isFinite(v) ? v : null
    }
    return {
      key: step.step.key, state: 'not-started', sentence: '', value: number(step.value),
      limits: step.limits.map((l) => ({ title: l.limit.title ?? step.step.title, of: l.limit.of, dimension: l.dimension, unit: l.unit, min: number(l.min), max: number(l.max) })),
      findings: [], point: this.point(step), release: { state: 'none', at: null, by: null, reason: null }, startedAt: null, until: null, latest: null, entry: null, computed: null, ncr: null,
    }
  }

  step(index: number): StepJudgement {
    const known = this.verdicts[index]
    if (known) return known
    const judged = this.judgeStep(this.compiled.steps[index]!)
    this.verdicts[index] = judged
    return judged
  }

  private judgeStep(step: CompiledStep): StepJudgement {
    const out = this.blank(step)
    if (!this.applies(step)) return { ...out, state: 'not-applicable', sentence: 'Does not apply to this joint.' }
    const all = this.byStep.get(step.step.key) ?? []
    const ncr = ncrOf(all)
    out.ncr = ncr && { number: ncr.number, open: ncr.open, disposition: ncr.disposition }
    out.release = releaseOf(all)
    this.startClock(step, out)
    if (conceded(ncr)) return { ...out, state: 'accepted', sentence: `Used as is by concession, ${ncr!.number}.`, computed: 'rejected' }
    // After a nonconformance was raised, only what was done since counts.
    const answers = all.filter((e) => answering.has(e.kind) && (!ncr || e.recordedAt > ncr.raisedAt))
    const verdict = this.answersVerdict(step, out, answers)
    Object.assign(out, verdict)
    if (ncr?.open) return { ...out, state: 'rejected', sentence: `${ncr.number} is open.${verdict.state === 'accepted' ? ' The new reading conforms; the rework waits to be verified.' : ''}` }
    const passed = this.passedHold(step, ncr, out)
    if (passed) return passed
    if (out.state === 'rejected') this.draft(step, out)
    this.applyDecision(all, out)
    return this.applyOrder(step, this.applyHold(step, out))
  }

  private startClock(step: CompiledStep, out: StepJudgement) {
    if (step.step.check.kind !== 'clock') return
    const from = this.step(step.from)
    if (from.state !== 'accepted' && from.state !== 'rejected') return
    const entry = (this.byStep.get(from.key) ?? []).find((e) => e.id === from.entry)
    if (!entry) return
    const span = (f: CompiledStep['earliest']) => {
      const seconds = f ? (f.evaluate(this.slots) as number) : null
      return seconds === null || Number.isNaN(seconds) ? null : entry.recordedAt + seconds * 1000
    }
    out.startedAt = entry.recordedAt
    out.until = span(step.earliest)
    out.latest = span(step.latest)
  }

  private answersVerdict(step: CompiledStep, out: StepJudgement, answers: Entry[]): Partial<StepJudgement> & Verdict {
    const context: CheckContext = { slots: this.slots, rule: this.options.rule ?? 'guarded', instruments: this.options.instruments ?? {}, startedAt: out.startedAt }
    const check = step.step.check
    if (check.kind === 'calculated') {
      if (out.value === null) return { state: 'blocked', sentence: 'Cannot be worked out: a fact of this joint is missing.', findings: [] }
      const findings = judgeReadings(step, this.slots, [out.value], 0, context.rule)
      const bad = findings.find((f) => f.verdict !== 'accept')
      return { state: bad ? 'rejected' : 'accepted', sentence: findings.map(explainFinding).join(' '), findings }
    }
    const last = answers.at(-1)
    if (!last) return check.kind === 'clock' ? this.runningClock(step, out) : { state: 'not-started', sentence: '', findings: [] }
    const verdict = judgeEntry(step, last, context)
    const other = answers.filter((e) => e.person !== last.person).at(-1)
    if (other && judgeEntry(step, other, context).state !== verdict.state) return { ...verdict, state: 'differs', sentence: 'Two people recorded this differently: an inspector decides.', entry: last.id }
    return { ...verdict, entry: last.id }
  }

  private runningClock(step: CompiledStep, out: StepJudgement): Verdict {
    const check = step.step.check as { action?: string }
    if (out.startedAt === null) return { state: 'not-started', sentence: 'Its clock has not started.', findings: [] }
    if (out.until !== null && this.now < out.until) return { state: 'waiting', sentence: '', findings: [] }
    if (!check.action) return { state: 'accepted', sentence: 'The time has passed.', findings: [] }
    if (out.latest !== null && this.now > out.latest) return { state: 'overdue', sentence: 'The latest time has passed.', findings: [] }
    return { state: 'not-started', sentence: 'The time has come.', findings: [] }
  }

  /** Work recorded past a hold point that nobody had released is a nonconformance of that hold point. */
  private passedHold(step: CompiledStep, ncr: NcrState | null, out: StepJudgement): StepJudgement | null {
    const hold = this.releases.find((h) => h.index === step.index)
    if (!hold) return null
    const later = this.compiled.steps.slice(step.index + 1)
    for (const next of later) {
      const entry = (this.byStep.get(next.step.key) ?? []).find((e) => answering.has(e.kind) && (!ncr || e.recordedAt > ncr.raisedAt) && !hold.at.some((at) => at <= e.recordedAt))
      if (!entry) continue
      this.drafts.push({ step: step.step.key, kind: 'past-hold', criterion: `Released before any later step.`, reading: `"${next.step.title}" was recorded without release.`, entry: entry.id })
      return { ...out, state: 'rejected', sentence: `"${next.step.title}" was done past this hold point, which was not released.`, entry: entry.id, computed: null }
    }
    return null
  }

  private draft(step: CompiledStep, out: StepJudgement) {
    const bad = out.findings.find((f) => f.verdict === 'reject')
    const show = (v: number | null) => (v === null ? '' : showQuantity(v, bad!.dimension, bad!.unit))
    const criterion = bad ? (bad.min !== null && bad.max !== null ? (bad.min === bad.max ? `${bad.title} is ${show(bad.min)}` : `${bad.title} from ${show(bad.min)} to ${show(bad.max)}`) : bad.max !== null ? `${bad.title} at most ${show(bad.max)}` : `${bad.title} at least ${show(bad.min)}`) : 'question' in step.step.check ? String(step.step.check.question) : step.step.title
    this.drafts.push({ step: step.step.key, kind: 'rejected', criterion, reading: bad ? show(bad.value) : out.sentence, entry: out.entry ?? '' })
  }

  private applyDecision(all: Entry[], out: StepJudgement) {
    const decision = all.filter((e) => e.kind === 'decision').at(-1)
    const answered = all.filter((e) => answering.has(e.kind)).at(-1)
    if (!decision || !answered || decision.recordedAt < answered.recordedAt) return
    const decided = decision.payload.verdict === 'accept' ? 'accepted' : 'rejected'
    if (decided === out.state) return
    out.computed = out.state
    out.state = decided
    out.sentence = `${decided === 'accepted' ? 'Accepted' : 'Rejected'} by decision: ${String(decision.payload.reason)}`
  }

  private applyHold(step: CompiledStep, out: StepJudgement): StepJudgement {
    if (out.point !== 'H') return out
    const { state, reason } = out.release
    if (state === 'released' || state === 'waived') return { ...out, state: 'accepted', sentence: state === 'waived' ? `Waived: ${reason}` : 'Released.' }
    if (state === 'refused') return { ...out, state: 'rejected', sentence: `Refused: ${reason}` }
    if (state === 'requested') return { ...out, state: 'held', sentence: 'Release requested.' }
    return out.state === 'accepted' ? { ...out, state: 'held', sentence: 'Waits for release.' } : out
  }

  /** Steps that wait for others show it, as long as nothing is recorded at them. */
  private applyOrder(step: CompiledStep, out: StepJudgement): StepJudgement {
    if (out.state !== 'not-started') return out
    const missing = step.after.map((i) => this.step(i)).find((s) => s.state !== 'accepted' && s.state !== 'not-applicable')
    if (missing) return { ...out, state: 'blocked', sentence: `First: ${this.compiled.steps[this.compiled.stepIndex.get(missing.key)!]!.step.title}.` }
    const hold = this.releases.find((h) => h.index < step.index && h.at.length === 0)
    if (hold) return { ...out, state: 'blocked', sentence: `Behind the hold point "${hold.title}".` }
    if (step.from >= 0 && out.startedAt === null) return { ...out, state: 'blocked', sentence: `Starts with: ${this.compiled.steps[step.from]!.step.title}.` }
    return out
  }

  finish(): JointJudgement {
    const steps = this.compiled.steps.map((_s, i) => this.step(i))
    const clocks: RunningClock[] = []
    const gates: JointJudgement['gates'] = {}
    this.compiled.steps.forEach(({ step }, i) => {
      const s = steps[i]!
      if (step.check.kind !== 'clock' || s.state === 'not-applicable') return
      if (step.check.gate) gates[step.check.gate] = { open: s.state === 'accepted', until: s.until }
      const running = s.startedAt !== null && s.until !== null && s.entry === null && (s.state === 'waiting' || s.state === 'overdue' || (s.state === 'not-started' && step.check.action !== undefined))
      if (running) clocks.push({ step: step.key, title: step.title, startedAt: s.startedAt!, until: s.until!, latest: s.latest, action: step.check.action ?? null, gate: step.check.gate ?? null })
    })
    const applicable = steps.filter((s) => s.state !== 'not-applicable')
    const done = applicable.filter((s) => s.state === 'accepted').length
    return { state: this.jointState(steps, applicable, done), steps, next: this.next(steps), clocks, gates, drafts: this.drafts, done, applicable: applicable.length }
  }

  private next(steps: StepJudgement[]): string | null {
    const passive = (s: StepJudgement) => {
      const check = this.compiled.steps[this.compiled.stepIndex.get(s.key)!]!.step.check
      return check.kind === 'clock' && !check.action
    }
    return steps.find((s) => !['accepted', 'not-applicable'].includes(s.state) && !passive(s))?.key ?? null
  }

  private jointState(steps: StepJudgement[], applicable: StepJudgement[], done: number): JointState {
    const closed = steps.find((s) => s.ncr && !s.ncr.open && (s.ncr.disposition === 'scrap' || s.ncr.disposition === 'return'))
    if (closed) return 'rejected'
    const has = (state: string) => steps.some((s) => s.state === state)
    if (has('rejected') || has('overdue') || has('differs')) return 'rejected'
    if (done === applicable.length) return 'accepted'
    if (has('held')) return 'held'
    if (has('too-close')) return 'too-close'
    const next = this.next(steps)
    if (next === null || steps.find((s) => s.key === next)?.state === 'waiting') return 'waiting'
    return this.byStep.size === 0 ? 'not-started' : 'in-work'
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
  return { judgement, until: ends, then: judge(compiled, facts, entries, ends, options).state }
}

/** The state shown at `now` from what is stored. */
export const stateAt = (stored: { state: JointState; until: number | null; then: JointState | null }, now: number): JointState => (stored.until !== null && stored.then !== null && now >= stored.until ? stored.then : stored.state)
