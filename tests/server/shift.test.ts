import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import type { ShiftAnswer } from '../../server/services/shift'
import { base, signedIn, type Client } from './client'
import { asOwner } from './connect'
import { openAsShown, plannedJoint } from './planned-joint'
import { recordOf } from './verified'

/** What is asked once a shift: it stands at the next joint of the crew, and is taken back in one place. */
let db: Knex
let ines: Client
let tam: Client
let sorrel: Client
beforeAll(async () => {
  db = asOwner(inject('data'))
  ;[ines, tam, sorrel] = (await signedIn(inject('address'), 'ines', 'tam', 'sorrel')) as [
    Client,
    Client,
    Client,
  ]
})
afterAll(() => db.destroy())

const SYSTEM = 'rc-sealant'
let n = 0
const planned = () => plannedJoint(db, SYSTEM, 'Crew Dunes', `SH-${++n}`)
/** Opens a joint. @returns what stands there, but for what a register knows */
const open = async (client: Client, joint: string) =>
  (await openAsShown(client, joint)).filter((e) => e.kind !== 'gathered')
const yes = (step: string, more: object = {}) => ({
  id: uuidv7(),
  kind: 'confirmation',
  step,
  payload: { answer: 'yes', ...more },
  recordedAt: new Date().toISOString(),
})
const send = (client: Client, joint: string, ...entries: object[]) =>
  client.post(`${base}/joints/${joint}/entries`, { entries })
const answers = async (client: Client, day = '') =>
  (await client.get(`${base}/shift${day}`)).body as ShiftAnswer[]
const standsAt = async (client: Client, step: string) =>
  (await answers(client))
    .filter((a) => a.step === step && a.procedure.key === SYSTEM)
    .map((a) => a.joints.map((j) => j.number))

describe('a shift of one crew', () => {
  let first: string
  let second: string
  beforeAll(async () => {
    first = await planned()
    expect(await open(sorrel, first)).toEqual([])
    const said = ['right-parts', 'installer', 'tools', 'ppe', 'brushed'].map((step) => yes(step))
    expect((await send(sorrel, first, ...said)).status).toBe(200)
    second = await planned()
  })

  it('what was asked once stands at the next joint, by name and time; what is of the joint does not', async () => {
    const entries = await open(sorrel, second)
    expect(entries.map((e) => e.step)).toEqual(['right-parts', 'installer', 'tools', 'ppe'])
    expect(entries[0]!.payload).toMatchObject({ answer: 'yes', once: { subject: first, at: 'SH-1' } })
  })

  it('is seen in one place, by those who see the crew', async () => {
    const [number] = await standsAt(sorrel, 'tools')
    expect(number).toEqual(['SH-1', 'SH-2'])
    expect((await standsAt(ines, 'tools')).flat()).toEqual(expect.arrayContaining(['SH-1', 'SH-2']))
    expect((await standsAt(tam, 'tools')).flat()).not.toContain('SH-1')
    expect(await answers(sorrel, '?day=2020-01-01')).toEqual([])
  })

  it('nobody names an answer from elsewhere by himself', async () => {
    const { problem } = await send(
      sorrel,
      second,
      yes('brushed', { once: { entry: uuidv7(), subject: first, at: 'SH-1', answeredAt: 1 } }),
    )
    expect(problem).toMatchObject({ code: 'bad-input', field: 'payload.once' })
  })

  it('somebody else is asked anew', async () => {
    expect(await open(ines, await planned())).toEqual([])
  })

  it('another crew takes nothing back, and a reason is needed', async () => {
    const { entry } = (await answers(sorrel)).find((a) => a.step === 'ppe' && a.procedure.key === SYSTEM)!
    expect((await tam.post(`${base}/shift/revoke`, { entry, reason: 'x' })).problem?.code).toBe('not-found')
    expect((await sorrel.post(`${base}/shift/revoke`, { entry, reason: ' ' })).problem?.field).toBe('reason')
    expect(
      (await sorrel.post(`${base}/shift/revoke`, { entry, reason: 'x', day: '2026-02-30' })).problem,
    ).toMatchObject({ code: 'not-a-date', field: 'day' })
    expect(await standsAt(sorrel, 'ppe')).toEqual([['SH-1', 'SH-2']])
  })

  it('taken back, it stands at no joint of the day, and is asked at the next', async () => {
    const { entry } = (await answers(sorrel)).find((a) => a.step === 'ppe' && a.procedure.key === SYSTEM)!
    const reply = await sorrel.post(`${base}/shift/revoke`, { entry, reason: 'two had no glasses' })
    expect(reply.body).toEqual({ joints: 2 })
    expect((await standsAt(sorrel, 'ppe')).flat()).not.toEqual(expect.arrayContaining(['SH-1']))
    const third = await open(sorrel, await planned())
    expect(third.map((e) => e.step)).toEqual(['right-parts', 'installer', 'tools'])
    const again = await sorrel.post(`${base}/shift/revoke`, { entry, reason: 'once more' })
    expect(again.problem?.code).toBe('not-found')
  })

  it('the record holds: chains and projections are as they are computed', async () => {
    expect(await recordOf(db)).toEqual([[], []])
  })
})
