import { beforeTheTest } from './after-test'
import { askedAt, conditionsOf, heldByAsked, reviewOf, watchOf } from './asked'
import type { CheckContext, ClockStart, Made } from '../checks/define'
import { stray, type Verdict } from '../checks/verdict'
import type { FactValue, Formula } from '../formula/formula'
import { applies, type CompiledProcedure, type CompiledStep } from '../procedure/compile'
import { plainKey } from '../procedure/ends'
import type { InterventionPoint } from '../procedure/types'
import { wordedIn } from '../quantity/site-units'
import type { Entry } from '../record/entry'
import { clockStart, NO_START } from './clock-start'
import { conceded, lookThrough, releaseOf, type AtStep } from './decisions'
import { draftOf } from './draft'
import { Holds } from './holds'
import { asAsked, decide, say, settle, type Judging } from './judging'
import { waiveLot } from './lot-waiver'
import { lacking, whatIsMissing } from './missing'
import { outOfOrder } from './order'
import { asOf, fillSlots } from './slots'
import { byStep, standing, struckByCrew } from './standing'
import type { Draft, Judgement, JudgeOptions, StepJudgement } from './types'
import { CLOSED, sumUp } from './whole'
import { windowVerdict } from './window'
import { asWithdrawn, withdrawalOf } from './withdrawal'
import { witnessOf } from './witness'

class Judge {
  private readonly slots: FactValue[]
  private readonly byStep: readonly (readonly Entry[])[]
  private readonly verdicts: (Judging | undefined)[]
  /** by step: whether it applies to this joint, and who intervenes at it */
  private readonly applies: boolean[] = []
  private readonly points: (InterventionPoint | null)[] = []
  private readonly drafts: Draft[] = []
  private readonly holds: Holds
  private readonly struck: ReadonlyMap<number, readonly Entry[]>
  /** the rejection that stands at a step, where something was done again since */
  private stuck: Map<number, { verdict: Verdict; entry: Entry }> | null = null
  private readonly context: CheckContext & { start: ClockStart }
  private readonly withdrawn: boolean
  /** somebody asks something; nearly always nobody does */
  private readonly asks: boolean

  constructor(
    private readonly compiled: CompiledProcedure,
    facts: Record<string, FactValue>,
    entries: readonly Entry[],
    now: number,
    private readonly options: JudgeOptions,
  ) {
    let [withdrawn, asks] = [false, false]
    for (const e of entries) {
      if (e.kind === 'withdrawal') withdrawn = true
      else if (e.kind === 'query' || (e.kind === 'release' && conditionsOf(e).length > 0)) asks = true
    }
    this.withdrawn = withdrawn && withdrawalOf(standing(entries)) !== null
    this.asks = asks
    this.byStep = byStep(compiled, entries)
    this.slots = fillSlots(compiled, facts, options.schools, this.byStep)
    this.verdicts = new Array<Judging | undefined>(compiled.steps.length)
    this.struck = struckByCrew(compiled, entries)
    this.context = {
      slots: this.slots,
      rule: options.rule ?? 'guarded',
      instruments: options.instruments ?? {},
      lots: options.lots ?? {},
      zone: options.zone ?? 'UTC',
      now,
      start: NO_START,
      missing: (...formulas) => whatIsMissing(compiled, formulas, this.slots),
      lacks: (formula) => lacking(compiled, formula, this.slots),
    }
    this.holds = new Holds(compiled, this.byStep, this.applies)
    for (const step of compiled.steps) {
      this.applies.push(applies(step, this.slots))
      const planned = options.plan === undefined ? undefined : options.plan[step.plainKey]
      const point = planned === undefined ? step.point : planned
      this.points.push(point)
      if (point === 'H') this.holds.add(step)
    }
  }

  private title(index: number) {
    return this.compiled.steps[index]!.title
  }

  /** What a formula comes to; null when it cannot be worked out. */
  private readonly worth = (formula: Formula | null): number | null => {
    const v = formula ? formula.evaluate(this.slots) : null
    return typeof v === 'number' && Number.isFinite(v) ? v : null
  }

  private blank(step: CompiledStep): Judging {
    const { brief, beside } = this.options
    return asAsked(step, {
      brief: brief === true,
      point: this.points[step.index]!,
      beside: beside === undefined ? undefined : beside[step.plainKey],
      worth: this.worth,
    })
  }

  step(index: number): Judging {
    return (this.verdicts[index] ??= this.judgeStep(this.compiled.steps[index]!))
  }

