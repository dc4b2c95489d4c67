import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import { bringAs } from './bring'
import { base, Client } from './client'
import { asApplication } from './connect'
import { recordOf } from './verified'

/** What lies in stock: its lots, where it lies, and what it went into. */
let db: Knex
let ines: Client
let petra: Client
let tam: Client
const whole = () => recordOf(db)
const many = async (table: string) => Number((await db(table).count('* as n'))[0]!.n)
const bring = (note: string, serials: string[], lot?: string) =>
  bringAs({ db, engineer: petra, inspector: ines }, note, serials, lot)

beforeAll(async () => {
  db = asApplication(inject('data'))
  const sign = (name: string) => new Client(inject('address')).signIn(name)
  ;[ines, petra, tam] = await Promise.all([sign('ines'), sign('petra'), sign('tam')])
})
afterAll(() => db.destroy())

describe('lots', () => {
  const day = (offset: number) => new Date(Date.now() + offset * 86_400_000).toISOString().slice(0, 10)
  const open = async () => {
    const joint = await db('joints')
      .where({ system: 'cpvc-solvent-weld', state: 'not-started' })
      .whereNotNull('procedure_id')
      .first('id')
    return (
      joint ??
      (await db('joints')
        .where({ system: 'cpvc-solvent-weld' })
        .whereNotNull('procedure_id')
        .orderBy('number', 'desc')
        .first('id'))
    ).id as string
  }
  const use = async (joint: string, lot: string, more: object = {}) =>
    (await new Client(inject('address')).signIn('milo')).post(`${base}/joints/${joint}/entries`, {
      entries: [
        {
          id: uuidv7(),
          kind: 'lot',
          step: 'cement',
          payload: { lot, reason: 'another tin', ...more },
          instrument: null,
          device: 'test',
          recordedAt: new Date().toISOString(),
        },
      ],
    })
  const drafts = async (joint: string): Promise<string> =>
    (await db('joints').where({ id: joint }).first('summary')).summary

  it.each([
    ['a date that does not exist', { made: '2026-02-30' }, 'made'],
    ['produced in the future', { made: day(9) }, 'made'],
    ['opened before it was produced', { made: day(-3), opened: day(-5) }, 'opened'],
    ['expired before it was produced', { made: day(-3), expires: day(-4) }, 'expires'],
  ])('%s is refused', async (_what, dates, field) => {
    expect((await ines.post(`${base}/lots`, { lot: 'T-LOT', ...dates })).problem?.field).toBe(field)
  })
  it('is good to the end of its last day where the work is', async () => {
    // In July the clocks there are an hour before UTC.
    await ines.post(`${base}/lots`, { lot: 'SUMMER', expires: '2031-07-15' })
    const { lots } = (await ines.get(`${base}/lots?search=SUMMER`)).body as {
      lots: { end: { at: number } }[]
    }
    expect(lots.map((l) => new Date(l.end.at).toISOString())).toEqual(['2031-07-15T22:59:59.999Z'])
  })
  it('a label adds what was not known, and contradicts nothing', async () => {
    expect((await ines.post(`${base}/lots`, { lot: 'T-LOT', made: day(-30) })).status).toBe(200)
    expect((await ines.post(`${base}/lots`, { lot: 'T-LOT', expires: day(300) })).status).toBe(200)
    expect(await db('lots').where({ lot: 'T-LOT' }).first()).toMatchObject({
      made: expect.anything(),
      expires: expect.anything(),
    })
    expect((await ines.post(`${base}/lots`, { lot: 'T-LOT', made: day(-31) })).problem).toMatchObject({
      code: 'contradiction',
      field: 'made',
    })
  })
  it(
    'one past its date in the register rejects the step, although nobody typed a date; a ' +
      'waiver that names it lets it through',
    async () => {
      const joint = await open()
      expect((await use(joint, 'CE-3')).status).toBe(200)
      expect(await drafts(joint)).toContain('expired')
      const waive = (client: Client, body: object) =>
        client.post(`${base}/joints/${joint}/release`, {
          id: uuidv7(),
          step: 'cement',
          kind: 'waiver',
          reason: 'The maker tested it.',
          secret: '2468',
          ...body,
        })
      expect((await waive(tam, { lot: 'CE-3' })).status).toBe(403)
      expect((await waive(ines, { lot: 'CE-8' })).status).toBe(200)
      expect(await drafts(joint)).toContain('expired')
      expect((await waive(ines, { lot: 'CE-3' })).status).toBe(200)
      expect(await drafts(joint)).not.toContain('expired')
    },
  )
  it('a date corrected judges the joints that used it anew', async () => {
    const joint = await open()
    const id = (await db('lots').where({ lot: 'CE-9' }).first('id')).id
    expect((await use(joint, 'CE-9')).status).toBe(200)
    const dates = { made: day(-400), opened: null }
    expect((await ines.post(`${base}/lots/${id}/dates`, { ...dates, expires: day(-2) })).body).toEqual({
      judgedAnew: 1,
      state: 'done',
    })
    expect(await drafts(joint)).toContain('CE-9 expired')
    expect((await ines.post(`${base}/lots/${id}/dates`, { ...dates, expires: day(12) })).body).toEqual({
      judgedAnew: 1,
      state: 'done',
    })
    expect(await drafts(joint)).not.toContain('CE-9 expired')
  })
  it('in quarantine it stops new use; only an engineer takes it out', async () => {
    const joint = await open()
    const id = (await db('lots').where({ lot: 'CE-8' }).first('id')).id
    const set = (client: Client, on: boolean) =>
      client.post(`${base}/lots/${id}/quarantine`, { on, reason: 'Lumps in three tins.' })
    expect((await set(ines, true)).status).toBe(200)
    expect((await set(ines, true)).problem?.code).toBe('wrong-state')
    await use(joint, 'CE-8')
    expect(await drafts(joint)).toContain('in quarantine: Lumps in three tins.')
    expect((await set(ines, false)).status).toBe(403)
    expect((await set(petra, false)).status).toBe(200)
    expect(await drafts(joint)).not.toContain('in quarantine')
  })
  it('a pipe of a quarantined lot is offered for no joint', async () => {
    const id = (await db('lots').where({ lot: 'L2417' }).first('id')).id
    const joint = (await db('joints').where({ number: 'RM-299' }).first('id')).id
    const offered = async () =>
      (
        (await ines.get(`${base}/joints/${joint}/items?place=upstream&search=P0`)).body as { lot: string }[]
      ).map((i) => i.lot)
    expect(await offered()).toContain('L2417')
    await petra.post(`${base}/lots/${id}/quarantine`, { on: true, reason: 'Certificate missing.' })
    expect(await offered()).not.toContain('L2417')
    await petra.post(`${base}/lots/${id}/quarantine`, { on: false, reason: 'Certificate came.' })
  })
})

