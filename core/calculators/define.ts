import { Problem } from '../problem'
import { dimensions, type DimensionKey } from '../quantity/dimension'
import type { Input, Inputs, Values } from './input'

/** The kind of an output: a dimension, a unit that its name fixes, or something without one. */
export type OutputKind =
  | DimensionKey
  | 'percent'
  | 'seconds'
  | 'litres'
  | 'litresPerHour'
  | 'number'
  | 'word'
  | 'flag'
  | 'instant'
  | 'same'
export type OutputValue = number | string | boolean | null | number[] | number[][] | string[]

export interface Result {
  outputs: Record<string, OutputValue>
  /** lines of formula with numbers, written only when somebody reads them */
  working: () => string[]
  /** The dimension that a `same` output took from the inputs. */
  same?: DimensionKey | null
}

export interface Calculator {
  readonly key: string
  readonly title: string
  readonly inputs: Inputs
  readonly outputs: Record<string, OutputKind>
  /** Where the formula comes from. */
  readonly source: string
  readonly cautions: readonly string[]
  /** Reads and checks raw inputs, then computes. @throws Problem naming the refused input's key */
  run(raw: Record<string, unknown>): Result
  /** Reads and checks raw inputs, without computing. @throws Problem naming the refused input's key */
  read(raw: Record<string, unknown>): Record<string, unknown>
  /**
   * Computes from values already read. Where one output is wanted, others that cost much may be left out.
   */
  compute(values: Record<string, unknown>, wanted?: string): Result
}

interface Definition<I extends Inputs> {
  key: string
  title: string
  inputs: I
  outputs: Record<string, OutputKind>
  source: string
  cautions?: string[]
  compute(values: Values<I>, wanted?: string): Result
}

export const fail = (input: string, message: string, code = 'out-of-bounds'): never => {
  throw new Problem(code, message, input)
}

/**
 * Reads every input in the order listed, so that of two faults the first listed is named; unknown keys
 * are refused first.
 */
export function readInputs<I extends Inputs>(
  inputs: I,
  keys: readonly string[],
  raw: Record<string, unknown>,
): Values<I> {
  for (const key of Object.keys(raw)) {
    if (!Object.hasOwn(inputs, key))
      throw new Problem('unknown-input', `"${key}" is not an input here. Known: ${keys.join(', ')}.`, key)
  }
  const values: Record<string, unknown> = {}
  for (const key of keys) {
    const input = inputs[key] as Input<unknown>
    const given = Object.hasOwn(raw, key) ? raw[key] : undefined
    values[key] = given === undefined && input.absent ? input.absent.value : input.read(given, key)
  }
  return values as Values<I>
}

const notFinite = (v: unknown): boolean =>
  typeof v === 'number' ? !Number.isFinite(v) : Array.isArray(v) && v.some(notFinite)

export function defineCalculator<const I extends Inputs>(definition: Definition<I>): Calculator {
  const keys = Object.keys(definition.inputs)
  const checkFinite = (result: Result, key: string) => {
    if (notFinite(result.outputs[key]))
      throw new Problem(
        'not-finite',
        `These numbers give no finite {${key}}: one of them is too large or too small.`,
        keys[0] ?? null,
      )
  }
  /** Of one output that is wanted only that one has to be finite. */
  const compute = (values: Values<I>, wanted?: string): Result => {
    const result = definition.compute(values, wanted)
    if (wanted !== undefined) checkFinite(result, wanted)
    else for (const key in result.outputs) checkFinite(result, key)
    return result
  }
  return {
    ...definition,
    cautions: definition.cautions ?? [],
    run(raw) {
      if (typeof raw !== 'object' || raw === null || Array.isArray(raw))
        throw new Problem('bad-inputs', 'Inputs must be given as an object.', 'inputs')
      return compute(readInputs(definition.inputs, keys, raw))
    },
    read: (raw) => readInputs(definition.inputs, keys, raw),
    compute: (values, wanted) => compute(values as Values<I>, wanted),
  }
}

const unitByName: Partial<Record<OutputKind, string>> = {
  percent: '%',
  seconds: 's',
  litres: 'L',
  litresPerHour: 'L/h',
}

/** The unit in which an output leaves the registry, or null when it stands bare. */
export function outputUnit(kind: OutputKind, same?: DimensionKey | null): string | null {
  if (kind === 'same') return same ? dimensions[same].unit || null : null
  if (kind in unitByName) return unitByName[kind]!
  if (kind in dimensions) return dimensions[kind as DimensionKey].unit || null
  return null
}

/** The dimension in which procedures compute with an output: percent and plain numbers are ratios. */
export function outputDimension(kind: OutputKind): DimensionKey {
  if (kind === 'percent' || kind === 'number') return 'ratio'
  if (kind === 'seconds') return 'time'
  if (kind === 'litres') return 'volume'
  if (kind === 'litresPerHour') return 'flow'
  return kind in dimensions ? (kind as DimensionKey) : 'ratio'
}

/**
 * From the unit that an output's name fixes to what procedures compute with (percent to a fraction,
 * litres to m³).
 */
export const outputScale = (kind: OutputKind): number =>
  (({ percent: 0.01, litres: 1e-3, litresPerHour: 1e-3 / 3600 }) as Partial<Record<OutputKind, number>>)[
    kind
  ] ?? 1

export interface Answer {
  outputs: Record<string, unknown>
  working: string[]
}

/**
 * The reply shared by the HTTP API and the command line: numbers with a unit as { value, unit }, the rest
 * as it stands.
 */
export function answer(calculator: Calculator, raw: Record<string, unknown>): Answer {
  const { outputs, working, same } = calculator.run(raw)
  const dressed = Object.entries(outputs).map(([key, value]) => {
    const unit = outputUnit(calculator.outputs[key]!, same)
    const dress = (v: unknown): unknown =>
      Array.isArray(v) ? v.map(dress) : typeof v === 'number' && unit ? { value: v, unit } : v
    return [key, dress(value)]
  })
  return { outputs: Object.fromEntries(dressed), working: working() }
}
