import type { MathNode } from 'mathjs/number'
import { describeExponents, dimensions, type DimensionKey, type Exponents } from '../quantity/dimension'

/** What a formula may yield. Numbers carry their dimension. */
export type FormulaType = { kind: 'number'; exponents: Exponents } | { kind: 'truth' } | { kind: 'word' }
export type FactValue = number | string | boolean | null | undefined
/** Facts of one joint by slot, in the order the scope lists them; then what was recorded at earlier steps. */
export type Slots = readonly FactValue[]
export type Evaluate = (slots: Slots) => number | string | boolean

/** How a function that reads the record is called. */
export interface RecordFunction {
  /** whether its first value names the step; else it means the last step before that records it */
  readonly names: boolean
  /** words that say which value is meant; where the step is named the first is meant when none is given */
  readonly which: readonly string[]
  /** it also takes a whole number from 1: which of them */
  readonly numbered?: boolean
  /** its value is that of the moment which is judged, not of the whole record */
  readonly asOf?: boolean
}

/** What formulas may read of the steps before the one they stand at. */
export interface RecordedSteps {
  /** by their names */
  readonly functions: ReadonlyMap<string, RecordFunction>
  /**
   * step, slot and type of what was recorded; without a step, at the last one that records it. @throws
   * Problem when the step comes later, is unknown, or records no such thing
   */
  use(
    name: string,
    step: string | null,
    which: string | number,
  ): { step: string; slot: number; type: FormulaType }
}

/**
 * A table ready to be looked up: SI inside. Outside its range it gives NaN: a table is never
 * extrapolated.
 */
export interface CompiledTable {
  readonly key: string
  readonly type: FormulaType
  readonly axes: readonly { type: FormulaType }[]
  look(at: readonly (number | string)[]): number
}

export interface Scope {
  /** slot and type of every name a formula may use */
  names: ReadonlyMap<string, { slot: number; type: FormulaType }>
  tables: ReadonlyMap<string, CompiledTable>
  recorded?: RecordedSteps
  /** formulas of the marks worked out so far */
  marks?: ReadonlyMap<string, Formula>
  /** The step that a key means from where the formula stands. @throws Problem when it means more than one */
  resolve?: (step: string) => string
}

export interface Formula {
  readonly text: string
  readonly type: FormulaType
  /** The facts it needs. */
  readonly uses: readonly string[]
  /** The steps that a value of it comes from: those whose record it reads, and marks. */
  readonly steps: readonly string[]
  /** The steps whose record it reads. */
  readonly records: readonly string[]
  /** Plain numbers in SI; NaN when a fact it needs is not known. */
  readonly evaluate: Evaluate
}

export const NONE: Exponents = [0, 0, 0, 0, 0, 0]
export const number = (exponents: Exponents): FormulaType => ({ kind: 'number', exponents })
export const typeOfDimension = (key: DimensionKey): FormulaType => number(dimensions[key].exponents)
export const describe = (type: FormulaType) =>
  type.kind === 'number' ? describeExponents(type.exponents) : type.kind === 'truth' ? 'a yes/no' : 'a word'

/** A piece of a formula, read. */
export interface Part {
  type: FormulaType
  evaluate: Evaluate
  /** the value when it needs no fact */
  constant?: number | string | boolean
}
export const fixed = (type: FormulaType, value: number | string | boolean): Part => ({
  type,
  constant: value,
  evaluate: () => value,
})

/** Why a formula is not accepted, and the piece of it that is at fault. */
export class Refusal extends Error {
  constructor(
    message: string,
    readonly fragment: string,
  ) {
    super(message)
  }
}

/** Loose shape of the parser's nodes: only what the reader visits. */
export interface Node {
  type: string
  value?: unknown
  name?: string
  fn?: unknown
  op?: string
  args?: Node[]
  content?: Node
  object?: Node
  index?: { dimensions: Node[]; dotNotation: boolean }
  condition?: Node
  trueExpr?: Node
  falseExpr?: Node
  properties?: Record<string, Node>
  conditionals?: string[]
  params?: Node[]
  toString(): string
}
export const nodeOf = (tree: MathNode): Node => tree as unknown as Node

/** Reads one node; what calls are read with. */
export interface PartReader {
  readonly scope: Scope
  /** steps that a value comes from, and those whose record it reads, as they are met */
  readonly steps: Set<string>
  readonly records: Set<string>
  read(node: Node): Part
}

/** A part as a number with its dimension. @throws Refusal */
export function numeric(
  part: Part,
  node: Node,
  what: string,
): { exponents: Exponents; evaluate: (slots: Slots) => number } {
  if (part.type.kind !== 'number')
    throw new Refusal(`${what} needs a number, but this is ${describe(part.type)}.`, node.toString())
  return { exponents: part.type.exponents, evaluate: part.evaluate as (slots: Slots) => number }
}
