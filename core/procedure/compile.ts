import { Problem } from '../problem'
import { findCalculator } from '../calculators/registry'
import { dimensions, type DimensionKey } from '../quantity/dimension'
import { readQuantity } from '../quantity/read'
import { findUnit } from '../quantity/units'
import { compileFormula, typeOfDimension, type FactValue, type Formula, type FormulaType, type Scope, type Slots } from './formula'
import { compileTable, type CompiledTable } from './table'
import type { Check, Limit, Procedure, ProcedureFact, ProcedureStep } from './types'

/** A fault at a place in the document; the loader turns the path into line and column. */
export class PathProblem extends Error {
  constructor(message: string, readonly path: string, readonly offset = 0) {
    super(message)
  }
}

export interface CompiledLimit {
  readonly limit: Limit
  readonly min: Formula | null
  readonly max: Formula | null
  /** display unit */
  readonly unit: string
  readonly dimension: DimensionKey
}

export interface CompiledStep {
  readonly index: number
  readonly stage: string
  readonly step: ProcedureStep
  readonly when: Formula | null
  /** indices of steps that must be accepted first */
  readonly after: readonly number[]
  readonly limits: readonly CompiledLimit[]
  /** mark or calculated value */
  readonly value: Formula | null
  readonly earliest: Formula | null
  readonly latest: Formula | null
  /** index of the step that starts this clock */
  readonly from: number
  readonly uncertainty: Formula | null
}

export interface CompiledProcedure {
  readonly procedure: Procedure
  readonly steps: readonly CompiledStep[]
  readonly stepIndex: ReadonlyMap<string, number>
  readonly scope: Scope
  /** Lays the facts of one joint into slots, defaults of options included. */
  slots(facts: Record<string, FactValue>, options?: Record<string, string>): Slots
}

const STATISTICS = ['each', 'mean', 'min', 'max', 'range']
const factType = (fact: ProcedureFact): FormulaType => (fact.dimension === 'word' ? { kind: 'word' } : fact.dimension === 'flag' ? { kind: 'truth' } : typeOfDimension(fact.dimension))

function unique(keys: string[], what: string, path: (index: number) => string) {
  keys.forEach((key, i) => {
    if (keys.indexOf(key) !== i) throw new PathProblem(`The ${what} "${key}" stands twice.`, path(i))
  })
}

function buildScope(procedure: Procedure): { scope: Scope; order: string[] } {
  unique(procedure.facts.map((f) => f.key), 'fact', (i) => `facts[${i}].key`)
  unique(procedure.options.map((o) => o.key), 'option', (i) => `options[${i}].key`)
  unique(procedure.tables.map((t) => t.key), 'table', (i) => `tables[${i}].key`)
  const names = new Map<string, { slot: number; type: FormulaType }>()
  procedure.facts.forEach((fact) => names.set(fact.key, { slot: names.size, type: factType(fact) }))
  procedure.options.forEach((option, i) => {
    if (!option.choices.some((c) => c.key === option.default)) throw new PathProblem(`The default "${option.default}" is not one of the choices.`, `options[${i}].default`)
    names.set(`option.${option.key}`, { slot: names.size, type: { kind: 'word' } })
  })
  const tables = new Map<string, CompiledTable>()
  procedure.tables.forEach((table, i) => tables.set(table.key, located(`tables[${i}]`, () => compileTable(table))))
  return { scope: { names, tables }, order: [...names.keys()] }
}

/** Runs a part of the compilation and gives its refusals a place. */
function located<T>(path: string, run: () => T): T {
  try {
    return run()
  } catch (error) {
    if (error instanceof Problem) throw new PathProblem(error.message, path, Number(error.details?.offset ?? 0))
    throw error
  }
}

function outputDimension(kind: string | undefined): DimensionKey {
  if (kind === 'percent' || kind === 'number') return 'ratio'
  if (kind === 'seconds') return 'time'
  return (kind ?? 'ratio') as DimensionKey
}

