import type { FactValue } from '../formula/formula'
import { Problem } from '../problem'
import { readFact } from './facts'
import type { Procedure, ProcedureFact } from './types'

/** Where a delivered piece goes in a joint. */
export type ItemPlace = 'upstream' | 'downstream' | 'fitting'
export const itemPlaces: readonly ItemPlace[] = ['upstream', 'downstream', 'fitting']

/** What a piece at a place is, as facts of a procedure name it. */
export const sourceOf = (place: ItemPlace): 'fitting' | 'pipe' => (place === 'fitting' ? 'fitting' : 'pipe')

type Facts = Record<string, FactValue>

/** Facts that a person types at the opening: those that no chosen piece and no line gives. */
export const factsAsked = (
  procedure: Pick<Procedure, 'facts'>,
  places: readonly ItemPlace[],
  line: Facts,
): ProcedureFact[] =>
  procedure.facts.filter((f) => line[f.key] === undefined && !places.some((p) => sourceOf(p) === f.from))

/**
 * Facts of the chosen pieces.
 *
 * @param chosen facts (SI) of the piece at each place
 * @throws Problem `mismatch` where two pipes differ in a fact that the procedure takes from them, or a
 *   fitting is not for the pipe
 */
export function factsOfPieces(
  procedure: Pick<Procedure, 'facts'>,
  chosen: Partial<Record<ItemPlace, Facts>>,
): Facts {
  const { upstream: up = {}, downstream: down = {}, fitting: fit = {} } = chosen
  for (const fact of procedure.facts) {
    if (fact.from === 'pipe' && down[fact.key] !== undefined && up[fact.key] !== down[fact.key])
      throw new Problem('mismatch', `The two pipes differ: ${fact.title.toLowerCase()}.`, 'downstream')
  }
  if (
    fit['fitting.bore'] !== undefined &&
    up['pipe.od'] !== undefined &&
    fit['fitting.bore'] !== up['pipe.od']
  )
    throw new Problem('mismatch', 'The fitting is not for this diameter.', 'fitting')
  return { ...up, ...fit }
}

/**
 * The facts of a joint from its pieces, its line and what was typed, each within its bounds.
 *
 * @param known facts (SI) of pieces and line
 * @param given what was typed, as the form sends it
 * @returns SI
 * @throws Problem `unknown-fact` for what is not asked, `missing`, and what `readFact` throws
 */
export function factsAtOpening(
  procedure: Pick<Procedure, 'facts'>,
  asked: readonly ProcedureFact[],
  known: Facts,
  given: Record<string, unknown>,
): Record<string, number | string | boolean> {
  const facts: Record<string, number | string | boolean> = {}
  for (const key of Object.keys(given))
    if (!asked.some((f) => f.key === key))
      throw new Problem('unknown-fact', `"${key}" is not asked here.`, `facts.${key}`)
  for (const fact of procedure.facts) {
    const value = asked.includes(fact) ? given[fact.key] : known[fact.key]
    if (value === undefined || value === null || value === '') {
      if (fact.optional) continue
      throw new Problem('missing', `${fact.title} is missing.`, fact.key)
    }
    facts[fact.key] = readFact(fact, value) as number | string | boolean
  }
  return facts
}
