/**
 * The items of a note that stand for a passed sample are accepted block by block: how far that has come is
 * seen, and it can be stopped.
 *
 * @param base path of the note
 */
export function useAccepting(base: string) {
  const accepting = ref<{ done: number; all: number } | null>(null)
  let stopped = false
  async function accept(all: number) {
    stopped = false
    accepting.value = { done: 0, all }
    try {
      for (;;) {
        const { accepted, left } = await api<{ accepted: number; left: number }>(`${base}/accept`, {
          method: 'POST',
        })
        accepting.value.done += accepted
        if (left === 0 || accepted === 0 || stopped) break
      }
    } catch (error) {
      tell(error, 'The rest was not accepted.')
    } finally {
      accepting.value = null
    }
  }
  return { accepting, accept, stop: () => void (stopped = true) }
}
