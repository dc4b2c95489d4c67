import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import { findProject } from '../../server/db/projects'
import { verifyRecord } from '../../server/services/verify'
import { base, signedIn, type Client } from './client'
import { asOwner } from './connect'
import { freshJoint } from './fresh-joint'

/** Back-dating: what a device says of time counts between its stamp and the arrival, in unbroken order. */
let db: Knex
let rhona: Client
let milo: Client
let ines: Client
let petra: Client
let joint: string
const MINUTE = 60_000
const HOUR = 60 * MINUTE
beforeAll(async () => {
  db = asOwner(inject('data'))
  ;[rhona, milo, ines, petra] = (await signedIn(inject('address'), 'rhona', 'milo', 'ines', 'petra')) as [
    Client,
    Client,
    Client,
    Client,
  ]
  joint = (await db('joints').where({ number: 'RM-239' }).first('id')).id
  await db('joints')
    .where({ id: joint })
    .update({ opened_at: new Date(Date.now() - 30 * 24 * HOUR) })
})
afterAll(() => db.destroy())

interface Stamped {
  device: string
  stamp: string
}
const remark = (at: number, more: object = {}) => ({
  id: uuidv7(),
  kind: 'remark',
  step: 'washed',
  payload: { text: 'when?' },
  recordedAt: new Date(at).toISOString(),
  ...more,
})
async function send(client: Client, device: string | null, entries: { id: string }[], where = joint) {
  const reply = await client.call(
    'POST',
    `${base}/joints/${where}/entries`,
    { entries },
    device ? { 'x-vet-line-device': device } : {},
  )
  const rows = await db('entries')
    .whereIn(
      'id',
      entries.map((e) => e.id),
    )
    .select('id', 'late')
  return {
    reply,
    late: entries.map((e) => rows.find((r) => r.id === e.id)?.late as string | null | undefined),
  }
}
/** As after hours without a signal: the stamp that the server gave then, made by its own secret. */
async function earlier(who: Client, hours: number): Promise<Stamped> {
  const { makeStamp } = await import('../../server/services/sessions')
  const { settingsOf } = await import('./connect')
  process.env.VET_LINE_SECRET = settingsOf(inject('data')).sessionPassword
  const device = uuidv7()
  const { person } = (await who.get('session')).body as { person: { id: string } }
  return { device, stamp: makeStamp(device, person.id, Date.now() - hours * HOUR) }
}

