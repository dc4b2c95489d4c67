import { outputDimension, type Calculator } from '../calculators/define'
import { findCalculator } from '../calculators/registry'
import { Problem } from '../problem'
import { dimensions, type DimensionKey } from '../quantity/dimension'
import { findUnit } from '../quantity/units'
import { compileFormula, typeOfDimension, type Formula, type FormulaType } from './formula/formula'
import { located, PathProblem } from './path-problem'
import { unique, type ProcedureScope } from './scope'
import type { End, MadeStep, StepNames } from './ends'
import type { Check, Limit, ProcedureStep } from './types'

export interface CompiledLimit {
  readonly limit: Limit
  readonly min: Formula | null
  readonly max: Formula | null
  /** display unit */
  readonly unit: string
  readonly dimension: DimensionKey
}

export type CompiledArguments = Readonly<Record<string, { formula: Formula } | { value: unknown }>>

export interface CompiledStep {
  readonly index: number
  readonly stage: string
  /** it comes after the pressure test and does not hold it back */
  readonly afterTest: boolean
  /** as it is made: at one of two ends, its key and title say which */
  readonly step: ProcedureStep
  readonly end: End | null
  readonly stageWhen: Formula | null
  readonly when: Formula | null
  /** indices of steps that must be accepted first */
  readonly after: readonly number[]
  /** indices of earlier steps whose record its formulas read */
  readonly reads: readonly number[]
  readonly limits: readonly CompiledLimit[]
  /** how many readings; null when it takes none */
  readonly readings: Formula | null
  /** the calculator's other arguments: formulas, or values as they stand */
  readonly arguments: CompiledArguments
  /** calculators that help at it, their inputs as far as the joint knows them */
  readonly aids: readonly { calculator: string; arguments: CompiledArguments }[]
  /** whether each choice conforms */
  readonly conforms: readonly (boolean | Formula)[]
  /** mark or calculated value */
  readonly value: Formula | null
  readonly earliest: Formula | null
  readonly latest: Formula | null
  /** index of the step that starts this clock */
  readonly from: number
  readonly uncertainty: Formula | null
  readonly shelfLife: Formula | null
  readonly shelfMonths: Formula | null
  readonly openedLife: Formula | null
}

