import type { BandVerdict } from '../calculators/guard-band'
import type { LotDates } from '../lots/shelf-life'
import type { DimensionKey } from '../quantity/dimension'

export const stepStates = [
  'accepted',
  'rejected',
  'too-close',
  'waiting',
  'overdue',
  'held',
  'blocked',
  'differs',
  'in-work',
  'not-started',
  'not-applicable',
] as const
export type StepState = (typeof stepStates)[number]

/** One limit against what was found, all in SI. */
export interface Finding {
  title: string
  of: string
  dimension: DimensionKey
  unit: string
  value: number
  min: number | null
  max: number | null
  uncertainty: number
  /** one reading's own uncertainty, where what is made of several carries another */
  reading: { uncertainty: number; dimension: DimensionKey; unit: string } | null
  margin: number
  verdict: BandVerdict
}

/** What is wrong with one entry of a step that takes many. */
export interface Fault {
  entry: string
  code: string
  /** why, in a sentence */
  sentence: string
  /** what it says to this fault: nothing, or that it is too near to call */
  verdict: 'reject' | 'too-close'
}

/** What the entries of one step say, apart from releases, decisions and order. */
export interface Verdict {
  state: StepState
  /** why; a function where writing it out costs more than judging */
  sentence: string | (() => string)
  findings: readonly Finding[]
  /** of a step that takes many entries: what is wrong with which */
  faults?: readonly Fault[]
  /** a lot past its date: used all the same by a waiver that names it */
  waivable?: boolean
}

export interface InstrumentFacts {
  uncertainty: number
  min: number
  max: number
  /** ms; readings outside these times do not count */
  calibrated: readonly { from: number; until: number }[]
  name: string
}

/** A lot of the register, by its name. */
export interface LotFacts extends LotDates {
  /** ms; from then on it may not be used */
  quarantinedAt: number | null
  reason: string | null
}

export const plain = (state: StepState, sentence: Verdict['sentence']): Verdict => ({
  state,
  sentence,
  findings: [],
})

/** What is wrong, entry by entry. */
export const faultsSay = (faults: readonly Fault[]): string => faults.map((f) => f.sentence).join(' ')

/** An entry that says nothing of the step's question. */
export const stray = (kind: string): Verdict => plain('not-started', `A ${kind} does not answer this step.`)

/** What a late entry needs. */
export const WORD = 'It counts with an inspector’s word.'
