import { readFileSync } from 'node:fs'
import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import { bringAs, orderOf, text } from './bring'
import { base, Client } from './client'
import { asApplication } from './connect'
import { recordOf } from './verified'

let db: Knex
let ines: Client
let petra: Client
const sample = (name: string) => ({
  name,
  data: readFileSync(new URL(`../../samples/${name}`, import.meta.url)).toString('base64'),
})
const whole = () => recordOf(db)
const many = async (table: string) => Number((await db(table).count('* as n'))[0]!.n)
const bring = (note: string, serials: string[], lot?: string) =>
  bringAs({ db, engineer: petra, inspector: ines }, note, serials, lot)
const itemOf = async (serial: string): Promise<{ id: string; state: string; sampled: number }> =>
  db('items').where({ serial }).first('id', 'state', 'sampled')
const inspect = async (delivery: string, serial: string, body: object) =>
  ines.post(`${base}/deliveries/${delivery}/items/${(await itemOf(serial)).id}`, body)

beforeAll(async () => {
  db = asApplication(inject('data'))
  const sign = (name: string) => new Client(inject('address')).signIn(name)
  ;[ines, petra] = await Promise.all([sign('ines'), sign('petra')])
})
afterAll(() => db.destroy())

describe('orders', () => {
  it('come from a file, once', async () => {
    expect((await petra.post(`${base}/orders/preview`, { file: sample('orders.csv') })).body).toMatchObject({
      faultCount: 0,
      orders: [
        { number: 'PO-140', lines: 2, pieces: 44 },
        { number: 'PO-141', lines: 1, pieces: 12 },
      ],
    })
    expect((await petra.post(`${base}/orders`, { file: sample('orders.csv') })).status).toBe(200)
    expect((await petra.post(`${base}/orders`, { file: sample('orders.csv') })).problem).toMatchObject({
      code: 'bad-rows',
      message: expect.stringContaining('known already'),
    })
  })
  it.each([
    ['an item that is not in the catalogue', 'PO-T0,S,NO-SUCH,SDR 11,5', 'item'],
    ['a class that is not the catalogue’s', 'PO-T0,S,PE-63-11,SDR 17,5', 'class'],
  ])('%s is a fault of its row', async (_what, row, column) => {
    const reply = await petra.post(`${base}/orders/preview`, {
      file: text(`order,supplier,item,class,quantity\n${row}`),
    })
    expect((reply.body as { faults: object[] }).faults).toMatchObject([{ row: 2, column }])
    expect(
      (await petra.post(`${base}/orders`, { file: text(`order,supplier,item,class,quantity\n${row}`) }))
        .status,
    ).toBe(422)
    expect(await db('orders').where({ number: 'PO-T0' }).first()).toBeUndefined()
  })
})

