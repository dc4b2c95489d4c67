import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { ApiProblem } from '../../app/composables/useApi'
import { useDevice } from '../../app/stores/device'

/** What a device keeps, and when it lets go of it. */
const server = vi.hoisted(() => ({
  calls: [] as string[],
  reply: (_path: string): unknown => ({}),
}))
const kept = vi.hoisted(() => ({ forgotten: 0, place: null as { sequence: number; at: number } | null }))
vi.mock('../../app/composables/useApi', async (original) => ({
  ...(await original<typeof import('../../app/composables/useApi')>()),
  api: (path: string) => {
    server.calls.push(path)
    return Promise.resolve().then(() => server.reply(path))
  },
}))
vi.mock('../../app/device/kept', () => ({
  forgetKept: () => Promise.resolve(void kept.forgotten++),
  keepOnly: () => Promise.resolve(),
  keepPage: () => Promise.resolve(),
  keptSize: () => Promise.resolve(1000),
  keptReply: () => Promise.resolve(null),
  saveSlicePlace: (_base: string, place: { sequence: number; at: number }) =>
    Promise.resolve(void (kept.place = place)),
  slicePlace: () => Promise.resolve(kept.place),
}))
vi.mock('../../app/device/find', () => ({ indexPage: () => Promise.resolve() }))
vi.mock('../../app/device/sender', () => ({ drain: () => Promise.resolve(), onQueue: () => undefined }))
vi.mock('../../app/device/waiting', () => ({
  removeWaiting: () => Promise.resolve(),
  tryAgain: () => Promise.resolve(1),
  waitingList: () => Promise.resolve([]),
}))
vi.mock('../../app/device/vault', () => ({
  hasVault: () => Promise.resolve(true),
  makeVault: () => Promise.resolve(),
  openByPin: () => Promise.resolve('open'),
  openByShare: () => Promise.resolve(true),
  shutVault: () => undefined,
  vaultOwner: () => 'p1',
}))

const page = { sequence: 7, total: 1, next: null, rows: [], shared: {}, addresses: [] }
const usual = (path: string): unknown => {
  if (path.endsWith('device/heard')) return { ended: false }
  if (path.includes('slice?')) return page
  if (path.endsWith('overview')) return { lines: [] }
  return {}
}
const follow = async () => {
  const device = useDevice()
  device.$patch({ open: true, base: 'projects/moor' })
  await device.follow()
  return device
}
beforeEach(() => {
  setActivePinia(createPinia())
  Object.assign(server, { calls: [], reply: usual })
  Object.assign(kept, { forgotten: 0, place: null })
})

describe('a device that follows', () => {
  it('has the work as of now, with what joints are opened with and who may release', async () => {
    const device = await follow()
    expect(device.slice).toMatchObject({ bytes: 1000 })
    expect(kept.place?.sequence).toBe(7)
    expect(server.calls).toEqual(
      expect.arrayContaining(['projects/moor/openings', 'projects/moor/releasers']),
    )
  })
  it('passes over what its person may not have', async () => {
    server.reply = (path) => {
      if (path.endsWith('openings')) throw new ApiProblem('forbidden', 'Not yours.', null, 403)
      return usual(path)
    }
    expect((await follow()).slice).not.toBeNull()
    expect(kept.forgotten).toBe(0)
  })
  it.each([
    ['whose person’s role has ended', new ApiProblem('not-found', 'There is no such project.', null, 404)],
    ['whose person may not any more', new ApiProblem('forbidden', 'Only others may.', null, 403)],
    ['that is ahead of the record', new ApiProblem('changed', 'Ahead of the record.', null, 409)],
  ])('%s lets go of everything', async (_what, refusal) => {
    server.reply = (path) => {
      if (path.includes('slice?')) throw refusal
      return usual(path)
    }
    const device = await follow()
    expect([kept.forgotten, device.slice]).toEqual([1, null])
  })
  it('that somebody has ended lets go of everything, and takes it along by the PIN again', async () => {
    let ended = true
    server.reply = (path) => {
      if (path.endsWith('device/heard')) return { ended }
      if (path.endsWith('/device')) ended = false
      return usual(path)
    }
    const device = await follow()
    expect([kept.forgotten, device.ended, device.slice]).toEqual([1, true, null])
    expect(server.calls.filter((c) => c.includes('slice'))).toEqual([])
    await device.takeAgain('2468')
    expect([device.ended, device.slice]).toMatchObject([false, { bytes: 1000 }])
  })
  it('without a signal keeps what it has', async () => {
    kept.place = { sequence: 3, at: 1 }
    server.reply = () => {
      throw new ApiProblem('off-line', 'No signal', null, 0)
    }
    await follow()
    expect([kept.forgotten, kept.place]).toEqual([0, { sequence: 3, at: 1 }])
  })
})
