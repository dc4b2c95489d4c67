import { lastNumber, setNumber } from './device'
import { api, ApiProblem } from './useApi'

let turn: Promise<unknown> = Promise.resolve()

/**
 * Sends what was recorded, one bundle at a time over all subjects, each entry with the next
 * number. A refused bundle gives its numbers back; after a bundle that may or may not have
 * arrived, the server is asked where the numbers stand.
 */
export function sendNumbered<E>(
  base: string,
  entries: E[],
  post: (numbered: (E & { number: number })[]) => Promise<unknown>,
): Promise<void> {
  const run = async () => {
    const last = lastNumber() ?? (await api<{ number: number }>(`${base}/device`)).number
    setNumber(null)
    try {
      await post(entries.map((e, i) => ({ ...e, number: last + i + 1 })))
      setNumber(last + entries.length)
    } catch (error) {
      if (error instanceof ApiProblem && error.status >= 400 && error.status < 500) setNumber(last)
      throw error
    }
  }
  // Tabs that share one store share its numbers.
  const mine: Promise<void> = turn.then(async () => {
    if (navigator.locks) await navigator.locks.request('vet-line-send', run)
    else await run()
  })
  turn = mine.catch(() => undefined)
  return mine
}
