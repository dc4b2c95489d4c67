import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import type { Outgoing } from '../../app/device/sender'
import type { Waiting } from '../../app/device/waiting'

/** What waits on a device goes out in order, once, and is never lost in silence. */
const queue = vi.hoisted(() => ({ rows: [] as Waiting<Outgoing>[], place: 0 }))
const server = vi.hoisted(() => ({
  calls: [] as { path: string; ids: string[] }[],
  bodies: [] as Record<string, unknown>[],
  reply: (_path: string, _ids: string[]): void => undefined,
}))

vi.mock('../../app/device/waiting', () => ({
  canWait: () => true,
  addWaiting: (subject: string, at: number, letter: Partial<Waiting<Outgoing>>) => {
    const clock = { offset: 0, setBack: false }
    queue.rows.push({ place: ++queue.place, subject, at, entries: [], clock, ...letter })
    return Promise.resolve(queue.place)
  },
  waitingList: () => Promise.resolve([...queue.rows]),
  removeWaiting: (place: number) => {
    queue.rows = queue.rows.filter((r) => r.place !== place)
    return Promise.resolve()
  },
  refuseWaiting: (place: number, refused: { code: string; message: string }) => {
    queue.rows = queue.rows.map((r) => (r.place === place ? { ...r, refused } : r))
    return Promise.resolve(1)
  },
}))
vi.mock('../../app/composables/numbered', () => ({
  sendNumbered: (_base: string, entries: Outgoing[], post: (numbered: object[]) => Promise<unknown>) =>
    post(entries.map((e, i) => ({ ...e, number: i + 1 }))),
}))
vi.mock('../../app/composables/useApi', async (original) => ({
  ...(await original<typeof import('../../app/composables/useApi')>()),
  api: (path: string, { body }: { body?: { entries?: Outgoing[] } } = {}) => {
    const ids = body?.entries?.map((e) => e.id) ?? []
    server.bodies.push((body ?? {}) as Record<string, unknown>)
    server.calls.push({ path, ids })
    server.reply(path, ids)
    return Promise.resolve({ id: 'x' })
  },
}))

const { ApiProblem } = await import('../../app/composables/useApi')
const { drain, keepAct, keepAndSend, onQueue, sendPhoto } = await import('../../app/device/sender')

const JOINT = 'projects/moor/joints/one'
const OTHER = 'projects/moor/reaches/two'
const entry = (id: string): Outgoing => ({
  ...{ id, kind: 'remark', step: null, payload: {}, instrument: null },
  ...{ recordedAt: 0, stamp: null },
})
const laid = (subject: string, ids: string[], more: Partial<Waiting<Outgoing>> = {}) => {
  const clock = { offset: 0, setBack: false }
  const fresh = { place: ++queue.place, subject, at: Date.now(), entries: ids.map(entry), clock }
  queue.rows.push({ ...fresh, ...more })
}
const lies = (subject: string, ...ids: string[]) => laid(subject, ids)
const refuse = (id: string, status: number, code = 'wrong') => {
  server.reply = (_path, ids) => {
    if (ids.includes(id)) throw new ApiProblem(code, `${id} is not taken.`, null, status)
  }
}

beforeEach(() => {
  vi.useFakeTimers()
  queue.rows = []
  server.calls = []
  server.bodies = []
  server.reply = () => undefined
})
afterEach(async () => {
  // Nothing is left for the next test to send.
  queue.rows = []
  await vi.runOnlyPendingTimersAsync()
  vi.useRealTimers()
})

describe('the queue', () => {
  it('goes out in order, entries of one subject together', async () => {
    lies(JOINT, 'a')
    lies(JOINT, 'b', 'c')
    lies(OTHER, 'd')
    lies(JOINT, 'e')
    await drain()
    expect(server.calls).toEqual([
      { path: `${JOINT}/entries`, ids: ['a', 'b', 'c'] },
      { path: `${OTHER}/entries`, ids: ['d'] },
      { path: `${JOINT}/entries`, ids: ['e'] },
    ])
    expect(queue.rows).toEqual([])
  })
  it('at most fifty in a request, and nothing recorded together is parted', async () => {
    for (let i = 0; i < 6; i++) lies(JOINT, ...Array.from({ length: 20 }, (_v, n) => `${i}.${n}`))
    await drain()
    expect(server.calls.map((c) => c.ids.length)).toEqual([40, 40, 40])
  })
  it('says that it was sent to whoever waits for it', async () => {
    expect(await keepAndSend(JOINT, Date.now(), [entry('a')])).toBe('sent')
    expect(queue.rows).toEqual([])
  })
  it('a photo goes alone, before the entry that names it', async () => {
    await sendPhoto('projects/moor', new Blob(['picture'], { type: 'image/jpeg' }), Date.now())
    await keepAndSend(JOINT, Date.now(), [entry('a')])
    expect(server.calls.map((c) => c.path.replace(/=.*/, ''))).toEqual([
      'projects/moor/files?id',
      `${JOINT}/entries`,
    ])
  })
})