describe('a note from whatever file', () => {
  it.each([
    ['delivery-bad-rows.csv', 'Row 5'],
    ['delivery-duplicate-serial.csv', 'stands in row 3 already'],
    ['delivery-broken-letters.csv', 'letters that cannot be read'],
    ['delivery-hostile.csv', 'starts like a formula'],
  ])('%s is refused whole', async (name, why) => {
    const before = [await many('items'), await many('deliveries'), await many('lots'), await many('entries')]
    const reply = await ines.post(`${base}/deliveries`, {
      order: await orderOf(db, 'PO-131'),
      file: sample(name),
    })
    expect(reply.problem).toMatchObject({ code: 'bad-rows', message: expect.stringContaining(why) })
    expect([
      await many('items'),
      await many('deliveries'),
      await many('lots'),
      await many('entries'),
    ]).toEqual(before)
  })
  it('a spreadsheet reads as its CSV would', async () =>
    expect(
      (
        await ines.post(`${base}/deliveries/preview`, {
          order: await orderOf(db, 'PO-131'),
          file: sample('delivery-good.xlsx'),
        })
      ).body,
    ).toMatchObject({ noteNumber: 'DN-2215', rows: 14, pieces: 14, faultCount: 0 }))
  it('wrong class: said line by line, and what it is about may not be accepted', async () => {
    const preview = (
      await ines.post(`${base}/deliveries/preview`, {
        order: await orderOf(db, 'PO-131'),
        file: sample('delivery-wrong-class.csv'),
      })
    ).body as { lines: { result: string }[] }
    expect(preview.lines.map((l) => l.result)).toEqual(['wrong-class', 'short', 'right'])
  })
  it.each([
    ['no table', Buffer.from([80, 75, 3, 4, 1, 2, 3]).toString('base64')],
    ['an old spreadsheet', Buffer.from([0xd0, 0xcf, 0x11, 0xe0, 1]).toString('base64')],
    ['empty', ''],
    ['bytes', Buffer.from([1, 0, 2]).toString('base64')],
  ])('%s is refused with a sentence', async (_what, data) => {
    const reply = await ines.post(`${base}/deliveries/preview`, {
      order: await orderOf(db, 'PO-131'),
      file: { name: 'x', data },
    })
    expect([reply.status, reply.problem?.message.length]).toEqual([422, expect.any(Number)])
  })
  it('columns that nobody knows are asked for, and remembered once a file was imported by them', async () => {
    const file = sample('delivery-other-headings.csv')
    const order = await orderOf(db, 'PO-140')
    const look = async (mapping?: object) =>
      (await ines.post(`${base}/deliveries/preview`, { order, file, mapping })).body as {
        unmapped: string[]
        remembered: boolean
        faultCount: number
        rows: number
      }
    expect((await look()).unmapped).toEqual(['item', 'class', 'lot', 'quantity'])
    expect((await ines.post(`${base}/deliveries`, { order, file })).problem?.code).toBe('unmapped')
    const mapping = {
      note: 'Lieferschein',
      item: 'Artikel',
      class: 'Druckstufe',
      lot: 'Charge',
      serial: 'Nr.',
      quantity: 'Stück',
    }
    expect(await look(mapping)).toMatchObject({ unmapped: [], faultCount: 0, rows: 14, remembered: false })
    expect((await ines.post(`${base}/deliveries`, { order, file, mapping })).status).toBe(200)
    expect(await look()).toMatchObject({ unmapped: [], remembered: true, faultCount: 14 })
  })
  it('typed rows go the same way', async () => {
    const order = await orderOf(db, 'PO-140')
    const rows = [
      { item: 'PE-63-11', class: 'SDR 11', lot: 'T-9', serial: 'TY-1', quantity: '1' },
      { item: 'EFC-63', class: 'SDR 11', lot: 'F7790', serial: '', quantity: '3', expires: '2020-01-01' },
    ]
    expect(
      (
        await ines.post(`${base}/deliveries/preview`, {
          order,
          rows: [...rows, { ...rows[0], quantity: 'x' }],
        })
      ).body,
    ).toMatchObject({
      faults: [
        { row: 3, column: 'quantity' },
        { row: 3, column: 'serial' },
      ],
    })
    expect((await ines.post(`${base}/deliveries/preview`, { order, rows })).body).toMatchObject({
      pieces: 4,
      warnings: ['Lot F7790 expired on 2020-01-01.'],
    })
    expect((await ines.post(`${base}/deliveries`, { order, rows })).problem).toMatchObject({
      field: 'number',
    })
    expect((await ines.post(`${base}/deliveries`, { order, rows, number: 'DN-TYPED' })).status).toBe(200)
  })
  it('20,000 rows come in as one, are found by a fragment, and come page by page', async () => {
    expect((await petra.post(`${base}/orders`, { file: sample('orders-large.csv') })).status).toBe(200)
    const reply = await ines.call('POST', `${base}/deliveries`, {
      order: await orderOf(db, 'PO-900'),
      file: sample('delivery-large.csv'),
    })
    expect(reply.status).toBe(200)
    const { id } = reply.body as { id: string }
    const page = (query: string) => ines.get(`${base}/deliveries/${id}/items?${query}`)
    expect((await page('from=19990&count=100')).body).toMatchObject({ total: 20_000, items: { length: 10 } })
    expect((await page('search=N0777')).body).toMatchObject({ total: 10, items: { length: 10 } })
    expect((await ines.get(`${base}/lots?search=M0`)).body).toMatchObject({ total: 99 })
    expect((await ines.post(`${base}/deliveries/${id}/accept`, {})).body).toEqual({
      accepted: 1000,
      left: 19_000,
    })
    expect((await page('show=waiting&count=1')).body).toMatchObject({ total: 19_000 })
  }, 60_000)
})

