import type { Random } from './random'

/** One row of a logger's file, as every log of the demo has it. */
export interface LogRow {
  time: string
  'pressure kPa': number
  temperature: number
  'makeup L': number
}

interface Shape {
  startedAt: number
  /** s */
  length: number
  step: number
  /** kPa, and L of water added so far */
  at: (t: number) => { pressure: number; makeup?: number }
  /** kPa */
  noise: number
  temperature?: (t: number) => number
}

/** Rows of a made-up logger: what the shape says, with the noise of a gauge. */
export function rowsOf(random: Random, { startedAt, length, step, at, noise, temperature }: Shape): LogRow[] {
  const rough = () => (random.next() + random.next() - 1) * noise
  return Array.from({ length: Math.floor(length / step) + 1 }, (_v, i) => {
    const t = i * step
    const { pressure, makeup = 0 } = at(t)
    return {
      time: new Date(startedAt + t * 1000).toISOString(),
      'pressure kPa': Number((pressure + rough()).toFixed(3)),
      temperature: Number((temperature?.(t) ?? 11.5).toFixed(2)),
      'makeup L': Number(makeup.toFixed(3)),
    }
  })
}

const MINUTE = 60
const HOUR = 3600

/** Raised in a quarter of an hour, kept by the pump with a little water: gaskets seat. */
export const madeUp = (test: number, perHour: number) => (t: number) =>
  t < 15 * MINUTE
    ? { pressure: (test * t) / (15 * MINUTE), makeup: 0 }
    : {
        pressure: test + 6 - ((t % 1500) / 1500) * 14,
        makeup: (perHour * (t - 15 * MINUTE)) / HOUR,
      }

/** Raised in a quarter of an hour, shut in; it falls by so many kPa an hour. */
export const shutIn = (test: number, perHour: number) => (t: number) =>
  t < 15 * MINUTE
    ? { pressure: (test * t) / (15 * MINUTE), makeup: (18 * t) / (15 * MINUTE) }
    : {
        pressure: test + 4 - (perHour * (t - 15 * MINUTE)) / HOUR - 3 * (1 - Math.exp(-(t - 900) / 600)),
        makeup: 18,
      }

/** Blown up in three minutes to a peak, then falling by so many kPa a minute. */
export const blownUp = (peak: number, perMinute: number) => (t: number) =>
  t < 3 * MINUTE
    ? { pressure: (peak * t) / (3 * MINUTE) }
    : { pressure: peak - (perMinute * (t - 3 * MINUTE)) / MINUTE }

/**
 * Polyethylene in three phases: raised, kept half an hour with water, an hour of creep, lowered by an eighth in
 * two minutes with the meter running backward, and the pipe's own pull.
 */
export const threePhase =
  (test: number, released: number) =>
  (t: number): { pressure: number; makeup: number } => {
    const [raise, keep, creep, lowering] = [10 * MINUTE, 31 * MINUTE, HOUR, 2 * MINUTE]
    const added = 40
    if (t < raise) return { pressure: (test * 1.01 * t) / raise, makeup: (added * t) / raise }
    if (t < raise + keep) return { pressure: test + 4, makeup: added + (3 * (t - raise)) / keep }
    const crept = (s: number) => test + 4 - test * 0.055 * Math.log(1 + s / 700)
    const rest = t - raise - keep
    if (rest < creep) return { pressure: crept(rest), makeup: added + 3 }
    const low = (s: number) => crept(creep) * (1 - 0.125 * Math.min(1, s / lowering))
    const after = rest - creep
    if (after < lowering) return { pressure: low(after), makeup: added + 3 - (released * after) / lowering }
    return {
      pressure: low(lowering) + test * 0.012 * (1 - Math.exp(-(after - lowering) / 500)),
      makeup: added + 3 - released,
    }
  }

/** Standing full; the meter counts what has to be put back, L an hour. */
export const seeping = (head: number, perHour: number) => (t: number) => ({
  pressure: head,
  makeup: (perHour * t) / HOUR,
})
