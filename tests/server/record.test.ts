import { spawnSync } from 'node:child_process'
import { userInfo } from 'node:os'
import { join } from 'node:path'
import type { Knex } from 'knex'
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import { uuidv7 } from 'uuidv7'
import { placesAt } from '../../cli/places'
import { base, Client, signedIn } from './client'
import { dot } from './picture'
import { asApplication } from './connect'
import { verified } from './verified'

let db: Knex
let tam: Client
let rhona: Client
let ines: Client
const idOf = async (number: string): Promise<string> => (await db('joints').where({ number }).first('id')).id

beforeAll(async () => {
  db = asApplication(inject('data'))
  ;[tam, rhona, ines] = (await signedIn(inject('address'), 'tam', 'rhona', 'ines')) as [
    Client,
    Client,
    Client,
  ]
})
afterAll(() => db.destroy())

const remark = (text: string, more: object = {}) => ({
  id: uuidv7(),
  kind: 'remark',
  step: 'washed',
  payload: { text },
  instrument: null,
  device: 'test',
  recordedAt: new Date().toISOString(),
  ...more,
})
const send = (client: Client, joint: string, ...entries: object[]) =>
  client.post(`${base}/joints/${joint}/entries`, { entries })
const count = async (joint: string) =>
  Number((await db('entries').where({ subject: joint }).count('* as n'))[0]!.n)
const verify = () => verified(db)

describe('entries are ink', () => {
  it('the same entry sent twice is one entry', async () => {
    const joint = await idOf('RM-238')
    const before = await count(joint)
    const entry = remark('sent twice')
    expect((await send(tam, joint, entry)).status).toBe(200)
    expect((await send(tam, joint, entry)).status).toBe(200)
    expect(await count(joint)).toBe(before + 1)
  })
  it('another content under a known id is refused, also at another joint', async () => {
    const entry = remark('first')
    await send(tam, await idOf('RM-238'), entry)
    expect(
      (await send(tam, await idOf('RM-238'), { ...entry, payload: { text: 'second' } })).problem?.code,
    ).toBe('id-taken')
    expect((await send(tam, await idOf('RM-234'), entry)).problem?.code).toBe('id-taken')
  })
  it('of several entries all are written or none', async () => {
    const joint = await idOf('RM-238')
    const before = await count(joint)
    const reply = await send(tam, joint, remark('good'), remark('bad', { step: 'no-such-step' }))
    expect([reply.status, reply.problem?.field]).toEqual([422, 'step'])
    expect(await count(joint)).toBe(before)
  })
  it.each([
    ['an unknown kind', { kind: 'wish' }],
    ['a payload of another kind', { kind: 'reading', payload: { text: 'x' } }],
    ['a time without a zone', { recordedAt: '2026-01-01T00:00:00' }],
    ['a time in the future', { recordedAt: new Date(Date.now() + 3_600_000).toISOString() }],
    ['a release by the crew', { kind: 'release', payload: {} }],
  ])('%s is refused', async (_what, change) =>
    expect((await send(tam, await idOf('RM-238'), remark('x', change))).status).toBe(422),
  )

  it('forty at once from two people chain without a gap', async () => {
    const joint = await idOf('RM-234')
    const before = await count(joint)
    const replies = await Promise.all(
      Array.from({ length: 40 }, (_v, i) => send(i % 2 ? tam : ines, joint, remark(`at once ${i}`))),
    )
    expect(replies.map((r) => r.status)).toEqual(Array(40).fill(200))
    expect(await count(joint)).toBe(before + 40)
    expect((await verify()).faults).toEqual([])
  })
  it('the application’s database user can neither change nor remove, nor move a chain', async () => {
    await expect(db('entries').limit(1).update({ kind: 'x' })).rejects.toThrow(/denied/)
    await expect(db('entries').limit(1).delete()).rejects.toThrow(/denied/)
    await expect(db('chains').limit(1).update({ seq: 9 })).rejects.toThrow(/denied/)
  })
})

describe('the record checks itself', () => {
  it('is whole, with every projection following from the entries', async () => {
    const report = await verify()
    expect(report.faults).toEqual([])
    expect(report.stale).toEqual([])
    expect(report.entries).toBeGreaterThan(7000)
  })
  it('a byte altered by the database’s root is found, naming subject and entry', async () => {
    const joint = await idOf('RM-010')
    const [row] = await db('entries')
      .where({ subject: joint, kind: 'reading' })
      .orderBy('seq')
      .limit(1)
      .select('id', 'seq', 'payload')
    const sql = (text: string) =>
      spawnSync(
        'mariadb',
        [
          '--no-defaults',
          `--socket=${placesAt(inject('data')).socket}`,
          `--user=${userInfo().username}`,
          'vet_line',
        ],
        { input: text, encoding: 'utf8' },
      )
    const trigger =
      'CREATE TRIGGER entries_no_update BEFORE UPDATE ON entries FOR EACH ROW SIGNAL ' +
      "SQLSTATE '45000' SET MESSAGE_TEXT = 'entries are never changed or removed';"
    expect(sql(`UPDATE entries SET payload = '{}' WHERE id = '${row.id}';`).stderr).toContain('never changed')
    expect(
      sql(
        `DROP TRIGGER entries_no_update; UPDATE entries SET payload = REPLACE(payload, 'values', 'valuez') WHERE id = '${row.id}';`,
      ).status,
    ).toBe(0)
    try {
      const run = spawnSync(join(import.meta.dirname, '../../vet-line'), ['verify'], {
        encoding: 'utf8',
        env: { ...process.env, VET_LINE_DATA: inject('data') },
      })
      expect(run.status).toBe(1)
      expect(run.stderr).toContain(
        `joint ${joint}: entry ${row.seq} (${row.id}): its content does not match its hash`,
      )
    } finally {
      sql(
        `UPDATE entries SET payload = '${row.payload.replaceAll("'", "''")}' WHERE id = '${row.id}'; ${trigger.replaceAll('\n', ' ')}`,
      )
    }
    expect((await verify()).faults).toEqual([])
  })
})

