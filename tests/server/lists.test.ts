import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import { planLists, type ListKey } from '../../core/plan/lists/registry'
import { demoPassword, demoPeople } from '../../demo/people'
import { base, Client, signedIn } from './client'
import { asOwner } from './connect'

/** Lists of the setup over HTTP: what goes out of one project comes into another, and what is refused. */
const COPY = 'heather-bank'
let db: Knex
let admin: Client
let petra: Client
let copy: string
beforeAll(async () => {
  db = asOwner(inject('data'))
  ;[admin, petra] = (await signedIn(inject('address'), 'admin', 'petra')) as [Client, Client]
  copy = uuidv7()
  const founded = await admin.post('projects', {
    ...{ id: copy, key: COPY, name: 'Heather Bank', zone: 'Europe/Dublin', rule: 'guarded' },
    ...{ units: 'metric', codes: '', title: '' },
  })
  expect(founded.status).toBe(200)
  // Procedures come with the template of a project; here they are there already.
  const from = (await db('projects').where({ project_key: 'skerry-head' }).first('id')).id
  for (const row of await db('procedures').where({ project: from }))
    await db('procedures').insert({ ...row, id: uuidv7(), project: copy })
  // The administrator of a new project is no engineer; whoever is both plans.
  await db('memberships').insert({ project: copy, person: await personOf('admin'), role: 'engineer' })
})
afterAll(async () => {
  // Whoever came along leaves again: other tests know who is on how many projects.
  await db('memberships').where({ project: copy }).delete()
  // Nor do they find a second joint of a system, or its procedure.
  for (const table of ['packs', 'reaches', 'joints', 'structures', 'procedures'])
    await db(table).where({ project: copy }).delete()
  await db.destroy()
})
const personOf = async (signIn: string) =>
  (await db('people').where({ sign_in: signIn }).first('id')).id as string
const textOf = async (client: Client, path: string) => {
  const cookie = (client as unknown as { cookie: string }).cookie
  const reply = await fetch(`${client.address}/api/${path}`, { headers: { cookie } })
  expect(reply.status).toBe(200)
  return reply.text()
}
const file = (text: string) => ({ name: 'list.csv', data: Buffer.from(text).toString('base64') })
const send = (key: ListKey, text: string, project = COPY) =>
  admin.post(`projects/${project}/lists/${key}`, { file: file(text) })
const rowsOf = (text: string) => text.trim().split('\r\n').sort()

const known = new Set(demoPeople.map((p) => p.signIn).filter((name) => name !== 'admin'))
/** A joint or test pack that another test has made beside those of the demo, wherever it may lie. */
const MADE = /(?:^|,)(?:T|PJ)-[\da-f]{6,8}(?:,|$)/
/** What is of the demo; the administrator is on both projects, and other tests add people of their own. */
const ofDemo = (key: ListKey, text: string) =>
  text
    .split('\r\n')
    .filter((row, i) => i === 0 || (key === 'people' ? known.has(row.split(',')[1] ?? '') : !MADE.test(row)))
    .join('\r\n')

describe('what goes out of one project', () => {
  it.each(planLists.map((l) => l.key as ListKey))(
    '%s: comes into an empty one, and goes out of that as the same list',
    async (key) => {
      // Not of the first project’s own tests: those of the demo stand from the beginning.
      const out = await textOf(
        key === 'people' || key === 'crews' ? admin : petraOrAdmin(key),
        `${base}/lists/${key}/file`,
      )
      const wanted = ofDemo(key, out)
      const count = rowsOf(wanted).length - 1
      if (count === 0) return
      const preview = await admin.post(`projects/${COPY}/lists/${key}/preview`, { file: file(wanted) })
      expect(preview.body).toMatchObject({ rows: count, faults: [], faulty: 0 })
      const kept = await send(key, wanted)
      expect(kept.body).toMatchObject({ kept: count })
      const again = await textOf(admin, `projects/${COPY}/lists/${key}/file`)
      expect(rowsOf(ofDemo(key, again))).toEqual(rowsOf(wanted))
    },
    120_000,
  )
})
const petraOrAdmin = (key: ListKey) => (['instruments', 'qualifications'].includes(key) ? admin : petra)