  private judgeStep(step: CompiledStep): Judging {
    const out = this.blank(step)
    if (!this.applies[step.index]) return settle(out, 'not-applicable', 'Does not apply to this joint.')
    const all = this.byStep[step.index]!
    const found = lookThrough(all, this.struck.size === 0 ? undefined : this.struck.get(step.index))
    const { ncr } = found
    if (ncr) out.ncr = { number: ncr.number, open: ncr.open, disposition: ncr.disposition }
    if (out.point !== null) this.intervene(all, out)
    const start = this.startOf(step)
    if (start !== NO_START) {
      out.startedAt = start.at
      out.until = start.until
      out.latest = start.latest
    }
    if (conceded(ncr)) {
      out.computed = 'rejected'
      return settle(out, 'accepted', `Used as is by concession, ${ncr!.number}.`)
    }
    this.answer(step, out, found, start)
    if (ncr?.open)
      return settle(
        out,
        'rejected',
        `${ncr.number} is open.${out.state === 'accepted' ? ' The new reading conforms; the rework waits to be verified.' : ''}`,
      )
    if (out.point === 'H') {
      const past = this.holds.passed(step, ncr, out)
      if (past) {
        this.drafts.push(past)
        return out
      }
    }
    if (out.state === 'accepted' && step.after.length > 0 && found.last)
      this.applyTimes(step, found.last, out)
    if (step.window) this.applyWindow(step, found.last, out)
    if (step.afterTest && out.point !== 'H') this.applyTest(found.last, out)
    if (found.last && out.state === 'rejected' && out.waivable)
      waiveLot(out, found.last, all, this.context.lots)
    if (found.decision) decide(out, found.decision)
    // What an inspector accepted with a reason is no nonconformance; what was decided against is one.
    if (out.state === 'rejected' || out.state === 'differs') this.draft(step, out)
    if (out.point === 'H') this.applyHold(step, out)
    return out.state === 'not-started' ? this.applyOrder(step, out) : out
  }

  /** What whoever intervenes has done here. */
  private intervene(all: readonly Entry[], out: Judging) {
    const wanted = (p: InterventionPoint) => out.point === p || out.beside.includes(p)
    if (out.point === 'H') out.release = releaseOf(all)
    if (wanted('W')) out.witness = witnessOf(all, this.options.notice)
    if (wanted('R')) out.review = reviewOf(all)
    if (wanted('S')) out.watch = watchOf(all, this.options.drawn?.includes(out.key) ?? null)
  }

  /**
   * A rejected step drafts its report; so does one that was rejected and about which two people differ
   * since.
   */
  private draft(step: CompiledStep, out: Judging) {
    const stuck = this.stuck?.get(step.index)
    if (out.state === 'rejected' || (out.state === 'differs' && stuck)) {
      const draft = stuck
        ? draftOf(
            step,
            { findings: stuck.verdict.findings, faults: [], entry: stuck.entry.id },
            say(stuck.verdict.sentence),
          )
        : draftOf(step, out, say(out.sentence))
      // One entry for both ends is one nonconformance.
      if (
        !this.drafts.some(
          (d) => d.entry !== '' && d.entry === draft.entry && plainKey(d.step) === plainKey(draft.step),
        )
      )
        this.drafts.push(draft)
    }
  }

  /** What was recorded before the steps that come first does not stand. */
  private applyTimes(step: CompiledStep, last: Entry, out: Judging) {
    for (const i of step.after) {
      const wrong = outOfOrder(last, this.compiled.steps[i]!, this.step(i), this.byStep[i]!)
      if (wrong) return void settle(out, wrong.state, wrong.sentence)
    }
  }

  private applyTest(last: Entry | null, out: Judging) {
    if (out.state !== (last ? 'accepted' : 'not-started')) return
    const verdict = beforeTheTest(last, this.options.tested)
    if (verdict) settle(out, verdict.state, verdict.sentence)
  }

  private applyWindow(step: CompiledStep, last: Entry | null, out: Judging) {
    if (out.state !== (last ? 'accepted' : 'not-started')) return
    const verdict = windowVerdict(this.compiled, this.slots, this.byStep, step, last)
    if (verdict) settle(out, verdict.state, verdict.sentence)
  }

  private startOf(step: CompiledStep): ClockStart {
    if (step.from < 0) return NO_START
    return clockStart(step, {
      from: this.step(step.from),
      entries: this.byStep[step.from]!,
      worth: this.worth,
      missing: this.context.missing,
    })
  }

  private take(out: Judging, verdict: Verdict, entry: Entry | null) {
    out.findings = verdict.findings
    out.faults = verdict.faults ?? []
    if (entry) out.entry = entry.id
    settle(out, verdict.state, verdict.sentence)
  }

  /** What one answer says; what depends on the moment is taken as it was then. */
  private judgeEntry(step: CompiledStep, entry: Entry): Verdict {
    const { takes, judge } = step.definition
    if (!judge || !takes.has(entry.kind)) return stray(entry.kind)
    const made = step as unknown as Made<{ kind: string }>
    if (!step.readsMoment) return judge(made, entry, this.context)
    asOf(this.compiled, this.slots, this.byStep, entry)
    const verdict = judge(made, entry, this.context)
    asOf(this.compiled, this.slots, this.byStep, null)
    return verdict
  }

