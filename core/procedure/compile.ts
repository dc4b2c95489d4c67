import { compileDrawings, type CompiledDrawing } from './compile-drawing'
import { compileStep, type CompiledStep } from './compile-step'
import type { FactValue } from './formula/formula'
import { PathProblem } from './path-problem'
import { buildScope, unique, type RecordedUse } from './scope'
import type { Procedure } from './types'

export type { CompiledLimit, CompiledStep } from './compile-step'

export interface CompiledProcedure {
  readonly procedure: Procedure
  readonly steps: readonly CompiledStep[]
  readonly stepIndex: ReadonlyMap<string, number>
  readonly drawings: ReadonlyMap<string, CompiledDrawing>
  /** what formulas read of earlier steps, to be laid into its slots by whoever knows the record */
  readonly recorded: readonly RecordedUse[]
  /** Lays the facts of one joint into slots, defaults of options included. */
  slots(given: Record<string, FactValue>, schools?: Record<string, string>): FactValue[]
}

/** Refuses steps that wait for each other, through `after`, clocks, or what they read. */
function refuseCircles(steps: readonly CompiledStep[], paths: string[]) {
  const state = new Array<0 | 1 | 2>(steps.length).fill(0)
  const visit = (i: number, trail: string[]) => {
    if (state[i] === 2) return
    if (state[i] === 1) throw new PathProblem(`These steps wait for each other: ${[...trail, steps[i]!.step.key].join(' → ')}.`, paths[i]!)
    state[i] = 1
    for (const next of [...steps[i]!.after, ...steps[i]!.reads, ...(steps[i]!.from >= 0 ? [steps[i]!.from] : [])]) visit(next, [...trail, steps[i]!.step.key])
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
  const flat = procedure.stages.flatMap((stage, s) => stage.steps.map((step, i) => ({ stage, step, path: `stages[${s}].steps[${i}]` })))
  unique(procedure.stages.map((stage) => stage.key), 'stage', (i) => `stages[${i}].key`)
  unique(flat.map(({ step }) => step.key), 'step', (i) => `${flat[i]!.path}.key`)
  const scope = buildScope(procedure, flat.map(({ step }) => step))
  const stepIndex = new Map(flat.map(({ step }, i) => [step.key, i]))
  const steps = flat.map(({ stage, step, path }, i) => {
    scope.recorded.before = i
    const compiled = compileStep(step, i, stage, path, scope, stepIndex)
    if (step.check.kind === 'mark' && compiled.value) scope.marks.set(step.key, compiled.value)
    return compiled
  })
  refuseCircles(steps, flat.map(({ path }) => path))
  const drawings = compileDrawings(procedure, flat, scope)
  const facts = procedure.facts.map((f) => f.key)
  return {
    procedure, steps, stepIndex, drawings, recorded: scope.recorded.uses,
    slots(given, schools = {}) {
      const slots: FactValue[] = []
      for (const key of facts) slots.push(given[key])
      for (const option of procedure.options) slots.push(schools[option.key] ?? option.default)
      return slots
    },
  }
}