describe('a list', () => {
  it('takes nothing where a cell is wrong, and says which', async () => {
    const text = 'line,name,kind,station\nRM,MH 90,manhole,10\nRM,MH 91,castle,20'
    const reply = await petra.post(`${base}/lists/structures`, { file: file(text) })
    expect(reply.problem).toMatchObject({
      code: 'bad-rows',
      field: 'file',
      details: { rows: [{ row: 3, column: 'kind' }] },
    })
    expect(await db('structures').whereIn('name', ['MH 90', 'MH 91'])).toEqual([])
  })
  it('takes one row of a form, and says what is wrong by its field', async () => {
    const row = { line: 'main', name: 'Valve 7', kind: 'valve', station: '10 m' }
    const line = (await db('alignments').first('line_key')).line_key as string
    const good = { ...row, line }
    expect(
      (await petra.post(`${base}/lists/structures`, { row: { ...good, station: 'there' } })).problem?.field,
    ).toBe('station')
    expect((await petra.post(`${base}/lists/structures`, { row: good })).body).toMatchObject({ kept: 1 })
    expect((await petra.post(`${base}/lists/structures`, { row: good })).problem).toMatchObject({
      code: 'bad-row',
      field: 'name',
      message: 'Valve 7 is there already',
    })
    await db('structures').where({ name: 'Valve 7' }).delete()
  })
  it('is kept by whom it is for: people by an administrator, work by an engineer', async () => {
    expect((await petra.get(`${base}/lists/people`)).problem?.code).toBe('forbidden')
    expect((await petra.post(`${base}/lists/crews`, { row: { name: 'Crew X' } })).problem?.code).toBe(
      'forbidden',
    )
    expect((await petra.post(`${base}/lists/instruments/preview`, { row: {} })).problem?.code).toBe(
      'forbidden',
    )
    expect((await petra.get(`${base}/lists/joints?from=0`)).status).toBe(200)
  })
  it.each([
    ['nothing sent', 'joints', {}, 'file'],
    ['a list that there is not', 'castles', { row: {} }, 'list'],
    ['a list of an inherited name', 'constructor', { row: {} }, 'list'],
    ['a cell that is no text', 'crews', { row: { name: 1 } }, 'row'],
    ['an empty file', 'crews', { file: file('name\n') }, 'file'],
  ])('refuses %s', async (_what, key, body, field) => {
    expect((await admin.post(`${base}/lists/${key}`, body)).problem?.field).toBe(field)
  })
  it('of people gives each newcomer a link, and changes nobody who is there', async () => {
    const text =
      'name,sign-in,roles,crew\nTwite Example,twite,inspector,\nRedpoll Example,redpoll,witness; engineer,'
    const reply = await send('people', text)
    const { links } = reply.body as { links: { name: string; token: string }[] }
    expect(links.map((l) => l.name)).toEqual(['Twite Example', 'Redpoll Example'])
    const chosen = await new Client(inject('address')).post('links/choose', {
      token: links[0]!.token,
      password: demoPassword,
      pin: '7391',
    })
    expect(chosen.status).toBe(200)
    expect((await send('people', text)).problem?.code).toBe('bad-rows')
  })
  it('is read page by page', async () => {
    const first = (await admin.get(`projects/${COPY}/lists/joints?from=0`)).body as {
      total: number
      rows: object[]
    }
    const next = (await admin.get(`projects/${COPY}/lists/joints?from=200`)).body as { rows: object[] }
    expect(first.total).toBeGreaterThan(first.rows.length)
    expect(first.rows).toHaveLength(200)
    expect(next.rows[0]).not.toEqual(first.rows[0])
  })
})

