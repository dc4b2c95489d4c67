import { beforeEach, describe, expect, it, vi } from 'vitest'
import { freshKey, importKey, seal } from '../../app/device/sealed'

/** What waits on a device is written before anybody says so, and is read by whoever wrote it. */
const table = vi.hoisted(() => ({ rows: [] as Record<string, unknown>[], full: false }))
const vault = vi.hoisted(() => ({ key: null as CryptoKey | null, person: 'p1' }))
vi.mock('../../app/device/database', () => ({
  deviceDatabase: () => ({
    waiting: {
      add: (row: Record<string, unknown>) => {
        if (table.full) return Promise.reject(new DOMException('no room', 'QuotaExceededError'))
        table.rows.push({ ...row, place: table.rows.length + 1 })
        return Promise.resolve(table.rows.length)
      },
      orderBy: () => ({ toArray: () => Promise.resolve([...table.rows]) }),
      update: (place: number, more: object) => {
        Object.assign(table.rows[place - 1]!, more)
        return Promise.resolve(1)
      },
    },
  }),
}))
vi.mock('../../app/device/vault', () => ({ openKey: () => vault.key, vaultOwner: () => vault.person }))
const { addWaiting, refuseWaiting, tryAgain, waitingList } = await import('../../app/device/waiting')

const JOINT = 'projects/moor/joints/one'
beforeEach(async () => {
  Object.assign(table, { rows: [], full: false })
  vault.key = await importKey(freshKey())
})

describe('what waits', () => {
  it('is read again with the moment and the clock of its recording', async () => {
    await addWaiting(JOINT, 5, { entries: [{ id: 'a' }] })
    await addWaiting(JOINT, 6, { act: { what: 'report', to: 'x', body: {} } })
    expect(await waitingList()).toMatchObject([
      { subject: JOINT, at: 5, entries: [{ id: 'a' }], clock: { offset: 0, setBack: false } },
      { at: 6, entries: [], act: { what: 'report' } },
    ])
    expect(JSON.stringify(table.rows)).not.toContain('report')
  })
  it('that the device has no room for is not called recorded', async () => {
    table.full = true
    await expect(addWaiting(JOINT, 5, { entries: [{ id: 'a' }] })).rejects.toMatchObject({ code: 'no-room' })
    expect(await waitingList()).toEqual([])
  })
  it('of another person stays, and is not read', async () => {
    await addWaiting(JOINT, 5, { entries: [{ id: 'a' }] })
    vault.key = await importKey(freshKey())
    expect(await waitingList()).toEqual([])
    expect(table.rows).toHaveLength(1)
  })
  it('that an older version of the application wrote goes out like any other', async () => {
    const sealed = await seal(vault.key!, { person: 'p1', entries: [{ id: 'old' }] })
    table.rows.push({ place: 1, subject: JOINT, at: 1, sealed })
    expect(await waitingList()).toMatchObject([{ entries: [{ id: 'old' }], clock: { setBack: false } }])
  })
  it('and was refused is tried again when somebody says so', async () => {
    const place = await addWaiting(JOINT, 5, { entries: [{ id: 'a' }] })
    await refuseWaiting(place, { code: 'in-use', message: 'Used elsewhere.' })
    expect((await waitingList())[0]!.refused).toMatchObject({ code: 'in-use' })
    await tryAgain(place)
    expect((await waitingList())[0]!.refused).toBeUndefined()
  })
})
