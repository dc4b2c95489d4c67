import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { afterAll, beforeAll, describe, expect, inject, it, vi } from 'vitest'
import type { ShiftPage } from '../../core/crew/shift-signing'
import { base, Client } from './client'
import { asApplication } from './connect'
import { dot } from './picture'

/** The report of a crew and a day: made by the record, signed by two, and never of another day than it says. */
let db: Knex
let people: Record<'tam' | 'rhona' | 'ines' | 'oskar' | 'hale' | 'admin', Client>
let crew: string
let day: string
beforeAll(async () => {
  db = asApplication(inject('data'))
  const names = ['tam', 'rhona', 'ines', 'oskar', 'hale', 'admin'] as const
  people = Object.fromEntries(
    await Promise.all(names.map(async (n) => [n, await new Client(inject('address')).signIn(n)])),
  ) as typeof people
  crew = (await db('crews').where({ name: 'Crew North' }).first('id')).id
  const days = (await people.ines.get(`${base}/crews/${crew}/shifts`)).body as {
    day: string
    state: string
  }[]
  // A day that is over, and that nobody has signed.
  day = days.filter((d) => d.state === 'open').at(-1)!.day
})
afterAll(() => db.destroy())

const image = `data:image/png;base64,${dot}`
const page = async (who: keyof typeof people = 'ines', of = day) =>
  (await people[who].get(`${base}/crews/${crew}/shifts/${of}`)).body as ShiftPage
const sign = async (who: keyof typeof people, more: object = {}) => {
  const { digest, until } = await page(who === 'hale' || who === 'admin' ? 'ines' : who)
  return people[who].post(`${base}/crews/${crew}/shifts/${day}/sign`, {
    ...{ secret: '2468', image, report: digest, until, weather: 'Dry, 11 °C', words: '' },
    ...more,
  })
}

describe('the report of a day', () => {
  it('names what the crew worked at, and is the same each time it is made', async () => {
    const { report, digest, state } = await page()
    expect(report.work.length).toBeGreaterThan(0)
    expect(state).toBe('open')
    expect((await page()).digest).toBe(digest)
    const numbers = (await db('joints').where({ crew }).select('number')).map((j) => j.number as string)
    for (const w of report.work.filter((x) => x.of === 'joint')) expect(numbers).toContain(w.name)
  })
  it('of another crew is not there for a crew lead, nor is a day that is none', async () => {
    const path = `${base}/crews/${crew}/shifts`
    expect((await people.rhona.get(path)).status).toBe(404)
    expect((await people.rhona.get(`${path}/${day}`)).status).toBe(404)
    expect((await people.ines.get(`${path}/2026-02-31`)).problem?.code).toBe('not-a-date')
    expect((await people.ines.get(`${path}/2099-01-01`)).problem?.code).toBe('not-yet')
    expect((await people.ines.get(`${base}/crews/${uuidv7()}/shifts/${day}`)).status).toBe(404)
  })
})

