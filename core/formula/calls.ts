import { Problem } from '../problem'
import { outputDimension, outputScale } from '../calculators/define'
import { findCalculator } from '../calculators/registry'
import { describeExponents, dimensions, sameExponents, type Exponents } from '../quantity/dimension'
import {
  describe,
  NONE,
  number,
  numeric,
  Refusal,
  typeOfDimension,
  type FormulaType,
  type Node,
  type Part,
  type PartReader,
  type RecordFunction,
} from './parts'

/** Functions of one number: what they compute, what they take (null: anything) and what they give. */
const angle = dimensions.angle.exponents
const radians = Math.PI / 180
const same = (e: Exponents) => e
const singles: Record<
  string,
  { fn: (x: number) => number; from: Exponents | null; to: (e: Exponents) => Exponents }
> = {
  abs: { fn: Math.abs, from: null, to: same },
  sqrt: { fn: Math.sqrt, from: null, to: (e) => e.map((v) => v / 2) as unknown as Exponents },
  floor: { fn: Math.floor, from: NONE, to: same },
  ceil: { fn: (x) => Math.ceil(x - 1e-9), from: NONE, to: same },
  round: { fn: Math.round, from: NONE, to: same },
  sin: { fn: (x) => Math.sin(x * radians), from: angle, to: () => NONE },
  cos: { fn: (x) => Math.cos(x * radians), from: angle, to: () => NONE },
  tan: { fn: (x) => Math.tan(x * radians), from: angle, to: () => NONE },
  atan: { fn: (x) => Math.atan(x) / radians, from: NONE, to: () => angle },
}
const extremes: Record<string, (...values: number[]) => number> = { min: Math.min, max: Math.max }

const constantWord = (node: Node | undefined): string | null =>
  node?.type === 'ConstantNode' && typeof node.value === 'string' ? node.value : null

/**
 * Reads a call: a function of numbers, a table, a calculator, or the record of an earlier step. Nothing
 * else can be called.
 */
export function readCall(reader: PartReader, node: Node): Part {
  const name = (node.fn as Node | undefined)?.name ?? String(node.fn)
  const args = node.args!
  if (name === 'table') return table(reader, args, node)
  if (name === 'calculator') return calculator(reader, args, node)
  if (name === 'mark') return mark(reader, args, node)
  const of = reader.scope.recorded?.functions.get(name)
  if (of) return recorded(reader, name, of, args, node)
  if (!Object.hasOwn(singles, name) && !Object.hasOwn(extremes, name))
    throw new Refusal(`"${name}" may not be called from a procedure.`, name)
  const parts = args.map((arg) => numeric(reader.read(arg), arg, `${name}()`))
  const extreme = extremes[name]
  if (extreme) {
    if (parts.length === 0) throw new Refusal(`${name}() needs values.`, node.toString())
    for (const part of parts)
      if (!sameExponents(part.exponents, parts[0]!.exponents))
        throw new Refusal(
          `${name}() mixes ${describeExponents(parts[0]!.exponents)} with ${describeExponents(part.exponents)}.`,
          node.toString(),
        )
    const type = number(parts[0]!.exponents)
    const [a, b, ...more] = parts
    if (b && more.length === 0) return { type, evaluate: (s) => extreme(a!.evaluate(s), b.evaluate(s)) }
    return { type, evaluate: (s) => extreme(...parts.map((p) => p.evaluate(s))) }
  }
  const { fn, from, to } = singles[name]!
  if (parts.length !== 1) throw new Refusal(`${name}() takes one value.`, node.toString())
  const x = parts[0]!
  if (from && !sameExponents(from, x.exponents))
    throw new Refusal(
      `${name}() needs ${describeExponents(from)}, not ${describeExponents(x.exponents)}.`,
      node.toString(),
    )
  return { type: number(to(x.exponents)), evaluate: (s) => fn(x.evaluate(s)) }
}

function table(reader: PartReader, args: Node[], node: Node): Part {
  const found = reader.scope.tables.get(String(args[0]?.value))
  if (!found)
    throw new Refusal(`There is no table ${args[0]?.toString() ?? ''} in this procedure.`, node.toString())
  const axes = args.slice(1).map((arg) => ({ part: reader.read(arg), arg }))
  if (axes.length !== found.axes.length)
    throw new Refusal(`Table "${found.key}" has ${found.axes.length} axes.`, node.toString())
  axes.forEach(({ part, arg }, i) => {
    if (describe(part.type) !== describe(found.axes[i]!.type))
      throw new Refusal(
        `axis ${i + 1} of table "${found.key}" is ${describe(found.axes[i]!.type)}, not ${describe(part.type)}.`,
        arg.toString(),
      )
  })
  return {
    type: found.type,
    evaluate: (s) => found.look(axes.map(({ part }) => part.evaluate(s) as number | string)),
  }
}

