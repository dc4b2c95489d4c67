import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import { Gateway } from '../../devices/gateway'
import { PipeUnderTest, shutIn, sound } from '../../devices/pipe'
import { Outbox } from '../../devices/site'
import { startStandIns } from '../../devices/stand-ins'
import { base, Client } from './client'
import { asApplication } from './connect'

/** A test while it runs: readings by HTTP and over Modbus, marks, whoever watches, and two runs of one pack. */
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
  const like = await db('packs').where({ number: 'TP-05' }).first()
  pack = uuidv7()
  await db('packs').insert({
    ...{ ...like, id: pack, number: `T-${pack.slice(-6)}`, state: 'planned' },
    ...{ log_file: null, verdict: null, signed_by: null, signed_at: null },
  })
})
afterAll(() => db.destroy())

const post = (who: keyof typeof people, what: string, body: unknown = {}) =>
  people[who].post(`${base}/packs/${pack}/${what}`, body)
interface Live {
  state: string
  marks: { id: string; kind: string }[]
  running: {
    next: string[]
    contact: { state: string }
    received: number
    startedAt: number
    count: number
    samples: { t: number; pressure: number; makeup: number | null }[]
    evaluation: { sentence: string; outlook?: string[] }
  } | null
}
const live = async (who: keyof typeof people = 'ines', since?: number) =>
  (await people[who].get(`${base}/packs/${pack}/live${since === undefined ? '' : `?since=${since}`}`))
    .body as Live
const mark = (kind: string, at = new Date().toISOString(), who: keyof typeof people = 'ines') => {
  const id = uuidv7()
  return post(who, 'mark', { id, kind, at }).then((reply) => ({ ...reply, id }))
}
const minutesAgo = (m: number) => new Date(Date.now() - m * 60_000).toISOString()
const reading = (m: number, pressure = 5e5, more: object = {}) => ({ at: minutesAgo(m), pressure, ...more })

describe('before it runs', () => {
  it('nothing is marked, joined or said of what comes after', async () => {
    expect((await mark('paused')).problem?.code).toBe('wrong-state')
    expect((await post('hale', 'join')).problem?.code).toBe('wrong-state')
    expect((await post('ines', 'after', { row: 'left', answer: 'filled' })).problem?.code).toBe('wrong-state')
    expect((await live()).running).toBeNull()
  })
})

describe('while it runs', () => {
  beforeAll(async () => {
    await post('petra', 'start', { reason: 'Programme' })
  })
  it('whoever watches gets what is new, and what a logger brings late', async () => {
    await post('ines', 'samples', { samples: [reading(10), reading(9), reading(8, 6e5, { makeup: 0.002 })] })
    const first = await live()
    expect(first.running).toMatchObject({ count: 3, contact: { state: 'live' } })
    expect(first.running!.samples.map((s) => s.makeup)).toEqual([null, null, 0.002])
    expect((await live('hale')).running!.count).toBe(3)
    await post('ines', 'samples', { samples: [reading(8.5, 5.5e5)] })
    const next = await live('ines', first.running!.received + 1)
    expect(next.running!.samples).toMatchObject([{ pressure: 5.5e5 }])
    expect(next.running!.count).toBe(4)
  })
  it('a mark stands on the trace, is refused out of turn, and is struck', async () => {
    expect((await mark('vented', minutesAgo(7))).status).toBe(200)
    expect((await mark('resumed')).problem).toMatchObject({ code: 'bad-mark', field: 'kind' })
    expect((await mark('paused', minutesAgo(90))).problem?.message).toMatch(/before the test was started/)
    const { id } = await mark('paused')
    expect((await live()).running!.next).toEqual(['resumed', 'leak-found', 'end'])
    expect((await post('ines', 'unmark', { mark: id })).status).toBe(200)
    expect((await post('ines', 'unmark', { mark: id })).problem?.code).toBe('not-found')
    expect((await live()).marks.map((m) => m.kind)).toEqual(['vented'])
  })
  it('only who runs the test marks it; only a witness joins, and once', async () => {
    expect((await mark('paused', undefined, 'tam')).problem?.code).toBe('forbidden')
    expect((await mark('paused', undefined, 'hale')).problem?.code).toBe('forbidden')
    expect((await post('ines', 'join')).problem?.code).toBe('forbidden')
    for (let i = 0; i < 2; i++) expect((await post('hale', 'join')).status).toBe(200)
    const rows = await db('entries').where({ subject: pack, kind: 'attendance' })
    expect(rows).toHaveLength(1)
  })
  it('a gateway reads three instruments over Modbus; what could not be sent comes later, once', async () => {
    const began = Date.now() - 6 * 60_000
    let now = began
    const pipe = new PipeUnderTest(shutIn(600, 5, 30), began, {
      ...{ ...sound, dropOuts: [[20, 25] as const], repeats: 7 },
    })
    const standIns = await startStandIns(pipe, () => now)
    const cookie = (people.ines as unknown as { cookie: string }).cookie
    const place = { address: inject('address'), project: 'skerry-head', pack }
    const nowhere = new Outbox({ ...place, address: 'http://127.0.0.1:9' }, cookie)
    const gateway = new Gateway(standIns, nowhere)
    const before = (await live()).running!.count
    let read = 0
    for (let second = 0; second < 40; second++) {
      now = began + second * 1000
      if (await gateway.poll()) read++
    }
    expect(read).toBe(35)
    expect(await nowhere.send()).toBeNull()
    expect(nowhere.waiting).toBe(35)
    gateway.close()
    // The connection is back: all goes out, and what had the clock of the reading before is one reading.
    const outbox = new Outbox(place, cookie)
    const again = new Gateway(standIns, outbox)
    for (let second = 0; second < 40; second++) {
      now = began + second * 1000 + 60_000
      await again.poll()
    }
    for (let i = 0; i < 2; i++) expect(await outbox.send()).toBeNull()
    expect(outbox.waiting).toBe(0)
    again.close()
    await standIns.stop()
    const { running } = await live()
    expect(running!.count).toBeGreaterThan(before + 30)
    expect(running!.count).toBeLessThan(before + 40)
    expect(running!.samples.at(-1)!.makeup).toBeCloseTo(0.014, 5)
  })
  it('an instrument that is gone leaves its column empty, not the reading away', async () => {
    const began = Date.now() - 60_000
    const standIns = await startStandIns(new PipeUnderTest(shutIn(600, 5), began), () => began + 5000)
    const cookie = (people.ines as unknown as { cookie: string }).cookie
    const outbox = new Outbox({ address: inject('address'), project: 'skerry-head', pack }, cookie)
    const gateway = new Gateway({ ...standIns, temperature: 9 }, outbox)
    expect(await gateway.poll()).toBe(true)
    await outbox.send()
    const { running } = await live()
    expect(running!.samples.find((s) => s.t === (began + 5000 - running!.startedAt) / 1000)).toMatchObject({
      pipe: null,
      makeup: expect.any(Number),
    })
    gateway.close()
    await standIns.stop()
  })
})