describe('rules of the use cases', () => {
  it('a quarantined pipe is not built in, nor one that is in use', async () => {
    const [hurt] = await db('items').where({ state: 'quarantined' })
    const joint = await idOf('SB-05')
    const free = async (place: string) =>
      ((await rhona.get(`${base}/joints/${joint}/items?place=${place}`)).body as { id: string }[]).map(
        (i) => i.id,
      )
    const [up, down, fit] = await Promise.all([free('upstream'), free('downstream'), free('fitting')])
    expect(up).not.toContain(hurt.id)
    expect(
      (
        await rhona.post(`${base}/joints/${joint}/open`, {
          upstream: hurt.id,
          downstream: down[1],
          fitting: fit[0],
        })
      ).problem,
    ).toMatchObject({ code: 'quarantined', field: 'upstream' })
    const [used] = await db('joints').where({ number: 'RM-001' }).select('upstream')
    expect(
      (
        await rhona.post(`${base}/joints/${joint}/open`, {
          upstream: used.upstream,
          downstream: down[1],
          fitting: fit[0],
        })
      ).problem,
    ).toMatchObject({ code: 'in-use', field: 'upstream' })
  })
  it('a wrong note is refused whole, naming row and column', async () => {
    const order = ((await ines.get(`${base}/orders`)).body as { id: string; number: string }[]).find(
      (o) => o.number === 'PO-131',
    )!.id
    const before = Number((await db('items').count('* as n'))[0]!.n)
    const csv =
      'note,item,class,lot,serial,quantity\nDN-1,PE-63-11,SDR 11,L1,S1,1\nDN-1,PE-63-11,SDR 11,L1,S2,many'
    const reply = await ines.post(`${base}/deliveries`, {
      order,
      file: { name: 'note.csv', data: Buffer.from(csv).toString('base64') },
    })
    expect(reply.problem).toMatchObject({
      code: 'bad-rows',
      message: expect.stringContaining('Row 3, column "quantity"'),
    })
    expect(Number((await db('items').count('* as n'))[0]!.n)).toBe(before)
  })
  it('nobody verifies rework that they did themselves', async () => {
    const ncr = (await db('ncrs').where({ step: 'controller-time' }).orderBy('number').first('id')).id
    expect((await ines.post(`${base}/ncrs/${ncr}/rework`, { text: 'Set right.' })).status).toBe(200)
    expect(
      (await ines.post(`${base}/ncrs/${ncr}/verification`, { secret: '2468', accepted: true, text: 'fine' }))
        .problem?.code,
    ).toBe('own-work')
    const oskar = await new Client(inject('address')).signIn('oskar')
    expect(
      (await oskar.post(`${base}/ncrs/${ncr}/verification`, { secret: '0000', accepted: true, text: 'fine' }))
        .problem?.code,
    ).toBe('bad-secret')
    expect(
      (await oskar.post(`${base}/ncrs/${ncr}/verification`, { secret: '2468', accepted: true, text: 'fine' }))
        .status,
    ).toBe(200)
  })
  it('a test with open rows starts only with an engineer’s reason; a failed one is not signed', async () => {
    const pack = async (number: string) => (await db('packs').where({ number }).first('id')).id
    expect((await ines.post(`${base}/packs/${await pack('TP-04')}/start`, {})).problem?.code).toBe(
      'not-ready',
    )
    expect(
      (await ines.post(`${base}/packs/${await pack('TP-04')}/start`, { reason: 'hurry' })).problem?.code,
    ).toBe('forbidden')
    const hale = await new Client(inject('address')).signIn('hale')
    const image = `data:image/png;base64,${dot}`
    expect(
      (await hale.post(`${base}/packs/${await pack('TP-02')}/sign`, { secret: '2468', image })).problem
        ?.message,
    ).toMatch(/failed test is not signed/)
  })
  it('the feed tells of an entry as it comes', async () => {
    const abort = new AbortController()
    const cookie = (ines as unknown as { cookie: string }).cookie
    const stream = await fetch(`${inject('address')}/api/${base}/feed`, {
      headers: { cookie },
      signal: abort.signal,
    })
    const reader = stream.body!.pipeThrough(new TextDecoderStream()).getReader()
    let text = ''
    while (!text.includes('open')) text += (await reader.read()).value ?? ''
    const joint = await idOf('RM-238')
    await send(tam, joint, remark('for the feed'))
    while (!text.includes(joint)) text += (await reader.read()).value ?? ''
    abort.abort()
    expect(text).toContain('"kind":"remark"')
  })
})