function compileLimits(check: Extract<Check, { limits: Limit[] }>, scope: Scope, path: string): CompiledLimit[] {
  const calculator = check.calculator ? located(`${path}.calculator.key`, () => findCalculator(check.calculator!.key)) : null
  if (calculator && !calculator.inputs[check.calculator!.readings]) throw new PathProblem(`Calculator "${calculator.key}" has no input "${check.calculator!.readings}".`, `${path}.calculator.readings`)
  return check.limits.map((limit, i) => {
    const here = `${path}.limits[${i}]`
    if (!STATISTICS.includes(limit.of) && !(calculator && limit.of in calculator.outputs)) throw new PathProblem(`"${limit.of}" is neither ${STATISTICS.join(', ')} nor an output of the step's calculator.`, `${here}.of`)
    const dimension = STATISTICS.includes(limit.of) ? check.quantity : outputDimension(calculator?.outputs[limit.of])
    const type = typeOfDimension(dimension)
    const unit = limit.unit ?? (STATISTICS.includes(limit.of) ? check.unit : dimensions[dimension].unit)
    if (unit && !findUnit(unit)) throw new PathProblem(`The unit "${unit}" is not known.`, here)
    return {
      limit, unit, dimension,
      min: limit.min === undefined ? null : located(`${here}.min`, () => compileFormula(limit.min!, scope, type)),
      max: limit.max === undefined ? null : located(`${here}.max`, () => compileFormula(limit.max!, scope, type)),
    }
  })
}

function compileStep(step: ProcedureStep, index: number, stage: string, path: string, scope: Scope, stepIndex: ReadonlyMap<string, number>): CompiledStep {
  const check = step.check
  const here = `${path}.check`
  const optional = (text: string | undefined, key: string, dimension: DimensionKey): Formula | null => (text === undefined ? null : located(`${here}.${key}`, () => compileFormula(text, scope, typeOfDimension(dimension))))
  const find = (key: string, where: string): number => {
    const found = stepIndex.get(key)
    if (found === undefined) throw new PathProblem(`There is no step "${key}".`, where)
    return found
  }
  if ('unit' in check && check.unit) {
    const unit = findUnit(check.unit)
    const wanted = check.kind === 'mark' ? 'length' : check.quantity
    if (!unit || unit.dimension !== wanted) throw new PathProblem(`"${check.unit}" is not a unit of ${dimensions[wanted].noun}.`, `${here}.unit`)
  }
  let limits: CompiledLimit[] = []
  if (check.kind === 'measure' || check.kind === 'environment') limits = compileLimits(check, scope, here)
  if (check.kind === 'count' || check.kind === 'calculated') {
    const dimension: DimensionKey = check.kind === 'count' ? 'ratio' : check.quantity
    limits = [{ limit: { of: 'each', min: check.min, max: check.max }, min: optional(check.min, 'min', dimension), max: optional(check.max, 'max', dimension), unit: check.kind === 'count' ? '' : check.unit, dimension }]
  }
  return {
    index, stage, step, limits,
    when: step.when === undefined ? null : located(`${path}.when`, () => compileFormula(step.when!, scope, { kind: 'truth' })),
    after: (step.after ?? []).map((key, i) => find(key, `${path}.after[${i}]`)),
    value: check.kind === 'mark' ? optional(check.formula, 'formula', 'length') : check.kind === 'calculated' ? optional(check.formula, 'formula', check.quantity) : null,
    earliest: check.kind === 'clock' ? optional(check.earliest, 'earliest', 'time') : null,
    latest: check.kind === 'clock' ? optional(check.latest, 'latest', 'time') : null,
    from: check.kind === 'clock' ? find(check.from, `${here}.from`) : -1,
    uncertainty: 'uncertainty' in check && check.uncertainty !== undefined ? optional(check.uncertainty, 'uncertainty', check.quantity) : null,
  }
}

