import type { BandRule } from '../calculators/guard-band'
import type { CompiledStep } from '../procedure/compile'
import type { Slots } from '../procedure/formula/formula'
import type { Entry } from '../record/entry'
import { nameKey } from '../record/names'
import { showDuration } from '../quantity/show'
import { instrumentFault } from './instruments'
import { explainAll, explainFinding, judgeReadings } from './measure'
import { shelfEnd } from '../delivery/shelf-life'
import type { Finding, InstrumentFacts, LotFacts, StepState } from './types'

const DAY = 86_400_000

export interface Verdict {
  state: StepState
  /** why; a function where writing it out costs more than judging */
  sentence: string | (() => string)
  findings: Finding[]
}

const plain = (state: StepState, sentence: string | (() => string)): Verdict => ({ state, sentence, findings: [] })
const yesNo = (answer: unknown, yes: string, no: string) => (answer === 'yes' ? plain('accepted', yes) : plain('rejected', no))

export interface CheckContext {
  slots: Slots
  rule: BandRule
  instruments: Record<string, InstrumentFacts>
  lots: Record<string, LotFacts>
  /** for clocks: when they started, or null */
  startedAt: number | null
}

function reading(step: CompiledStep, entry: Entry, context: CheckContext): Verdict {
  const values = Array.isArray(entry.payload.values) ? (entry.payload.values as unknown[]).filter((v): v is number => typeof v === 'number' && Number.isFinite(v)) : []
  const wanted = step.readings ? (step.readings.evaluate(context.slots) as number) : 1
  if (Number.isNaN(wanted)) return plain('blocked', 'How many readings it takes cannot be worked out: a fact of this joint is missing.')
  if (values.length < wanted) return plain('not-started', `${values.length} of ${wanted} readings taken.`)
  const fault = entry.instrument ? instrumentFault(context.instruments[entry.instrument], values, entry.recordedAt) : null
  if (fault) return plain('not-started', fault)
  const own = step.uncertainty ? (step.uncertainty.evaluate(context.slots) as number) : 0
  const uncertainty = entry.instrument ? context.instruments[entry.instrument]!.uncertainty : own
  if (Number.isNaN(uncertainty)) return plain('blocked', 'How sure the reading is cannot be worked out: a fact of this joint is missing.')
  const findings = judgeReadings(step, context.slots, values, uncertainty, context.rule)
  if (findings.length < step.limits.length) return plain('blocked', 'The limits cannot be worked out: a fact of this joint is missing.')
  const worst = findings.find((f) => f.verdict === 'reject') ?? findings.find((f) => f.verdict === 'too-close')
  const state: StepState = worst ? (worst.verdict === 'reject' ? 'rejected' : 'too-close') : 'accepted'
  return { state, sentence: () => (worst ? explainFinding(worst) : explainAll(findings)), findings }
}

function clock(step: CompiledStep, entry: Entry, context: CheckContext): Verdict {
  if (entry.payload.answer === 'no') return plain('rejected', 'Recorded as not done as it should be.')
  if (context.startedAt === null) return plain('rejected', 'Recorded before its clock had started.')
  const span = (f: CompiledStep['earliest']) => (f ? (f.evaluate(context.slots) as number) * 1000 : null)
  const [earliest, latest] = [span(step.earliest), span(step.latest)]
  if (Number.isNaN(earliest) || Number.isNaN(latest)) return plain('blocked', 'Its times cannot be worked out: a fact of this joint, or an earlier reading, is missing.')
  const after = entry.recordedAt - context.startedAt
  if (earliest !== null && after < earliest) return plain('rejected', `Done ${showDuration((earliest - after) / 1000)} too early.`)
  if (latest !== null && after > latest) return plain('rejected', `Done ${showDuration((after - latest) / 1000)} too late.`)
  return plain('accepted', () => `Done ${showDuration(after / 1000)} after the start, in time.`)
}

/** Whether the choice at this place conforms for this joint. */
export const choiceConforms = (step: CompiledStep, at: number, slots: Slots): boolean => {
  const conforms = step.conforms[at]!
  return typeof conforms === 'boolean' ? conforms : conforms.evaluate(slots) === true
}

/** A lot of the register, however its name is spelled. */
export const registeredLot = (lots: Record<string, LotFacts>, name: unknown): LotFacts | undefined => lots[String(name)] ?? lots[nameKey(String(name))]

/** Quarantine first; then the earliest of the printed expiry, production plus shelf life, and opening plus its own life, as typed or as the register has them. */
function lot(step: CompiledStep, entry: Entry, context: CheckContext): Verdict {
  const date = (key: string) => (typeof entry.payload[key] === 'string' ? Date.parse(entry.payload[key]) : NaN)
  const life = (f: CompiledStep['shelfLife']) => (f ? (f.evaluate(context.slots) as number) * 1000 : NaN)
  const ends = [
    // A printed date is good to its end.
    { at: date('expires') + DAY - 1, why: 'printed expiry' },
    { at: date('made') + life(step.shelfLife), why: 'shelf life from production' },
    { at: date('opened') + life(step.openedLife), why: 'life after opening' },
  ].filter((e) => !Number.isNaN(e.at))
  const register = registeredLot(context.lots, entry.payload.lot)
  const name = `Lot ${String(entry.payload.lot)}`
  if (register?.quarantinedAt != null && entry.recordedAt >= register.quarantinedAt) return plain('rejected', `${name} is in quarantine: ${register.reason ?? 'no reason given'}.`)
  const known = register ? shelfEnd(register) : null
  if (known) ends.push(known)
  const first = ends.sort((a, b) => a.at - b.at)[0]
  const day = (at: number) => new Date(at).toISOString().slice(0, 10)
  if (!first) return step.shelfLife || step.openedLife ? plain('not-started', `${name}: give its date of production or expiry.`) : plain('accepted', `${name}.`)
  if (entry.recordedAt > first.at) return plain('rejected', `${name} expired on ${day(first.at)} (${first.why}): not used without a waiver.`)
  return plain('accepted', `${name}, good until ${day(first.at)}.`)
}

/** What one entry says about its step, apart from releases, decisions and order. Total: a stray kind counts as nothing. */
export function judgeEntry(step: CompiledStep, entry: Entry, context: CheckContext): Verdict {
  const check = step.step.check
  const stray = plain('not-started', `A ${entry.kind} does not answer this step.`)
  switch (check.kind) {
    case 'confirm':
    case 'mark':
      if (entry.kind !== 'confirmation') return stray
      return yesNo(entry.payload.answer, check.kind === 'mark' ? 'Marked.' : 'Confirmed.', check.kind === 'mark' ? 'Not marked as it should be.' : 'Answered no.')
    case 'measure':
    case 'environment':
      return entry.kind === 'reading' ? reading(step, entry, context) : stray
    case 'choice': {
      if (entry.kind !== 'choice') return stray
      const at = check.choices.findIndex((c) => c.key === entry.payload.choice)
      if (at < 0) return stray
      const { title, reason } = check.choices[at]!
      return choiceConforms(step, at, context.slots) ? plain('accepted', `${title}.`) : plain('rejected', `${title}: ${reason ?? 'does not conform.'}`)
    }
    case 'count': {
      if (entry.kind !== 'count' || typeof entry.payload.count !== 'number') return stray
      const findings = judgeReadings(step, context.slots, [entry.payload.count], 0, context.rule)
      const bad = findings.find((f) => f.verdict !== 'accept')
      return { state: bad ? 'rejected' : 'accepted', sentence: () => (bad ? explainFinding(bad) : `${entry.payload.count} counted.`), findings }
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