describe('its signatures', () => {
  it('need the PIN, a drawing and the report that was seen', async () => {
    expect((await sign('tam', { secret: '1111' })).problem?.code).toBe('bad-secret')
    expect((await sign('tam', { image: 'data:image/png;base64,AAAA' })).problem?.code).toBe('bad-file')
    expect((await sign('tam', { report: '0'.repeat(64) })).problem?.code).toBe('moved')
    expect((await sign('tam', { report: 'x' })).problem?.code).toBe('bad-input')
    for (const who of ['hale', 'admin'] as const) expect((await sign(who)).problem?.code).toBe('forbidden')
  })
  it('begin with the crew lead', async () => {
    expect((await sign('ines')).problem?.code).toBe('not-yet')
    expect((await sign('tam')).body).toEqual({ state: 'led' })
    const { signed, moved } = await page()
    expect([signed.lead?.name, signed.lead?.weather, moved]).toEqual(['Tam Brodrick', 'Dry, 11 °C', false])
  })
  it('end with an inspector, under the same report', async () => {
    expect((await sign('ines')).body).toEqual({ state: 'signed' })
    const { signed } = await page()
    expect(signed.inspector?.report).toBe(signed.lead?.report)
    const days = (await people.tam.get(`${base}/crews/${crew}/shifts`)).body as {
      day: string
      state: string
    }[]
    expect(days.find((d) => d.day === day)?.state).toBe('signed')
  })
  it('do not stand for what came in later: the crew lead signs anew, then the inspector', async () => {
    const { report, until } = await page()
    const joint = report.work.find((w) => w.of === 'joint')!
    // An entry of that day that came in only now, as from a device without a signal.
    const text = { text: 'Found on the tablet' }
    const sent = await people.tam.post(`${base}/joints/${joint.id}/entries`, {
      entries: [
        {
          id: uuidv7(),
          kind: 'remark',
          step: null,
          payload: text,
          recordedAt: new Date(until - 60_000).toISOString(),
        },
      ],
    })
    expect(sent.status).toBe(200)
    const now = await page()
    expect([now.moved, now.report.late]).toEqual([true, report.late + 1])
    expect((await sign('oskar')).problem?.code).toBe('moved')
    expect((await sign('tam')).body).toEqual({ state: 'led' })
    expect((await sign('oskar')).body).toEqual({ state: 'signed' })
  })
  it('stand on one page of paper', async () => {
    const cookie = (people.ines as unknown as { cookie: string }).cookie
    const reply = await fetch(`${inject('address')}/api/${base}/crews/${crew}/shifts/${day}/print`, {
      headers: { cookie },
    })
    expect(reply.headers.get('content-type')).toBe('application/pdf')
    expect(
      Buffer.from(await reply.arrayBuffer())
        .subarray(0, 5)
        .toString(),
    ).toBe('%PDF-')
  })
})

describe('a qualification that the plan asks for', () => {
  const key = 'pe-electrofusion-socket'
  let petra: Client
  let joint: string
  let held: object[]
  beforeAll(async () => {
    petra = await new Client(inject('address')).signIn('petra')
    const rows = await db('joints')
      .where({ crew, system: key, state: 'in-work' })
      .whereNotNull('procedure_id')
      .orderBy('number')
      .select('id')
    joint = rows[0]!.id
    // The demo's register is of other tests: this one begins with nothing in it.
    const { id: person } = await db('people').where({ sign_in: 'tam' }).first('id')
    held = await db('qualifications').where({ person })
    await db('qualifications').where({ person }).delete()
    await setMode(null)
  })
  const setMode = (mode: 'say' | 'block' | null) =>
    petra.post(`${base}/points/qualify`, { procedure: key, mode, reason: 'Of the maker' })
  const remark = () => ({
    id: uuidv7(),
    kind: 'remark',
    step: null,
    payload: { text: 'x' },
    recordedAt: new Date().toISOString(),
  })
  interface Sheet {
    qualification: { sentence: string; blocks: boolean } | null
    entries: { kind: string; step: string | null; payload: object }[]
  }
  const sheet = async () => (await people.tam.get(`${base}/joints/${joint}`)).body as Sheet
  const answer = async () => {
    const last = (await sheet()).entries.find((e) => e.kind === 'confirmation')
    const recordedAt = new Date().toISOString()
    return people.tam.post(`${base}/joints/${joint}/entries`, {
      entries: [
        { id: uuidv7(), kind: 'confirmation', step: last!.step, payload: { answer: 'yes' }, recordedAt },
      ],
    })
  }
  const register = (since: string, until: string) =>
    people.admin.post(`${base}/lists/qualifications`, {
      row: { person: 'tam', procedure: key, since, until, by: 'Instructor of the maker' },
    })
  afterAll(async () => {
    const { id: person } = await db('people').where({ sign_in: 'tam' }).first('id')
    await db('qualifications').where({ person }).delete()
    if (held.length > 0) await db('qualifications').insert(held)
    await setMode('say')
  })
  it('is said when it lacks, and blocks only where the plan says so', async () => {
    expect((await sheet()).qualification).toBeNull()
    expect((await setMode('say')).status).toBe(200)
    expect((await sheet()).qualification).toMatchObject({
      blocks: false,
      sentence: expect.stringMatching(/no qualification/),
    })
    expect((await setMode('block')).status).toBe(200)
    expect((await answer()).problem).toMatchObject({ code: 'not-qualified', field: 'person' })
  })
  it('a remark is taken all the same: only answers are made by the qualified', async () => {
    const sent = await people.tam.post(`${base}/joints/${joint}/entries`, { entries: [remark()] })
    expect(sent.status).toBe(200)
  })
  it('that ran out blocks, and renewed it does not', async () => {
    expect((await register('2024-01-05', '2025-01-04')).body).toMatchObject({ kept: 1 })
    expect((await answer()).problem?.message).toMatch(/ended on 2025-01-04/)
    expect((await register('2026-01-05', '2099-01-04')).body).toMatchObject({ kept: 1 })
    expect((await sheet()).qualification).toBeNull()
    expect((await answer()).problem?.code).not.toBe('not-qualified')
  })
  it('is set by an engineer with a reason, for a procedure that there is', async () => {
    expect(
      (await people.ines.post(`${base}/points/qualify`, { procedure: key, mode: 'say', reason: 'x' })).status,
    ).toBe(403)
    expect(
      (await petra.post(`${base}/points/qualify`, { procedure: key, mode: 'say', reason: '' })).problem
        ?.field,
    ).toBe('reason')
    expect(
      (await petra.post(`${base}/points/qualify`, { procedure: 'weaving', mode: null, reason: 'x' })).status,
    ).toBe(404)
  })
})