describe('inspection on arrival', () => {
  it('a measurement outside is said; accepting it all the same asks why', async () => {
    const delivery = await bring('A', ['TA-1', 'TA-2'])
    const readings = { wall: [0.0058, 0.0058, 0.005, 0.0059] }
    expect((await inspect(delivery, 'TA-1', { outcome: 'accepted', readings })).problem).toMatchObject({
      field: 'remark',
      message: expect.stringContaining('5 mm is outside'),
    })
    expect((await inspect(delivery, 'TA-1', { outcome: 'quarantined', readings })).status).toBe(200)
    expect(
      (await ines.get(`${base}/deliveries/${delivery}/items/${(await itemOf('TA-1')).id}`)).body,
    ).toMatchObject({
      state: 'quarantined',
      remark: expect.stringContaining('Wall 5 mm is outside'),
      inspection: { verdict: { measured: { state: 'rejected' } } },
    })
    expect(
      (
        await inspect(delivery, 'TA-2', {
          outcome: 'accepted',
          readings: {
            wall: [0.006, 0.006, 0.006, 0.006],
            od: [0.0631, 0.0632],
            ovality: [0.063, 0.0631, 0.0631, 0.063],
          },
        })
      ).status,
    ).toBe(200)
  })
  it.each([
    ['a limit that the article does not have', { readings: { weight: [1] } }, 'readings.weight'],
    ['an instrument out of calibration', { instrument: 'late', readings: {} }, 'instrument'],
    ['a photo that is not there', { photos: [uuidv7()] }, 'photos'],
    ['words where readings are due', { readings: { wall: 'thick' } }, 'readings'],
  ])('%s is refused', async (what, body, field) => {
    const delivery = await bring(`B${field}`, [`TB-${field}`])
    const late =
      (
        await db('instruments')
          .leftJoin('calibrations', 'calibrations.instrument', 'instruments.id')
          .whereNull('calibrations.id')
          .first('instruments.id')
      )?.id ?? uuidv7()
    expect(
      (
        await inspect(delivery, `TB-${field}`, {
          outcome: 'accepted',
          ...body,
          ...(what.includes('instrument') ? { instrument: late } : {}),
        })
      ).problem?.field,
    ).toBe(field)
  })
  it('a sample decides for its lot: the rest waits for it, and passes with it', async () => {
    const serials = Array.from({ length: 60 }, (_v, i) => `TC-${String(i).padStart(2, '0')}`)
    const delivery = await bring('C', serials)
    expect((await ines.post(`${base}/deliveries/${delivery}/sample`, { item: 'PE-63-11' })).status).toBe(200)
    expect(
      (await ines.post(`${base}/deliveries/${delivery}/sample`, { item: 'PE-63-11' })).problem?.code,
    ).toBe('wrong-state')
    const drawn: string[] = await db('items')
      .where({ delivery, sampled: true })
      .orderBy('serial')
      .pluck('serial')
    expect(drawn.length).toBeGreaterThan(5)
    expect((await ines.post(`${base}/deliveries/${delivery}/accept`, {})).body).toEqual({
      accepted: 0,
      left: 0,
    })
    for (const serial of drawn)
      expect((await inspect(delivery, serial, { outcome: 'accepted' })).status).toBe(200)
    const sheet = (await ines.get(`${base}/deliveries/${delivery}`)).body as {
      articles: { sampling: object; characteristic: object[] }[]
      acceptable: number
    }
    expect(sheet.articles[0]!.sampling).toMatchObject({
      accepted: true,
      bad: 0,
      sample: drawn.length,
      open: 0,
    })
    expect(sheet.acceptable).toBe(60 - drawn.length)
    expect((await ines.post(`${base}/deliveries/${delivery}/accept`, {})).body).toEqual({
      accepted: 60 - drawn.length,
      left: 0,
    })
    expect((await ines.post(`${base}/deliveries/${delivery}/sign`, { secret: '2468' })).status).toBe(200)
  })
  it('a refused sample leaves every item to be looked at, and tightens the next', async () => {
    const delivery = await bring(
      'D',
      Array.from({ length: 60 }, (_v, i) => `TD-${String(i).padStart(2, '0')}`),
    )
    await ines.post(`${base}/deliveries/${delivery}/sample`, { item: 'PE-63-11' })
    const drawn: string[] = await db('items')
      .where({ delivery, sampled: true })
      .orderBy('serial')
      .pluck('serial')
    const { acceptance, sample: size } = await db('samplings')
      .where({ delivery })
      .first('acceptance', 'sample')
    for (const serial of drawn.slice(0, acceptance + 1))
      await inspect(delivery, serial, { outcome: 'quarantined', remark: 'dented' })
    expect((await ines.get(`${base}/deliveries/${delivery}`)).body).toMatchObject({
      articles: [{ sampling: { accepted: false } }],
      acceptable: 0,
    })
    expect((await ines.post(`${base}/deliveries/${delivery}/accept`, {})).body).toEqual({
      accepted: 0,
      left: 0,
    })
    const next = await bring(
      'E',
      Array.from({ length: 60 }, (_v, i) => `TE-${String(i).padStart(2, '0')}`),
    )
    const plan = (
      (await ines.get(`${base}/deliveries/${next}`)).body as {
        articles: { plan: { severity: string; sample: number } }[]
      }
    ).articles[0]!.plan
    expect(plan.severity).toBe('tightened')
    expect(plan.sample).toBeGreaterThan(size)
  })
  it('the notice to the supplier is a PDF, the items a CSV that no spreadsheet runs', async () => {
    const delivery = await bring('F', ['TF-1'])
    await inspect(delivery, 'TF-1', {
      outcome: 'quarantined',
      remark: '=HYPERLINK("x")',
      damage: { clock: 3, fromEnd: 1, length: 0.2, depth: 0.002 },
    })
    const cookie = (ines as unknown as { cookie: string }).cookie
    const read = (path: string) =>
      fetch(`${inject('address')}/api/${base}/deliveries/${delivery}/${path}`, { headers: { cookie } })
    const pdf = Buffer.from(await (await read('notice')).arrayBuffer())
    expect([pdf.subarray(0, 5).toString(), pdf.length > 8000]).toEqual(['%PDF-', true])
    expect(await (await read('export')).text()).toContain(`"'=HYPERLINK(""x"")"`)
  })
})

it('the record is whole after all of it', async () => expect(await whole()).toEqual([[], []]), 60_000)
