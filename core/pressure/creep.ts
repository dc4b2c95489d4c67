import type { Point } from './curve'
import { evenly } from './slope'

/** What of a fall is creep, what is leak, at the end of the hold. */
export interface CreepOrLeak {
  /** Pa of fall that creep explains, and half its 95 % interval */
  creep: number
  /** Pa of fall that a steady leak explains, and half its 95 % interval */
  leak: number
  half: number
  /** the time constant that fits best, s */
  tau: number
  /** Pa; what neither explains */
  noise: number
  /** Pa a second; of the steady part, negative while it leaks */
  slope: number
  sentence: string
}

/** Solves linear equations by elimination. @returns null where they cannot be solved */
function solve(m: number[][], v: number[]): number[] | null {
  const n = v.length
  const a = m.map((row, i) => [...row, v[i]!])
  const largest = Math.max(...m.flat().map(Math.abs))
  for (let i = 0; i < n; i++) {
    const pivot = a.slice(i).reduce((best, row) => (Math.abs(row[i]!) > Math.abs(best[i]!) ? row : best))
    if (Math.abs(pivot[i]!) < 1e-13 * largest) return null
    a.splice(a.indexOf(pivot), 1)
    a.splice(i, 0, pivot)
    for (let j = 0; j < n; j++) {
      if (j === i) continue
      const factor = a[j]![i]! / pivot[i]!
      a[j] = a[j]!.map((x, k) => x - factor * pivot[k]!)
    }
  }
  return a.map((row, i) => row[n]! / row[i]!)
}

/** The sums of a least-squares fit. */
const sums = (basis: readonly (readonly number[])[]) =>
  basis[0]!.map((_x, i) => basis[0]!.map((_y, j) => basis.reduce((s, f) => s + f[i]! * f[j]!, 0)))

interface Fit {
  tau: number
  /** p₀, a, b of p₀ − a·ln(1 + t/τ) − b·t/T */
  c: number[]
  squares: number
}

/** Least squares for one time constant; time runs from nothing to one so that the sums stay level. */
function fitWith(points: readonly Point[], start: number, length: number, tau: number): Fit | null {
  const basis = points.map((p) => [1, -Math.log1p((p.t - start) / tau), -(p.t - start) / length])
  const v = [0, 1, 2].map((i) => basis.reduce((s, f, k) => s + f[i]! * points[k]!.v, 0))
  const c = solve(sums(basis), v)
  if (!c) return null
  const squares = points.reduce(
    (s, p, k) => s + (p.v - c.reduce((sum, x, i) => sum + x * basis[k]![i]!, 0)) ** 2,
    0,
  )
  return { tau, c, squares }
}

/** Variance of b in units of the noise's variance; that nobody knows the time constant is in it. */
function spreadOf(points: readonly Point[], start: number, length: number, { tau, c }: Fit): number | null {
  const basis = points.map((p) => {
    const t = p.t - start
    // The last column is how the fit moves with the logarithm of τ.
    return [1, -Math.log1p(t / tau), -t / length, (c[1]! / 1e4) * (t / (tau + t))]
  })
  return solve(sums(basis), [0, 0, 1, 0])?.[2] ?? null
}

/** Creep only gives way: a fit by which the pipe grew stiffer is none. */
const sounder = (a: Fit | null, b: Fit | null): Fit | null => {
  if (!a || !b) return a ?? b
  const [x, y] = [a.c[1]! >= 0, b.c[1]! >= 0]
  return x === y ? (a.squares <= b.squares ? a : b) : x ? a : b
}

/**
 * Polyethylene gives way while it is tight: its pressure falls as p₀ − a·ln(1 + t/τ), a leak's as p₀ − b·t.
 * Both are fitted together, with the time constant that leaves least over.
 *
 * @param points of the hold, time in s and pressure in Pa
 * @returns null with fewer than twelve points, or where they cannot be told apart
 */
export function creepOrLeak(points: readonly Point[]): CreepOrLeak | null {
  const list = evenly(points, 400)
  if (list.length < 12) return null
  const start = list[0]!.t
  const length = list.at(-1)!.t - start
  if (length <= 0) return null
  const at = (log: number) => fitWith(list, start, length, length * 10 ** log)
  const logs = Array.from({ length: 13 }, (_v, i) => -3 + i * 0.25)
  const coarse = logs.reduce<{ log: number; fit: Fit | null }>(
    (best, log) => {
      const fit = at(log)
      return fit !== null && sounder(best.fit, fit) === fit ? { log, fit } : best
    },
    { log: 0, fit: null },
  )
  let best = coarse.fit
  // Between its neighbours the time constant is found more closely.
  for (let [step, log] = [0.125, coarse.log], i = 0; i < 9; i++, step /= 2)
    for (const next of [log - step, log + step]) {
      const fit = at(next)
      if (fit === null || sounder(best, fit) !== fit || fit === best) continue
      best = fit
      log = next
    }
  if (!best) return null
  const spread = spreadOf(list, start, length, best)
  const noise = Math.sqrt(best.squares / Math.max(1, list.length - 4))
  const creep = best.c[1]! * Math.log1p(length / best.tau)
  const leak = best.c[2]!
  if (spread === null) return null
  const half = 1.96 * noise * Math.sqrt(Math.max(0, spread))
  const sentence =
    Math.abs(leak) <= half
      ? 'Creep explains all of the fall: no steady leak stands out of it.'
      : leak > 0
        ? 'A steady fall is left over that creep does not explain: it leaks.'
        : 'The pressure rises beside the creep: it warms up, or water comes in.'
  return { creep, leak, half, tau: best.tau, noise, slope: -leak / length, sentence }
}