describe('the yard', () => {
  it('a round with what it found, and the items that lie at a place', async () => {
    const id = uuidv7()
    expect(
      (await ines.post(`${base}/yard`, { id, name: 'Test rack', kind: 'gaskets', min: 20, max: 5 })).problem
        ?.field,
    ).toBe('max')
    expect(
      (await ines.post(`${base}/yard`, { id, name: 'Test rack', kind: 'gaskets', min: 5, max: 20 })).status,
    ).toBe(200)
    expect(
      (await ines.post(`${base}/yard`, { id: uuidv7(), name: 'test rack', kind: 'gaskets' })).problem?.field,
    ).toBe('name')
    expect(
      (
        await ines.post(`${base}/yard/${id}/rounds`, {
          answers: { sun: 'yes', relaxed: 'no', marked: 'yes' },
          temperature: 24,
        })
      ).body,
    ).toMatchObject({ findings: [{ key: 'relaxed' }, { key: 'temperature' }] })
    const delivery = await bring('Y', ['TY-11', 'TY-12'])
    expect((await ines.post(`${base}/deliveries/${delivery}/store`, { place: id })).body).toEqual({
      items: 2,
    })
    expect((await ines.get(`${base}/yard/${id}`)).body).toMatchObject({
      stock: [{ item: 'PE-63-11', count: 2 }],
      rounds: [{ findings: { length: 2 } }],
    })
  })
})

