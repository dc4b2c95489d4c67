import { parse, type MathNode } from 'mathjs/number'
import { Problem } from '../problem'
import type { OutputKind } from '../calculators/define'
import { findCalculator } from '../calculators/registry'
import { describeExponents, dimensions, sameExponents, type DimensionKey, type Exponents } from '../quantity/dimension'
import { findUnit, toSi } from '../quantity/units'
import type { CompiledTable } from './table'

/** What a formula may yield. Numbers carry their dimension. */
export type FormulaType = { kind: 'number'; exponents: Exponents } | { kind: 'truth' } | { kind: 'word' }
export type FactValue = number | string | boolean | null | undefined
/** Facts of one joint by slot, in the order the scope lists them. */
export type Slots = readonly FactValue[]
type Evaluate = (slots: Slots) => number | string | boolean

export interface Scope {
  /** slot and type of every name a formula may use */
  names: ReadonlyMap<string, { slot: number; type: FormulaType }>
  tables: ReadonlyMap<string, CompiledTable>
}

export interface Formula {
  readonly text: string
  readonly type: FormulaType
  /** The facts it needs. */
  readonly uses: readonly string[]
  /** Plain numbers in SI; NaN when a fact it needs is not known. */
  readonly evaluate: Evaluate
}

const NONE: Exponents = [0, 0, 0, 0, 0, 0]
const number = (exponents: Exponents): FormulaType => ({ kind: 'number', exponents })
export const typeOfDimension = (key: DimensionKey): FormulaType => number(dimensions[key].exponents)
const describe = (type: FormulaType) => (type.kind === 'number' ? describeExponents(type.exponents) : type.kind === 'truth' ? 'a yes/no' : 'a word')

interface Part {
  type: FormulaType
  evaluate: Evaluate
  /** the value when it needs no fact */
  constant?: number | string | boolean
}

class Refusal extends Error {
  constructor(message: string, readonly fragment: string) {
    super(message)
  }
}

const FUNCTIONS = new Set(['min', 'max', 'abs', 'sqrt', 'floor', 'ceil', 'round', 'sin', 'cos', 'tan', 'atan'])
const MAX_LENGTH = 400
const MAX_NODES = 200

/** Loose shape of the parser's nodes: only what this reader visits. */
interface Node {
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

const combine = (a: Exponents, b: Exponents, sign: 1 | -1): Exponents => a.map((v, i) => v + sign * b[i]!) as unknown as Exponents

/** Reads one formula into a closure over plain numbers, checking dimensions on the way. */
class Reader {
  private readonly used = new Set<string>()
  private nodes = 0

  constructor(private readonly scope: Scope) {}

  get uses() {
    return [...this.used]
  }

  read(node: Node): Part {
    if (++this.nodes > MAX_NODES) throw new Refusal('The formula is too long.', '')
    switch (node.type) {
      case 'ParenthesisNode':
        return this.read(node.content!)
      case 'ConstantNode':
        return this.constant(node)
      case 'SymbolNode':
        return this.symbol(node.name!, node)
      case 'AccessorNode':
        return this.fact(this.path(node), node)
      case 'OperatorNode':
        return this.operator(node)
      case 'RelationalNode':
        return this.relational(node)
      case 'ConditionalNode':
        return this.conditional(node)
      case 'FunctionNode':
        return this.call(node)
      default:
        throw new Refusal(`A formula may not use ${node.type.replace(/Node$/, '').toLowerCase()} expressions.`, node.toString())
    }
  }

  private constant(node: Node): Part {
    const value = node.value
    if (typeof value === 'number' && Number.isFinite(value)) return fixed(number(NONE), value)
    if (typeof value === 'string') return fixed({ kind: 'word' }, value)
    if (typeof value === 'boolean') return fixed({ kind: 'truth' }, value)
    throw new Refusal('This constant is not allowed.', node.toString())
  }

  private symbol(name: string, node: Node): Part {
    if (this.scope.names.has(name)) return this.fact(name, node)
    if (name === 'pi') return fixed(number(NONE), Math.PI)
    if (name === 'true' || name === 'false') return fixed({ kind: 'truth' }, name === 'true')
    const unit = findUnit(name)
    if (!unit) throw new Refusal(`"${name}" is neither a fact of this procedure nor a unit.`, name)
    if (unit.offset !== 0) throw new Refusal(`Write temperatures in formulas in degC, not ${name}.`, name)
    return fixed(typeOfDimension(unit.dimension), toSi(1, unit))
  }

