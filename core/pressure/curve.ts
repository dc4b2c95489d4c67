import type { Column, Row } from './rows'

export interface Point {
  t: number
  v: number
}

/** The readings of one column that are there; a null among others is passed over. */
export function curveOf(rows: readonly Row[], column: Column): Point[] {
  // A log of a day has a hundred thousand rows: one list, and no list a row.
  const out: Point[] = []
  for (const row of rows) {
    const v = row[column]
    if (v !== null) out.push({ t: row.t, v })
  }
  return out
}

/** Index of the last point at or before a time; −1 when all lie after it. */
function before(curve: readonly Point[], t: number): number {
  let [low, high] = [0, curve.length]
  while (low < high) {
    const middle = (low + high) >> 1
    if (curve[middle]!.t <= t) low = middle + 1
    else high = middle
  }
  return low - 1
}

/** The value at a time, linear between points; null outside the curve. */
export function valueAt(curve: readonly Point[], t: number): number | null {
  const i = before(curve, t)
  if (i < 0) return null
  const [a, b] = [curve[i]!, curve[i + 1]]
  if (a.t === t) return a.v
  return b ? a.v + ((b.v - a.v) * (t - a.t)) / (b.t - a.t) : null
}

/** Points between two times, with the values at both, as far as the curve goes. */
export function between(curve: readonly Point[], from: number, to: number): Point[] {
  const inner = curve.filter((p) => p.t > from && p.t < to)
  const ends = [from, to].map((t) => ({ t, v: valueAt(curve, t) }))
  const known = (p: { t: number; v: number | null }): p is Point => p.v !== null
  return [...[ends[0]!].filter(known), ...inner, ...(to > from ? [ends[1]!].filter(known) : [])]
}

export const lowestOf = (points: readonly Point[]): number =>
  points.reduce((m, p) => Math.min(m, p.v), Infinity)
export const highestOf = (points: readonly Point[]): number =>
  points.reduce((m, p) => Math.max(m, p.v), -Infinity)

/** Mean over time by trapezia. */
export function meanOf(points: readonly Point[]): number {
  const span = points.at(-1)!.t - points[0]!.t
  if (span <= 0) return points[0]!.v
  let sum = 0
  for (let i = 1; i < points.length; i++)
    sum += ((points[i]!.v + points[i - 1]!.v) / 2) * (points[i]!.t - points[i - 1]!.t)
  return sum / span
}

/**
 * When a curve passes a level for the first time from some point on, linear between points.
 *
 * @param down whether it comes from above; else from below
 */
export function crossing(curve: readonly Point[], from: number, level: number, down: boolean): number | null {
  const beyond = (v: number) => (down ? v <= level : v >= level)
  for (let i = Math.max(1, from); i < curve.length; i++) {
    const [a, b] = [curve[i - 1]!, curve[i]!]
    if (a.v === level && i - 1 === from) {
      if (b.v === level) continue
      return a.t
    }
    if (!beyond(a.v) && beyond(b.v)) return a.t + ((level - a.v) / (b.v - a.v)) * (b.t - a.t)
  }
  return null
}
