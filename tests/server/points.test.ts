import type { Knex } from 'knex'
import { readSheet } from 'read-excel-file/node'
import { uuidv7 } from 'uuidv7'
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import type { pointMatrix } from '../../server/services/points'
import type { TodayItem } from '../../server/services/today'
import { demoPin } from '../../demo/people'
import { base, Client } from './client'
import { asApplication } from './connect'
import { keepRules } from './rules-kept'

/** The inspection plan, changed by two engineers; and who is invited to a witness point. */
let db: Knex
const clients = {} as Record<'ines' | 'tam' | 'milo' | 'hale' | 'petra' | 'juno', Client>
let giveBack: () => Promise<void>
beforeAll(async () => {
  db = asApplication(inject('data'))
  for (const name of ['ines', 'tam', 'milo', 'hale', 'petra', 'juno'] as const)
    clients[name] = await new Client(inject('address')).signIn(name)
  giveBack = await keepRules(db, ['rc-sealant'])
})
afterAll(async () => {
  await giveBack()
  await db.destroy()
})
type Reply = Awaited<ReturnType<typeof pointMatrix>>
const matrix = async (query = '') => (await clients.ines.get(`${base}/points${query}`)).body as Reply
const today = new Date().toISOString().slice(0, 10)
const change = (more: object = {}) => ({
  ...{ procedure: 'rc-sealant', step: 'clean', party: 'witness', point: 'W', rate: null, line: null },
  ...{ crew: null, from: today, until: null, reason: 'The client wants to see it.' },
  ...more,
})
const anyStep = async (procedure: string) =>
  (await matrix()).matrices.find((m) => m.procedure.key === procedure)!.rows[0]!.step

describe('the inspection plan', () => {
  it('has every procedure in use, each step once, with the points that it comes with', async () => {
    const { matrices } = await matrix()
    const frp = matrices.find((m) => m.procedure.key === 'frp-threaded')!
    expect(frp.rows.find((r) => r.step === 'hand-tight')!.cells.witness.point).toBe('W')
    expect(new Set(frp.rows.map((r) => r.step)).size).toBe(frp.rows.length)
    expect(matrices.map((m) => m.procedure.key)).toEqual(
      expect.arrayContaining(['embed-flexible', 'rc-sealant']),
    )
  })
  it('changes when a second engineer has looked, from its day, where it counts', async () => {
    const step = await anyStep('rc-sealant')
    const line = (await db('alignments').where({ line_key: 'GS' }).first('id')).id as string
    const asked = await clients.petra.post(`${base}/points`, change({ step, line }))
    const { id } = asked.body as { id: string }
    const cell = async (query: string) =>
      (await matrix(query)).matrices
        .find((m) => m.procedure.key === 'rc-sealant')!
        .rows.find((r) => r.step === step)!.cells.witness
    expect((await cell(`?line=${line}`)).point).toBeNull()
    expect((await clients.petra.post(`${base}/points/${id}`, { accepted: true })).problem?.code).toBe(
      'own-work',
    )
    const done = await clients.juno.post(`${base}/points/${id}`, { accepted: true })
    expect((done.body as { total: number }).total).toBeGreaterThan(100)
    expect(await cell(`?line=${line}`)).toMatchObject({ point: 'W', rule: id })
    expect((await cell('')).point).toBeNull()
    expect((await cell(`?line=${line}&day=2026-01-01`)).point).toBeNull()
    expect(
      (await clients.juno.post(`${base}/points/${id}`, { accepted: false, reason: 'x' })).problem?.code,
    ).toBe('reviewed')
    const noted = await db('entries')
      .where({ kind: 'setting' })
      .orderBy('feed', 'desc')
      .limit(4)
      .pluck('payload')
    expect(noted.some((p: string) => p.includes('point-reviewed') && p.includes(id))).toBe(true)
  })
  it.each([
    ['a procedure that is not issued', { procedure: 'glue' }, 'procedure'],
    ['a step of nowhere', { step: 'nowhere' }, 'step'],
    ['a line of nowhere', { line: uuidv7() }, 'line'],
    ['a crew of nowhere', { crew: uuidv7() }, 'crew'],
    ['a day that is none', { from: 'spring' }, 'from'],
    ['an end before its beginning', { until: '2020-01-01' }, 'until'],
    ['surveillance of nobody knows how many', { point: 'S' }, 'rate'],
    ['surveillance of none', { point: 'S', rate: 0 }, 'rate'],
    ['surveillance of a half', { point: 'S', rate: 2.5 }, 'rate'],
    ['surveillance on an occasion that is none', { point: 'S', rate: 'often' }, 'rate'],
    ['an occasion of what is no surveillance', { rate: 'first-of-day' }, 'rate'],
    ['a rate of what is no surveillance', { rate: 3 }, 'rate'],
    ['everything a hold for everybody', { step: '*', point: 'H' }, 'step'],
    ['so many good ones of no new crew', { good: 10 }, 'good'],
    ['none in a row', { good: 0 }, 'good'],
    ['half of one in a row', { good: 1.5 }, 'good'],
  ])('%s is refused by its field', async (_what, more, field) => {
    const sent = change({ step: await anyStep('rc-sealant'), ...more })
    expect((await clients.petra.post(`${base}/points`, sent)).problem?.field).toBe(field)
  })
  it('is asked for by engineers only, and goes out as a file', async () => {
    expect((await clients.ines.post(`${base}/points`, change())).status).toBe(403)
    const cookie = (clients.ines as unknown as { cookie: string }).cookie
    const reply = await fetch(`${clients.ines.address}/api/${base}/points/file`, { headers: { cookie } })
    const rows = (await reply.text()).trim().split('\r\n')
    expect(rows[0]).toBe('procedure,revision,stage,step,inspector,witness,authority')
    expect(rows.some((r) => /"Hand-tight, looked at",,W,/.test(r))).toBe(true)
  })
  const taken = async (query: string) => {
    const { cookie } = clients.ines as unknown as { cookie: string }
    return fetch(`${clients.ines.address}/api/${base}/points/file?${query}`, { headers: { cookie } })
  }
  it('is taken as a spreadsheet with the rows of the file', async () => {
    const reply = await taken('as=xlsx')
    const grid = await readSheet(Buffer.from(await reply.arrayBuffer()))
    expect(grid[0]).toEqual([
      ...['Procedure', 'Revision', 'Stage', 'Step', 'Inspector', 'Client’s witness', 'Authority'],
    ])
    const lines = (await (await taken('as=csv')).text()).trim().split('\r\n')
    expect(grid).toHaveLength(lines.length)
    expect(grid.find((r) => r[3] === 'Hand-tight, looked at')!.slice(4)).toEqual([null, 'W', null])
  })
  it('is printed', async () => {
    const reply = await taken('as=pdf')
    expect(reply.headers.get('content-type')).toBe('application/pdf')
    const pdf = Buffer.from(await reply.arrayBuffer())
    expect(pdf.subarray(0, 5).toString()).toBe('%PDF-')
    // Of every procedure in use a table, not an empty sheet.
    expect(pdf.length).toBeGreaterThan(30_000)
  })
  it.each([
    ['as=doc', 'as'],
    [`crew=${uuidv7()}`, 'crew'],
    [`line=${uuidv7()}`, 'line'],
    ['day=2026-02-31', 'day'],
  ])('%s is refused', async (query, field) => {
    const reply = await taken(query)
    expect(reply.ok).toBe(false)
    expect(((await reply.json()) as { data: { field: string } }).data.field).toBe(field)
  })
})