describe('a calendar', () => {
  const read = (address: string) => fetch(`${inject('address')}/api/calendar/${address}`)
  it('is read by its secret address alone, and holds what the person’s Today holds', async () => {
    const { token } = (await people.hale.post(`${base}/calendar`, {})).body as { token: string }
    const reply = await read(`${token}.ics`)
    expect(reply.headers.get('content-type')).toContain('text/calendar')
    const text = (await reply.text()).replace(/\r\n /g, '')
    expect(text).toMatch(/^BEGIN:VCALENDAR\r\n/)
    const today = (await people.hale.get(`${base}/today`)).body as { kind: string; due: number | null }[]
    const dated = (Array.isArray(today) ? today : (today as { items: typeof today }).items).filter(
      (i) => i.due !== null,
    )
    expect(text.match(/BEGIN:VEVENT/g) ?? []).toHaveLength(dated.length)
    expect(text).not.toMatch(/NCR-\d/)
    for (const line of text.split('\r\n').filter((l) => /^DT(START|END|STAMP)/.test(l)))
      expect(line).toMatch(/Z$/)
  })
  it('dies when it is revoked, when a new one is made, and with the person', async () => {
    const make = async () =>
      ((await people.hale.post(`${base}/calendar`, {})).body as { token: string }).token
    const [first, second] = [await make(), await make()]
    expect((await read(first)).status).toBe(404)
    expect((await read(second)).status).toBe(200)
    await people.hale.post(`${base}/calendar/revoke`, {})
    expect((await read(second)).status).toBe(404)
    const third = await make()
    await db('people').where({ sign_in: 'hale' }).update({ active: 0 })
    // Who is on a project is known for a second.
    await vi.waitFor(async () => expect((await read(third)).status).toBe(404), { timeout: 10_000 })
    await db('people').where({ sign_in: 'hale' }).update({ active: 1 })
    await people.hale.post(`${base}/calendar/revoke`, {})
  })
  it('of a wrong address is nowhere', async () => {
    for (const address of ['x', 'f'.repeat(50), `${'f'.repeat(50)}.ics`, '..%2f..'])
      expect((await read(address)).status).toBe(404)
  })
})
