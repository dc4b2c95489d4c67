import { seededRandom } from '../core/random'

/** What a demo is made of by chance: the same seed gives the same project. */
export function seeded(seed: number) {
  const next = seededRandom(seed)
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
