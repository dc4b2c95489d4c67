import type { BandVerdict } from '../../calculators/guard-band'
import { crossing, type Point } from '../curve'
import type { TestNumber } from './define'

/** How long a pressure takes to lose something, and how that stands to the time it must take. */
export interface TimedLoss {
  begin: number
  /** s; null when it has not lost so much */
  time: number | null
  number: TestNumber
  running: boolean
  needed: number | null
}

/**
 * Timing begins where the pressure passes `start` after its last extreme, and ends where it has lost so
 * much, both between rows.
 *
 * @param sign 1 for pressure, −1 for vacuum
 * @returns null where the start was never passed
 */
export function timedLoss(
  curve: readonly Point[],
  start: number,
  loss: number,
  required: number,
  uncertainty: number,
  judge: (value: number, min: number, uncertainty: number) => BandVerdict,
  sign: 1 | -1 = 1,
): TimedLoss | null {
  // A vacuum is a pressure upside down.
  const up = curve.map((p) => ({ t: p.t, v: sign * p.v }))
  const most = up.reduce((m, p) => Math.max(m, p.v), -Infinity)
  const top = up.findLastIndex((p) => p.v === most)
  const from = sign * start
  if (most < from) return null
  const begin = crossing(up, top, from, true)
  const last = up.at(-1)!.t
  // Not down to the start yet: the clock has not begun.
  if (begin === null)
    return {
      begin: last,
      time: null,
      number: { value: null, unit: 's', limit: required },
      running: true,
      needed: null,
    }
  const end = crossing(up, top, from - Math.abs(loss), true)
  const time = end === null ? null : end - begin
  if (time === null) {
    const running = last - begin < required
    return {
      begin,
      time,
      number: { value: null, unit: 's', limit: required, ...(running ? {} : { verdict: 'accept' as const }) },
      running,
      needed: running ? begin + required - last : null,
    }
  }
  const U = uncertainty / (Math.abs(loss) / time)
  const verdict = time >= required ? 'accept' : judge(time, required, U)
  return {
    begin,
    time,
    number: { value: time, unit: 's', limit: required, uncertainty: U, verdict },
    running: false,
    needed: null,
  }
}
