import { Problem } from '#core/problem'

/** Runs things one after the other; refuses when too many wait already. */
export function makeTurn(most: number, sentence: string) {
  let last: Promise<unknown> = Promise.resolve()
  let waiting = 0
  return async <T>(run: () => Promise<T>): Promise<T> => {
    if (waiting >= most) throw new Problem('busy', sentence)
    waiting++
    const mine = last.then(run)
    last = mine.catch(() => undefined)
    try {
      return await mine
    } finally {
      waiting--
    }
  }
}