describe('a file of a foreign logger', () => {
  const begin = () => Math.round((Date.now() - 9 * 60_000) / 1000) * 1000
  const local = (ms: number) => new Date(ms).toISOString().slice(0, 19).replace('T', ' ')
  const file = (rows: number, bad?: number) => {
    const from = begin()
    return [
      'Clock,Gauge,T pipe',
      ...Array.from(
        { length: rows },
        (_v, i) => `${local(from + i * 10_000)},${i === bad ? 'x' : 4 + i / 100},11`,
      ),
    ].join('\n')
  }
  it('is looked at first: what a person has to say is asked', async () => {
    const look = async (csv: string, map: object | null) =>
      (await post('ines', 'look', { csv, map })).body as {
        asks: string[]
        map: { time: string; pressure: string }
        read: { samples: number } | null
        evaluation: { verdict: string } | null
        fault: { message: string } | null
      }
    const first = await look(file(30), null)
    expect(first).toMatchObject({ map: { time: 'Clock', pressure: 'Gauge' }, read: null, fault: null })
    expect(first.asks.sort()).toEqual(['pressureUnit', 'zone'])
    const map = { pressureUnit: 'bar', zone: 'UTC' }
    expect(await look(file(30), map)).toMatchObject({
      asks: [],
      read: { samples: 30 },
      evaluation: { verdict: 'incomplete' },
    })
    expect((await look(file(30, 4), map)).fault!.message).toMatch(/^Row 6, column "Gauge"/)
  })
  it('is not taken while anything is unsaid, and a map of junk is refused', async () => {
    const before = await db('entries').where({ subject: pack }).count({ n: '*' })
    expect((await post('ines', 'log', { csv: file(30) })).problem).toMatchObject({ code: 'unsaid' })
    // What a file has not is sent as nothing, as a form does.
    const none = { pressureUnit: null, makeup: null, makeupUnit: null, date: null, begin: null }
    expect((await post('ines', 'log', { csv: file(30), map: none })).problem?.code).toBe('unsaid')
    for (const map of [{ colour: 1 }, { pressureUnit: 'furlong' }, { makeupEach: 'yes' }, 7])
      expect((await post('ines', 'log', { csv: file(30), map })).problem?.code).toBe('bad-input')
    expect(await db('entries').where({ subject: pack }).count({ n: '*' })).toEqual(before)
  })
})

describe('when it ends', () => {
  it('what came in is the log, with no meter told from no water; what is left is said after', async () => {
    const done = await post('ines', 'finish', {})
    expect(done.status).toBe(200)
    const sheet = (await people.ines.get(`${base}/packs/${pack}`)).body as {
      pack: { state: string }
      run: { marks: unknown[]; present: unknown[] }
      log: { samples: { makeup: number | null }[] }
    }
    expect(sheet.run).toMatchObject({
      marks: [{ kind: 'vented' }],
      present: [{ person: expect.any(String) }],
    })
    expect(sheet.log.samples[0]!.makeup).toBeNull()
  })
})

describe('a log with a hole in it', () => {
  it('says nothing of what happened there: it is taken by an engineer with a reason alone', async () => {
    const like = await db('packs').where({ method: 'low-pressure-air' }).first()
    const id = uuidv7()
    await db('packs').insert({
      ...{ ...like, id, number: `T-${id.slice(-6)}`, state: 'planned' },
      ...{ log_file: null, verdict: null, signed_by: null, signed_at: null },
    })
    const at = (who: keyof typeof people, what: string, body: object) =>
      people[who].post(`${base}/packs/${id}/${what}`, body)
    expect((await at('petra', 'start', { reason: 'Programme' })).status).toBe(200)
    const from = 28e3
    const run = [...Array.from({ length: 25 }, (_v, i) => 12 - i / 6), 3, 2.8, 2.6, 2.4]
    const samples = run.map((m, i) => reading(m, i < 25 ? from + 3000 - 200 * i : from - 12_000 - 100 * i))
    expect((await at('ines', 'samples', { samples })).status).toBe(200)
    for (const who of ['ines', 'petra'] as const)
      expect((await at(who, 'finish', {})).problem).toMatchObject({
        ...{ code: 'log-hole', message: expect.stringContaining('no reading for 5 min') },
      })
    expect((await at('ines', 'finish', { reason: 'It will do.' })).problem?.code).toBe('log-hole')
    const word = 'The chart of the second gauge covers it.'
    expect((await at('petra', 'finish', { reason: word })).status).toBe(200)
  })
})
