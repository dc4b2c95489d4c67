import { chainsOf } from '../checks/chain'
import type { Made } from '../checks/define'
import { atInvert, groutFigures, type GroutCheck, type GroutRow } from '../checks/grout'
import type { FactValue, Slots } from '../formula/formula'
import { byStep } from '../judgement/standing'
import type { CompiledProcedure } from '../procedure/compile'
import type { Entry } from '../record/entry'

/** One reading of the grout as it presses where it presses most. */
export interface GroutReading {
  /** s since the pump was started */
  t: number
  /** Pa, at the invert */
  there: number
  /** m³ pumped so far */
  volume: number
}

export interface GroutLog {
  readings: GroutReading[]
  /** what the pipe bears, and from where on a caution is said, Pa; NaN where it cannot be worked out */
  limit: number
  warn: number
  /** room around the pipe, m³, and what share of it is full; null where the casing is not known */
  room: number | null
  full: number | null
  /** the highest share of the limit that was reached; null where that is not known */
  reached: number | null
}

/**
 * Room around a pipe in its casing, m³; null where a measure is missing, or the pipe does not go in.
 *
 * @param facts SI
 */
export function roomAround(facts: Readonly<Record<string, unknown>>): number | null {
  const [bore, od, length] = ['casing.bore', 'pipe.od', 'site.length'].map((key) => {
    const value = facts[key]
    return typeof value === 'number' && value > 0 ? value : NaN
  }) as [number, number, number]
  const room = (Math.PI / 4) * (bore ** 2 - od ** 2) * length
  return room > 0 ? room : null
}

/**
 * The grout of a casing from all entries of its log that stand, as one log in the order of its readings.
 *
 * @returns null where the procedure asks for no grout
 */
export function groutLog(
  compiled: CompiledProcedure,
  facts: Record<string, FactValue>,
  slots: Slots,
  entries: readonly Entry[],
): GroutLog | null {
  const step = compiled.steps.find((s) => s.step.check.kind === 'grout')
  if (!step) return null
  const given = byStep(compiled, entries)[step.index]!.filter((e) => e.kind === 'grout')
  const figures = groutFigures(step as unknown as Made<GroutCheck>, slots)
  const readings = chainsOf(given)
    .counted.flatMap(({ entry }) => entry.payload.rows as GroutRow[])
    .map(({ t, pressure, volume }) => ({ t, volume, there: atInvert(pressure, figures) }))
    .sort((a, b) => a.t - b.t)
  const room = roomAround(facts)
  const pumped = readings.reduce((most, r) => Math.max(most, r.volume), 0)
  const shares = readings.map((r) => r.there / figures.limit)
  return {
    readings,
    limit: figures.limit,
    warn: figures.warn * figures.limit,
    room,
    full: readings.length === 0 || room === null ? null : pumped / room,
    reached:
      shares.length > 0 && shares.every(Number.isFinite) ? shares.reduce((a, b) => Math.max(a, b)) : null,
  }
}
