import { sameExponents, type Exponents } from '../quantity/dimension'
import { findUnit, toSi } from '../quantity/units'
import { readCall } from './calls'
import {
  describe,
  fixed,
  NONE,
  number,
  numeric,
  Refusal,
  typeOfDimension,
  type Evaluate,
  type Node,
  type Part,
  type Scope,
  type Slots,
} from './parts'

const MAX_NODES = 200
const combine = (a: Exponents, b: Exponents, sign: 1 | -1): Exponents =>
  a.map((v, i) => v + sign * b[i]!) as unknown as Exponents

/** Reads one formula into a closure over plain numbers, checking dimensions on the way. */
export class Reader {
  private readonly used = new Set<string>()
  /** steps whose record or mark is read */
  readonly steps = new Set<string>()
  readonly records = new Set<string>()
  private nodes = 0

  constructor(readonly scope: Scope) {}

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
        return readCall(this, node)
      default:
        throw new Refusal(
          `A formula may not use ${node.type.replace(/Node$/, '').toLowerCase()} expressions.`,
          node.toString(),
        )
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
    if (name === 'percent') return fixed(number(NONE), 0.01)
    const unit = findUnit(name)
    if (!unit) throw new Refusal(`"${name}" is neither a fact of this procedure nor a unit.`, name)
    if (unit.offset !== 0) throw new Refusal(`Write temperatures in formulas in degC, not ${name}.`, name)
    return fixed(typeOfDimension(unit.dimension), toSi(1, unit))
  }

  private path(node: Node): string {
    if (node.type === 'SymbolNode') return node.name!
    const key =
      node.index?.dotNotation && node.index.dimensions.length === 1
        ? node.index.dimensions[0]!.value
        : undefined
    if (node.type !== 'AccessorNode' || typeof key !== 'string')
      throw new Refusal('Only names with dots are allowed here, such as pipe.od.', node.toString())
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

  private operator(node: Node): Part {
    const args = node.args!
    const op = node.op!
    if (args.length === 1) {
      const only = this.read(args[0]!)
      if (op === 'not') {
        if (only.type.kind !== 'truth') throw new Refusal('"not" needs a yes/no.', node.toString())
        return { type: only.type, evaluate: (s) => !only.evaluate(s) }
      }
      const x = numeric(only, args[0]!, `"${op}"`)
      if (op === '-') return { type: number(x.exponents), evaluate: (s) => -x.evaluate(s) }
      if (op === '+') return only
      throw new Refusal(`"${op}" is not allowed.`, node.toString())
    }
    const [left, right] = args.map((arg) => this.read(arg)) as [Part, Part]
    if (op === 'and' || op === 'or') {
      if (left.type.kind !== 'truth' || right.type.kind !== 'truth')
        throw new Refusal(`"${op}" needs a yes/no on both sides.`, node.toString())
      return {
        type: { kind: 'truth' },
        evaluate:
          op === 'and'
            ? (s) => Boolean(left.evaluate(s) && right.evaluate(s))
            : (s) => Boolean(left.evaluate(s) || right.evaluate(s)),
      }
    }
    if (['==', '!=', '<', '<=', '>', '>='].includes(op)) return this.compare(op, left, right, node)
    const a = numeric(left, args[0]!, `"${op}"`)
    const b = numeric(right, args[1]!, `"${op}"`)
    switch (op) {
      case '+':
      case '-': {
        if (!sameExponents(a.exponents, b.exponents)) {
          const verb = op === '+' ? ['adding', 'to'] : ['taking', 'from']
          const [first, second] = op === '+' ? [left, right] : [right, left]
          throw new Refusal(
            `${verb[0]} ${describe(first.type)} ${verb[1]} ${describe(second.type)}.`,
            node.toString(),
          )
        }
        return {
          type: left.type,
          evaluate: op === '+' ? (s) => a.evaluate(s) + b.evaluate(s) : (s) => a.evaluate(s) - b.evaluate(s),
        }
      }
      case '*': {
        // "5 degC": the implicit product keeps the temperature as it is written.
        const type = number(combine(a.exponents, b.exponents, 1))
        if (right.constant !== undefined && left.constant !== undefined)
          return fixed(type, (left.constant as number) * (right.constant as number))
        return { type, evaluate: (s) => a.evaluate(s) * b.evaluate(s) }
      }
      case '/':
        if (right.constant !== undefined && left.constant !== undefined)
          return fixed(
            number(combine(a.exponents, b.exponents, -1)),
            (left.constant as number) / (right.constant as number),
          )
        return {
          type: number(combine(a.exponents, b.exponents, -1)),
          evaluate: (s) => a.evaluate(s) / b.evaluate(s),
        }
      case '^': {
        const power = right.constant
        if (typeof power !== 'number' || !sameExponents(b.exponents, NONE) || Math.abs(power) > 10)
          throw new Refusal('A power must be a plain constant up to 10.', node.toString())
        return {
          type: number(a.exponents.map((v) => v * power) as unknown as Exponents),
          evaluate: (s) => a.evaluate(s) ** power,
        }
      }
      default:
        throw new Refusal(`"${op}" is not allowed.`, node.toString())
    }
  }

  private compare(op: string, left: Part, right: Part, node: Node): Part {
    const same =
      left.type.kind === right.type.kind &&
      (left.type.kind !== 'number' ||
        sameExponents(left.type.exponents, (right.type as typeof left.type).exponents))
    if (!same)
      throw new Refusal(`comparing ${describe(left.type)} with ${describe(right.type)}.`, node.toString())
    if (left.type.kind !== 'number' && op !== '==' && op !== '!=')
      throw new Refusal('Only numbers can be larger or smaller.', node.toString())
    const a = left.evaluate as (slots: Slots) => number
    const b = right.evaluate as (slots: Slots) => number
    const tests: Record<string, Evaluate> = {
      '==': (s) => a(s) === b(s),
      '!=': (s) => a(s) !== b(s),
      '<': (s) => a(s) < b(s),
      '<=': (s) => a(s) <= b(s),
      '>': (s) => a(s) > b(s),
      '>=': (s) => a(s) >= b(s),
    }
    return { type: { kind: 'truth' }, evaluate: tests[op]! }
  }

  private relational(node: Node): Part {
    const names: Record<string, string> = {
      smaller: '<',
      smallerEq: '<=',
      larger: '>',
      largerEq: '>=',
      equal: '==',
      unequal: '!=',
    }
    const parts = node.params!.map((p) => this.read(p))
    const pairs = node.conditionals!.map((c, i) =>
      this.compare(names[c] ?? c, parts[i]!, parts[i + 1]!, node),
    )
    return { type: { kind: 'truth' }, evaluate: (s) => pairs.every((pair) => pair.evaluate(s)) }
  }

  private conditional(node: Node): Part {
    const condition = this.read(node.condition!)
    const yes = this.read(node.trueExpr!)
    const no = this.read(node.falseExpr!)
    if (condition.type.kind !== 'truth')
      throw new Refusal('The condition before "?" must be a yes/no.', node.toString())
    if (describe(yes.type) !== describe(no.type))
      throw new Refusal(
        `one branch gives ${describe(yes.type)}, the other ${describe(no.type)}.`,
        node.toString(),
      )
    return { type: yes.type, evaluate: (s) => (condition.evaluate(s) ? yes.evaluate(s) : no.evaluate(s)) }
  }
}
