import type { BandRule } from '../calculators/guard-band'
import type { CompiledStep } from '../procedure/compile'
import type { Slots } from '../procedure/formula'
import type { Entry } from '../record/entry'
import { showDuration } from '../quantity/show'
import { explainFinding, judgeReadings } from './measure'
import type { Finding, InstrumentFacts, StepState } from './types'

/** Entry kinds that answer a check (the others ask, decide, remark or correct). */
export const answering = new Set(['reading', 'confirmation', 'choice', 'count', 'clock', 'lot'])

export interface Verdict {
  state: StepState
  sentence: string
  findings: Finding[]
}

const plain = (state: StepState, sentence: string): Verdict => ({ state, sentence, findings: [] })
const yesNo = (answer: unknown, yes: string, no: string) => (answer === 'yes' ? plain('accepted', yes) : plain('rejected', no))

export interface CheckContext {
  slots: Slots
  rule: BandRule
  instruments: Record<string, InstrumentFacts>
  /** for clocks: when they started, or null */
  startedAt: number | null
}

/** Why a reading with this instrument does not count, or null when it does. */
function instrumentFault(entry: Entry, values: number[], instruments: Record<string, InstrumentFacts>): string | null {
  if (!entry.instrument) return null
  const instrument = instruments[entry.instrument]
  if (!instrument) return 'The reading does not count: its instrument is not in the register.'
  if (entry.recordedAt > instrument.calibratedUntil) return `The reading does not count: ${instrument.name} was out of calibration.`
  if (values.some((v) => v < instrument.min || v > instrument.max)) return `The reading does not count: it is outside the range of ${instrument.name}.`
  return null
}

function reading(step: CompiledStep, entry: Entry, context: CheckContext): Verdict {
  const check = step.step.check
  const values = Array.isArray(entry.payload.values) ? (entry.payload.values as unknown[]).filter((v): v is number => typeof v === 'number' && Number.isFinite(v)) : []
  const wanted = 'readings' in check && check.readings ? check.readings : 1
  if (values.length < wanted) return plain('not-started', `${values.length} of ${wanted} readings taken.`)
  const fault = instrumentFault(entry, values, context.instruments)
  if (fault) return plain('not-started', fault)
  const own = step.uncertainty ? (step.uncertainty.evaluate(context.slots) as number) : 0
  const uncertainty = entry.instrument ? context.instruments[entry.instrument]!.uncertainty : own
  const findings = judgeReadings(step, context.slots, values, Number.isNaN(uncertainty) ? 0 : uncertainty, context.rule)
  if (findings.length < step.limits.length) return plain('blocked', 'The limits cannot be worked out: a fact of this joint is missing.')
  const worst = findings.find((f) => f.verdict === 'reject') ?? findings.find((f) => f.verdict === 'too-close')
  const state: StepState = worst ? (worst.verdict === 'reject' ? 'rejected' : 'too-close') : 'accepted'
  return { state, sentence: worst ? explainFinding(worst) : findings.map(explainFinding).join(' '), findings }
}

function clock(step: CompiledStep, entry: Entry, context: CheckContext): Verdict {
  if (entry.payload.answer === 'no') return plain('rejected', 'Recorded as not done as it should be.')
  if (context.startedAt === null) return plain('rejected', 'Recorded before its clock had started.')
  const span = (f: CompiledStep['earliest']) => (f ? (f.evaluate(context.slots) as number) * 1000 : null)
  const [earliest, latest] = [span(step.earliest), span(step.latest)]
  const after = entry.recordedAt - context.startedAt
  if (earliest !== null && after < earliest) return plain('rejected', `Done ${showDuration((earliest - after) / 1000)} too early.`)
  if (latest !== null && after > latest) return plain('rejected', `Done ${showDuration((after - latest) / 1000)} too late.`)
  return plain('accepted', `Done ${showDuration(after / 1000)} after the start, in time.`)
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
      const chosen = check.choices.find((c) => c.key === entry.payload.choice)
      if (!chosen) return stray
      return plain(chosen.conforms ? 'accepted' : 'rejected', chosen.conforms ? `${chosen.title}.` : `${chosen.title}: ${chosen.reason ?? 'does not conform.'}`)
    }
    case 'count': {
      if (entry.kind !== 'count' || typeof entry.payload.count !== 'number') return stray
      const findings = judgeReadings(step, context.slots, [entry.payload.count], 0, context.rule)
      const bad = findings.find((f) => f.verdict !== 'accept')
      return { state: bad ? 'rejected' : 'accepted', sentence: bad ? explainFinding(bad) : `${entry.payload.count} counted.`, findings }
    }
    case 'lot': {
      if (entry.kind !== 'lot') return stray
      const expires = typeof entry.payload.expires === 'string' ? Date.parse(entry.payload.expires) : NaN
      if (!Number.isNaN(expires) && entry.recordedAt > expires) return plain('rejected', `Lot ${String(entry.payload.lot)} expired on ${String(entry.payload.expires).slice(0, 10)}.`)
      return plain('accepted', `Lot ${String(entry.payload.lot)}.`)
    }
    case 'clock':
      return entry.kind === 'clock' ? clock(step, entry, context) : stray
    case 'calculated':
      return stray
  }
}