  /** What the answers at a step say. */
  private answer(step: CompiledStep, out: Judging, found: AtStep, start: ClockStart) {
    this.context.start = start
    const { takes, workOut, judgeAll, unanswered } = step.definition
    const made = step as unknown as Made<{ kind: string }>
    const { last, other, tried } = found
    if (workOut) return this.take(out, workOut(made, out.value, this.context), null)
    if (judgeAll) {
      const given = this.byStep[step.index]!.filter((e) => takes.has(e.kind))
      if (given.length > 0) return this.take(out, judgeAll(made, given, this.context), given.at(-1)!)
    }
    if (last) {
      const verdict = this.judgeEntry(step, last)
      out.waivable = verdict.waivable === true
      this.take(out, verdict, last)
    } else if (unanswered) this.take(out, unanswered(made, this.context), null)
    if (tried.length > 1 || tried[0] !== last) this.again(step, out, last, tried)
    if (last && other && this.judgeEntry(step, other).state !== this.judgeEntry(step, last).state) {
      out.between = [last.id, other.id]
      settle(out, 'differs', 'Two people recorded this differently: an inspector decides.')
    }
  }

  /** A rejection stands whatever is recorded after it, until an inspector decides or its report is closed. */
  private again(step: CompiledStep, out: Judging, last: Entry | null, tried: readonly Entry[]) {
    if (out.state === 'rejected' && last !== null) return
    for (const entry of tried) {
      if (entry === last) continue
      const verdict = this.judgeEntry(step, entry)
      if (verdict.state !== 'rejected') continue
      this.stuck ??= new Map()
      this.stuck.set(step.index, { verdict, entry })
      out.between = last ? [last.id, entry.id] : []
      const since = last ? `Done again since: ${say(out.sentence)}` : 'It was struck since.'
      return void settle(
        out,
        'rejected',
        `${say(verdict.sentence)} ${since} The rejection stands until an inspector has decided.`,
      )
    }
  }

  private applyHold(step: CompiledStep, out: Judging) {
    this.holds.apply(step, out, step.afterTest ? this.options.tested : undefined)
    // What was waived with a reason is no nonconformance.
    const drafted = this.drafts.at(-1)
    if (out.state === 'accepted' && drafted?.step === out.key) this.drafts.pop()
  }

  /** Steps that wait for others show it, as long as nothing is recorded at them. */
  private applyOrder(step: CompiledStep, out: Judging): Judging {
    const missing = step.after.find((i) => !CLOSED.has(this.step(i).state))
    if (missing !== undefined) return settle(out, 'blocked', `First: ${this.title(missing)}.`)
    const unread = step.reads.find(
      (i) => this.step(i).entry === null && this.step(i).state !== 'not-applicable',
    )
    if (unread !== undefined) return settle(out, 'blocked', `First: ${this.title(unread)}.`)
    const hold = this.holds.before(step)
    if (hold !== null) return settle(out, 'blocked', `Behind the hold point "${hold}".`)
    if (step.from >= 0 && out.startedAt === null)
      return settle(out, 'blocked', `Starts with: ${this.title(step.from)}.`)
    return out
  }

  /**
   * Open queries and conditions hold what is accepted by its check. They come last: that somebody asks does
   * not undo what followed.
   */
  private applyAsked(step: CompiledStep, out: Judging, releases: readonly (readonly Entry[])[]) {
    out.asked = askedAt(out.key, this.byStep[step.index]!, releases)
    if (out.asked.length === 0 || out.ncr) return
    const held = heldByAsked(out.state, out.asked)
    if (!held) return
    settle(out, held.state, held.sentence)
    if (held.draft) this.drafts.push({ step: out.key, kind: 'rejected', ...held.draft })
  }

  finish(): Judgement {
    const steps: Judging[] = []
    for (let i = 0; i < this.compiled.steps.length; i++) steps.push(this.step(i))
    if (this.asks) {
      const releases = this.holds.entries()
      steps.forEach((s, i) => this.applyAsked(this.compiled.steps[i]!, s, releases))
    }
    if (this.options.brief) for (const s of steps) s.sentence = ''
    else for (const s of steps) s.sentence = say(s.sentence)
    const untouched = this.byStep.every((list) => list.length === 0)
    const out = sumUp(this.compiled, steps as StepJudgement[], untouched, this.drafts)
    return this.withdrawn ? asWithdrawn(out) : out
  }
}

/**
 * Judges one joint from its entries. Pure and total: any entries in any order
 * give a result, and the order of arrival does not matter.
 *
 * @param facts the joint's parameters in SI
 * @param now milliseconds since 1970; decides only clocks
 */
export function judge(
  compiled: CompiledProcedure,
  facts: Record<string, FactValue>,
  entries: readonly Entry[],
  now: number,
  options: JudgeOptions = {},
): Judgement {
  return wordedIn(options.units, () => new Judge(compiled, facts, entries, now, options).finish())
}
