import { recordFunctions } from '../checks/records'
import { definitionOf } from '../checks/registry'
import {
  typeOfDimension,
  type Formula,
  type FormulaType,
  type RecordedSteps,
  type Scope,
} from '../formula/formula'
import type { CompiledTable } from '../formula/parts'
import { located, PathProblem } from '../formula/path-problem'
import { compileTable } from '../formula/table'
import { Problem } from '../problem'
import { ends, type End, type StepNames } from './ends'
import type { Procedure, ProcedureFact, ProcedureStep } from './types'

/** One use that a formula makes of what was recorded at a step. */
export interface RecordedUse {
  readonly slot: number
  /** index of the step */
  readonly step: number
  /** the function that reads it, and which of its values */
  readonly what: string
  readonly which: string | number
}

const typeOfFact = (fact: ProcedureFact): FormulaType =>
  fact.dimension === 'word'
    ? { kind: 'word' }
    : fact.dimension === 'flag'
      ? { kind: 'truth' }
      : typeOfDimension(fact.dimension)

/** The type of what a step records for a function of formulas, or null when it records no such thing. */
const typeOfRecord = ({ check }: ProcedureStep, what: string): FormulaType | null =>
  definitionOf(check).records?.[what]?.type(check) ?? null

/** Hands out slots for what formulas read of earlier steps; one slot a step and statistic. */
export class RecordedSlots implements RecordedSteps {
  readonly functions = recordFunctions
  readonly uses: RecordedUse[] = []
  /** Formulas may read the steps before this one. */
  before = 0

  constructor(
    private readonly steps: readonly ProcedureStep[],
    private readonly first: number,
  ) {}

  /** The last step before that records it. */
  private last(what: string): number {
    const index = this.steps.slice(0, this.before).findLastIndex((s) => typeOfRecord(s, what))
    if (index < 0) throw new Problem('bad-formula', `No step before this records what ${what}() reads.`)
    return index
  }

  private named(key: string): number {
    const index = this.steps.findIndex((s) => s.key === key)
    if (index < 0) throw new Problem('bad-formula', `There is no step "${key}".`)
    if (index >= this.before)
      throw new Problem('bad-formula', `"${key}" comes later: a formula reads only the steps before its own.`)
    return index
  }

  use(what: string, key: string | null, which: string | number) {
    const index = key === null ? this.last(what) : this.named(key)
    const step = this.steps[index]!
    const type = typeOfRecord(step, what)
    if (!type) throw new Problem('bad-formula', `Step "${step.key}" records nothing that ${what}() reads.`)
    const known = this.uses.find((u) => u.step === index && u.what === what && u.which === which)
    const slot = known?.slot ?? this.first + this.uses.length
    if (!known) this.uses.push({ slot, step: index, what, which })
    return { step: step.key, slot, type }
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