describe('a witness point', () => {
  const joint = async () => {
    const rows = (await db('joints')
      .where({ system: 'frp-threaded' })
      .whereNotNull('opened_at')
      .select('id', 'summary')) as { id: string; summary: string }[]
    const found = rows.find((r) => (JSON.parse(r.summary) as { invited: unknown[] }).invited?.length > 0)!
    return found.id
  }
  const say = (who: keyof typeof clients, id: string, kind: string, payload: object) =>
    clients[who].post(`${base}/joints/${id}/witness`, { id: uuidv7(), step: 'hand-tight', kind, payload })
  it('stands on the Today of the witness, with its time', async () => {
    const items = (await clients.hale.get(`${base}/today`)).body as TodayItem[]
    const invited = items.find((i) => i.kind === 'invitation')!
    expect(invited.subject).toBe(await joint())
    expect(invited.due).toBeGreaterThan(Date.now())
  })
  it('is answered by the witness alone, who alone says that he was there', async () => {
    const id = await joint()
    expect((await say('milo', id, 'reply', { accepts: true })).status).toBe(403)
    expect((await say('milo', id, 'attendance', { present: true })).problem?.code).toBe('own-work')
    expect((await say('milo', id, 'attendance', { present: false })).problem?.code).toBe('too-early')
    expect((await say('tam', id, 'attendance', { present: false })).problem?.code).toBe('not-found')
    expect((await say('hale', id, 'attendance', { present: true })).status).toBe(200)
    const { entries } = (await clients.ines.get(`${base}/joints/${id}`)).body as {
      entries: { kind: string }[]
    }
    expect(entries.map((e) => e.kind)).toEqual(expect.arrayContaining(['invitation', 'reply', 'attendance']))
    const left = ((await clients.hale.get(`${base}/today`)).body as TodayItem[]).filter(
      (i) => i.kind === 'invitation' && i.subject === id,
    )
    expect(left).toEqual([])
  })
  it('junk is refused by its field', async () => {
    const id = await joint().catch(() => null)
    const target =
      id ??
      ((await db('joints').where({ system: 'frp-threaded' }).whereNotNull('opened_at').first('id'))
        .id as string)
    expect((await say('milo', target, 'invitation', { for: 'tomorrow' })).problem?.code).toBe('bad-payload')
    expect((await say('milo', target, 'release', {})).problem?.field).toBe('kind')
    expect((await say('milo', target, 'invitation', {})).problem?.code).toBe('bad-payload')
  })
})

describe('several holds by one word', () => {
  const holds = async () =>
    ((await clients.ines.get(`${base}/today`)).body as TodayItem[]).filter(
      (i) => i.kind === 'hold' && ['TC-05', 'WL-05', 'SC-05'].includes(i.place),
    )
  const named = (list: readonly TodayItem[]) =>
    list.map((i) => ({ id: uuidv7(), joint: i.subject, step: i.step! }))
  const release = (list: object[], secret = demoPin, who: keyof typeof clients = 'ines') =>
    clients[who].post(`${base}/holds`, { secret, holds: list })
  it('are released all or none', async () => {
    const three = await holds()
    expect(three).toHaveLength(3)
    const other = (await db('joints').where({ number: 'RM-228' }).first('id')).id as string
    const [first, ...rest] = named(three)
    const refused = await release([first!, ...rest, { id: uuidv7(), joint: other, step: 'nowhere' }])
    expect(refused.problem?.code).toBe('unknown-step')
    expect(await holds()).toHaveLength(3)
    expect((await release(named(three), '0000')).status).toBe(403)
    expect((await release(named(three), demoPin, 'milo')).status).toBe(403)
    expect((await release(named(three))).body).toEqual({ released: 3 })
    expect(await holds()).toEqual([])
  })
})