describe('what is done and is no entry', () => {
  it('goes out in its turn, to its own address', async () => {
    laid(JOINT, [], { act: { what: 'open', to: `${JOINT}/open`, body: { facts: {}, away: { id: 'o' } } } })
    lies(JOINT, 'a')
    laid(JOINT, [], { act: { what: 'report', to: 'projects/moor/ncrs', body: { id: 'n' } } })
    laid(JOINT, [], { act: { what: 'release', to: `${JOINT}/release-here`, body: { id: 'r' } } })
    await drain()
    expect(server.calls.map((c) => c.path)).toEqual([
      `${JOINT}/open`,
      `${JOINT}/entries`,
      'projects/moor/ncrs',
      `${JOINT}/release-here`,
    ])
    // A release is one of what this device has recorded, and has its number.
    expect(server.bodies[3]).toEqual({ id: 'r', moved: false, number: 1 })
    expect(server.bodies[0]).toEqual({ facts: {}, away: { id: 'o', moved: false } })
  })
  it('waits like an entry while there is no signal', async () => {
    server.reply = () => {
      throw new ApiProblem('off-line', 'No signal', null, 0)
    }
    await keepAct(JOINT, Date.now(), { what: 'report', to: 'projects/moor/ncrs', body: { id: 'n' } })
    await drain()
    expect(queue.rows).toMatchObject([{ act: { body: { id: 'n' } } }])
  })
})

describe('the clock of the device', () => {
  const THREE_HOURS = 3 * 3_600_000
  const moved = () => (server.bodies.at(-1)!.entries as { moved: boolean }[]).map((e) => e.moved)
  it('is compared with the server’s before what has waited goes out', async () => {
    laid(JOINT, ['a'], { at: Date.now() - THREE_HOURS })
    await drain()
    expect(server.calls.map((c) => c.path)).toEqual(['projects/moor/device', `${JOINT}/entries`])
    expect(moved()).toEqual([false])
  })
  it('that is off otherwise than at the contact before was moved, and one that was set back too', async () => {
    laid(JOINT, ['a'])
    laid(JOINT, ['b'], { clock: { offset: THREE_HOURS, setBack: false } })
    laid(JOINT, ['c'], { clock: { offset: 0, setBack: true } })
    laid(JOINT, ['d'], { clock: { offset: 60_000, setBack: false } })
    await drain()
    expect(moved()).toEqual([false, true, true, false])
  })
})

describe('without a signal', () => {
  const off = () => {
    throw new ApiProblem('off-line', 'No signal', null, 0)
  }
  it('everything stays, and whoever recorded hears that it waits', async () => {
    server.reply = off
    expect(await keepAndSend(JOINT, Date.now(), [entry('a')])).toBe('waits')
    expect(queue.rows).toHaveLength(1)
  })
  it('is tried again by itself, later and later', async () => {
    server.reply = off
    lies(JOINT, 'a')
    await drain()
    const tries = [server.calls.length]
    for (const pause of [2000, 4000, 8000]) {
      await vi.advanceTimersByTimeAsync(pause - 1)
      expect(server.calls.length).toBe(tries.at(-1))
      await vi.advanceTimersByTimeAsync(1)
      tries.push(server.calls.length)
    }
    expect(tries).toEqual([1, 2, 3, 4])
    server.reply = () => undefined
    await vi.advanceTimersByTimeAsync(16_000)
    expect(queue.rows).toEqual([])
  })
  it('an ended session stops it, and says so', async () => {
    const heard: unknown[] = []
    onQueue((error) => heard.push(error))
    refuse('a', 401, 'signed-out')
    lies(JOINT, 'a')
    await drain()
    expect(heard.at(-1)).toMatchObject({ status: 401 })
    expect(queue.rows).toMatchObject([{ entries: [{ id: 'a' }] }])
    expect(queue.rows[0]!.refused).toBeUndefined()
  })
})

describe('what the server refuses', () => {
  it('is refused for its own fault only, and stays with the reason where nobody looks at it', async () => {
    refuse('b', 422)
    lies(JOINT, 'a')
    lies(JOINT, 'b')
    lies(JOINT, 'c')
    await drain()
    expect(server.calls.map((c) => c.ids)).toEqual([['a', 'b', 'c'], ['a'], ['b'], ['c']])
    expect(queue.rows).toMatchObject([{ refused: { code: 'wrong', message: 'b is not taken.' } }])
  })
  it('comes back to whoever looks at it, and waits no more', async () => {
    refuse('a', 422)
    await expect(keepAndSend(JOINT, Date.now(), [entry('a')])).rejects.toMatchObject({ code: 'wrong' })
    expect(queue.rows).toEqual([])
  })
  it('holds back nothing that comes after it', async () => {
    refuse('a', 409)
    lies(JOINT, 'a')
    await drain()
    expect(await keepAndSend(JOINT, Date.now(), [entry('b')])).toBe('sent')
    expect(queue.rows).toMatchObject([{ refused: { code: 'wrong' } }])
  })
  it('for the moment only, is tried again', async () => {
    refuse('a', 429, 'too-many')
    lies(JOINT, 'a')
    await drain()
    expect(queue.rows[0]!.refused).toBeUndefined()
    server.reply = () => undefined
    await vi.advanceTimersByTimeAsync(60_000)
    expect(queue.rows).toEqual([])
  })
})