describe('the time of an entry', () => {
  it('counts for what was recorded hours ago without a signal, in order', async () => {
    const { device, stamp } = await earlier(rhona, 6)
    const times = [5, 4, 1].map((h) => Date.now() - h * HOUR)
    const entries = times.map((at, i) => remark(at, { stamp, number: i + 1 }))
    expect((await send(rhona, device, entries)).late).toEqual([null, null, null])
  })
  it.each<[string, (s: Stamped) => object[], (string | null)[]]>([
    [
      'dated before the stamp',
      ({ stamp }) => [remark(Date.now() - 7 * HOUR, { stamp, number: 1 })],
      ['before-contact'],
    ],
    [
      'whose number is missing before it',
      ({ stamp }) => [
        remark(Date.now() - HOUR, { stamp, number: 1 }),
        remark(Date.now() - HOUR, { stamp, number: 3 }),
        remark(Date.now(), { stamp, number: 4 }),
      ],
      [null, 'gap', null],
    ],
    [
      'dated before what the device recorded already',
      ({ stamp }) => [
        remark(Date.now() - HOUR, { stamp, number: 1 }),
        remark(Date.now() - 2 * HOUR, { stamp, number: 2 }),
      ],
      [null, 'out-of-order'],
    ],
    ['without a stamp', () => [remark(Date.now() - HOUR, { number: 1 })], ['no-stamp']],
    ['without a number', ({ stamp }) => [remark(Date.now() - HOUR, { stamp })], ['no-stamp']],
    [
      'dated before the joint was opened',
      ({ stamp }) => [remark(Date.now() - 31 * 24 * HOUR, { stamp, number: 1 })],
      ['before-opening'],
    ],
  ])('does not for one %s: kept, and marked late', async (_what, make, late) => {
    const stamped = await earlier(rhona, 6)
    const sent = await send(rhona, stamped.device, make(stamped) as { id: string }[])
    expect([sent.reply.status, sent.late]).toEqual([200, late])
  })
  it('does not with a stamp of another device, of another person, or made up', async () => {
    const mine = await earlier(rhona, 6)
    const hers = await earlier(milo, 6)
    for (const [device, stamp] of [
      [uuidv7(), mine.stamp],
      [hers.device, hers.stamp],
      [mine.device, `${Date.now() - 6 * HOUR}.${mine.stamp.split('.')[1]}`],
      [mine.device, 'junk'],
      [mine.device, `${Date.now() - 6 * HOUR}.`],
    ] as const) {
      expect((await send(rhona, device, [remark(Date.now() - HOUR, { stamp, number: 1 })])).late).toEqual([
        'no-stamp',
      ])
    }
  })
  it('counts without a stamp while the request is on its way', async () =>
    expect((await send(rhona, null, [remark(Date.now() - MINUTE)])).late).toEqual([null]))
  it('is looked at once: the same bundle sent again changes nothing and breaks no order', async () => {
    const { device, stamp } = await earlier(rhona, 3)
    const entries = [
      remark(Date.now() - 2 * HOUR, { stamp, number: 1 }),
      remark(Date.now() - HOUR, { stamp, number: 2 }),
    ]
    expect((await send(rhona, device, entries)).late).toEqual([null, null])
    expect((await send(rhona, device, entries)).late).toEqual([null, null])
    expect((await send(rhona, device, [remark(Date.now(), { stamp, number: 3 })])).late).toEqual([null])
    expect(
      (await rhona.call('GET', `${base}/device`, undefined, { 'x-vet-line-device': device })).body,
    ).toEqual({ number: 3 })
  })
  it('a whole joint dated weeks ago in one request satisfies no clock', async () => {
    const target = (
      await db('joints')
        .where({ system: 'pe-electrofusion-socket' })
        .whereNotNull('procedure_id')
        .where({ number: 'RM-239' })
        .first('id', 'state')
    ).id
    const at = (minutes: number) => new Date(Date.now() - 20 * 24 * HOUR + minutes * MINUTE).toISOString()
    const yes = { answer: 'yes' }
    const entries = [
      { id: uuidv7(), kind: 'confirmation', step: 'fusion-start', payload: yes, recordedAt: at(0) },
      { id: uuidv7(), kind: 'clock', step: 'fusion-run', payload: yes, recordedAt: at(9) },
      { id: uuidv7(), kind: 'clock', step: 'cooling', payload: yes, recordedAt: at(60) },
    ]
    expect((await send(rhona, null, entries, target)).late).toEqual(['no-stamp', 'no-stamp', 'no-stamp'])
    const { judgement } = await judged(target)
    for (const step of ['fusion-run', 'cooling'])
      expect(judgement.find((s) => s.key === step)!.state, step).not.toBe('accepted')
    expect((await db('joints').where({ id: target }).first('state')).state).not.toBe('accepted')
  })
  it('every late entry is marked, and verify finds one that is not', async () => {
    const project = (await findProject(db, 'skerry-head'))!
    expect((await verifyRecord(db, [project])).faults).toEqual([])
    // What was late for its subject's opening is told by that, not by its own time.
    const { id } = await db('entries').whereIn('late', ['no-stamp', 'before-contact', 'gap']).first('id')
    await db.raw('DROP TRIGGER entries_no_update')
    try {
      const { late } = await db('entries').where({ id }).first('late')
      await db('entries').where({ id }).update({ late: null })
      const faults = (await verifyRecord(db, [project])).faults
        .filter((f) => f.entry === id)
        .map((f) => f.fault)
      // Its hash knows the mark, and its time says that it should be there.
      expect(faults.sort()).toEqual([
        'it came late and is not marked so',
        'its content does not match its hash',
      ])
      await db('entries').where({ id }).update({ late })
    } finally {
      await db.raw(
        'CREATE TRIGGER entries_no_update BEFORE UPDATE ON entries FOR EACH ROW SIGNAL ' +
          "SQLSTATE '45000' SET MESSAGE_TEXT = 'entries are never changed or removed'",
      )
    }
    expect((await verifyRecord(db, [project])).faults).toEqual([])
  })
})

/** The server's own judgement of a joint, from the sheet it sends. */
async function judged(id: string) {
  const { judgeSubject } = await import('../../server/services/subjects')
  const { findJoint } = await import('../../server/db/joints')
  const project = (await findProject(db, 'skerry-head'))!
  const judgement = await judgeSubject(db, project, {
    type: 'joint',
    title: '',
    ...(await findJoint(db, project.id, id))!,
  })
  return { judgement: judgement!.steps }
}

describe('times that nobody means', () => {
  it.each([
    '0001-01-01T00:00:00Z',
    '1999-12-31T23:59:59Z',
    '2100-01-01T00:00:00Z',
    '2026-13-45T00:00:00Z',
    '2026-02-30T99:00:00Z',
    '9999-12-31T23:59:59Z',
  ])('%s is refused with its field', async (recordedAt) => {
    const reply = await rhona.post(`${base}/joints/${joint}/entries`, {
      entries: [{ ...remark(Date.now()), recordedAt }],
    })
    expect([reply.status, reply.problem?.field]).toEqual([422, 'entries[0].recordedAt'])
  })
})

describe('quarantine cannot be stepped behind', () => {
  it('a lot used by a back-dated entry before its quarantine is not accepted by itself', async () => {
    const target = await freshJoint(db, 'CD-04', new Date(Date.now() - 30 * 24 * HOUR))
    const lot = (await db('lots').where({ lot: 'CE-8' }).first('id')).id
    expect((await ines.post(`${base}/lots/${lot}/quarantine`, { on: true, reason: 'Lumps.' })).status).toBe(
      200,
    )
    const entry = {
      id: uuidv7(),
      kind: 'lot',
      step: 'cement',
      payload: { lot: 'ce-8' },
      recordedAt: new Date(Date.now() - 5 * HOUR).toISOString(),
    }
    expect((await send(milo, null, [entry], target)).late).toEqual(['no-stamp'])
    expect((await judged(target)).judgement.find((s) => s.key === 'cement')!.state).not.toBe('accepted')
    expect(
      (await petra.post(`${base}/lots/${lot}/quarantine`, { on: false, reason: 'Tested.' })).status,
    ).toBe(200)
  })
})
