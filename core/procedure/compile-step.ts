import { findCalculator } from '../calculators/registry'
import type { Calculator } from '../calculators/define'
import {
  noParts,
  type CheckCompiler,
  type CheckParts,
  type CompiledArguments,
  type JudgedSubject,
  type RegisteredCheck,
} from '../checks/define'
import { recordFunctions } from '../checks/records'
import { clockOf, definitionOf, onlyWaits } from '../checks/registry'
import {
  compileFormula,
  constantFormula,
  typeOfDimension,
  type Formula,
  type FormulaType,
} from '../formula/formula'
import { located, PathProblem } from '../formula/path-problem'
import { Problem } from '../problem'
import { dimensions, type DimensionKey } from '../quantity/dimension'
import { findUnit } from '../quantity/units'
import { plainKey, type End, type MadeStep, type StepNames } from './ends'
import type { ProcedureScope } from './scope'
import type { InterventionPoint, ProcedureStep } from './types'

export interface CompiledStep extends CheckParts {
  readonly index: number
  readonly stage: string
  /** it comes after the pressure test and does not hold it back */
  readonly afterTest: boolean
  /** as it is made: at one of two ends, its key and title say which */
  readonly step: ProcedureStep
  readonly end: End | null
  readonly key: string
  readonly title: string
  /** its key and title in the document, where it is made at each end */
  readonly plainKey: string
  readonly plainTitle: string
  /** the intervention point that the document gives it */
  readonly point: InterventionPoint | null
  /** what its kind of check says, looked up once */
  readonly definition: RegisteredCheck
  readonly clock: { action: string | null; gate: string | null } | null
  /** nobody has to do anything at it, but time must pass */
  readonly onlyWaits: boolean
  /** its formulas read what depends on the moment that is judged, such as the level of a fill */
  readonly readsMoment: boolean
  readonly stageWhen: Formula | null
  readonly when: Formula | null
  /** how far the work has to be, and may not yet be, for it to be done */
  readonly window: { opens: Formula | null; closes: Formula | null } | null
  /** indices of steps that must be accepted first */
  readonly after: readonly number[]
  /** asked once a shift, and the lot step that its answer rests on; null when it is asked at every joint */
  readonly once: { readonly lot: number | null } | null
  /** indices of earlier steps whose record its formulas read */
  readonly reads: readonly number[]
  /** calculators that help at it, their inputs as far as the joint knows them */
  readonly aids: readonly { calculator: string; arguments: CompiledArguments }[]
}

const TRUTH: FormulaType = { kind: 'truth' }

/** Where steps are found by the keys a document uses. */
interface Steps {
  names: StepNames
  stepIndex: ReadonlyMap<string, number>
}

/**
 * Compiles the formulas of one step, each with its place in the document, and notes which steps they
 * read.
 */
class StepCompiler {
  private readonly reads = new Set<string>()
  private readonly step: ProcedureStep
  private readonly path: string

  constructor(
    private readonly made: MadeStep,
    private readonly scope: ProcedureScope,
    private readonly steps: Steps,
    private readonly all: readonly MadeStep[],
  ) {
    this.step = made.step
    this.path = made.path
  }

  formula(text: unknown, place: string, wanted: DimensionKey | FormulaType): Formula | null {
    if (text === undefined || text === null) return null
    return this.at(String(text), `${this.path}.${place}`, wanted)
  }

  private at(text: string, path: string, wanted: DimensionKey | FormulaType): Formula {
    const compiled = located(path, () =>
      compileFormula(text, this.scope, typeof wanted === 'string' ? typeOfDimension(wanted) : wanted),
    )
    for (const step of compiled.records) this.reads.add(step)
    return compiled
  }

  /** The steps that a key means from here: from outside, both of one that is made at each end. */
  findAll(key: string, place: string): number[] {
    const found = this.steps.names.all(key, this.made.end)
    if (found.length === 0) throw new PathProblem(`There is no step "${key}".`, `${this.path}.${place}`)
    return found.map((k) => this.steps.stepIndex.get(k)!)
  }

  find(key: string, place: string): number {
    const [found, other] = this.findAll(key, place)
    if (other !== undefined)
      throw new PathProblem(
        `"${key}" is made at each end: say which, as ${key}@upstream.`,
        `${this.path}.${place}`,
      )
    return found!
  }

  unit(symbol: string, dimension: DimensionKey, place: string) {
    const unit = findUnit(symbol)
    if (!unit || unit.dimension !== dimension)
      throw new PathProblem(
        `"${symbol}" is not a unit of ${dimensions[dimension].noun}.`,
        `${this.path}.${place}`,
      )
  }

  private arguments(
    calculator: Calculator,
    given: Record<string, unknown> | undefined,
    at: string,
  ): CompiledArguments {
    return Object.fromEntries(
      Object.entries(given ?? {}).map(([name, given]) => {
        const place = `${at}.${name}`
        const input = calculator.inputs[name]
        if (!input)
          throw new PathProblem(
            `Calculator "${calculator.key}" has no input "${name}".`,
            `${this.path}.${place}`,
          )
        const { kind, dimension } = input.describe
        if (typeof given === 'string' && (kind === 'quantity' || kind === 'count'))
          return [name, { formula: this.formula(given, place, dimension ?? 'ratio')! }]
        if (typeof given === 'string' && kind === 'flag')
          return [name, { formula: this.formula(given, place, TRUTH)! }]
        return [name, { value: located(`${this.path}.${place}`, () => input.read(given, name)) }]
      }),
    )
  }