function calculator(reader: PartReader, args: Node[], node: Node): Part {
  const [key, output, object] = args
  const found = findCalculator(key?.value)
  const kind = found.outputs[String(output?.value)]
  if (!kind || !object || object.type !== 'ObjectNode')
    throw new Refusal(
      'Write calculator("key", "output", {input: value, …}) with an output of that calculator.',
      node.toString(),
    )
  const inputs = Object.entries(object.properties!).map(([name, value]) => {
    const input = found.inputs[name]
    if (!input) throw new Refusal(`Calculator "${found.key}" has no input "${name}".`, node.toString())
    const part = reader.read(value)
    const list = input.describe.kind === 'list'
    const dimension = list ? input.describe.of!.dimension : input.describe.dimension
    if (
      dimension &&
      (part.type.kind !== 'number' || !sameExponents(part.type.exponents, dimensions[dimension].exponents))
    ) {
      throw new Refusal(
        `input "${name}" of calculator "${found.key}" must be ${dimensions[dimension].noun}, not ${describe(part.type)}.`,
        value.toString(),
      )
    }
    return { name, part, list, optional: input.absent !== undefined }
  })
  const type: FormulaType =
    kind === 'word' || kind === 'instant'
      ? { kind: 'word' }
      : kind === 'flag'
        ? { kind: 'truth' }
        : typeOfDimension(outputDimension(kind))
  const scale = outputScale(kind)
  const wanted = String(output!.value)
  return {
    type,
    evaluate: (s) => {
      try {
        const given: Record<string, unknown> = {}
        for (const { name, part, list, optional } of inputs) {
          const known = part.evaluate(s)
          // An optional input whose fact is not known is simply not given.
          if (optional && Number.isNaN(known)) continue
          // A list written as one value is a list of one.
          given[name] = list ? [known] : known
        }
        const value = found.run(given).outputs[wanted]
        if (typeof value === 'number') return value * scale
        return typeof value === 'string' || typeof value === 'boolean' ? value : NaN
      } catch (error) {
        if (error instanceof Problem) return NaN
        throw error
      }
    },
  }
}

const which = ({ which, numbered }: RecordFunction) =>
  [...which.map((w) => `"${w}"`), ...(numbered ? ['a whole number'] : [])]
    .join(', ')
    .replace(/, ([^,]*)$/, ' or $1')

/**
 * What was recorded before: `reading("step")`, `reading("step", "max")`, `reading("step", 2)`: what was
 * read at an earlier step; `answer("step")`: what was chosen there; `lift("low")`: the state of the fill.
 */
function recorded(reader: PartReader, name: string, of: RecordFunction, args: Node[], node: Node): Part {
  const said = of.names ? args.slice(1) : args
  const named = of.names ? constantWord(args[0]) : null
  const most = of.which.length > 0 ? 1 : 0
  if ((of.names && named === null) || said.length > most || (!of.names && said.length < most))
    throw new Refusal(
      `Write ${name}(${[of.names ? '"step"' : '', of.names || most === 0 ? '' : `"${of.which[0]}"`].filter(Boolean).join(', ')}).`,
      node.toString(),
    )
  const value = said.length > 0 ? said[0]!.value : (of.which[0] ?? '')
  const counted = of.numbered && typeof value === 'number' && Number.isInteger(value) && value >= 1
  if (most > 0 && !counted && !of.which.includes(value as string))
    throw new Refusal(`The ${of.names ? 'second ' : ''}value of ${name}() is ${which(of)}.`, node.toString())
  const asked = named === null ? null : (reader.scope.resolve?.(named) ?? named)
  const { step, slot, type } = reader.scope.recorded!.use(name, asked, value as string | number)
  reader.steps.add(step)
  reader.records.add(step)
  if (type.kind !== 'number') return { type, evaluate: (s) => s[slot] as string }
  return { type, evaluate: (s) => (typeof s[slot] === 'number' ? (s[slot] as number) : NaN) }
}

/** `mark("step")`: the distance worked out at an earlier mark. */
function mark(reader: PartReader, args: Node[], node: Node): Part {
  const named = constantWord(args[0])
  const step = named === null ? null : (reader.scope.resolve?.(named) ?? named)
  const found = step === null ? undefined : reader.scope.marks?.get(step)
  if (!found) throw new Refusal(`There is no mark ${args[0]?.toString() ?? ''} before this.`, node.toString())
  reader.steps.add(step!)
  for (const record of found.records) reader.records.add(record)
  return { type: found.type, evaluate: found.evaluate }
}
