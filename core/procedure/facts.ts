import { dnOfInches, writtenInInches } from '../calculators/input'
import { Problem } from '../problem'
import type { DimensionKey } from '../quantity/dimension'
import { readQuantity } from '../quantity/read'
import { showBare, showIn } from '../quantity/show'
import { unitShown, withUnit } from '../quantity/site-units'
import type { FactValue } from '../formula/formula'
import type { Procedure, ProcedureFact } from './types'

/** Reads one fact as typed or stored. @throws Problem naming the fact */
export function readFact(fact: ProcedureFact, given: unknown): FactValue {
  if (fact.dimension === 'word') {
    if (typeof given !== 'string' || given.length > 80 || (fact.choices && !fact.choices.includes(given)))
      throw new Problem(
        'unknown-choice',
        `${fact.title} must be one of ${fact.choices?.join(', ') ?? 'the known words'}.`,
        fact.key,
      )
    return given
  }
  if (fact.dimension === 'flag') {
    if (typeof given !== 'boolean')
      throw new Problem('not-a-flag', `${fact.title} must be yes or no.`, fact.key)
    return given
  }
  const dimension: DimensionKey = fact.dimension
  let value: number
  try {
    value = readQuantity(given, dimension, {
      field: fact.key,
      ...(typeof given === 'string' && fact.unit ? { bareUnit: fact.unit } : {}),
    })
    if (fact.nominal && typeof given === 'string' && writtenInInches(given, fact.unit))
      value = dnOfInches(value / 0.0254) / 1000
  } catch (error) {
    if (error instanceof Problem)
      throw new Problem(
        error.code,
        error.named(() => fact.title),
        fact.key,
      )
    throw error
  }
  const bound = (text: string | undefined) =>
    text === undefined ? null : readQuantity(text, dimension, { field: fact.key })
  const [min, max] = [bound(fact.min), bound(fact.max)]
  if ((min !== null && value < min) || (max !== null && value > max))
    throw new Problem(
      'out-of-bounds',
      `${fact.title} must lie between ${fact.min ?? '…'} and ${fact.max ?? '…'}.`,
      fact.key,
    )
  return value
}

/**
 * Reads facts as typed or stored against the procedure: dimension, bounds, choices.
 *
 * @throws Problem naming the fact
 */
export function readFacts(procedure: Procedure, raw: Record<string, unknown>): Record<string, FactValue> {
  for (const key of Object.keys(raw))
    if (!procedure.facts.some((f) => f.key === key))
      throw new Problem('unknown-fact', `"${key}" is not a fact of this procedure.`, key)
  const out: Record<string, FactValue> = {}
  for (const fact of procedure.facts) {
    const given = raw[fact.key]
    if (given === undefined || given === null || given === '') {
      if (!fact.optional) throw new Problem('missing', `${fact.title} is missing.`, fact.key)
      continue
    }
    out[fact.key] = readFact(fact, given)
  }
  return out
}

/**
 * The unit that stands beside the field of a fact, in which a bare number is typed. A nominal size keeps the
 * one that it is written in: it is a name, not a measure.
 */
export const unitOfFact = ({ unit, nominal }: Pick<ProcedureFact, 'unit' | 'nominal'>): string =>
  nominal ? (unit ?? '') : unitShown(unit ?? '')

/**
 * A fact as it was typed, with the unit that stood beside its field where it has none of its own, so that
 * whoever reads it needs not know what was shown.
 */
export const withUnitOfFact = (typed: string, fact: Pick<ProcedureFact, 'unit' | 'nominal'>): string =>
  fact.nominal || !fact.unit ? typed : withUnit(typed, fact.unit)

/** A fact as a person types it into its form: `readFact` of it gives the value again. */
export function typedFact(fact: ProcedureFact, value: FactValue): string | boolean {
  if (typeof value === 'boolean' || typeof value === 'string') return value
  const text = fact.nominal
    ? showIn(value as number, unitOfFact(fact), 12)
    : showBare(value as number, fact.unit ?? '', 12)
  return text.replace('−', '-')
}

/** What a form starts with: the default of the document, typed as a person would; nothing without one. */
export function startOf(fact: ProcedureFact): string | boolean {
  if (fact.default === undefined) return fact.dimension === 'flag' ? false : ''
  try {
    return typedFact(fact, readFact(fact, fact.default))
  } catch {
    // A default that cannot stand is shown as it is written, and refused with its reason when it is sent.
    return fact.default
  }
}

/**
 * The made-up joint of a procedure, from the examples of its facts. @throws Problem naming a fact without
 * an example
 */
export const exampleFacts = (procedure: Procedure): Record<string, FactValue> =>
  readFacts(
    procedure,
    Object.fromEntries(procedure.facts.filter((f) => f.example !== undefined).map((f) => [f.key, f.example])),
  )
