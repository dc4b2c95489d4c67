import { watch, type Ref } from 'vue'

/** Something that is due at a moment, ms; null for what has none. */
export interface Due {
  key: string
  at: number | null
}

/** What came due so long ago was due already when it was read. */
const JUST = 1500

/**
 * Acts when something comes due: once for each, for what is foreseen "now" is due again at every reading.
 *
 * @param due what is waited for, as read last
 */
export function useDue(now: Ref<number>, due: () => readonly Due[], act: () => void) {
  const acted = new Set<string>()
  watch(now, (t) => {
    const fresh = due().filter(({ key, at }) => at !== null && at <= t && at > t - JUST && !acted.has(key))
    for (const { key } of fresh) acted.add(key)
    if (fresh.length > 0) act()
  })
}
