import { uuidv7 } from 'uuidv7'
import type { Knex } from 'knex'
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import { base, signedIn, type Client, type Reply } from './client'
import { asApplication } from './connect'
import { freshJoint } from './fresh-joint'
import { REJECTED, reject } from './rejected'

/** What happens when a button is pressed twice, or two people press it at the same moment. */
let db: Knex
let ines: Client
let oskar: Client
let petra: Client
let tam: Client
beforeAll(async () => {
  db = asApplication(inject('data'))
  ;[ines, oskar, petra, tam] = (await signedIn(inject('address'), 'ines', 'oskar', 'petra', 'tam')) as [
    Client,
    Client,
    Client,
    Client,
  ]
})
afterAll(() => db.destroy())

const tally = (replies: Reply[]) => {
  const out: Record<string, number> = {}
  for (const r of replies) {
    const word = r.status === 200 ? 'done' : r.problem!.code
    out[word] = (out[word] ?? 0) + 1
  }
  return out
}
const kinds = async (subject: string, kind: string) =>
  Number((await db('entries').where({ subject, kind }).count('* as n'))[0]!.n)
const PIN = '2468'

describe('a report pressed at once', () => {
  let ncr: string
  beforeAll(async () => {
    const joint = await freshJoint(db, 'RM-230')
    await reject(ines, joint)
    ncr = uuidv7()
    const raise = {
      id: ncr,
      subjectType: 'joint',
      subject: joint,
      step: REJECTED,
      photo: null,
    }
    // The same report sent four times is one report.
    expect(tally(await Promise.all([1, 2, 3, 4].map(() => ines.post(`${base}/ncrs`, raise))))).toEqual({
      done: 4,
    })
    expect(await kinds(ncr, 'raise')).toBe(1)
    expect(Number((await db('ncrs').where({ id: ncr }).count('* as n'))[0]!.n)).toBe(1)
  })
  it('is answered once', async () => {
    expect(
      (
        await petra.post(`${base}/ncrs/${ncr}/disposition`, {
          secret: PIN,
          disposition: 'rework',
          reason: 'Wash it.',
        })
      ).status,
    ).toBe(200)
    expect(
      tally(
        await Promise.all(
          [1, 2, 3, 4].map((i) => ines.post(`${base}/ncrs/${ncr}/rework`, { text: `Washed ${i}.` })),
        ),
      ),
    ).toEqual({ done: 1, 'wrong-state': 3 })
    expect(await kinds(ncr, 'rework')).toBe(1)
  })
  it('is verified once, and frees its step once', async () => {
    const { subject } = await db('ncrs').where({ id: ncr }).first('subject')
    const before = await kinds(subject, 'ncr')
    // Where other tests reported the same step of this crew, it is a repeat: it asks for an action first.
    const { id: owner } = await db('people').where({ sign_in: 'ines' }).first('id')
    const action = { text: 'Bring a clean cloth.', owner, due: '2027-03-01' }
    expect((await petra.post(`${base}/ncrs/${ncr}/action`, action)).status).toBe(200)
    expect(
      tally(
        await Promise.all(
          [1, 2, 3, 4].map(() =>
            oskar.post(`${base}/ncrs/${ncr}/verification`, { secret: PIN, accepted: true, text: 'Clean.' }),
          ),
        ),
      ),
    ).toEqual({ done: 1, 'wrong-state': 3 })
    expect(await kinds(subject, 'ncr')).toBe(before + 1)
  })
})

describe('a test pack pressed at once', () => {
  it('starts once', async () => {
    const pack = (await db('packs').where({ number: 'TP-03' }).first('id')).id as string
    const before = await kinds(pack, 'start')
    expect(
      tally(
        await Promise.all(
          [1, 2, 3, 4].map(() => petra.post(`${base}/packs/${pack}/start`, { reason: 'All at once' })),
        ),
      ),
    ).toEqual({ done: 1, 'wrong-state': 3 })
    expect(await kinds(pack, 'start')).toBe(before + 1)
  })
})

