import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import type { CrewLeft } from '../../server/services/left-open'
import { base, Client, signedIn } from './client'
import { asApplication } from './connect'
import { secondKey } from './second-project'

/** What crews would leave open over night: seen by whoever signs the day. */
let db: Knex
let sorrel: Client
let ines: Client
const left = async (who: Client) => (await who.get(`${base}/left-open`)).body as CrewLeft[]
beforeAll(async () => {
  db = asApplication(inject('data'))
  ;[sorrel, ines] = (await signedIn(inject('address'), 'sorrel', 'ines')) as [Client, Client]
})
afterAll(() => db.destroy())

describe('what is left open', () => {
  it('is of the own crew for its lead: the reach at work with how high it is filled, and its open end', async () => {
    const [dunes, ...others] = await left(sorrel)
    expect([dunes!.name, others]).toEqual(['Crew Dunes', []])
    const ofReach = dunes!.left.filter((l) => l.name === 'SO reach 07')
    expect(ofReach.map((l) => [l.of, l.kind, l.step])).toEqual([
      ['reach', 'fill', 'lifts'],
      ['reach', 'end', 'end-closed'],
    ])
    expect(ofReach[0]!.says).toMatch(/left [\d.]+ mm, right [\d.]+ mm/)
  })
  it('is of all crews for an inspector', async () => {
    const names = (await left(ines)).map((c) => c.name)
    expect(names).toContain('Crew Dunes')
    expect(names.length).toBeGreaterThan(1)
  })
  it('is closed when somebody says so today', async () => {
    const [{ id }] = (await db('reaches').where({ name: 'SO reach 07' }).select('id')) as [{ id: string }]
    const entry = {
      ...{ id: uuidv7(), kind: 'confirmation', step: 'end-closed', payload: { answer: 'yes' } },
      recordedAt: new Date().toISOString(),
    }
    expect((await sorrel.post(`${base}/reaches/${id}/entries`, { entries: [entry] })).status).toBe(200)
    const [dunes] = await left(sorrel)
    expect(dunes!.left.filter((l) => l.name === 'SO reach 07').map((l) => l.kind)).toEqual(['fill'])
    const strike = {
      ...{ id: uuidv7(), kind: 'correction', step: 'end-closed' },
      payload: { strikes: entry.id, reason: 'Opened again' },
      recordedAt: new Date().toISOString(),
    }
    expect((await sorrel.post(`${base}/reaches/${id}/entries`, { entries: [strike] })).status).toBe(200)
  })
  it.each(['petra', 'bram', 'hale', 'admin'])('is not for %s', async (name) => {
    const who = await new Client(inject('address')).signIn(name)
    expect((await who.get(`${base}/left-open`)).problem?.code).toBe('forbidden')
  })
  it('of another project is not there', async () =>
    expect((await ines.get(`projects/${secondKey}/left-open`)).status).toBe(404))
})