export const STATISTICS = ['each', 'mean', 'min', 'max', 'range']
const TRUTH: FormulaType = { kind: 'truth' }
type Measured = Extract<Check, { limits: Limit[] }>

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
  readonly reads = new Set<string>()

  private readonly step: ProcedureStep
  private readonly path: string

  constructor(
    private readonly made: MadeStep,
    private readonly scope: ProcedureScope,
    private readonly steps: Steps,
  ) {
    this.step = made.step
    this.path = made.path
  }

  formula(text: string | undefined, place: string, wanted: DimensionKey | FormulaType): Formula | null {
    if (text === undefined) return null
    return this.at(text, `${this.path}.${place}`, wanted)
  }

  private at(text: string, path: string, wanted: DimensionKey | FormulaType): Formula {
    const compiled = located(path, () =>
      compileFormula(String(text), this.scope, typeof wanted === 'string' ? typeOfDimension(wanted) : wanted),
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

  limits(check: Measured): CompiledLimit[] {
    const calculator = check.calculator
      ? located(`${this.path}.check.calculator.key`, () => findCalculator(check.calculator!.key))
      : null
    return check.limits.map((limit, i) => {
      const here = `check.limits[${i}]`
      const plain = STATISTICS.includes(limit.of)
      if (!plain && !(calculator && limit.of in calculator.outputs))
        throw new PathProblem(
          `"${limit.of}" is neither ${STATISTICS.join(', ')} nor an output of the step's calculator.`,
          `${this.path}.${here}.of`,
        )
      const dimension = plain ? check.quantity : outputDimension(calculator!.outputs[limit.of]!)
      const unit = limit.unit ?? (plain ? check.unit : dimensions[dimension].unit)
      if (unit) this.unit(unit, dimension, `${here}.unit`)
      return {
        limit,
        unit,
        dimension,
        min: this.formula(limit.min, `${here}.min`, dimension),
        max: this.formula(limit.max, `${here}.max`, dimension),
      }
    })
  }

  ofCheck(check: Check): CompiledArguments {
    if (!('calculator' in check) || !check.calculator) return {}
    const { key, readings } = check.calculator
    const calculator = located(`${this.path}.check.calculator.key`, () => findCalculator(key))
    if (!calculator.inputs[readings])
      throw new PathProblem(
        `Calculator "${calculator.key}" has no input "${readings}".`,
        `${this.path}.check.calculator.readings`,
      )
    return this.arguments(calculator, check.calculator.arguments, 'check.calculator.arguments')
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

  conforms(check: Check): (boolean | Formula)[] {
    if (check.kind !== 'choice') return []
    unique(
      check.choices.map((c) => c.key),
      'choice',
      (i) => `${this.path}.check.choices[${i}].key`,
    )
    return check.choices.map((c, i) => {
      if (c.conforms !== true && !c.reason)
        throw new PathProblem(`Say why "${c.title}" does not conform.`, `${this.path}.check.choices[${i}]`)
      return typeof c.conforms === 'boolean'
        ? c.conforms
        : this.formula(c.conforms, `check.choices[${i}].conforms`, TRUTH)!
    })
  }

  compile(index: number): CompiledStep {
    const { step } = this
    const { stage, stagePath, end } = this.made
    const check = step.check
    if ('unit' in check && check.unit)
      this.unit(check.unit, check.kind === 'mark' ? 'length' : check.quantity, 'check.unit')
    const measured = check.kind === 'measure' || check.kind === 'environment'
    let limits: CompiledLimit[] = measured ? this.limits(check) : []
    if (check.kind === 'count' || check.kind === 'calculated') {
      const dimension: DimensionKey = check.kind === 'count' ? 'ratio' : check.quantity
      limits = [
        {
          limit: { of: 'each', title: step.title, min: check.min, max: check.max },
          min: this.formula(check.min, 'check.min', dimension),
          max: this.formula(check.max, 'check.max', dimension),
          unit: check.kind === 'count' ? '' : check.unit,
          dimension,
        },
      ]
    }
    const lot = check.kind === 'lot' ? check : null
    const clock = check.kind === 'clock' ? check : null
    const compiled = {
      index,
      stage: stage.key,
      afterTest: stage.after === 'pressure-test',
      step,
      end,
      limits,
      stageWhen: stage.when === undefined ? null : this.at(stage.when, `${stagePath}.when`, TRUTH),
      when: this.formula(step.when, 'when', TRUTH),
      after: (step.after ?? []).flatMap((key, i) => this.findAll(key, `after[${i}]`)),
      readings: measured ? this.formula(String(check.readings ?? 1), 'check.readings', 'ratio') : null,
      arguments: this.ofCheck(check),
      conforms: this.conforms(check),
      value:
        check.kind === 'mark'
          ? this.formula(check.formula, 'check.formula', 'length')
          : check.kind === 'calculated'
            ? this.formula(check.formula, 'check.formula', check.quantity)
            : null,
      earliest: this.formula(clock?.earliest, 'check.earliest', 'time'),
      latest: this.formula(clock?.latest, 'check.latest', 'time'),
      from: clock ? this.find(clock.from, 'check.from') : -1,
      uncertainty: measured ? this.formula(check.uncertainty, 'check.uncertainty', check.quantity) : null,
      shelfLife: this.formula(lot?.shelfLife, 'check.shelfLife', 'time'),
      shelfMonths: this.formula(lot?.shelfMonths, 'check.shelfMonths', 'ratio'),
      openedLife: this.formula(lot?.openedLife, 'check.openedLife', 'time'),
    }
    const reads = [...this.reads].map((key) => this.steps.stepIndex.get(key)!).filter((i) => i !== index)
    // A step does not wait for what only its aids would like to know.
    return { ...compiled, reads, aids: this.aids() }
  }
}

/** @throws PathProblem naming the place in the document */
export function compileStep(
  made: MadeStep,
  index: number,
  scope: ProcedureScope,
  steps: Steps,
): CompiledStep {
  try {
    return new StepCompiler(made, scope, steps).compile(index)
  } catch (error) {
    if (error instanceof Problem) throw new PathProblem(error.message, made.path)
    throw error
  }
}
