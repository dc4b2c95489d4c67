import { findDrawingFamily, type DrawingValue } from './drawings'
import { compileFormula, typeOfDimension, type Formula, type FormulaType } from './formula/formula'
import { located, PathProblem } from './path-problem'
import { unique, type ProcedureScope } from './scope'
import type { Procedure, ProcedureDrawing, ProcedureStep } from './types'

export interface CompiledDrawing {
  readonly drawing: ProcedureDrawing
  readonly values: Readonly<Record<string, Formula>>
  /** for each value, the step where a person enters it; null for facts */
  readonly entered: Readonly<Record<string, string | null>>
}

const typeOf = (value: DrawingValue): FormulaType => (value === 'word' ? { kind: 'word' } : value === 'flag' ? { kind: 'truth' } : typeOfDimension(value === 'number' ? 'ratio' : value))

function compileDrawing(drawing: ProcedureDrawing, path: string, scope: ProcedureScope, steps: readonly ProcedureStep[]): CompiledDrawing {
  const family = findDrawingFamily(drawing.show)!
  const known: Record<string, DrawingValue> = { ...family.needs, ...family.takes }
  for (const key of Object.keys(family.needs)) if (drawing.values[key] === undefined) throw new PathProblem(`A ${drawing.show} drawing needs "${key}".`, `${path}.values`)
  const values = Object.fromEntries(Object.entries(drawing.values).map(([key, text]) => {
    if (!Object.hasOwn(known, key)) throw new PathProblem(`A ${drawing.show} drawing takes ${Object.keys(known).join(', ')}, not "${key}".`, `${path}.values.${key}`)
    return [key, located(`${path}.values.${key}`, () => compileFormula(String(text), scope, typeOf(known[key]!)))]
  }))
  if (drawing.readings !== undefined && !steps.some((s) => s.key === drawing.readings && (s.check.kind === 'measure' || s.check.kind === 'environment'))) throw new PathProblem(`There is no measured step "${drawing.readings}".`, `${path}.readings`)
  return { drawing, values, entered: Object.fromEntries(Object.entries(values).map(([key, formula]) => [key, formula.steps[0] ?? null])) }
}

/** Compiles the drawings of a procedure and checks that steps point at drawings and parts that exist. @throws PathProblem */
export function compileDrawings(procedure: Procedure, steps: readonly { step: ProcedureStep; path: string }[], scope: ProcedureScope): Map<string, CompiledDrawing> {
  unique(procedure.drawings.map((d) => d.key), 'drawing', (i) => `drawings[${i}].key`)
  scope.recorded.before = steps.length
  const drawings = new Map(procedure.drawings.map((d, i) => [d.key, compileDrawing(d, `drawings[${i}]`, scope, steps.map((s) => s.step))]))
  for (const { step, path } of steps) {
    if (step.drawing === undefined) continue
    const [key, part] = step.drawing.split('#') as [string, string | undefined]
    const found = drawings.get(key)
    if (!found) throw new PathProblem(`There is no drawing "${key}".`, `${path}.drawing`)
    const { parts } = findDrawingFamily(found.drawing.show)!
    if (part !== undefined && !parts.includes(part)) throw new PathProblem(`A ${found.drawing.show} drawing has the parts ${parts.join(', ')}, not "${part}".`, `${path}.drawing`)
  }
  return drawings
}