describe('tracing', () => {
  const trace = async (kind: string, value: string, more = '') =>
    (await ines.get(`${base}/trace?kind=${kind}&value=${encodeURIComponent(value)}${more}`)).body as {
      total: number
      joints: { id: string; number: string }[]
      packs: { number: string }[]
      loose: { count: number; free: number }
      made: { kind: string; value: string; label: string }[]
    }
  it('a lot leads to every joint that has a pipe of it, and each of those back to it', async () => {
    const found = await trace('lot', 'L2406')
    const direct: string[] = await db('joints as j')
      .join('items as i', (on) => on.on('i.id', 'j.upstream').orOn('i.id', 'j.downstream'))
      .where('i.lot', 'L2406')
      .distinct()
      .pluck('j.number')
    expect(found.total).toBe(direct.length)
    expect(found.total).toBeGreaterThan(100)
    expect(found.packs.map((p) => p.number)).toContain('TP-01')
    const back = await trace('joint', found.joints[3]!.id)
    expect(back.made.map((m) => `${m.kind} ${m.label}`)).toEqual(
      expect.arrayContaining(['lot L2406', 'crew Crew North']),
    )
  })
  it.each(['delivery', 'item', 'instrument', 'person', 'crew', 'procedure'])(
    'from a %s too',
    async (kind) => {
      const { value } = await db('uses').where({ kind }).first('value')
      const direct = Number((await db('uses').where({ kind, value }).count('* as n'))[0]!.n)
      expect((await trace(kind, value)).total).toBe(direct)
    },
  )
  it('from an instrument only since its last good check', async () => {
    const id = (await db('instruments').where({ name: 'Calliper C-2' }).first('id')).id
    const all = await trace('instrument', id)
    const since = Date.now() - 5 * 86_400_000
    const late: string[] = await db('entries')
      .where({ instrument: id, subject_type: 'joint' })
      .where('recorded_at', '>=', new Date(since))
      .distinct()
      .pluck('subject')
    const some = await trace('instrument', id, `&since=${since}`)
    expect(some.total).toBe(late.length)
    expect(some.total).toBeLessThan(all.total)
  })
  it('what nobody knows is not there; a crew lead may not ask', async () => {
    expect((await ines.get(`${base}/trace?kind=lot&value=NO-SUCH`)).status).toBe(404)
    expect((await ines.get(`${base}/trace?kind=wish&value=x`)).status).toBe(422)
    expect((await tam.get(`${base}/trace?kind=lot&value=L2406`)).status).toBe(403)
  })
  it('quarantines all that a lot touches: stock at once, a report for each joint, nothing twice', async () => {
    const found = await trace('lot', 'L2411')
    const joints = found.joints.slice(0, 3).map((j) => ({ joint: j.id, ncr: uuidv7() }))
    const before = await many('ncrs')
    const order = {
      origin: { kind: 'lot', value: 'L2411', since: null },
      reason: 'Wall too thin by the maker’s own report.',
      joints,
      stock: true,
    }
    expect((await tam.post(`${base}/trace/quarantine`, order)).status).toBe(403)
    expect(
      (
        await ines.post(`${base}/trace/quarantine`, {
          ...order,
          joints: [{ joint: (await db('joints').where({ number: 'GS-01' }).first('id')).id, ncr: uuidv7() }],
        })
      ).problem?.code,
    ).toBe('not-touched')
    expect((await ines.post(`${base}/trace/quarantine`, order)).body).toEqual({
      raised: 3,
      items: found.loose.free,
    })
    expect((await ines.post(`${base}/trace/quarantine`, order)).body).toEqual({ raised: 3, items: 0 })
    expect(await many('ncrs')).toBe(before + 3)
    expect((await trace('lot', 'L2411')).loose.free).toBe(0)
    expect(await db('lots').where({ lot: 'L2411' }).first('reason')).toEqual({
      reason: 'Wall too thin by the maker’s own report.',
    })
    expect(await db('ncrs').where({ id: joints[0]!.ncr }).first('reading')).toMatchObject({
      reading: expect.stringContaining('lot L2411'),
    })
  })
})

it('the record is whole after all of it', async () => expect(await whole()).toEqual([[], []]), 60_000)
