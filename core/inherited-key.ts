const DEEPEST = 40

/**
 * Looks through data from outside for what a schema checker stumbles over: a key that
 * every object inherits, such as "constructor" or "valueOf", which it would take for a
 * field of its own, and nesting that is deeper than any document of ours.
 *
 * @returns the path to it with a sentence, or null when there is none
 */
export function inheritedKey(data: unknown): { path: (string | number)[]; sentence: string } | null {
  const look: { value: unknown; path: (string | number)[] }[] = [{ value: data, path: [] }]
  for (let next = look.pop(); next; next = look.pop()) {
    const { value, path } = next
    if (typeof value !== 'object' || value === null) continue
    if (path.length > DEEPEST) return { path: path.slice(0, 3), sentence: 'This is nested too deep.' }
    const keys = Array.isArray(value) ? value.keys() : Object.keys(value)
    for (const key of keys) {
      if (typeof key === 'string' && key in Object.prototype)
        return { path: [...path, key], sentence: `Unknown: ${key}.` }
      const inner = (value as Record<string | number, unknown>)[key]
      if (typeof inner === 'object' && inner !== null) look.push({ value: inner, path: [...path, key] })
    }
  }
  return null
}
