import { definitionOf } from '../checks/registry'
import { findDrawingFamily, type DrawingValue } from './drawings'
import { compileFormula, typeOfDimension, type Formula, type FormulaType } from '../formula/formula'
import { located, PathProblem } from '../formula/path-problem'
import { atEnd, ends, type End, type MadeStep, type StepNames } from './ends'
import { unique, type ProcedureScope } from './scope'
import type { Procedure, ProcedureDrawing } from './types'

export interface CompiledDrawing {
  readonly drawing: ProcedureDrawing
  readonly end: End | null
  /** the step whose readings it shows */
  readonly readings: string | null
  readonly values: Readonly<Record<string, Formula>>
  /** for each value, the step where a person enters it; null for facts */
  readonly entered: Readonly<Record<string, string | null>>
}

const typeOf = (value: DrawingValue): FormulaType =>
  value === 'word'
    ? { kind: 'word' }
    : value === 'flag'
      ? { kind: 'truth' }
      : typeOfDimension(value === 'number' ? 'ratio' : value)

function compileDrawing(
  drawing: ProcedureDrawing,
  path: string,
  scope: ProcedureScope,
  steps: readonly MadeStep[],
  end: End | null,
): CompiledDrawing {
  const family = findDrawingFamily(drawing.show)!
  const known: Record<string, DrawingValue> = { ...family.needs, ...family.takes }
  for (const key of Object.keys(family.needs))
    if (drawing.values[key] === undefined)
      throw new PathProblem(`A ${drawing.show} drawing needs "${key}".`, `${path}.values`)
  const values = Object.fromEntries(
    Object.entries(drawing.values).map(([key, text]) => {
      if (!Object.hasOwn(known, key))
        throw new PathProblem(
          `A ${drawing.show} drawing takes ${Object.keys(known).join(', ')}, not "${key}".`,
          `${path}.values.${key}`,
        )
      return [
        key,
        located(`${path}.values.${key}`, () => compileFormula(String(text), scope, typeOf(known[key]!))),
      ]
    }),
  )
  const readings =
    drawing.readings === undefined
      ? null
      : located(`${path}.readings`, () => scope.resolve!(drawing.readings!))
  if (
    readings !== null &&
    !steps.some(
      ({ step: { key, check } }) => key === readings && definitionOf(check).answers.reading !== undefined,
    )
  )
    throw new PathProblem(`There is no measured step "${drawing.readings}".`, `${path}.readings`)
  return {
    drawing,
    end,
    readings,
    values,
    entered: Object.fromEntries(
      Object.entries(values).map(([key, formula]) => [key, formula.steps[0] ?? null]),
    ),
  }
}

/**
 * Compiles the drawings of a procedure and checks that steps point at drawings and parts that exist.
 * @throws PathProblem
 */
export function compileDrawings(
  procedure: Procedure,
  steps: readonly MadeStep[],
  scope: ProcedureScope,
  names: StepNames,
): Map<string, CompiledDrawing> {
  unique(
    procedure.drawings.map((d) => d.key),
    'drawing',
    (i) => `drawings[${i}].key`,
  )
  scope.recorded.before = steps.length
  const drawings = new Map(
    procedure.drawings.flatMap((d, i) => {
      if (d.each && names.both.size === 0)
        throw new PathProblem('No stage is made at each end.', `drawings[${i}].each`)
      return (d.each ? ends : [null]).map((end): [string, CompiledDrawing] => [
        end ? atEnd(d.key, end) : d.key,
        compileDrawing(d, `drawings[${i}]`, scope.at(end), steps, end),
      ])
    }),
  )
  for (const { step, path, end } of steps) {
    if (step.drawing === undefined) continue
    const [key, part] = step.drawing.split('#') as [string, string | undefined]
    const found = drawings.get(key) ?? drawings.get(atEnd(key, end ?? 'upstream'))
    if (!found) throw new PathProblem(`There is no drawing "${key}".`, `${path}.drawing`)
    const { parts } = findDrawingFamily(found.drawing.show)!
    if (part !== undefined && !parts.includes(part))
      throw new PathProblem(
        `A ${found.drawing.show} drawing has the parts ${parts.join(', ')}, not "${part}".`,
        `${path}.drawing`,
      )
  }
  return drawings
}
