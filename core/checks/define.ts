import type { ObjectShape } from 'yup'
import type { BandRule } from '../calculators/guard-band'
import type { Calculator } from '../calculators/define'
import type { FactValue, Formula, FormulaType, RecordFunction, Slots } from '../formula/formula'
import type { DimensionKey } from '../quantity/dimension'
import type { Entry, EntryKind } from '../record/entry'
import type { Payload } from '../record/payload'
import type { InstrumentFacts, LotFacts, StepState, Verdict } from './verdict'

/** What is judged by a procedure. */
export const judgedSubjects = ['joint', 'reach', 'pack'] as const
export type JudgedSubject = (typeof judgedSubjects)[number]

export interface Limit {
  /** each, mean, min, max, range, or an output of the check's calculator */
  of: string
  title?: string
  min?: string
  max?: string
  /** unit for display when it differs from the reading's */
  unit?: string
  /** a default that the project has to confirm: practice gives no figure */
  basis?: 'project'
}

export interface CompiledLimit {
  readonly limit: Limit
  readonly min: Formula | null
  readonly max: Formula | null
  /** display unit */
  readonly unit: string
  readonly dimension: DimensionKey
}

export type CompiledArguments = Readonly<Record<string, { formula: Formula } | { value: unknown }>>

/** What a check becomes when its procedure is compiled; each kind fills in what it has. */
export interface CheckParts {
  readonly limits: readonly CompiledLimit[]
  /** how many readings; null when it takes none */
  readonly readings: Formula | null
  /** the calculator's other arguments: formulas, or values as they stand */
  readonly arguments: CompiledArguments
  /** whether each choice conforms */
  readonly conforms: readonly (boolean | Formula)[]
  /** mark or calculated value */
  readonly value: Formula | null
  readonly earliest: Formula | null
  readonly latest: Formula | null
  /** index of the step that starts this clock, or −1 */
  readonly from: number
  readonly uncertainty: Formula | null
  /** what only its own kind has, by the key in the document */
  readonly formulas: Readonly<Record<string, Formula | null>>
}

export const noParts: CheckParts = {
  limits: [],
  readings: null,
  arguments: {},
  conforms: [],
  value: null,
  earliest: null,
  latest: null,
  from: -1,
  uncertainty: null,
  formulas: {},
}

/** What a kind may ask for while its check is compiled. Places are keys below the check: `limits[0].min`. */
export interface CheckCompiler {
  readonly title: string
  /** @throws PathProblem, also when it does not give what is wanted */
  formula(text: unknown, place: string, wanted: DimensionKey | FormulaType): Formula | null
  /** as `formula`, where a bare number is SI */
  si(text: unknown, place: string, wanted: DimensionKey): Formula
  /** index of the step that a key means from here */
  find(key: string, place: string): number
  /** refuses a unit of another dimension */
  unit(symbol: string, dimension: DimensionKey, place: string): void
  calculator(key: string, place: string): Calculator
  arguments(
    calculator: Calculator,
    given: Record<string, unknown> | undefined,
    place: string,
  ): CompiledArguments
  refuse(sentence: string, place: string): never
}

/** A step as its check's judge sees it. */
export type Made<C> = CheckParts & { readonly step: { key: string; title: string; check: C } }

/** How the step that starts a check's clock stands. */
export interface ClockStart {
  /** when it was done, ms; null while it is not */
  at: number | null
  /** it was recorded late, and nobody has spoken for it */
  late: boolean
  state: StepState | null
  /** earliest and latest time that follow, ms */
  until: number | null
  latest: number | null
  /** why they cannot be worked out; null when they can */
  timeless: string | null
}

/** What a judge of checks knows besides the entries. */
export interface CheckContext {
  readonly slots: Slots
  readonly rule: BandRule
  readonly instruments: Record<string, InstrumentFacts>
  readonly lots: Record<string, LotFacts>
  readonly zone: string
  readonly now: number
  readonly start: ClockStart
  /** what keeps formulas from being worked out, for a person */
  missing(...formulas: (Formula | null)[]): string
  /** whether a formula reads a number or a record that is not there */
  lacks(formula: Formula): boolean
}

/** What formulas of later steps read of a check, through a function such as `reading("step")`. */
export interface CheckRecord<C> {
  /** null where this check records no such thing */
  type(check: C): FormulaType | null
  /**
   * @param entries standing entries of the step, in order
   * @param until of what depends on the moment: the entry that is judged; null for the end of the record
   */
  value(
    made: Made<C>,
    entries: readonly Entry[],
    which: string | number,
    slots: Slots,
    until: Entry | null,
  ): FactValue
}

interface Described<C> {
  /** what it demands, in a line: for whoever reads the procedure */
  rule(check: C): string
  /** what an answer says, in few words: for the record and the certificate */
  entry(payload: Record<string, unknown>, check: C, kind: EntryKind): string
}

export interface CheckDefinition<C extends { kind: string }> {
  readonly kind: C['kind']
  /** what it may be asked of; of everything when left out */
  readonly subjects?: readonly JudgedSubject[]
  /** its keys in a document */
  readonly schema: ObjectShape
  /** the kinds of entries that answer it, each with its payload; none for what is worked out */
  readonly answers: Partial<Record<EntryKind, Payload>>
  /** a plain question: an answer needs no second look, and neighbours may be seen on one card */
  readonly plain?: boolean
  /** what it asks may be the same at every joint of a shift: its step may be asked `once` */
  readonly mayStand?: boolean
  readonly compile?: (check: C, compiler: CheckCompiler) => Partial<CheckParts>
  /** by the name of the function that reads it */
  readonly records?: Readonly<Record<string, CheckRecord<C>>>
  /** what one answer says. Total: an entry that makes no sense counts as nothing. */
  readonly judge?: (made: Made<C>, entry: Entry, context: CheckContext) => Verdict
  /** of a check that takes many entries: what all of them say together */
  readonly judgeAll?: (made: Made<C>, entries: readonly Entry[], context: CheckContext) => Verdict
  /** of a check that nobody answers: what it comes to */
  readonly workOut?: (made: Made<C>, value: number | null, context: CheckContext) => Verdict
  /** what it says while nobody has answered; nothing where that only means it is not started */
  readonly unanswered?: (made: Made<C>, context: CheckContext) => Verdict
  /** what it measures by the way, to be kept for lists and drawings, SI */
  readonly figures?: (made: Made<C>, entries: readonly Entry[], slots: Slots) => Record<string, number>
  /** of a check that is a clock: what is done when it has run, and what it holds back */
  readonly clock?: (check: C) => { action: string | null; gate: string | null }
  readonly describe: Described<C>
}

/** Any definition, where its kind does not matter. */
export type AnyCheck = CheckDefinition<{ kind: string }>
/** A kind as the registry keeps it. */
export interface RegisteredCheck extends AnyCheck {
  /** the kinds of entries that answer it */
  readonly takes: ReadonlySet<EntryKind>
}
export type CheckOf<D> = D extends CheckDefinition<infer C> ? C : never

export const defineCheck = <C extends { kind: string }>(definition: CheckDefinition<C>) => definition

export type { RecordFunction }
