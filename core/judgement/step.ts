import type { BandRule } from '../calculators/guard-band'
import { DateTime } from 'luxon'
import type { CompiledProcedure, CompiledStep } from '../procedure/compile'
import type { Formula, Slots } from '../procedure/formula/formula'
import { isDay } from '../quantity/day'
import type { Entry } from '../record/entry'
import { nameKey } from '../record/names'
import { showDuration } from '../quantity/show'
import { instrumentFault } from './instruments'
import { lacking, whatIsMissing } from './missing'
import { explainAll, explainFinding, judgeReadings } from './measure'
import { addDays, addMonths, endOfDay, shelfEnd } from '../delivery/shelf-life'
import type { Finding, InstrumentFacts, LotFacts, StepState } from './types'

/** What a late entry needs. */
export const WORD = 'It counts with an inspector’s word.'

export interface Verdict {
  state: StepState
  /** why; a function where writing it out costs more than judging */
  sentence: string | (() => string)
  findings: Finding[]
  /** a lot past its date: used all the same by a waiver that names it */
  waivable?: boolean
}

const plain = (state: StepState, sentence: string | (() => string)): Verdict => ({
  state,
  sentence,
  findings: [],
})
const yesNo = (answer: unknown, yes: string, no: string) =>
  answer === 'yes' ? plain('accepted', yes) : plain('rejected', no)

export interface CheckContext {
  slots: Slots
  rule: BandRule
  instruments: Record<string, InstrumentFacts>
  lots: Record<string, LotFacts>
  /** for clocks: when they started, or null */
  startedAt: number | null
  /** for clocks: the start was recorded late, and nobody has spoken for it */
  startLate: boolean
  compiled: CompiledProcedure
  zone: string
}

const missing = (context: CheckContext, ...formulas: (Formula | null)[]) =>
  whatIsMissing(context.compiled, formulas, context.slots)

const unworkable = (step: CompiledStep, context: CheckContext) =>
  `The limits cannot be worked out: ${missing(context, ...step.limits.flatMap((l) => [l.min, l.max]))}.`

function reading(step: CompiledStep, entry: Entry, context: CheckContext): Verdict {
  const values = Array.isArray(entry.payload.values)
    ? (entry.payload.values as unknown[]).filter(
        (v): v is number => typeof v === 'number' && Number.isFinite(v),
      )
    : []
  const wanted = step.readings ? (step.readings.evaluate(context.slots) as number) : 1
  if (Number.isNaN(wanted))
    return plain(
      'blocked',
      `How many readings it takes cannot be worked out: ${missing(context, step.readings)}.`,
    )
  if (values.length < wanted) return plain('not-started', `${values.length} of ${wanted} readings taken.`)
  const fault = entry.instrument
    ? instrumentFault(context.instruments[entry.instrument], values, entry.recordedAt)
    : null
  if (fault) return plain('not-started', fault)
  const own = step.uncertainty ? (step.uncertainty.evaluate(context.slots) as number) : 0
  const uncertainty = entry.instrument ? context.instruments[entry.instrument]!.uncertainty : own
  if (Number.isNaN(uncertainty))
    return plain(
      'blocked',
      `How sure the reading is cannot be worked out: ${missing(context, step.uncertainty)}.`,
    )
  const findings = judgeReadings(step, context.slots, values, uncertainty, context.rule)
  if (findings.length < step.limits.length) return plain('blocked', unworkable(step, context))
  const worst =
    findings.find((f) => f.verdict === 'reject') ?? findings.find((f) => f.verdict === 'too-close')
  const state: StepState = worst ? (worst.verdict === 'reject' ? 'rejected' : 'too-close') : 'accepted'
  return { state, sentence: () => (worst ? explainFinding(worst) : explainAll(findings)), findings }
}

function clock(step: CompiledStep, entry: Entry, context: CheckContext): Verdict {
  if (entry.payload.answer === 'no') return plain('rejected', 'Recorded as not done as it should be.')
  if (context.startedAt === null) return plain('rejected', 'Recorded before its clock had started.')
  const span = (f: CompiledStep['earliest']) => (f ? (f.evaluate(context.slots) as number) * 1000 : null)
  const [earliest, latest] = [span(step.earliest), span(step.latest)]
  if (Number.isNaN(earliest) || Number.isNaN(latest))
    return plain(
      'blocked',
      `Its times cannot be worked out: ${missing(context, step.earliest, step.latest)}.`,
    )
  const after = entry.recordedAt - context.startedAt
  if (earliest !== null && after < earliest)
    return plain('rejected', `Done ${showDuration((earliest - after) / 1000)} too early.`)
  if (latest !== null && after > latest)
    return plain('rejected', `Done ${showDuration((after - latest) / 1000)} too late.`)
  if (entry.late || context.startLate)
    return plain(
      'held',
      `${entry.late ? 'This' : 'Its start'} was recorded late, and proves no time. ${WORD}`,
    )
  return plain('accepted', () => `Done ${showDuration(after / 1000)} after the start, in time.`)
}

/** Whether the choice at this place conforms for this joint. */
export const choiceConforms = (step: CompiledStep, at: number, slots: Slots): boolean => {
  const conforms = step.conforms[at]!
  return typeof conforms === 'boolean' ? conforms : conforms.evaluate(slots) === true
}

/** A lot of the register, however its name is spelled. */
export const registeredLot = (lots: Record<string, LotFacts>, name: unknown): LotFacts | undefined =>
  lots[String(name)] ?? lots[nameKey(String(name))]

type LotEnd = { at: number; why: string }

/**
 * When a lot ends by what was typed at the step, and whether a life that the procedure names cannot be
 * worked out.
 */
