import type { Sample } from './log'

/** At most so many points of a trace are sent to a screen. */
export const SCREEN_POINTS = 1500

/** A trace in few points: the lowest and the highest of each bucket are kept, so no peak is lost. */
export function thin(samples: readonly Sample[], most = SCREEN_POINTS): Sample[] {
  if (samples.length <= most) return [...samples]
  const size = Math.ceil(samples.length / (most / 2))
  const out: Sample[] = []
  for (let i = 0; i < samples.length; i += size) {
    const bucket = samples.slice(i, i + size)
    const low = bucket.reduce((a, b) => (b.pressure < a.pressure ? b : a))
    const high = bucket.reduce((a, b) => (b.pressure > a.pressure ? b : a))
    out.push(...(low === high ? [low] : low.t < high.t ? [low, high] : [high, low]))
  }
  return out
}
