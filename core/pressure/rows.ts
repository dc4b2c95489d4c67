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
  /** stretches without a row, s */
  gaps: readonly { from: number; to: number }[]
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

export const median = (values: readonly number[] | Float64Array): number => {
  if (values.length === 0) return 0
  // Numbers of one kind sort many times faster than a list with a comparison.
  const sorted = Float64Array.from(values).sort()
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
  const ordered = inTime(raw, (at) => {
    note(at.taken ? 'duplicate' : 'clock-jump', raw[at.index]!.t)
    left.add(at.index)
  })
  const steps = new Float64Array(Math.max(0, ordered.length - 1))
  for (let i = 0; i < steps.length; i++) steps[i] = raw[ordered[i + 1]!]!.t - raw[ordered[i]!]!.t
  const usual = median(steps)
  const gaps: { from: number; to: number }[] = []
  steps.forEach((step, i) => {
    if (step <= 5 * usual || step <= 60) return
    const from = raw[ordered[i]!]!.t
    note('gap', from)
    gaps.push({ from, to: from + step })
  })
  for (const index of spikesOf(raw, ordered)) {
    note('spike', raw[index]!.t)
    left.add(index)
  }
  return {
    rows: (left.size === 0 ? ordered : ordered.filter((i) => !left.has(i))).map((i) => raw[i]!),
    notes: [...notes.values()],
    left,
    gaps,
  }
}

/** Places of the rows whose time moves on; the others are told, with whether their time was taken. */
function inTime(raw: readonly Row[], other: (at: { index: number; taken: boolean }) => void): number[] {
  const ordered: number[] = []
  // Times that were there are looked for only when a clock stood still or ran back.
  let times: Set<number> | null = null
  let last = -Infinity
  for (let index = 0; index < raw.length; index++) {
    const { t } = raw[index]!
    if (t > last) {
      ordered.push(index)
      times?.add(t)
      last = t
    } else {
      times ??= new Set(ordered.map((i) => raw[i]!.t))
      other({ index, taken: times.has(t) })
    }
  }
  return ordered
}

/** Places of single rows far off neighbours that agree with each other. */
function spikesOf(raw: readonly Row[], ordered: readonly number[]): number[] {
  const read = ordered.filter((i) => raw[i]!.pressure !== null)
  const pressures = Float64Array.from(read, (i) => raw[i]!.pressure!)
  const changes = new Float64Array(Math.max(0, pressures.length - 1))
  for (let i = 0; i < changes.length; i++) changes[i] = Math.abs(pressures[i + 1]! - pressures[i]!)
  const least = pressures.every((p) => Math.abs(p) <= 100e3) ? 20 : 500
  const noise = Math.max(1.4826 * median(changes), least)
  const out: number[] = []
  for (let i = 2; i < read.length - 2; i++) {
    const a = pressures[i - 2]!
    const b = pressures[i - 1]!
    const c = pressures[i + 1]!
    const d = pressures[i + 2]!
    const low = Math.min(a, b, c, d)
    const high = Math.max(a, b, c, d)
    if (high - low > 3 * noise) continue
    // The median of four is what is left of their sum without the lowest and the highest, halved.
    if (Math.abs(pressures[i]! - (a + b + c + d - low - high) / 2) > 12 * noise) out.push(read[i]!)
  }
  return out
}