  private path(node: Node): string {
    if (node.type === 'SymbolNode') return node.name!
    const key = node.index?.dotNotation && node.index.dimensions.length === 1 ? node.index.dimensions[0]!.value : undefined
    if (node.type !== 'AccessorNode' || typeof key !== 'string') throw new Refusal('Only names with dots are allowed here, such as pipe.od.', node.toString())
    return `${this.path(node.object!)}.${key}`
  }

  private fact(path: string, node: Node): Part {
    const known = this.scope.names.get(path)
    if (!known) throw new Refusal(`"${path}" is not a fact of this procedure.`, node.toString())
    this.used.add(path)
    const { slot, type } = known
    if (type.kind !== 'number') return { type, evaluate: (slots) => slots[slot] as string | boolean }
    return { type, evaluate: (slots) => (typeof slots[slot] === 'number' ? (slots[slot] as number) : NaN) }
  }

  private numeric(part: Part, node: Node, what: string): { exponents: Exponents; evaluate: (slots: Slots) => number } {
    if (part.type.kind !== 'number') throw new Refusal(`${what} needs a number, but this is ${describe(part.type)}.`, node.toString())
    return { exponents: part.type.exponents, evaluate: part.evaluate as (slots: Slots) => number }
  }

  private operator(node: Node): Part {
    const args = node.args!
    const op = node.op!
    if (args.length === 1) {
      const only = this.read(args[0]!)
      if (op === 'not') {
        if (only.type.kind !== 'truth') throw new Refusal('"not" needs a yes/no.', node.toString())
        return { type: only.type, evaluate: (s) => !only.evaluate(s) }
      }
      const x = this.numeric(only, args[0]!, `"${op}"`)
      if (op === '-') return { type: number(x.exponents), evaluate: (s) => -x.evaluate(s) }
      if (op === '+') return only
      throw new Refusal(`"${op}" is not allowed.`, node.toString())
    }
    const [left, right] = args.map((arg) => this.read(arg)) as [Part, Part]
    if (op === 'and' || op === 'or') {
      if (left.type.kind !== 'truth' || right.type.kind !== 'truth') throw new Refusal(`"${op}" needs a yes/no on both sides.`, node.toString())
      return { type: { kind: 'truth' }, evaluate: op === 'and' ? (s) => Boolean(left.evaluate(s) && right.evaluate(s)) : (s) => Boolean(left.evaluate(s) || right.evaluate(s)) }
    }
    if (['==', '!=', '<', '<=', '>', '>='].includes(op)) return this.compare(op, left, right, node)
    const a = this.numeric(left, args[0]!, `"${op}"`)
    const b = this.numeric(right, args[1]!, `"${op}"`)
    switch (op) {
      case '+':
      case '-': {
        if (!sameExponents(a.exponents, b.exponents)) {
          const verb = op === '+' ? ['adding', 'to'] : ['taking', 'from']
          const [first, second] = op === '+' ? [left, right] : [right, left]
          throw new Refusal(`${verb[0]} ${describe(first.type)} ${verb[1]} ${describe(second.type)}`, node.toString())
        }
        return { type: left.type, evaluate: op === '+' ? (s) => a.evaluate(s) + b.evaluate(s) : (s) => a.evaluate(s) - b.evaluate(s) }
      }
      case '*': {
        // "5 degC": the implicit product keeps the temperature as it is written.
        const type = number(combine(a.exponents, b.exponents, 1))
        if (right.constant !== undefined && left.constant !== undefined) return fixed(type, (left.constant as number) * (right.constant as number))
        return { type, evaluate: (s) => a.evaluate(s) * b.evaluate(s) }
      }
      case '/':
        if (right.constant !== undefined && left.constant !== undefined) return fixed(number(combine(a.exponents, b.exponents, -1)), (left.constant as number) / (right.constant as number))
        return { type: number(combine(a.exponents, b.exponents, -1)), evaluate: (s) => a.evaluate(s) / b.evaluate(s) }
      case '^': {
        const power = right.constant
        if (typeof power !== 'number' || !sameExponents(b.exponents, NONE) || Math.abs(power) > 10) throw new Refusal('A power must be a plain constant up to 10.', node.toString())
        return { type: number(a.exponents.map((v) => v * power) as unknown as Exponents), evaluate: (s) => a.evaluate(s) ** power }
      }
      default:
        throw new Refusal(`"${op}" is not allowed.`, node.toString())
    }
  }