/** Refuses steps that wait for each other, through `after` or through clocks. */
function refuseCircles(steps: readonly CompiledStep[], paths: string[]) {
  const state = new Array<0 | 1 | 2>(steps.length).fill(0)
  const visit = (i: number, trail: string[]) => {
    if (state[i] === 2) return
    if (state[i] === 1) throw new PathProblem(`These steps wait for each other: ${[...trail, steps[i]!.step.key].join(' → ')}.`, paths[i]!)
    state[i] = 1
    for (const next of [...steps[i]!.after, ...(steps[i]!.from >= 0 ? [steps[i]!.from] : [])]) visit(next, [...trail, steps[i]!.step.key])
    state[i] = 2
  }
  steps.forEach((_s, i) => visit(i, []))
}

/**
 * Compiles a procedure once per revision; judging a joint is then plain arithmetic.
 *
 * @throws PathProblem naming the place in the document
 */
export function compileProcedure(procedure: Procedure): CompiledProcedure {
  const { scope, order } = buildScope(procedure)
  const flat = procedure.stages.flatMap((stage, s) => stage.steps.map((step, i) => ({ stage: stage.key, step, path: `stages[${s}].steps[${i}]` })))
  unique(flat.map(({ step }) => step.key), 'step', (i) => `${flat[i]!.path}.key`)
  const stepIndex = new Map(flat.map(({ step }, i) => [step.key, i]))
  const steps = flat.map(({ stage, step, path }, i) => compileStep(step, i, stage, path, scope, stepIndex))
  refuseCircles(steps, flat.map(({ path }) => path))
  const defaults = Object.fromEntries(procedure.options.map((o) => [`option.${o.key}`, o.default]))
  return {
    procedure, steps, stepIndex, scope,
    slots(facts, options = {}) {
      const chosen = Object.fromEntries(Object.entries(options).map(([key, value]) => [`option.${key}`, value]))
      return order.map((key) => facts[key] ?? chosen[key] ?? defaults[key])
    },
  }
}

/**
 * Reads facts as typed or stored against the procedure: dimension, bounds, choices.
 *
 * @throws Problem naming the fact
 */
export function readFacts(procedure: Procedure, raw: Record<string, unknown>): Record<string, FactValue> {
  for (const key of Object.keys(raw)) if (!procedure.facts.some((f) => f.key === key)) throw new Problem('unknown-fact', `"${key}" is not a fact of this procedure.`, key)
  const out: Record<string, FactValue> = {}
  for (const fact of procedure.facts) {
    const given = raw[fact.key]
    if (given === undefined || given === null || given === '') {
      if (!fact.optional) throw new Problem('missing', `${fact.title} is missing.`, fact.key)
      continue
    }
    if (fact.dimension === 'word') {
      if (typeof given !== 'string' || (fact.choices && !fact.choices.includes(given))) throw new Problem('unknown-choice', `${fact.title} must be one of ${fact.choices?.join(', ') ?? 'the known words'}.`, fact.key)
      out[fact.key] = given
    } else if (fact.dimension === 'flag') {
      if (typeof given !== 'boolean') throw new Problem('not-a-flag', `${fact.title} must be yes or no.`, fact.key)
      out[fact.key] = given
    } else {
      const value = readQuantity(given, fact.dimension, { field: fact.key, ...(typeof given === 'string' && fact.unit ? { bareUnit: fact.unit } : {}) })
      const bound = (text: string | undefined) => (text === undefined ? null : readQuantity(text, fact.dimension as DimensionKey, { field: fact.key }))
      const [min, max] = [bound(fact.min), bound(fact.max)]
      if ((min !== null && value < min) || (max !== null && value > max)) throw new Problem('out-of-bounds', `${fact.title} must lie between ${fact.min ?? '…'} and ${fact.max ?? '…'}.`, fact.key)
      out[fact.key] = value
    }
  }
  return out
}
