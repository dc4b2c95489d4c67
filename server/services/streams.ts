/** Open streams of one person; the oldest gives way. */
const MOST = 8
const open = new Map<string, { close: () => void }[]>()

/** Takes a place for a stream of a person. */
export function takeStream(person: string, close: () => void): { free(): void } {
  const mine = open.get(person) ?? []
  const place = { close }
  mine.push(place)
  open.set(person, mine)
  if (mine.length > MOST) mine.shift()!.close()
  return {
    free() {
      const left = (open.get(person) ?? []).filter((p) => p !== place)
      if (left.length > 0) open.set(person, left)
      else open.delete(person)
    },
  }
}
