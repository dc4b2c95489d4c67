import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import { base, Client } from './client'
import { asApplication } from './connect'
import { recordOf } from './verified'

let db: Knex
let admin: Client
let petra: Client
const PIN = '2468'
const stateOf = async (number: string): Promise<string> =>
  (await db('joints').where({ number }).first('state')).state
const whole = () => recordOf(db)

beforeAll(async () => {
  db = asApplication(inject('data'))
  const sign = (name: string) => new Client(inject('address')).signIn(name)
  ;[admin, petra] = await Promise.all([sign('admin'), sign('petra')])
})
afterAll(() => db.destroy())

/** What is judged anew in the background has been judged. */
const settled = () =>
  expect.poll(async () => (await petra.get(`${base}/jobs`)).body, { timeout: 30_000 }).toEqual([])

describe('instruments', () => {
  const typed = {
    name: 'Feeler F-9',
    kind: 'feeler',
    quantity: 'length',
    min: '0 mm',
    max: '5 mm',
    resolution: '0.05 mm',
    uncertainty: '0.05 mm',
  }
  const day = (offset: number) => new Date(Date.now() + offset * 86_400_000).toISOString().slice(0, 10)

  it.each([
    ['a quantity nobody measures', { quantity: 'taste' }, 'quantity'],
    ['a range that ends below its beginning', { max: '-1 mm' }, 'max'],
    ['an uncertainty in another unit', { uncertainty: '1 bar' }, 'uncertainty'],
    ['an uncertainty wider than the range', { uncertainty: '9 mm' }, 'uncertainty'],
    ['a name that is there', { name: 'Calliper C-2' }, 'name'],
    ['a name that is there in another spelling', { name: ' calliper  c-2' }, 'name'],
  ])('%s is refused', async (_what, change, field) => {
    expect(
      (await admin.post(`${base}/instruments`, { id: uuidv7(), ...typed, ...change })).problem?.field,
    ).toBe(field)
  })
  it('one is added, and counts from its calibration on', async () => {
    const id = uuidv7()
    expect((await admin.post(`${base}/instruments`, { id, ...typed })).status).toBe(200)
    const find = async () =>
      (
        (await admin.get(`${base}/settings`)).body as {
          instruments: { id: string; calibrations: unknown[]; max: number }[]
        }
      ).instruments.find((i) => i.id === id)!
    expect(await find()).toMatchObject({ calibrations: [], max: 0.005 })
    const calibrate = (from: string, until: string) =>
      admin.post(`${base}/instruments/${id}/calibrations`, { from, until, certificate: 'K-77' })
    expect((await calibrate(day(3), day(300))).problem).toMatchObject({ code: 'future', field: 'from' })
    expect((await calibrate(day(-3), day(-4))).problem?.field).toBe('until')
    expect((await calibrate(day(-3), day(300))).status).toBe(200)
    expect((await find()).calibrations).toHaveLength(1)
  })
  it(
    'a reading taken while an instrument was out of calibration counts once an earlier ' +
      'calibration is entered, and every joint is judged anew',
    async () => {
      const gauge = (await db('instruments').where({ name: 'Depth gauge D-1' }).first('id')).id
      const tam = await new Client(inject('address')).signIn('tam')
      const joint = await db('joints').where({ number: 'RM-240' }).first('id', 'done')
      const open = joint ?? (await db('joints').where({ number: 'RM-238' }).first('id', 'done'))
      const reading = {
        id: uuidv7(),
        kind: 'reading',
        step: 'gouge',
        payload: { values: [0.0002], typed: ['0.2'] },
        instrument: gauge,
        device: 'test',
        recordedAt: new Date().toISOString(),
      }
      const crewOf = await tam.post(`${base}/joints/${open.id}/entries`, { entries: [reading] })
      const writer = crewOf.status === 200 ? tam : await new Client(inject('address')).signIn('rhona')
      if (crewOf.status !== 200)
        expect((await writer.post(`${base}/joints/${open.id}/entries`, { entries: [reading] })).status).toBe(
          200,
        )
      const before = (await db('joints').where({ id: open.id }).first('done')).done
      const reply = await admin.post(`${base}/instruments/${gauge}/calibrations`, {
        from: day(-5),
        until: day(200),
        certificate: 'K-78',
      })
      expect((reply.body as { judged: number }).judged).toBeGreaterThanOrEqual(1)
      await settled()
      expect((await db('joints').where({ id: open.id }).first('done')).done).toBe(before + 1)
      expect(await whole()).toEqual([[], []])
    },
  )
})

describe('how close is close enough', () => {
  it('is changed by an engineer with a reason, judges every joint anew, and goes back', async () => {
    const change = (rule: string, body: object = {}) =>
      petra.post(`${base}/settings/rule`, { rule, reason: 'Agreed with the client.', secret: PIN, ...body })
    expect((await change('simple', { reason: '' })).status).toBe(422)
    expect((await change('simple', { secret: '1111' })).problem?.code).toBe('bad-secret')
    expect(await stateOf('RM-235')).toBe('too-close')
    const reply = await change('simple')
    expect((reply.body as { judged: number }).judged).toBeGreaterThan(250)
    await settled()
    expect(await stateOf('RM-235')).not.toBe('too-close')
    expect(await whole()).toEqual([[], []])
    expect((await change('guarded')).status).toBe(200)
    await settled()
    expect(await stateOf('RM-235')).toBe('too-close')
  })
})
