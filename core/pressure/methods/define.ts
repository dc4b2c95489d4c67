import { guardBandVerdict, type BandRule, type BandVerdict } from '../../calculators/guard-band'
import type { Inputs, Values } from '../../calculators/input'
import { curveOf, type Point } from '../curve'
import { pausesOf, type Pause, type TestEvent } from '../events'
import type { Gauge } from '../gauge'
import type { Column, Row } from '../rows'
import type { Section, SectionKey } from '../section'

export type TestVerdict = BandVerdict | 'incomplete'

/** A number of a test, in the unit named; never rounded. */
export interface TestNumber {
  value: number | null
  unit: string
  limit?: number
  uncertainty?: number
  verdict?: BandVerdict
}

export interface TestPhase {
  key: string
  from: number
  to: number
}

/** What a method makes of a log. */
export interface Outcome {
  numbers: Record<string, TestNumber>
  phases: TestPhase[]
  /** seconds still to run; null when it has all run, or none has begun */
  needed: number | null
  /** it has not run out; a number may reject it all the same */
  running: boolean
  /** why it runs, in a sentence */
  waits?: string
  cautions?: string[]
}

/** What a method is given. */
export interface Run<P> {
  parameters: P
  section: Section
  gauge: Gauge
  rule: BandRule
  rows: readonly Row[]
  events: readonly TestEvent[]
  pauses: readonly Pause[]
  /** time of the last row */
  last: number
  curve(column: Column): Point[]
  /** judges a number against limits by the project's rule */
  judge(value: number, min: number | null, max: number | null, uncertainty: number): BandVerdict
}

/** Words for a number: for screens, certificates and whoever reads the method. */
export interface NumberWords {
  title: string
  /** what it is made of */
  formula: string
  /** it says yes (1) or no (0) */
  flag?: boolean
  /** how it is held against its limit; of one without a limit nothing */
  bound?: 'at least' | 'at most' | 'within' | 'about'
  /** the phase that it is measured in, when that is over before the test is */
  of?: string
}

export interface TestMethod<I extends Inputs = Inputs> {
  readonly key: string
  readonly title: string
  /** materials it fits, by words that stand in them; any when empty */
  readonly materials: readonly string[]
  /** it is filled with air, not with water */
  readonly air?: boolean
  /** it tests a part – a casing, one joint, a hose, a manhole – and not the section that it lies in */
  readonly part?: boolean
  readonly parameters: I
  /** titles and reasons of parameters, for the form */
  readonly words: Readonly<Record<string, { title: string; why: string }>>
  /** what it needs of the section */
  readonly section: readonly SectionKey[]
  readonly phases: Readonly<Record<string, string>>
  readonly numbers: Readonly<Record<string, NumberWords>>
  readonly why: string
  readonly cautions: readonly string[]
  evaluate(run: Run<Values<I>>): Outcome
}

export const defineTestMethod = <const I extends Inputs>(method: TestMethod<I>): TestMethod<I> => method

export function runOf<P>(
  given: Pick<Run<P>, 'parameters' | 'section' | 'gauge' | 'rule' | 'rows' | 'events'>,
): Run<P> {
  return {
    ...given,
    pauses: pausesOf(given.events),
    last: given.rows.at(-1)!.t,
    curve: (column) => curveOf(given.rows, column),
    judge: (value, min, max, uncertainty) =>
      guardBandVerdict(value, min, max, uncertainty, given.rule).verdict,
  }
}

/** A number that a limit judges. */
export const judged = (
  value: number,
  unit: string,
  limit: number,
  uncertainty: number,
  verdict: BandVerdict,
): TestNumber => ({ value, unit, limit, uncertainty, verdict })

/** A number that is only said. */
export const said = (value: number | null, unit: string): TestNumber => ({ value, unit })

/** A limit that is met or not, whatever the project's rule. */
export const met = (ok: boolean): BandVerdict => (ok ? 'accept' : 'reject')

const nothing: Outcome = { numbers: {}, phases: [], needed: null, running: true }
/** A test whose pressure was never there. */
export const notBegun = (waits: string): Outcome => ({ ...nothing, waits })