describe('goods at once', () => {
  const idOf = async (number: string) => (await db('joints').where({ number }).first('id')).id as string
  const free = async (joint: string, place: string, item: string) =>
    (
      (
        await ines.get(
          `${base}/joints/${joint}/items?place=${place}&search=` +
            `${((await db('items').where({ item }).first('serial')).serial as string).slice(0, 2)}`,
        )
      ).body as { id: string; item: string }[]
    )
      .filter((i) => i.item === item)
      .map((i) => i.id)
  it('a pipe is built into one joint only', async () => {
    const joints = await Promise.all(['RM-241', 'RM-243'].map(idOf))
    const [up, down, fit] = await Promise.all([
      free(joints[0]!, 'upstream', 'PE-315-11'),
      free(joints[0]!, 'downstream', 'PE-315-11'),
      free(joints[0]!, 'fitting', 'EFC-315'),
    ])
    const other = down.find((id) => id !== up[0])!
    expect(
      tally(
        await Promise.all(
          joints.map((joint, i) =>
            ines.post(`${base}/joints/${joint}/open`, {
              upstream: up[0],
              downstream: other,
              fitting: fit[i],
            }),
          ),
        ),
      ),
    ).toEqual({ done: 1, 'in-use': 1 })
    expect(Number((await db('joints').where({ upstream: up[0] }).count('* as n'))[0]!.n)).toBe(1)
  })
  it('a joint opened three times is opened once, and uses up one set of goods', async () => {
    const joint = await idOf('RM-245')
    const [up, down, fit] = await Promise.all([
      free(joint, 'upstream', 'PE-315-11'),
      free(joint, 'downstream', 'PE-315-11'),
      free(joint, 'fitting', 'EFC-315'),
    ])
    const sets = [0, 1, 2].map((i) => ({
      upstream: up[i],
      downstream: down.filter((id) => !up.slice(0, 3).includes(id))[i],
      fitting: fit[i],
    }))
    expect(
      tally(await Promise.all(sets.map((set) => ines.post(`${base}/joints/${joint}/open`, set)))),
    ).toEqual({ done: 1, 'already-open': 2 })
    const built = await db('joints')
      .whereIn(
        'fitting',
        sets.map((set) => set.fitting!),
      )
      .select('fitting')
    expect(built).toHaveLength(1)
  })
  it('a lot goes into quarantine once', async () => {
    const lot = (await db('lots').whereNull('quarantined_at').first('id', 'lot')).id as string
    expect(
      tally(
        await Promise.all(
          [1, 2, 3].map(() => ines.post(`${base}/lots/${lot}/quarantine`, { on: true, reason: 'At once' })),
        ),
      ),
    ).toEqual({ done: 1, 'wrong-state': 2 })
    expect(
      (await petra.post(`${base}/lots/${lot}/quarantine`, { on: false, reason: 'A trial' })).status,
    ).toBe(200)
  })
  it('the same orders sent twice are ordered once', async () => {
    const csv = 'order,supplier,item,class,quantity\nPO-TWICE,Harrow Bay Pipe Stores,PE-63-11,SDR 11,5'
    const file = { name: 'orders.csv', data: Buffer.from(csv).toString('base64') }
    const result = tally(await Promise.all([1, 2, 3].map(() => ines.post(`${base}/orders`, { file }))))
    expect(result.done).toBe(1)
    expect(Number((await db('orders').where({ number: 'PO-TWICE' }).count('* as n'))[0]!.n)).toBe(1)
    expect(result.internal).toBeUndefined()
  })
  it('the same note sent twice comes in once', async () => {
    const order = ((await ines.get(`${base}/orders`)).body as { id: string; number: string }[]).find(
      (o) => o.number === 'PO-TWICE',
    )!.id
    const csv =
      'note,item,class,lot,serial,quantity\nDN-TWICE,PE-63-11,SDR 11,L1,TW-1,1\nDN-TWICE,PE-63-11,SDR 11,L1,TW-2,1'
    const file = { name: 'note.csv', data: Buffer.from(csv).toString('base64') }
    const result = tally(
      await Promise.all([1, 2, 3].map(() => ines.post(`${base}/deliveries`, { order, file }))),
    )
    expect(result.done).toBe(1)
    expect(result.internal).toBeUndefined()
    expect(Number((await db('items').where('serial', 'like', 'TW-%').count('* as n'))[0]!.n)).toBe(2)
  })
  it('a note is signed once', async () => {
    const note = (await db('deliveries').where({ number: 'DN-TWICE' }).first('id')).id as string
    expect((await ines.post(`${base}/deliveries/${note}/accept`, {})).status).toBe(200)
    expect(
      tally(
        await Promise.all([1, 2, 3].map(() => ines.post(`${base}/deliveries/${note}/sign`, { secret: PIN }))),
      ),
    ).toEqual({ done: 1, 'wrong-state': 2 })
    expect(await kinds(note, 'signature')).toBe(1)
  })
})

describe('the record at once', () => {
  it('the same entry from a bad line, sent five times, is one entry', async () => {
    const joint = (await db('joints').where({ number: 'RM-238' }).first('id')).id as string
    const entry = {
      id: uuidv7(),
      kind: 'remark',
      step: 'washed',
      payload: { text: 'five times' },
      recordedAt: new Date().toISOString(),
    }
    expect(
      tally(
        await Promise.all(
          [1, 2, 3, 4, 5].map(() => tam.post(`${base}/joints/${joint}/entries`, { entries: [entry] })),
        ),
      ),
    ).toEqual({ done: 5 })
    expect(Number((await db('entries').where({ id: entry.id }).count('* as n'))[0]!.n)).toBe(1)
  })
})