function typedEnds(
  step: CompiledStep,
  entry: Entry,
  { slots, zone }: CheckContext,
): { ends: LotEnd[]; lacks: boolean } {
  const day = (key: string) =>
    typeof entry.payload[key] === 'string' && isDay(entry.payload[key]) ? entry.payload[key] : null
  const number = (f: CompiledStep['shelfLife']) => (f ? (f.evaluate(slots) as number) : null)
  const [made, expires, opened] = [day('made'), day('expires'), day('opened')]
  const [life, months, openedLife] = [
    number(step.shelfLife),
    number(step.shelfMonths),
    number(step.openedLife),
  ]
  const ends: LotEnd[] = []
  const end = (last: string, why: string) => ends.push({ at: endOfDay(last, zone), why })
  // A printed date is good to its end.
  if (expires) end(expires, 'printed expiry')
  if (made && life !== null && !Number.isNaN(life))
    end(addDays(made, Math.floor(life / 86_400)), 'shelf life from production')
  if (made && months !== null && !Number.isNaN(months))
    end(addMonths(made, Math.floor(months)), 'shelf life from production')
  if (opened && openedLife !== null && !Number.isNaN(openedLife))
    end(addDays(opened, Math.floor(openedLife / 86_400)), 'life after opening')
  return { ends, lacks: [life, months, openedLife].some(Number.isNaN) }
}

/**
 * Quarantine first; then the earliest of the printed expiry, production plus shelf life, and opening plus
 * its own life, as typed or as the register has them.
 */
function lot(step: CompiledStep, entry: Entry, context: CheckContext): Verdict {
  const register = registeredLot(context.lots, entry.payload.lot)
  const name = `Lot ${String(entry.payload.lot)}`
  if (register?.quarantinedAt != null && entry.recordedAt >= register.quarantinedAt)
    return plain('rejected', `${name} is in quarantine: ${register.reason ?? 'no reason given'}.`)
  const { ends, lacks } = typedEnds(step, entry, context)
  if (lacks)
    return plain(
      'blocked',
      `How long ${name} is good cannot be worked out: ` +
        `${whatIsMissing(context.compiled, [step.shelfLife, step.shelfMonths, step.openedLife], context.slots)}.`,
    )
  const known = register ? shelfEnd(register, context.zone) : null
  if (known) ends.push(known)
  const first = ends.sort((a, b) => a.at - b.at)[0]
  const limited = step.shelfLife || step.shelfMonths || step.openedLife
  if (!first && limited) return plain('not-started', `${name}: give its date of production or expiry.`)
  const day = (at: number) => DateTime.fromMillis(at, { zone: context.zone }).toISODate()!
  if (first && entry.recordedAt > first.at)
    return {
      ...plain('rejected', `${name} expired on ${day(first.at)} (${first.why}): not used without a waiver.`),
      waivable: true,
    }
  // What came late may have been used after its date, or after its quarantine.
  const latest = entry.late ? (entry.receivedAt ?? Infinity) : entry.recordedAt
  if ((first && latest > first.at) || (register?.quarantinedAt != null && latest >= register.quarantinedAt))
    return plain(
      'held',
      `${name}: recorded late, so that nobody can tell whether it was used in time. ${WORD}`,
    )
  return plain('accepted', first ? `${name}, good until ${day(first.at)}.` : `${name}.`)
}

/**
 * What one entry says about its step, apart from releases, decisions and order. Total: a stray kind
 * counts as nothing.
 */
export function judgeEntry(step: CompiledStep, entry: Entry, context: CheckContext): Verdict {
  const check = step.step.check
  const stray = plain('not-started', `A ${entry.kind} does not answer this step.`)
  switch (check.kind) {
    case 'confirm':
    case 'mark':
      if (entry.kind !== 'confirmation') return stray
      if (step.value && entry.payload.answer === 'yes' && Number.isNaN(step.value.evaluate(context.slots)))
        return plain(
          'blocked',
          `Where the mark belongs cannot be worked out: ${missing(context, step.value)}.`,
        )
      return yesNo(
        entry.payload.answer,
        check.kind === 'mark' ? 'Marked.' : 'Confirmed.',
        check.kind === 'mark' ? 'Not marked as it should be.' : 'Answered no.',
      )
    case 'measure':
    case 'environment':
      return entry.kind === 'reading' ? reading(step, entry, context) : stray
    case 'choice': {
      if (entry.kind !== 'choice') return stray
      const at = check.choices.findIndex((c) => c.key === entry.payload.choice)
      if (at < 0) return stray
      const { title, reason } = check.choices[at]!
      const rule = step.conforms[at]!
      if (typeof rule !== 'boolean' && lacking(context.compiled, rule, context.slots))
        return plain(
          'blocked',
          `Whether "${title}" conforms cannot be worked out: ${missing(context, rule)}.`,
        )
      return choiceConforms(step, at, context.slots)
        ? plain('accepted', `${title}.`)
        : plain('rejected', `${title}: ${reason ?? 'does not conform.'}`)
    }
    case 'count': {
      if (entry.kind !== 'count' || typeof entry.payload.count !== 'number') return stray
      const findings = judgeReadings(step, context.slots, [entry.payload.count], 0, context.rule)
      if (findings.length < step.limits.filter((l) => l.min !== null || l.max !== null).length)
        return plain('blocked', unworkable(step, context))
      const bad = findings.find((f) => f.verdict !== 'accept')
      return {
        state: bad ? 'rejected' : 'accepted',
        sentence: () => (bad ? explainFinding(bad) : `${entry.payload.count} counted.`),
        findings,
      }
    }
    case 'lot': {
      return entry.kind === 'lot' ? lot(step, entry, context) : stray
    }
    case 'clock':
      return entry.kind === 'clock' ? clock(step, entry, context) : stray
    case 'calculated':
      return stray
  }
}
