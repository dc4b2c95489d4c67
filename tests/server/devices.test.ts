import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import type { DeviceShown } from '../../server/services/devices'
import { demoPin } from '../../demo/people'
import { base, Client, signedIn } from './client'
import { asOwner } from './connect'

/** Devices that have work along: known by what they tell, ended when they are lost. */
let db: Knex
let admin: Client
let milo: Client
const device = uuidv7()
const from = (who: Client, path: string, body: object, id = device) =>
  who.call('POST', `${base}/${path}`, body, { 'x-vet-line-device': id })
const listed = async (id = device) =>
  ((await admin.get(`${base}/devices`)).body as DeviceShown[]).find((d) => d.id === id)
const since = '2026-05-04T06:00:00.000Z'

beforeAll(async () => {
  db = asOwner(inject('data'))
  ;[admin, milo] = (await signedIn(inject('address'), 'admin', 'milo')) as [Client, Client]
})
afterAll(() => db.destroy())

describe('a device that has work along', () => {
  it('is known from when its person took the work along, by the PIN', async () => {
    expect((await from(milo, 'device', { secret: '1111' })).status).toBe(403)
    expect(await listed()).toBeUndefined()
    expect((await from(milo, 'device', { secret: demoPin })).status).toBe(200)
    expect(await listed()).toMatchObject({ name: 'Milo Penraketh', waiting: 0, endedAt: null })
  })
  it('tells how much waits on it', async () => {
    expect((await from(milo, 'device/heard', { waiting: 12, since })).body).toEqual({ ended: false })
    expect(await listed()).toMatchObject({ waiting: 12, waitingSince: since })
  })
  it.each([
    [{ waiting: -1 }, 'waiting'],
    [{ waiting: 1.5 }, 'waiting'],
    [{ waiting: 1, since: 'spring' }, 'since'],
  ])('is not believed %j', async (body, field) => {
    expect((await from(milo, 'device/heard', body)).problem?.field).toBe(field)
  })
  it('of which nobody took the work along is not listed', async () => {
    const other = uuidv7()
    expect((await from(milo, 'device/heard', { waiting: 3 }, other)).body).toEqual({ ended: false })
    expect(await listed(other)).toBeUndefined()
  })
  it('is listed for an administrator alone', async () => {
    expect((await milo.get(`${base}/devices`)).status).toBe(403)
  })
})

describe('a device that is lost', () => {
  const end = async (body: object, id = device) => admin.post(`${base}/devices/${id}/end`, body)
  const of = async () => (await db('people').where({ sign_in: 'milo' }).first('id')).id as string
  it('is ended with a reason, by an administrator, once', async () => {
    const person = await of()
    expect((await end({ person, reason: ' ' })).problem?.field).toBe('reason')
    expect((await end({ person, reason: 'x' }, uuidv7())).status).toBe(404)
    expect((await milo.post(`${base}/devices/${device}/end`, { person, reason: 'x' })).status).toBe(403)
    const elsewhere = await new Client(milo.address).signIn('milo')
    expect((await end({ person, reason: 'Left on the bus.' })).status).toBe(200)
    expect((await end({ person, reason: 'again' })).problem?.code).toBe('wrong-state')
    // The session that the device spoke by, and no other of its person.
    expect((await milo.get(`${base}/overview`)).status).toBe(401)
    expect((await elsewhere.get(`${base}/overview`)).status).toBe(200)
  })
  it('is noted in the project’s record with what was waiting on it', async () => {
    const last = await db('entries').where({ kind: 'setting' }).orderBy('feed', 'desc').first('payload')
    expect(JSON.parse(last.payload)).toMatchObject({
      ...{ what: 'device-ended', device, waiting: 12, reason: 'Left on the bus.' },
    })
  })
  it('hears it when it comes back, until it takes the work along anew', async () => {
    milo = await new Client(milo.address).signIn('milo')
    expect((await from(milo, 'device/heard', { waiting: 12, since })).body).toEqual({ ended: true })
    expect((await from(milo, 'device', { secret: demoPin })).status).toBe(200)
    expect((await from(milo, 'device/heard', { waiting: 0 })).body).toEqual({ ended: false })
    expect((await listed())?.endedAt).toBeNull()
  })
})