  private compare(op: string, left: Part, right: Part, node: Node): Part {
    const same = left.type.kind === right.type.kind && (left.type.kind !== 'number' || sameExponents(left.type.exponents, (right.type as typeof left.type).exponents))
    if (!same) throw new Refusal(`comparing ${describe(left.type)} with ${describe(right.type)}`, node.toString())
    if (left.type.kind !== 'number' && op !== '==' && op !== '!=') throw new Refusal('Only numbers can be larger or smaller.', node.toString())
    const a = left.evaluate as (slots: Slots) => number
    const b = right.evaluate as (slots: Slots) => number
    const tests: Record<string, Evaluate> = {
      '==': (s) => a(s) === b(s), '!=': (s) => a(s) !== b(s), '<': (s) => a(s) < b(s), '<=': (s) => a(s) <= b(s), '>': (s) => a(s) > b(s), '>=': (s) => a(s) >= b(s),
    }
    return { type: { kind: 'truth' }, evaluate: tests[op]! }
  }

  private relational(node: Node): Part {
    const names: Record<string, string> = { smaller: '<', smallerEq: '<=', larger: '>', largerEq: '>=', equal: '==', unequal: '!=' }
    const parts = node.params!.map((p) => this.read(p))
    const pairs = node.conditionals!.map((c, i) => this.compare(names[c] ?? c, parts[i]!, parts[i + 1]!, node))
    return { type: { kind: 'truth' }, evaluate: (s) => pairs.every((pair) => pair.evaluate(s)) }
  }

  private conditional(node: Node): Part {
    const condition = this.read(node.condition!)
    const yes = this.read(node.trueExpr!)
    const no = this.read(node.falseExpr!)
    if (condition.type.kind !== 'truth') throw new Refusal('The condition before "?" must be a yes/no.', node.toString())
    if (describe(yes.type) !== describe(no.type)) throw new Refusal(`one branch gives ${describe(yes.type)}, the other ${describe(no.type)}`, node.toString())
    return { type: yes.type, evaluate: (s) => (condition.evaluate(s) ? yes.evaluate(s) : no.evaluate(s)) }
  }

  private call(node: Node): Part {
    const name = (node.fn as Node | undefined)?.name ?? String(node.fn)
    const args = node.args!
    if (name === 'table') return this.table(args, node)
    if (name === 'calculator') return this.calculator(args, node)
    if (!FUNCTIONS.has(name)) throw new Refusal(`"${name}" may not be called from a procedure.`, name)
    const parts = args.map((arg) => this.numeric(this.read(arg), arg, `${name}()`))
    const sameAll = () => {
      if (parts.length === 0) throw new Refusal(`${name}() needs values.`, node.toString())
      for (const part of parts) if (!sameExponents(part.exponents, parts[0]!.exponents)) throw new Refusal(`${name}() mixes ${describeExponents(parts[0]!.exponents)} with ${describeExponents(part.exponents)}`, node.toString())
      return number(parts[0]!.exponents)
    }
    const single = (fn: (x: number) => number, from: Exponents | 'any', to: (e: Exponents) => Exponents): Part => {
      if (parts.length !== 1) throw new Refusal(`${name}() takes one value.`, node.toString())
      const x = parts[0]!
      if (from !== 'any' && !sameExponents(from, x.exponents)) throw new Refusal(`${name}() needs ${describeExponents(from)}, not ${describeExponents(x.exponents)}`, node.toString())
      return { type: number(to(x.exponents)), evaluate: (s) => fn(x.evaluate(s)) }
    }
    const angle = dimensions.angle.exponents
    const radians = Math.PI / 180
    switch (name) {
      case 'min': return { type: sameAll(), evaluate: (s) => Math.min(...parts.map((p) => p.evaluate(s))) }
      case 'max': return { type: sameAll(), evaluate: (s) => Math.max(...parts.map((p) => p.evaluate(s))) }
      case 'abs': return single(Math.abs, 'any', (e) => e)
      case 'sqrt': return single(Math.sqrt, 'any', (e) => e.map((v) => v / 2) as unknown as Exponents)
      case 'floor': return single(Math.floor, NONE, (e) => e)
      case 'ceil': return single((x) => Math.ceil(x - 1e-9), NONE, (e) => e)
      case 'round': return single(Math.round, NONE, (e) => e)
      case 'sin': return single((x) => Math.sin(x * radians), angle, () => NONE)
      case 'cos': return single((x) => Math.cos(x * radians), angle, () => NONE)
      case 'tan': return single((x) => Math.tan(x * radians), angle, () => NONE)
      default: return single((x) => Math.atan(x) / radians, NONE, () => angle)
    }
  }