describe('what is put right', () => {
  const correct = (who: Client, key: string, row: object, reason = 'the label says otherwise') =>
    who.post(`projects/${COPY}/lists/${key}/correct`, { row, reason })
  const article = async () => {
    const { rows } = (await admin.get(`projects/${COPY}/lists/articles?from=0`)).body as {
      rows: Record<string, string | null>[]
    }
    return Object.fromEntries(Object.entries(rows[0]!).map(([k, v]) => [k, v === null ? '' : String(v)]))
  }
  it('an article, with the reason; a joint that is open keeps what it pinned', async () => {
    const before = await article()
    const pinned = await db('joints').where({ project: copy }).orderBy('id').select('id', 'facts')
    expect((await correct(admin, 'articles', { ...before, title: 'Pipe of another class' })).status).toBe(200)
    const after = await article()
    expect(after).toEqual({ ...before, title: 'Pipe of another class' })
    expect(await db('joints').where({ project: copy }).orderBy('id').select('id', 'facts')).toEqual(pinned)
    const [note] = await db('entries').where({ project: copy }).orderBy('feed', 'desc').limit(1)
    expect(JSON.parse(note.payload)).toMatchObject({
      ...{ what: 'article', item: before.item, reason: 'the label says otherwise' },
      ...{ before: { title: before.title }, after: { title: 'Pipe of another class' } },
    })
  })
  it.each<[string, string, (row: object) => object, string]>([
    ['an article that is not there', 'articles', (row) => ({ ...row, item: 'NONE-1' }), 'item'],
    ['a cell that is wrong', 'articles', (row) => ({ ...row, mass: '0' }), 'mass'],
    ['a list whose rows are not changed so', 'crews', () => ({ name: 'Crew' }), 'list'],
  ])('refuses %s', async (_what, key, row, field) => {
    const before = await article()
    expect((await correct(admin, key, row(before))).problem?.field).toBe(field)
    expect(await article()).toEqual(before)
  })
  it('is not changed without a reason', async () => {
    const before = await article()
    expect((await correct(admin, 'articles', { ...before, title: 'Other' }, ' ')).problem?.field).toBe(
      'reason',
    )
    expect(await article()).toEqual(before)
  })
})

describe('instruments by file', () => {
  const header =
    'name,kind,quantity,min,max,resolution,uncertainty,calibrated-from,calibrated-until,certificate'
  const row = (from: string, until: string, certificate: string) =>
    `Tape 91,tape,length,0 mm,5 m,1 mm,1 mm,${from},${until},${certificate}`
  it('one comes with all its calibrations, and with a further one later; each is in its record', async () => {
    const text = [header, row('2024-01-01', '2024-12-31', 'A1'), row('2025-01-01', '2025-12-31', 'A2')]
    expect((await send('instruments', text.join('\n'))).body).toMatchObject({ kept: 2 })
    expect((await send('instruments', text.join('\n'))).problem?.code).toBe('bad-rows')
    const more = [header, row('2026-01-01', '2026-12-31', 'A3')].join('\n')
    expect((await send('instruments', more)).body).toMatchObject({ kept: 1 })
    const { id } = await db('instruments').where({ project: copy, name: 'Tape 91' }).first('id')
    const kinds = await db('entries').where({ subject: id }).orderBy('seq').pluck('kind')
    expect(kinds).toEqual(['register', 'calibration', 'calibration', 'calibration'])
    const out = await textOf(admin, `projects/${COPY}/lists/instruments/file`)
    expect(rowsOf(out).filter((r) => r.startsWith('Tape 91'))).toHaveLength(3)
  })
})

