/**
 * Sends things one after another in the order given. What comes in while something is on
 * its way goes out together after it: quick work on a slow line costs few requests.
 *
 * A refused bundle is sent again one by one, so that each thing is refused for its own
 * fault only; `retry` says whether an error is such a refusal.
 *
 * @param post sends some things in one request, all or none
 */
export function makeOutbox<T>(
  post: (things: T[]) => Promise<unknown>,
  retry: (error: unknown) => boolean,
  most = 50,
) {
  interface Waiting {
    things: T[]
    done: () => void
    failed: (error: unknown) => void
  }
  let waiting: Waiting[] = []
  let sending = false

  async function deliver(bundle: Waiting[]) {
    try {
      await post(bundle.flatMap((w) => w.things))
      for (const w of bundle) w.done()
    } catch (error) {
      if (bundle.length === 1 || !retry(error)) for (const w of bundle) w.failed(error)
      else for (const w of bundle) await deliver([w])
    }
  }

  async function run() {
    if (sending) return
    sending = true
    while (waiting.length > 0) {
      let count = 0
      let size = 0
      // A thing is never split; a bundle holds at least one.
      while (count < waiting.length && (count === 0 || size + waiting[count]!.things.length <= most))
        size += waiting[count++]!.things.length
      const bundle = waiting.slice(0, count)
      waiting = waiting.slice(count)
      await deliver(bundle)
    }
    sending = false
  }

  /** Resolves when the server has acknowledged them, and rejects with its refusal. */
  return (things: T[]): Promise<void> =>
    new Promise((done, failed) => {
      waiting.push({ things, done, failed })
      void run()
    })
}