  private table(args: Node[], node: Node): Part {
    const table = this.scope.tables.get(String(args[0]?.value))
    if (!table) throw new Refusal(`There is no table ${args[0]?.toString() ?? ''} in this procedure.`, node.toString())
    const axes = args.slice(1).map((arg) => ({ part: this.read(arg), arg }))
    if (axes.length !== table.axes.length) throw new Refusal(`Table "${table.key}" has ${table.axes.length} axes.`, node.toString())
    axes.forEach(({ part, arg }, i) => {
      if (describe(part.type) !== describe(table.axes[i]!.type)) throw new Refusal(`axis ${i + 1} of table "${table.key}" is ${describe(table.axes[i]!.type)}, not ${describe(part.type)}`, arg.toString())
    })
    return { type: table.type, evaluate: (s) => table.look(axes.map(({ part }) => part.evaluate(s) as number | string)) }
  }

  private calculator(args: Node[], node: Node): Part {
    const [key, output, object] = args
    const calculator = findCalculator(key?.value)
    const kind: OutputKind | undefined = calculator.outputs[String(output?.value)]
    if (!kind || !object || object.type !== 'ObjectNode') throw new Refusal('Write calculator("key", "output", {input: value, …}) with an output of that calculator.', node.toString())
    const inputs = Object.entries(object.properties!).map(([name, value]) => {
      const input = calculator.inputs[name]
      if (!input) throw new Refusal(`Calculator "${calculator.key}" has no input "${name}".`, node.toString())
      const part = this.read(value)
      const dimension = input.describe.dimension
      if (dimension && (part.type.kind !== 'number' || !sameExponents(part.type.exponents, dimensions[dimension].exponents))) {
        throw new Refusal(`input "${name}" of calculator "${calculator.key}" must be ${dimensions[dimension].noun}, not ${describe(part.type)}`, value.toString())
      }
      return [name, part] as const
    })
    const type: FormulaType = kind === 'word' || kind === 'time' ? { kind: 'word' } : kind === 'flag' ? { kind: 'truth' } : kind in dimensions ? typeOfDimension(kind as DimensionKey) : kind === 'seconds' ? typeOfDimension('time') : number(NONE)
    return {
      type,
      evaluate: (s) => {
        try {
          // An optional input whose fact is not known is simply not given.
          const known = inputs.map(([name, part]) => [name, part.evaluate(s)] as const).filter(([name, value]) => !(Number.isNaN(value) && calculator.inputs[name]!.absent))
          const values = Object.fromEntries(known)
          const value = calculator.run(values).outputs[String(output!.value)]
          return typeof value === 'number' || typeof value === 'string' || typeof value === 'boolean' ? value : NaN
        } catch (error) {
          if (error instanceof Problem) return NaN
          throw error
        }
      },
    }
  }
}

const fixed = (type: FormulaType, value: number | string | boolean): Part => ({ type, constant: value, evaluate: () => value })

/**
 * Compiles a formula such as `fitting.width / 2 + 20 mm`.
 *
 * Allowed: arithmetic, comparison, and/or/not, conditionals, units, the facts
 * in scope, min max abs sqrt floor ceil round sin cos tan atan, `table("key", …)`
 * and `calculator("key", "output", {…})`. Nothing else can be reached.
 *
 * @throws Problem `bad-formula`; `details.offset` is the character it starts at
 */
export function compileFormula(text: string, scope: Scope, wanted?: FormulaType): Formula {
  const source = String(text).trim()
  const refuse = (message: string, offset: number): never => {
    throw new Problem('bad-formula', message, 'formula', { offset, formula: source.slice(0, 80) })
  }
  if (source.length === 0 || source.length > MAX_LENGTH) refuse(source.length === 0 ? 'The formula is empty.' : `A formula may have at most ${MAX_LENGTH} characters.`, 0)
  const prepared = source.replace(/°C/g, ' degC').replace(/−/g, '-')
  let tree: MathNode
  try {
    tree = parse(prepared)
  } catch (error) {
    const char = (error as { char?: number }).char
    return refuse(`The formula cannot be read: ${(error as Error).message.replace(/\s*\(char \d+\)/, '')}.`, char ? char - 1 : 0)
  }
  const reader = new Reader(scope)
  try {
    const part = reader.read(tree as unknown as Node)
    if (wanted && describe(part.type) !== describe(wanted)) throw new Refusal(`This must be ${describe(wanted)}, but the formula gives ${describe(part.type)}`, '')
    const value = part.constant
    return { text: source, type: part.type, uses: reader.uses, evaluate: value !== undefined ? () => value : part.evaluate }
  } catch (error) {
    if (error instanceof Problem) return refuse(error.message, 0)
    if (error instanceof RangeError) return refuse('The formula is nested too deeply.', 0)
    if (!(error instanceof Refusal)) throw error
    const name = error.fragment.replace(/\s+/g, ' ')
    return refuse(error.message.endsWith('.') ? error.message : `${error.message}.`, Math.max(0, source.indexOf(name)))
  }
}
