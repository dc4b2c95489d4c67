import { createHash } from 'node:crypto'
import { spawnSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import { base, Client } from './client'
import { damaged, dot } from './picture'
import { asApplication } from './connect'

/** A witnessed pressure test from the ready list to the certificate, told by its rules. */
let db: Knex
let pack: string
let people: Record<'ines' | 'petra' | 'hale' | 'tam', Client>
beforeAll(async () => {
  db = asApplication(inject('data'))
  const names = ['ines', 'petra', 'hale', 'tam'] as const
  people = Object.fromEntries(
    await Promise.all(names.map(async (n) => [n, await new Client(inject('address')).signIn(n)])),
  ) as typeof people
  // A pack of its own, like one of the demo: others are run by other tests.
  const like = await db('packs').where({ number: 'TP-04' }).first()
  pack = uuidv7()
  await db('packs').insert({
    ...{ ...like, id: pack, number: `T-${pack.slice(-6)}`, state: 'planned' },
    ...{ log_file: null, verdict: null, signed_by: null, signed_at: null },
  })
})
afterAll(() => db.destroy())

const sample = (name: string) => readFileSync(new URL(`../../samples/${name}`, import.meta.url), 'utf8')
const image = `data:image/png;base64,${dot}`
interface Sheet {
  pack: { state: string; verdict: string | null }
  ready: { key: string; state: string; confirmable: boolean }[]
  evaluation: { verdict: string; sentence: string } | null
  log: { count: number; samples: unknown[] } | null
  signatures: { name: string; digest: string; role: string }[]
  run: { open: string[]; reason: string | null } | null
  entries: { kind: string; hash: string }[]
  digest: string
}
const sheet = async () => (await people.ines.get(`${base}/packs/${pack}`)).body as Sheet
const post = (who: keyof typeof people, what: string, body: unknown = {}) =>
  people[who].post(`${base}/packs/${pack}/${what}`, body)

async function picture(who: Client): Promise<string> {
  const reply = await fetch(`${inject('address')}/api/${base}/files`, {
    method: 'POST',
    headers: { cookie: (who as unknown as { cookie: string }).cookie, 'content-type': 'image/png' },
    body: Buffer.from(dot, 'base64'),
  })
  return ((await reply.json()) as { id: string }).id
}

describe('before the test', () => {
  it('what the tool sees for itself is not confirmed by hand', async () => {
    expect((await post('ines', 'confirm', { row: 'joints' })).problem).toMatchObject({
      code: 'bad-row',
      field: 'row',
    })
    expect((await post('ines', 'confirm', { row: 'no-such-row' })).problem?.field).toBe('row')
  })
  it('the witness is invited to it, finds it on the own Today, and answers', async () => {
    const witness = async () => {
      const { ready, witness } = (await sheet()) as Sheet & { witness: { state: string } }
      return [witness.state, ready.find((r) => r.key === 'witness')!.state]
    }
    const say = (who: keyof typeof people, kind: string, payload: object) =>
      post(who, 'witness', { id: uuidv7(), kind, payload })
    const inHours = (h: number) => ({ for: new Date(Date.now() + h * 3_600_000).toISOString() })
    expect(await witness()).toEqual(['not-invited', 'open'])
    expect((await say('hale', 'reply', { accepts: true })).problem?.code).toBe('not-invited')
    expect((await say('hale', 'invitation', inHours(5))).problem?.code).toBe('forbidden')
    expect((await say('tam', 'invitation', inHours(5))).problem?.code).toBe('forbidden')
    expect((await say('ines', 'invitation', { for: 'noon' })).problem?.code).toBe('bad-payload')
    expect((await say('ines', 'invitation', inHours(0.5))).status).toBe(200)
    // Half an hour is no notice; a second invitation stands in its place.
    expect(await witness()).toEqual(['invited', 'open'])
    expect((await say('ines', 'invitation', inHours(5))).status).toBe(200)
    expect(await witness()).toEqual(['invited', 'met'])
    const today = (await people.hale.get(`${base}/today`)).body as {
      kind: string
      of?: string
      subject: string
    }[]
    expect(today.filter((i) => i.subject === pack && i.kind === 'invitation')).toMatchObject([
      { kind: 'invitation', of: 'pack' },
    ])
    expect((await say('ines', 'reply', { accepts: true })).problem?.code).toBe('forbidden')
    expect((await say('hale', 'reply', { accepts: true })).status).toBe(200)
    expect(await witness()).toEqual(['accepted', 'met'])
    expect((await say('ines', 'attendance', { present: false })).problem?.code).toBe('too-early')
  })
  it('what is confirmed is shown with the picture that was taken of it', async () => {
    expect((await post('ines', 'confirm', { row: 'filled', photo: uuidv7() })).problem?.field).toBe('photo')
    const photo = await picture(people.ines)
    expect((await post('ines', 'confirm', { row: 'filled', photo })).status).toBe(200)
    expect((await sheet()).ready.find((r) => r.key === 'filled')).toMatchObject({ state: 'met', photo })
    expect((await people.hale.get(`${base}/files/${photo}`)).status).toBe(200)
  })
  it('what a person sees is, row by row', async () => {
    for (const { key } of (await sheet()).ready.filter((r) => r.confirmable))
      expect((await post('ines', 'confirm', { row: key })).status).toBe(200)
    expect((await sheet()).ready.filter((r) => r.confirmable).every((r) => r.state === 'met')).toBe(true)
  })
  it('nothing is logged, ended or signed that has not been started', async () => {
    expect((await post('ines', 'log', { csv: sample('log-tight.csv') })).problem?.code).toBe('wrong-state')
    expect(
      (await post('ines', 'samples', { samples: [{ at: new Date().toISOString(), pressure: 1e5 }] })).problem
        ?.code,
    ).toBe('wrong-state')
    expect((await post('ines', 'finish')).problem?.code).toBe('wrong-state')
    expect((await post('hale', 'sign', { secret: '2468', image })).problem?.code).toBe('wrong-state')
  })
})

describe('the test', () => {
  it('is started by an engineer with a reason while rows are open; the certificate keeps both', async () => {
    expect((await post('petra', 'start', { reason: 'Programme' })).status).toBe(200)
    const s = await sheet()
    expect(s.pack.state).toBe('running')
    expect(s.run).toMatchObject({ reason: 'Programme', open: expect.arrayContaining(['embedment']) })
  })
  it('a log that is none changes nothing', async () => {
    const before = (await sheet()).entries.length
    for (const csv of ['a,b\n1,2', 'time,pressure kPa\n2026-03-09T06:00:00Z,abc\n2026-03-09T06:01:00Z,1'])
      expect((await post('ines', 'log', { csv })).problem?.code).toMatch(/^bad-(file|row)$/)
    expect((await sheet()).entries).toHaveLength(before)
  })
  it('streamed samples are evaluated as they come, and the same sample twice is one', async () => {
    const at = (i: number) => new Date(Date.UTC(2026, 2, 9, 6, i)).toISOString()
    const rows = Array.from({ length: 30 }, (_v, i) => ({
      at: at(i),
      pressure: i * 1e4,
      pipe: 11,
      makeup: i / 1000,
    }))
    expect((await post('ines', 'samples', { samples: rows.slice(0, 20) })).status).toBe(200)
    expect((await post('ines', 'samples', { samples: rows.slice(10) })).status).toBe(200)
    const s = await sheet()
    expect(s.log!.count).toBe(30)
    expect(s.evaluation!.sentence).toMatch(/never reached/)
  })
  it.each([
    ['a pressure that is text', { pressure: '10' }],
    ['a time that is none', { at: 'now' }],
    ['water taken back', { makeup: -1 }],
    ['a temperature from nowhere', { pipe: 900 }],
    ['an unknown field', { colour: 1 }],
  ])('%s is refused', async (_what, change) => {
    const reply = await post('ines', 'samples', {
      samples: [{ at: new Date().toISOString(), pressure: 1e5, ...change }],
    })
    expect([reply.status, reply.problem?.code]).toEqual([422, 'bad-input'])
  })
  it('the leaking log fails it: not signed, and tested again from the start', async () => {
    const csv = sample('log-leaking.csv')
    expect((await post('ines', 'log', { csv })).problem).toMatchObject({ code: 'other-time', field: 'csv' })
    expect((await post('ines', 'log', { csv, reason: 'It is mine.' })).problem?.code).toBe('other-time')
    expect(
      (await post('petra', 'log', { csv, reason: 'The clock of the logger stood in March.' })).body,
    ).toMatchObject({ verdict: 'reject' })
    expect((await sheet()).pack).toMatchObject({ state: 'failed', verdict: 'reject' })
    expect((await post('hale', 'sign', { secret: '2468', image })).problem?.message).toContain(
      'failed test is not signed',
    )
    expect(
      (
        await post('petra', 'start', {
          ...{ reason: 'Programme', since: 'The gland of the vent was tightened.' },
        })
      ).status,
    ).toBe(200)
    expect(await sheet()).toMatchObject({ pack: { state: 'running', verdict: null }, log: null })
  })
  it('the tight log passes it, and the file is kept as it came', async () => {
    const csv = sample('log-tight.csv')
    const word = 'The clock of the logger stood in March.'
    expect((await post('petra', 'log', { csv: sample('log-leaking.csv'), reason: word })).problem?.code).toBe(
      'used-log',
    )
    expect((await post('petra', 'log', { csv, reason: word })).body).toMatchObject({ verdict: 'accept' })
    const row = await db('packs').where({ id: pack }).first('log_file')
    const file = await db('files').where({ id: row.log_file }).first('sha256', 'bytes')
    expect(file.bytes.toString('utf8')).toBe(csv)
    expect(file.sha256).toBe(createHash('sha256').update(csv).digest('hex'))
  })
  it('a screen gets a thinned trace, the log keeps every sample', async () => {
    const { log } = await sheet()
    expect(log!.count).toBe(sample('log-tight.csv').trim().split('\n').length - 1)
    expect(log!.samples.length).toBeLessThanOrEqual(1502)
  })
})

describe('the signatures', () => {
  it('need the PIN and a drawing; nobody signs under another name', async () => {
    expect((await post('hale', 'sign', { secret: '1111', image })).problem?.code).toBe('bad-secret')
    expect((await post('hale', 'sign', { secret: '2468', name: 'Somebody Else', image })).problem?.code).toBe(
      'bad-input',
    )
    expect(
      (await post('hale', 'sign', { secret: '2468', image: 'data:text/html;base64,AAAA' })).problem?.field,
    ).toBe('image')
    for (const bad of ['iVBORw0KGgo=', damaged])
      expect(
        (await post('hale', 'sign', { secret: '2468', image: `data:image/png;base64,${bad}` })).problem,
      ).toMatchObject({ code: 'bad-file', field: 'image' })
    expect((await post('tam', 'sign', { secret: '2468', image })).problem?.code).toBe('forbidden')
  })
  it('inspector and witness sign; each signature names the digest of what it was given for', async () => {
    for (const who of ['ines', 'hale'] as const) {
      const before = (await sheet()).digest
      expect((await post(who, 'sign', { secret: '2468', image })).status).toBe(200)
      expect((await sheet()).signatures.at(-1)).toMatchObject({
        digest: before,
        role: who === 'ines' ? 'inspector' : 'witness',
      })
    }
    expect((await sheet()).pack.state).toBe('signed')
  })
  it('the record goes out as a file that proves itself, with the log, and without a database', async () => {
    const { status, body } = await people.hale.get(`${base}/packs/${pack}/record`)
    expect(status).toBe(200)
    const folder = mkdtempSync(join(tmpdir(), 'vet-line-record-'))
    const path = (name: string) => join(folder, name)
    const run = (...args: string[]) => {
      const done = spawnSync(join(import.meta.dirname, '../../vet-line'), ['digest', ...args], {
        encoding: 'utf8',
      })
      return { code: done.status, said: done.stderr, reply: JSON.parse(done.stdout) as object }
    }
    try {
      writeFileSync(path('record.json'), JSON.stringify(body))
      writeFileSync(path('log.csv'), sample('log-tight.csv'))
      writeFileSync(path('other.csv'), 'time,pressure kPa\n')
      const { digest } = await sheet()
      expect(run(path('record.json'), path('log.csv'))).toMatchObject({
        code: 0,
        reply: { digest, fault: null, log: true, signatures: [{ holds: true }, { holds: true }] },
      })
      expect(run(path('record.json'), path('other.csv'))).toMatchObject({ code: 1, reply: { log: false } })
      const bad = JSON.stringify(body).replace('\\"accept\\"', '\\"reject\\"')
      expect(bad).not.toBe(JSON.stringify(body))
      writeFileSync(path('bad.json'), bad)
      expect(run(path('bad.json')).code).toBe(1)
    } finally {
      rmSync(folder, { recursive: true })
    }
  })
  it('a signed test is not started, logged or witnessed again', async () => {
    expect((await post('petra', 'start', { reason: 'Once more' })).problem?.code).toBe('wrong-state')
    expect((await post('ines', 'log', { csv: `${sample('log-leaking.csv')}\n` })).problem?.code).toBe(
      'wrong-state',
    )
    expect((await post('hale', 'sign', { secret: '2468', image })).problem?.code).toBe('wrong-state')
  })
  it('the certificate is a PDF', async () => {
    const cookie = (people.hale as unknown as { cookie: string }).cookie
    const reply = await fetch(`${inject('address')}/api/${base}/packs/${pack}/certificate`, {
      headers: { cookie },
    })
    expect(reply.headers.get('content-type')).toBe('application/pdf')
    const bytes = Buffer.from(await reply.arrayBuffer())
    expect(bytes.subarray(0, 5).toString()).toBe('%PDF-')
    expect(bytes.subarray(-8).toString()).toContain('%%EOF')
  })
})

describe('a method for another material', () => {
  it('is taken by an engineer who says why, and by nobody else', async () => {
    const { rows } = (await people.petra.get(`${base}/lists/packs`)).body as {
      rows: Record<string, string | null>[]
    }
    const like = rows.find((r) => r.number === 'TP-05')!
    const typed = Object.fromEntries(Object.entries(like).filter(([, v]) => v !== null))
    const row = { ...typed, number: `T-${uuidv7().slice(-6)}`, method: 'hydro-drop', parameters: '' }
    const because = { ...row, methodReason: 'The steel of the crossing is tested.' }
    const plan = (who: Client, row: object) => who.post(`${base}/lists/packs`, { row })
    expect((await plan(people.petra, row)).problem).toMatchObject({
      ...{ field: 'method', message: expect.stringContaining('unless an engineer says why') },
    })
    const admin = await new Client(inject('address')).signIn('admin')
    expect((await plan(admin, because)).problem?.code).toBe('forbidden')
    expect((await plan(people.petra, because)).status).toBe(200)
    const { id } = await db('packs').where({ number: row.number }).first('id')
    const found = (await people.petra.get(`${base}/packs/${id}`)).body as {
      ready: { key: string; state: string; sentence: string }[]
    }
    expect(found.ready.find((r) => r.key === 'method')).toMatchObject({
      ...{ state: 'met', sentence: expect.stringContaining('The steel of the crossing') },
    })
  })
})