describe('what is planned', () => {
  const off = (key: ListKey, names: string[], reason = 'planned twice') =>
    admin.post(`projects/${COPY}/lists/${key}/remove`, { names, reason })
  const there = async (table: string, column: string, name: string) =>
    (await db(table).where({ project: copy, [column]: name })).length === 1
  it('goes off the plan again, with the reason, until work hangs on it', async () => {
    const { number } = await db('joints').where({ project: copy }).first('number')
    expect((await off('joints', [number])).body).toEqual({ taken: 1 })
    expect(await there('joints', 'number', number)).toBe(false)
    const [note] = await db('entries').where({ project: copy }).orderBy('feed', 'desc').limit(1)
    expect(JSON.parse(note.payload)).toMatchObject({
      what: 'taken-off',
      reason: 'planned twice',
      rows: [{ number }],
    })
  })
  it('stays, all of it, where one of it is not free', async () => {
    const [one, two] = await db('joints').where({ project: copy }).limit(2).select('id', 'number')
    await db('joints').where({ id: two.id }).update({ opened_at: new Date() })
    expect((await off('joints', [one.number, two.number])).problem).toMatchObject({
      code: 'in-use',
      field: 'names',
    })
    expect(await there('joints', 'number', one.number)).toBe(true)
    await db('joints').where({ id: two.id }).update({ opened_at: null })
  })
  it.each([
    ['reaches', 'name'],
    ['packs', 'number'],
  ] as const)('%s go off the plan too', async (table, column) => {
    const row = await db(table).where({ project: copy }).first(column)
    expect((await off(table, [row[column]])).body).toEqual({ taken: 1 })
    expect(await there(table, column, row[column])).toBe(false)
  })
  it('people, lines and articles are not taken off this way', async () => {
    for (const key of ['people', 'lines', 'articles'] as const)
      expect((await off(key, ['x'])).problem?.code).toBe('fixed')
  })
  it('gives a reason', async () => {
    expect((await off('joints', ['x'], ' ')).problem?.field).toBe('reason')
  })
})

describe('the template of a project', () => {
  const FRESH = 'gorse-moor'
  const take = (project: string, template: unknown) =>
    admin.post(`projects/${project}/template`, { file: file(JSON.stringify(template)) })
  let template: { procedures: string[]; articles: string }
  let fresh: string
  beforeAll(async () => {
    template = JSON.parse(await textOf(petra, `${base}/template`))
    fresh = uuidv7()
    await admin.post('projects', {
      ...{ id: fresh, key: FRESH, name: 'Gorse Moor', zone: 'Europe/Dublin', rule: 'guarded' },
      ...{ units: 'metric', codes: '', title: '' },
    })
    await db('memberships').insert({ project: fresh, person: await personOf('admin'), role: 'engineer' })
  })
  afterAll(() => db('memberships').where({ project: fresh }).delete())

  it('holds procedures and articles, and nothing of the record', async () => {
    expect(template.procedures.length).toBeGreaterThan(15)
    const text = JSON.stringify(template)
    for (const { name } of await db('people').select('name')) expect(text).not.toContain(name)
    for (const { serial } of await db('items').limit(20).select('serial')) expect(text).not.toContain(serial)
  })
  it.each([
    ['no JSON', 'x'],
    ['another JSON', { format: 'other' }],
    ['a newer one', { format: 'vet-line-template', version: 2 }],
    ['parts missing', { format: 'vet-line-template', version: 1, of: 'x' }],
    ['a point that there is not', () => ({ ...template, plan: { a: { b: 'X' } } })],
    [
      'an article that is wrong',
      () => ({ ...template, articles: 'item,title,kind,pressure-class\nA,B,castle,C' }),
    ],
    [
      'a procedure that is none',
      () => ({ ...template, procedures: [...template.procedures.slice(0, 2), 'key: x'] }),
    ],
  ] as [string, unknown][])('with %s is refused, and nothing of it kept', async (_what, wrong) => {
    const reply = await take(FRESH, typeof wrong === 'function' ? wrong() : wrong)
    expect(reply.status).toBe(422)
    expect(await db('procedures').where({ project: fresh })).toEqual([])
    expect(await db('catalogue').where({ project: fresh })).toEqual([])
  })
  it('brings procedures as drafts, and articles; a second time nothing is there twice', async () => {
    const first = (await take(FRESH, template)).body as { procedures: number; articles: number }
    expect(first).toMatchObject({ procedures: template.procedures.length, passedOver: 0 })
    expect(await db('procedures').where({ project: fresh }).distinct('state').pluck('state')).toEqual([
      'draft',
    ])
    expect(await textOf(admin, `projects/${FRESH}/lists/articles/file`)).toContain('PE-315-11')
    expect((await take(FRESH, template)).body).toEqual({
      procedures: 0,
      articles: 0,
      passedOver: first.procedures + first.articles,
    })
  }, 60_000)
})
