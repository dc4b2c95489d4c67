/** A small seeded generator (mulberry32): the same seed gives the same project. */
export function seeded(seed: number) {
  let state = seed >>> 0
  const next = () => {
    state = (state + 0x6d2b79f5) >>> 0
    let t = state
    t = Math.imul(t ^ (t >>> 15), t | 1)
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61)
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296
  }
  return {
    next,
    between: (low: number, high: number, step = 0) => {
      const value = low + next() * (high - low)
      return step > 0 ? Math.round(value / step) * step : value
    },
    pick: <T>(list: readonly T[]): T => list[Math.floor(next() * list.length)]!,
    /** a UUID of version 7 for a moment */
    id: (at: number) => {
      const hex = Math.max(0, Math.floor(at)).toString(16).padStart(12, '0')
      const r = () =>
        Math.floor(next() * 65536)
          .toString(16)
          .padStart(4, '0')
      const third = `7${r().slice(1)}`
      const fourth = `${(8 + Math.floor(next() * 4)).toString(16)}${r().slice(1)}`
      return `${hex.slice(0, 8)}-${hex.slice(8)}-${third}-${fourth}-${r()}${r()}${r()}`
    },
  }
}
export type Random = ReturnType<typeof seeded>
