import { Problem } from '../problem'

/** One row of a pressure log, SI: seconds from the first row, gauge pressure, °C, m³ added so far. */
export interface Row {
  t: number
  pressure: number | null
  pipe: number | null
  air: number | null
  makeup: number | null
}
export type Column = 'pressure' | 'pipe' | 'air' | 'makeup'

export interface RowNote {
  kind: 'duplicate' | 'gap' | 'spike' | 'clock-jump'
  count: number
  /** where the first of them lies */
  t: number
}

export interface Cleaned {
  rows: Row[]
  notes: RowNote[]
  /** how many were left out, by their place in the log as it came */
  left: ReadonlySet<number>
}

const columns = ['t', 'pressure', 'pipe', 'air', 'makeup'] as const

/** Rows as a logger writes them: five columns each. @throws Problem naming `rows` */
export function readRows(raw: unknown): Row[] {
  const refuse = (sentence: string): never => {
    throw new Problem('bad-rows', sentence, 'rows')
  }
  if (!Array.isArray(raw) || raw.length < 2) return refuse('A log has at least two rows.')
  return raw.map((row, i): Row => {
    if (!Array.isArray(row) || row.length < 5)
      return refuse(`Row ${i + 1} needs five columns: ${columns.join(', ')}.`)
    const cell = (k: number): number | null => {
      const value: unknown = row[k]
      if (value === null || value === undefined) return null
      return typeof value === 'number' && Number.isFinite(value)
        ? value
        : refuse(`Row ${i + 1}: ${columns[k]} is no number.`)
    }
    const t = cell(0) ?? refuse(`Row ${i + 1} has no time.`)
    return { t, pressure: cell(1), pipe: cell(2), air: cell(3), makeup: cell(4) }
  })
}

export const median = (values: readonly number[]): number => {
  if (values.length === 0) return 0
  const sorted = [...values].sort((a, b) => a - b)
  const middle = sorted.length >> 1
  return sorted.length % 2 ? sorted[middle]! : (sorted[middle - 1]! + sorted[middle]!) / 2
}

/**
 * Cleans a log and says what was left out: times already taken, times that run backward, and spikes (a
 * single row far off neighbours that agree with each other). Gaps are named.
 */
export function cleanRows(raw: readonly Row[]): Cleaned {
  const notes = new Map<RowNote['kind'], RowNote>()
  const left = new Set<number>()
  const note = (kind: RowNote['kind'], t: number) => {
    const known = notes.get(kind)
    if (known) known.count++
    else notes.set(kind, { kind, count: 1, t })
  }
  const ordered: { row: Row; at: number }[] = []
  const times = new Set<number>()
  raw.forEach((row, at) => {
    const last = ordered.at(-1)
    if (last && row.t <= last.row.t) {
      note(times.has(row.t) ? 'duplicate' : 'clock-jump', row.t)
      left.add(at)
      return
    }
    times.add(row.t)
    ordered.push({ row, at })
  })
  const steps = ordered.slice(1).map((o, i) => o.row.t - ordered[i]!.row.t)
  const usual = median(steps)
  steps.forEach((step, i) => step > 5 * usual && step > 60 && note('gap', ordered[i]!.row.t))
  const read = ordered.filter(
    (o): o is { row: Row & { pressure: number }; at: number } => o.row.pressure !== null,
  )
  const pressures = read.map((o) => o.row.pressure)
  const least = pressures.every((p) => Math.abs(p) <= 100e3) ? 20 : 500
  const noise = Math.max(
    1.4826 * median(pressures.slice(1).map((p, i) => Math.abs(p - pressures[i]!))),
    least,
  )
  for (let i = 2; i < read.length - 2; i++) {
    const around = [i - 2, i - 1, i + 1, i + 2].map((k) => pressures[k]!)
    if (Math.max(...around) - Math.min(...around) > 3 * noise) continue
    if (Math.abs(pressures[i]! - median(around)) <= 12 * noise) continue
    note('spike', read[i]!.row.t)
    left.add(read[i]!.at)
  }
  return {
    rows: ordered.filter((o) => !left.has(o.at)).map((o) => o.row),
    notes: [...notes.values()],
    left,
  }
}
