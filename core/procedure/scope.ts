import { Problem } from '../problem'
import { PathProblem, located } from './path-problem'
import { typeOfDimension, type Formula, type FormulaType, type Scope } from './formula/formula'
import type { RecordedStatistic, RecordedSteps } from './formula/parts'
import { compileTable, type CompiledTable } from './table'
import { ends, type End, type StepNames } from './ends'
import type { Procedure, ProcedureFact, ProcedureStep } from './types'

/** One use that a formula makes of what was recorded at a step. */
export interface RecordedUse {
  readonly slot: number
  /** index of the step */
  readonly step: number
  readonly what: 'reading' | 'answer'
  readonly statistic: RecordedStatistic
}

const typeOfFact = (fact: ProcedureFact): FormulaType =>
  fact.dimension === 'word'
    ? { kind: 'word' }
    : fact.dimension === 'flag'
      ? { kind: 'truth' }
      : typeOfDimension(fact.dimension)

/** The type of what a step records, or null when it records no such thing. */
function typeOfRecord(step: ProcedureStep, what: 'reading' | 'answer'): FormulaType | null {
  const check = step.check
  if (what === 'answer') return check.kind === 'choice' ? { kind: 'word' } : null
  if (check.kind === 'measure' || check.kind === 'environment') return typeOfDimension(check.quantity)
  return check.kind === 'count' ? typeOfDimension('ratio') : null
}

/** Hands out slots for what formulas read of earlier steps; one slot a step and statistic. */
export class RecordedSlots implements RecordedSteps {
  readonly uses: RecordedUse[] = []
  /** Formulas may read the steps before this one. */
  before = 0

  constructor(
    private readonly steps: readonly ProcedureStep[],
    private readonly first: number,
  ) {}

  use(what: 'reading' | 'answer', key: string, statistic: RecordedStatistic) {
    const index = this.steps.findIndex((s) => s.key === key)
    if (index < 0) throw new Problem('bad-formula', `There is no step "${key}".`)
    if (index >= this.before)
      throw new Problem('bad-formula', `"${key}" comes later: a formula reads only the steps before its own.`)
    const type = typeOfRecord(this.steps[index]!, what)
    if (!type)
      throw new Problem(
        'bad-formula',
        what === 'reading' ? `Step "${key}" records no reading.` : `Step "${key}" records no choice.`,
      )
    const known = this.uses.find((u) => u.step === index && u.what === what && u.statistic === statistic)
    if (known) return { slot: known.slot, type }
    const slot = this.first + this.uses.length
    this.uses.push({ slot, step: index, what, statistic })
    return { slot, type }
  }
}

export function unique(keys: string[], what: string, path: (index: number) => string) {
  keys.forEach((key, i) => {
    if (keys.indexOf(key) !== i) throw new PathProblem(`The ${what} "${key}" stands twice.`, path(i))
  })
}

/** The names, tables, marks and records that formulas of a procedure may use. */
export interface ProcedureScope extends Scope {
  readonly recorded: RecordedSlots
  readonly marks: Map<string, Formula>
  /** the scope as seen from an end: its own steps, and its name as `end` */
  at(end: End | null): ProcedureScope
}

export function buildScope(
  procedure: Procedure,
  steps: readonly ProcedureStep[],
  stepNames: StepNames,
): ProcedureScope {
  unique(
    procedure.facts.map((f) => f.key),
    'fact',
    (i) => `facts[${i}].key`,
  )
  unique(
    procedure.options.map((o) => o.key),
    'option',
    (i) => `options[${i}].key`,
  )
  unique(
    procedure.tables.map((t) => t.key),
    'table',
    (i) => `tables[${i}].key`,
  )
  const names = new Map<string, { slot: number; type: FormulaType }>()
  procedure.facts.forEach((fact) => names.set(fact.key, { slot: names.size, type: typeOfFact(fact) }))
  procedure.options.forEach((option, i) => {
    unique(
      option.choices.map((c) => c.key),
      'choice',
      (k) => `options[${i}].choices[${k}].key`,
    )
    if (!option.choices.some((c) => c.key === option.default))
      throw new PathProblem(
        `The default "${option.default}" is not one of the choices.`,
        `options[${i}].default`,
      )
    names.set(`option.${option.key}`, { slot: names.size, type: { kind: 'word' } })
  })
  const tables = new Map<string, CompiledTable>()
  procedure.tables.forEach((table, i) =>
    tables.set(
      table.key,
      located(`tables[${i}]`, () => compileTable(table)),
    ),
  )
  // The name of each end stands in a slot of its own, after the options.
  const endSlot = names.size
  const recorded = new RecordedSlots(steps, names.size + (stepNames.both.size > 0 ? ends.length : 0))
  const scopes = new Map<End | null, ProcedureScope>()
  const marks = new Map<string, Formula>()
  const scope = (end: End | null): ProcedureScope => ({
    names: end
      ? new Map([...names, ['end', { slot: endSlot + ends.indexOf(end), type: { kind: 'word' } }]])
      : names,
    tables,
    recorded,
    marks,
    resolve: (step) => stepNames.one(step, end),
    at: (other) => scopes.get(other)!,
  })
  for (const end of [null, ...ends]) scopes.set(end, scope(end))
  return scopes.get(null)!
}
