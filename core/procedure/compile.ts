import { compileDrawings, type CompiledDrawing } from './compile-drawing'
import { compileStep, type CompiledStep } from './compile-step'
import { ends, madeSteps, StepNames, tooLongForEnds } from './ends'
import type { FactValue, Slots } from '../formula/formula'
import { PathProblem } from '../formula/path-problem'
import { buildScope, unique, type RecordedUse } from './scope'
import type { Procedure } from './types'

export type { CompiledStep } from './compile-step'

export interface CompiledProcedure {
  readonly procedure: Procedure
  readonly steps: readonly CompiledStep[]
  readonly stepIndex: ReadonlyMap<string, number>
  readonly names: StepNames
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
    if (state[i] === 1)
      throw new PathProblem(
        `These steps wait for each other: ${[...trail, steps[i]!.step.key].join(' → ')}.`,
        paths[i]!,
      )
    state[i] = 1
    for (const next of [
      ...steps[i]!.after,
      ...steps[i]!.reads,
      ...(steps[i]!.from >= 0 ? [steps[i]!.from] : []),
    ])
      visit(next, [...trail, steps[i]!.step.key])
    state[i] = 2
  }
  steps.forEach((_s, i) => visit(i, []))
}

/** Whether a step applies to a joint: its stage and itself. */
export const applies = (step: CompiledStep, slots: Slots): boolean =>
  (!step.stageWhen || step.stageWhen.evaluate(slots) === true) &&
  (!step.when || step.when.evaluate(slots) === true)

/**
 * Indices of the steps that an entry's key means: one written before ends were told apart stands for
 * both.
 */
export function indicesOf(
  compiled: Pick<CompiledProcedure, 'stepIndex' | 'names'>,
  key: string,
): readonly number[] {
  const index = compiled.stepIndex.get(key)
  return index !== undefined ? [index] : compiled.names.all(key, null).map((k) => compiled.stepIndex.get(k)!)
}

/**
 * Compiles a procedure once per revision; judging a joint is then plain arithmetic.
 *
 * @throws PathProblem naming the place in the document
 */
export function compileProcedure(procedure: Procedure): CompiledProcedure {
  const flat = madeSteps(procedure)
  unique(
    procedure.stages.map((stage) => stage.key),
    'stage',
    (i) => `stages[${i}].key`,
  )
  unique(
    flat.map(({ step }) => step.key),
    'step',
    (i) => `${flat[i]!.path}.key`,
  )
  for (const made of flat)
    if (tooLongForEnds(made))
      throw new PathProblem(
        'The key of a step that is made at each end may have at most 48 letters.',
        `${made.path}.key`,
      )
  const names = new StepNames(flat)
  const scope = buildScope(
    procedure,
    flat.map(({ step }) => step),
    names,
  )
  const stepIndex = new Map(flat.map(({ step }, i) => [step.key, i]))
  const steps = flat.map((made, i) => {
    scope.recorded.before = i
    const compiled = compileStep(
      made,
      i,
      scope.at(made.end),
      { names, stepIndex },
      procedure.subject ?? 'joint',
      flat,
    )
    const { step } = made
    if (step.check.kind === 'mark' && compiled.value) scope.marks.set(step.key, compiled.value)
    return compiled
  })
  refuseCircles(
    steps,
    flat.map(({ path }) => path),
  )
  const drawings = compileDrawings(procedure, flat, scope, names)
  const facts = procedure.facts.map((f) => f.key)
  return {
    procedure,
    steps,
    stepIndex,
    names,
    drawings,
    recorded: scope.recorded.uses,
    slots(given, schools = {}) {
      const slots: FactValue[] = []
      for (const key of facts) slots.push(given[key])
      for (const option of procedure.options) slots.push(schools[option.key] ?? option.default)
      if (names.both.size > 0) slots.push(...ends)
      return slots
    },
  }
}
