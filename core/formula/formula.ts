import { parse, type MathNode } from 'mathjs/number'
import { Problem } from '../problem'
import { describe, nodeOf, Refusal, type Formula, type FormulaType, type Scope } from './parts'
import { Reader } from './reader'

export { typeOfDimension } from './parts'
export type { FactValue, Formula, FormulaType, RecordedSteps, RecordFunction, Scope, Slots } from './parts'

const MAX_LENGTH = 400

/** A formula that is a plain number in SI. */
export const constantFormula = (value: number, type: FormulaType): Formula => ({
  text: String(value),
  type,
  uses: [],
  steps: [],
  records: [],
  evaluate: () => value,
})

/**
 * Compiles a formula such as `fitting.width / 2 + 20 mm`.
 *
 * Allowed: arithmetic, comparison, and/or/not, conditionals, units, the facts
 * in scope, min max abs sqrt floor ceil round sin cos tan atan, `table("key", …)`,
 * `calculator("key", "output", {…})`, of earlier steps `mark("step")` and what the
 * scope's functions read of the record, such as `reading("step")`. Nothing else can be reached.
 *
 * @throws Problem `bad-formula`; `details.offset` is the character it starts at
 */
export function compileFormula(text: string, scope: Scope, wanted?: FormulaType): Formula {
  const source = String(text).trim()
  const refuse = (message: string, offset: number): never => {
    throw new Problem('bad-formula', message, 'formula', { offset, formula: source.slice(0, 80) })
  }
  if (source.length === 0 || source.length > MAX_LENGTH)
    refuse(
      source.length === 0 ? 'The formula is empty.' : `A formula may have at most ${MAX_LENGTH} characters.`,
      0,
    )
  // The parser would read `a - 2 %` as two percent of a; here a percent is a number like any other.
  const prepared = source.replace(/°C/g, ' degC').replace(/−/g, '-').replace(/%/g, ' percent')
  let tree: MathNode
  try {
    tree = parse(prepared)
  } catch (error) {
    const char = (error as { char?: number }).char
    return refuse(
      // eslint-disable-next-line no-restricted-syntax -- the parser's own words, without its place
      `The formula cannot be read: ${(error as Error).message.replace(/\s*\(char \d+\)/, '')}.`,
      char ? char - 1 : 0,
    )
  }
  const reader = new Reader(scope)
  try {
    const part = reader.read(nodeOf(tree))
    if (wanted && describe(part.type) !== describe(wanted))
      throw new Refusal(`This must be ${describe(wanted)}, but the formula gives ${describe(part.type)}.`, '')
    const value = part.constant
    return {
      text: source,
      type: part.type,
      uses: reader.uses,
      steps: [...reader.steps],
      records: [...reader.records],
      evaluate: value !== undefined ? () => value : part.evaluate,
    }
  } catch (error) {
    if (error instanceof Problem) return refuse(error.message, 0)
    if (error instanceof RangeError) return refuse('The formula is nested too deeply.', 0)
    if (!(error instanceof Refusal)) throw error
    const name = error.fragment.replace(/\s+/g, ' ')
    return refuse(error.message, Math.max(0, source.indexOf(name)))
  }
}