  private aids(): CompiledStep['aids'] {
    return (this.step.aids ?? []).map((aid, i) => {
      const calculator = located(`${this.path}.aids[${i}].calculator`, () => findCalculator(aid.calculator))
      return {
        calculator: calculator.key,
        arguments: this.arguments(calculator, aid.arguments, `aids[${i}].arguments`),
      }
    })
  }

  /** What a kind of check compiles its own keys with. */
  private forCheck(): CheckCompiler {
    const here = (place: string) => `check.${place}`
    return {
      title: this.step.title,
      formula: (text, place, wanted) => this.formula(text, here(place), wanted),
      si: (text, place, wanted) => {
        const bare = String(text).trim()
        return bare !== '' && Number.isFinite(Number(bare))
          ? constantFormula(Number(bare), typeOfDimension(wanted))
          : this.formula(bare, here(place), wanted)!
      },
      find: (key, place) => this.find(key, here(place)),
      unit: (symbol, dimension, place) => this.unit(symbol, dimension, here(place)),
      calculator: (key, place) => located(`${this.path}.${here(place)}`, () => findCalculator(key)),
      arguments: (calculator, given, place) => this.arguments(calculator, given, here(place)),
      refuse: (sentence, place) => {
        throw new PathProblem(sentence, `${this.path}.${here(place)}`)
      },
    }
  }

  private check(subject: JudgedSubject): CheckParts {
    const { check } = this.step
    const definition = definitionOf(check)
    if (definition.subjects && !definition.subjects.includes(subject))
      throw new PathProblem(
        `A check of kind ${check.kind} is asked of a ${definition.subjects.join(' or a ')}: say so by "subject".`,
        `${this.path}.check.kind`,
      )
    return { ...noParts, ...definition.compile?.(check, this.forCheck()) }
  }

  /** Each side of a window says what it means. */
  private window(): CompiledStep['window'] {
    const { window } = this.step
    if (!window) return null
    const { opens, early, closes, late } = window
    if ((opens === undefined) !== (early === undefined))
      throw new PathProblem('Give "opens" and "early" together.', `${this.path}.window.early`)
    if ((closes === undefined) !== (late === undefined))
      throw new PathProblem('Give "closes" and "late" together.', `${this.path}.window.late`)
    if (opens === undefined && closes === undefined)
      throw new PathProblem('A window opens or closes.', `${this.path}.window`)
    return {
      opens: this.formula(opens, 'window.opens', TRUTH),
      closes: this.formula(closes, 'window.closes', TRUTH),
    }
  }

  /** What is asked once is of the day: not of one end, not measured, and before anybody comes to look. */
  private once(index: number): CompiledStep['once'] {
    const { step, end } = this.made
    const refuse = (why: string): never => {
      throw new PathProblem(why, `${this.path}.once`)
    }
    if (step.once === undefined) return null
    if (!definitionOf(step.check).mayStand)
      return refuse(`What a check of kind ${step.check.kind} asks is asked at every joint.`)
    if (end !== null) return refuse('A step that is made at each end is asked at each.')
    const before = this.all.slice(0, index)
    if (step.point === 'W' || [...before, this.made].some((m) => m.step.point === 'H'))
      return refuse('What somebody comes to look at, and what follows a hold point, is asked at every joint.')
    if (step.once === 'shift') return { lot: null }
    const lot = before.findLastIndex(
      (m) => m.step.check.kind === 'lot' && (step.once === 'lot' || m.step.key === step.once),
    )
    return lot < 0 ? refuse(`No lot is asked before this step, as "${step.once}" says.`) : { lot }
  }

  compile(index: number, subject: JudgedSubject): CompiledStep {
    const { step } = this
    const { stage, stagePath, end, plainTitle } = this.made
    const parts = this.check(subject)
    const stageWhen = stage.when === undefined ? null : this.at(stage.when, `${stagePath}.when`, TRUTH)
    const when = this.formula(step.when, 'when', TRUTH)
    const window = this.window()
    const after = (step.after ?? []).flatMap((key, i) => this.findAll(key, `after[${i}]`))
    const reads = [...this.reads].map((key) => this.steps.stepIndex.get(key)!).filter((i) => i !== index)
    // Written out, so that every step is laid out alike: judging reads them by the hundred thousand.
    return {
      index,
      key: step.key,
      title: step.title,
      plainKey: plainKey(step.key),
      plainTitle,
      point: step.point ?? null,
      definition: definitionOf(step.check),
      clock: clockOf(step.check),
      onlyWaits: onlyWaits(step.check),
      readsMoment: this.readsMoment(reads),
      stage: stage.key,
      afterTest: stage.after === 'pressure-test',
      step,
      end,
      stageWhen,
      when,
      window,
      once: this.once(index),
      after,
      reads,
      limits: parts.limits,
      readings: parts.readings,
      arguments: parts.arguments,
      conforms: parts.conforms,
      value: parts.value,
      earliest: parts.earliest,
      latest: parts.latest,
      from: parts.from,
      uncertainty: parts.uncertainty,
      formulas: parts.formulas,
      // A step does not wait for what only its aids would like to know.
      aids: this.aids(),
    }
  }

  private readsMoment(reads: readonly number[]): boolean {
    return this.scope.recorded.uses.some(
      ({ what, step }) => recordFunctions.get(what)!.asOf && reads.includes(step),
    )
  }
}

/** @throws PathProblem naming the place in the document */
export function compileStep(
  made: MadeStep,
  index: number,
  scope: ProcedureScope,
  steps: Steps,
  subject: JudgedSubject,
  all: readonly MadeStep[],
): CompiledStep {
  try {
    return new StepCompiler(made, scope, steps, all).compile(index, subject)
  } catch (error) {
    if (error instanceof Problem) throw new PathProblem(error.message, made.path)
    throw error
  }
}
