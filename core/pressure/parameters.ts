import { readInputs } from '../calculators/define'
import { Problem } from '../problem'
import { showNumber, showQuantity } from '../quantity/show'
import type { TestMethod } from './methods/define'

/** A parameter of a test as a person reads it. */
export interface SaidParameter {
  key: string
  title: string
  text: string
  why: string
  /** nobody gave it: the default of the method stands */
  byDefault: boolean
}

function say(method: TestMethod, key: string, value: unknown): string {
  const { describe } = method.parameters[key]!
  if (value === null || value === undefined) return 'not given'
  if (typeof value === 'boolean') return value ? 'yes' : 'no'
  if (Array.isArray(value))
    return value
      .map((v: { diameter?: number; length?: number }) =>
        v.diameter !== undefined && v.length !== undefined
          ? `${showQuantity(v.diameter, 'length', 'mm')} × ${showQuantity(v.length, 'length', 'm')}`
          : JSON.stringify(v),
      )
      .join(', ')
  if (typeof value !== 'number') return String(value)
  return describe.dimension ? showQuantity(value, describe.dimension, describe.unit) : showNumber(value)
}

/**
 * Everything a test is judged by, defaults too, with the reason of each. What is missing or wrong is said
 * in its place, so that a document never hides it.
 */
export function sayParameters(method: TestMethod, given: Record<string, unknown>): SaidParameter[] {
  return Object.keys(method.parameters).map((key) => {
    const words = method.words[key] ?? { title: key, why: '' }
    const byDefault = given[key] === undefined || given[key] === null
    let text: string
    try {
      text = say(
        method,
        key,
        readInputs({ [key]: method.parameters[key]! }, [key], byDefault ? {} : { [key]: given[key] })[key],
      )
    } catch (error) {
      if (!(error instanceof Problem)) throw error
      text = error.message
    }
    return { key, title: words.title, why: words.why, text, byDefault }
  })
}
