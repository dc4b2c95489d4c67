import type { InterventionPoint } from '../procedure/types'
import { seededRandom, seedOf } from '../random'
import type { Occasion, Rate } from './occasions'
import { parties, rowOf, USUAL_RATE, type PointRule, type Where } from './points'

/**
 * Whether a step of a subject is drawn to be watched. One in so many is drawn from the subject's own id, so
 * that nobody chooses and everybody who asks later finds the same; an occasion is one or is not.
 *
 * @param occasions what beginning this subject was the occasion of
 */
export const isDrawn = (
  subject: string,
  step: string,
  rate: Rate,
  occasions: readonly Occasion[] = [],
): boolean =>
  typeof rate === 'number'
    ? seededRandom(seedOf(`${subject} ${step}`))() < 1 / Math.max(1, rate)
    : occasions.includes(rate)

/**
 * What each step under surveillance is watched by, where the plan puts it under surveillance at all: of the
 * parties that count, the one who sees most, and whoever comes on an occasion.
 *
 * @param steps the procedure's steps with the points that it gives them
 * @param base what the project has said from the start
 */
export function ratesFor(
  rules: readonly PointRule[],
  procedure: string,
  steps: readonly { key: string; point?: InterventionPoint | null | undefined }[],
  base: Readonly<Record<string, InterventionPoint | null>>,
  where: Where,
): Record<string, Rate[]> {
  // Nearly always no rule speaks of the procedure: then its own points are all there is.
  const plain = !rules.some((r) => r.procedure === procedure)
  return Object.fromEntries(
    steps.flatMap(({ key, point }): [string, Rate[]][] => {
      const own = Object.hasOwn(base, key) ? base[key]! : (point ?? null)
      if (plain) return own === 'S' ? [[key, [USUAL_RATE]]] : []
      const row = rowOf(rules, procedure, key, own, where)
      const rates = parties.filter((p) => row[p].point === 'S').map((p) => row[p].rate ?? USUAL_RATE)
      if (rates.length === 0) return []
      const counted = rates.filter((r) => typeof r === 'number')
      const most = counted.length > 0 ? [Math.min(...counted)] : []
      return [[key, [...most, ...new Set(rates.filter((r) => typeof r !== 'number'))]]]
    }),
  )
}

/** One step of one crew under surveillance, as its joints came out. */
export interface WatchCount {
  /** joints at which the step was done */
  done: number
  /** of them drawn to be watched, and of those watched */
  drawn: number
  watched: number
  /** watched though nobody had drawn them */
  besides: number
}

/** Counts what was watched against what was drawn. */
export function watchCount(rows: readonly { drawn: boolean; done: boolean; watched: boolean }[]): WatchCount {
  const done = rows.filter((r) => r.done)
  const drawn = done.filter((r) => r.drawn)
  return {
    done: done.length,
    drawn: drawn.length,
    watched: drawn.filter((r) => r.watched).length,
    besides: done.filter((r) => r.watched && !r.drawn).length,
  }
}
