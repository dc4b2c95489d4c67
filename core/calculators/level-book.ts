import { Problem } from '../problem'
import { levelRun } from './levelling'

/** One row of the level book, m. A row with a design level is the invert of a pipe. */
export interface LevelRow {
  backsight?: number | null
  intermediate?: number | null
  foresight?: number | null
  station?: number | null
  design?: number | null
}

/** A pipe laser in place of a level: its beam falls with the line. */
export interface LaserBeam {
  /** where the beam starts, m along the line */
  station: number
  /** fall of the beam toward rising stations, ratio; negative where it rises */
  grade: number
}

/** What was read off the staff, and through what. */
export interface LevelBooking {
  rows: readonly LevelRow[]
  laser?: LaserBeam | null
}

/** A row reduced both ways, m. What a row has not is null. */
export interface BookRow {
  rise: number | null
  fall: number | null
  byRise: number
  /** height of the line of sight that this row is read from */
  sight: number
  byCollimation: number
}

/** A booking reduced by rise and fall and by height of collimation, side by side. */
export interface LevelBook {
  rows: BookRow[]
  backsights: number
  foresights: number
  rises: number
  falls: number
  /** both ways give the same levels, and the sums prove each other */
  agrees: boolean
}

export type SightKind = 'backsight' | 'intermediate' | 'foresight'
const sightKinds: readonly SightKind[] = ['backsight', 'intermediate', 'foresight']
const known = (v: number | null | undefined): v is number => typeof v === 'number'
/** Sums of thousands of sights stay together within this, m. */
const NEAR = 1e-9

/**
 * The sights of a booking as of a level line of sight: readings off a laser's beam are carried back to where
 * the beam starts by its grade.
 *
 * @throws Problem `station` where a row that is read off a beam has none
 */
export function levelSights({ rows, laser }: LevelBooking): Partial<Record<SightKind, number>>[] {
  return rows.map((row, i) => {
    const sights = sightKinds.flatMap((kind) => (known(row[kind]) ? [[kind, row[kind]] as const] : []))
    if (!laser) return Object.fromEntries(sights)
    if (i > 0 && i < rows.length - 1 && known(row.backsight))
      throw new Problem('levels', `Row ${i + 1}: a beam has no change point; book it anew.`, 'rows')
    // The first row is the benchmark, where the beam starts when nothing else is said.
    const station = row.station ?? (i === 0 ? laser.station : null)
    if (station === null)
      throw new Problem('levels', `Row ${i + 1}: what is read off a beam needs its station.`, 'rows')
    const fallen = laser.grade * (station - laser.station)
    return Object.fromEntries(sights.map(([kind, reading]) => [kind, reading + fallen]))
  })
}

/**
 * Reduces a booking both ways.
 *
 * @param start level of the benchmark, m
 * @throws Problem where the sights make no run
 */
export function levelBook(booking: LevelBooking, start: number): LevelBook {
  const sights = levelSights(booking)
  const byRise = levelRun.run({ sights, startLevel: start }).outputs.levels as number[]
  let sight = start
  let previous = 0
  const rows = sights.map(({ backsight, intermediate, foresight }, i): BookRow => {
    const forward = foresight ?? intermediate
    const step = i === 0 || forward === undefined ? null : previous - forward
    const byCollimation = forward === undefined ? start : sight - forward
    // The instrument is set up anew over what it has just read.
    if (backsight !== undefined) sight = byCollimation + backsight
    previous = (backsight ?? intermediate ?? foresight)!
    return {
      rise: step !== null && step >= 0 ? step : null,
      fall: step !== null && step < 0 ? -step : null,
      byRise: byRise[i]!,
      sight,
      byCollimation,
    }
  })
  const sum = (values: (number | null | undefined)[]) => values.reduce<number>((t, v) => t + (v ?? 0), 0)
  const backsights = sum(sights.map((s) => s.backsight))
  const foresights = sum(sights.map((s) => s.foresight))
  const rises = sum(rows.map((r) => r.rise))
  const falls = sum(rows.map((r) => r.fall))
  const climbed = rows.at(-1)!.byRise - start
  return {
    ...{ rows, backsights, foresights, rises, falls },
    agrees:
      rows.every((r) => Math.abs(r.byRise - r.byCollimation) <= NEAR) &&
      Math.abs(backsights - foresights - climbed) <= NEAR &&
      Math.abs(rises - falls - climbed) <= NEAR,
  }
}
