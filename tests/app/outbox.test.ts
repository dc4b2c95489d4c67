import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { makeOutbox } from '../../app/composables/outbox'

class Refused extends Error {}
const isRefusal = (error: unknown) => error instanceof Refused

/** A server that answers when told to, and refuses what is in `bad`. */
function slowServer(bad: number[] = []) {
  const requests: number[][] = []
  const taken: number[] = []
  const open: (() => void)[] = []
  const post = (things: number[]) => {
    requests.push(things)
    return new Promise<void>((done, failed) =>
      open.push(() => {
        if (things.some((t) => bad.includes(t))) return failed(new Refused(`refused ${things.join()}`))
        taken.push(...things)
        done()
      }),
    )
  }
  const tick = () => new Promise((done) => setImmediate(done))
  return {
    requests,
    taken,
    post,
    /** Answers until nothing is on its way. */
    async drain() {
      for (await tick(); open.length > 0; await tick()) open.shift()!()
    },
  }
}

describe('the outbox', () => {
  it('sends the first at once, and what came meanwhile together', async () => {
    const server = slowServer()
    const send = makeOutbox(server.post, isRefusal)
    const all = [send([1]), send([2]), send([3, 4])]
    expect(server.requests).toEqual([[1]])
    await server.drain()
    await Promise.all(all)
    expect(server.requests).toEqual([[1], [2, 3, 4]])
  })

  it('never has two requests on their way', async () => {
    const server = slowServer()
    const send = makeOutbox(server.post, isRefusal)
    void send([1])
    void send([2])
    expect(server.requests).toHaveLength(1)
    await server.drain()
    const third = send([3])
    await server.drain()
    await third
    expect(server.requests).toEqual([[1], [2], [3]])
  })

  it('tells only the sender of what was refused, and sends the rest', async () => {
    const server = slowServer([3])
    const send = makeOutbox(server.post, isRefusal)
    const results = [send([1]), send([2]), send([3]), send([4])].map((p) =>
      p.then(
        () => 'taken',
        (e: Error) => e.message,
      ),
    )
    await server.drain()
    expect(await Promise.all(results)).toEqual(['taken', 'taken', 'refused 3', 'taken'])
    expect(server.taken).toEqual([1, 2, 4])
  })

  it('without a signal every sender is told, and nothing is tried again by itself', async () => {
    let tries = 0
    const send = makeOutbox(async () => {
      tries++
      throw new TypeError('no signal')
    }, isRefusal)
    const results = await Promise.allSettled([send([1]), send([2]), send([3])])
    expect(results.map((r) => r.status)).toEqual(['rejected', 'rejected', 'rejected'])
    expect(tries).toBe(2)
  })

  it('works again after a failure', async () => {
    let signal = false
    const send = makeOutbox(async () => {
      if (!signal) throw new TypeError('no signal')
    }, isRefusal)
    await expect(send([1])).rejects.toThrow('no signal')
    signal = true
    await expect(send([2])).resolves.toBeUndefined()
  })

  it('a bundle has at most so many things, but a large one is not split', async () => {
    const server = slowServer()
    const send = makeOutbox(server.post, isRefusal, 3)
    const all = [[1], [2], [3], [4, 5, 6, 7], [8]].map((t) => send(t))
    await server.drain()
    await Promise.all(all)
    expect(server.requests).toEqual([[1], [2, 3], [4, 5, 6, 7], [8]])
  })

  it('keeps the order, loses nothing and doubles nothing, whatever is refused', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.integer({ min: 1, max: 4 }), { maxLength: 20 }),
        fc.array(fc.nat(40)),
        fc.integer({ min: 1, max: 8 }),
        async (sizes, bad, most) => {
          const server = slowServer(bad)
          const send = makeOutbox(server.post, isRefusal, most)
          let n = 0
          const groups = sizes.map((size) => Array.from({ length: size }, () => n++))
          const results = Promise.all(
            groups.map((g) =>
              send(g).then(
                () => g,
                () => [],
              ),
            ),
          )
          await server.drain()
          expect((await results).flat()).toEqual(groups.filter((g) => !g.some((x) => bad.includes(x))).flat())
          expect(server.taken).toEqual((await results).flat())
        },
      ),
    )
  })
})
