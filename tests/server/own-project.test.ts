import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import { findProject } from '../../server/db/projects'
import { verifyRecord } from '../../server/services/verify'
import { base, signedIn, type Client } from './client'
import { asOwner } from './connect'
import { verified } from './verified'

/** A project of one's own over HTTP: who comes in, what is planned, and what is refused. */
let db: Knex
let admin: Client
let petra: Client
beforeAll(async () => {
  db = asOwner(inject('data'))
  ;[admin, petra] = (await signedIn(inject('address'), 'admin', 'petra')) as [Client, Client]
})
afterAll(() => db.destroy())

describe('a new project', () => {
  const typed = { name: 'Gull Skerry', zone: 'Europe/Oslo', units: 'us', rule: 'guarded' }
  it('is begun by who keeps the installation, who administers it', async () => {
    expect((await petra.post('projects', { id: uuidv7(), key: 'gull', ...typed })).problem?.code).toBe(
      'forbidden',
    )
    expect((await admin.post('projects', { id: uuidv7(), key: 'gull-skerry', ...typed })).status).toBe(200)
    const session = (await admin.get('session')).body as { projects: { key: string; roles: string[] }[] }
    expect(session.projects.find((p) => p.key === 'gull-skerry')?.roles).toEqual(['administrator'])
    expect((await petra.get('projects/gull-skerry/overview')).status).toBe(404)
  })
  it.each([
    ['a key that is there', { key: 'gull-skerry' }, 'key'],
    ['a key of odd letters', { key: 'Gull Skerry' }, 'key'],
    ['a zone that nobody keeps', { key: 'other', zone: 'Moon/Sea' }, 'zone'],
  ] as [string, object, string][])('%s is refused by its field', async (_, more, field) => {
    const reply = await admin.post('projects', { id: uuidv7(), key: 'x-y', ...typed, ...more })
    expect([reply.status >= 400 && reply.status < 500, reply.problem?.field]).toEqual([true, field])
  })
  it('changes its name with a reason', async () => {
    const change = { name: 'Gull Rock', zone: 'Europe/Oslo', units: 'metric', reason: 'the chart says so' }
    expect((await admin.post('projects/gull-skerry/settings/project', change)).status).toBe(200)
    expect((await findProject(db, 'gull-skerry'))?.name).toBe('Gull Rock')
    const gull = (await findProject(db, 'gull-skerry'))!
    expect(gull.settings).toMatchObject({ rule: 'guarded', units: 'metric' })
    const report = await verifyRecord(db, [gull])
    expect([report.faults, report.stale]).toEqual([[], []])
  })
})

const whole = {
  name: 'Fell',
  material: 'concrete',
  from: '0',
  to: '60000 m',
  designPressure: '',
  profile: [
    { station: 0, elevation: 40 },
    { station: 60_000, elevation: 4 },
  ],
}
const file = (name: string, text: string) => ({ name, data: Buffer.from(text).toString('base64') })

describe('a line', () => {
  const id = uuidv7()
  it('is added, once by its key', async () => {
    expect((await petra.post(`${base}/lines`, { id, key: 'FL', ...whole })).status).toBe(200)
    expect((await petra.post(`${base}/lines`, { id: uuidv7(), key: 'fl', ...whole })).problem).toMatchObject({
      code: 'duplicate',
      field: 'key',
    })
  })
  it('without a profile has none: no figure is made up for it', async () => {
    const level = uuidv7()
    await petra.post(`${base}/lines`, { id: level, key: 'NP', ...whole, profile: [] })
    expect(JSON.parse((await db('alignments').where({ id: level }).first('profile')).profile)).toEqual([])
    await db('alignments').where({ id: level }).delete()
  })
  it.each([
    [
      'a station that falls back',
      {
        profile: [
          { station: 5, elevation: 1 },
          { station: 4, elevation: 1 },
        ],
      },
      'profile',
    ],
    ['an end before its beginning', { to: '-1' }, 'to'],
    ['a length in bar', { to: '3 bar' }, 'to'],
    ['a key that no number bears', { key: '=x' }, 'key'],
  ])('with %s is refused by its field', async (_, more, field) => {
    const reply = await petra.post(`${base}/lines`, { id: uuidv7(), key: 'BAD', ...whole, ...more })
    expect([reply.status >= 400 && reply.status < 500, reply.problem?.field]).toEqual([true, field])
  })
  it('is longer when it was laid on, and never shorter than what is planned on it', async () => {
    const main = await db('alignments').where({ name: 'Rising main' }).first()
    const typed = {
      key: main.line_key,
      name: main.name,
      material: main.material,
      from: '0',
      profile: JSON.parse(main.profile),
      reason: 'laid on',
    }
    const shorter = await petra.post(`${base}/lines/${main.id}`, { ...typed, to: '100 m' })
    expect(shorter.problem).toMatchObject({ code: 'in-use', field: 'to' })
    // Other tests may have laid joints beyond its end, out of the way of the demo's.
    const [planned] = await db('joints').where({ alignment: main.id }).max({ far: 'station' })
    const to = Math.max(main.to_station as number, planned!.far as number)
    const longer = await petra.post(`${base}/lines/${main.id}`, { ...typed, to: `${to + 50}` })
    expect([longer.status, longer.problem]).toEqual([200, null])
    const after = await db('alignments').where({ id: main.id }).first()
    expect(after.profile).toBe(main.profile)
    expect([after.to_station, JSON.parse(after.facts)]).toEqual([to + 50, JSON.parse(main.facts)])
    await db('alignments').where({ id: main.id }).update({ to_station: main.to_station })
  })
  it('a file is read and nothing is kept', async () => {
    const before = Number((await db('alignments').count('* as n'))[0]!.n)
    const points = Array.from({ length: 20_000 }, (_v, i) => [i * 1e-5, 50, 10])
    const long = file('x.geojson', JSON.stringify({ type: 'LineString', coordinates: points }))
    const read = await petra.post(`${base}/lines/read`, { file: long })
    expect((read.body as { path: unknown[] }).path).toHaveLength(20_000)
    for (const [bad, code] of [
      [file('x.geojson', '{'), 'bad-file'],
      [file('x.geojson', '{"type":"LineString","coordinates":[[54,120],[55,120]]}'), 'wrong-order'],
      [file('x.csv', 'station,invert\n0,1\n-5,2'), 'bad-rows'],
      [{ name: 'x.csv', data: 'AAECAw==' }, 'bad-file'],
    ] as const)
      expect((await petra.post(`${base}/lines/read`, { file: bad })).problem?.code).toBe(code)
    expect(Number((await db('alignments').count('* as n'))[0]!.n)).toBe(before)
    await db('alignments').where({ id }).delete()
  })
})

describe('joints of a line', () => {
  let line: string
  let crew: string
  const typed = (more: object = {}) => ({
    line,
    crew,
    system: 'rc-confined-ring',
    from: '0',
    to: '100 m',
    pipeLength: '2.5 m',
    pattern: 'PL-{n:4}',
    start: 1,
    ...more,
  })
  const own = 'projects/gull-skerry'
  let north: string
  beforeAll(async () => {
    const person = (await db('people').where({ sign_in: 'admin' }).first('id')).id
    const both = ['administrator', 'engineer'].map((role) => ({ role, crew: null }))
    await admin.post(`${own}/people/${person}/roles`, { roles: both, reason: 'writes procedures too' })
    await admin.signIn('admin')
    ;[line, crew, north] = [uuidv7(), uuidv7(), uuidv7()]
    await admin.post(`${own}/crews`, { id: crew, name: 'Crew Dunes' })
    await admin.post(`${own}/crews`, { id: north, name: 'Crew North' })
    expect((await admin.post(`${own}/samples/adopt`, { keys: ['rc-confined-ring'] })).body).toEqual({
      adopted: 1,
    })
    expect((await admin.post(`${own}/lines`, { id: line, key: 'FL', ...whole })).status).toBe(200)
  })
  const count = async () => Number((await db('joints').where({ alignment: line }).count('* as n'))[0]!.n)

  it('are looked at first, and then planned', async () => {
    const preview = await admin.post(`${own}/plan/joints/preview`, typed())
    expect((preview.body as { joints: unknown[] }).joints).toHaveLength(39)
    expect(await count()).toBe(0)
    expect((await admin.post(`${own}/plan/joints`, typed())).body).toEqual({ planned: 39 })
    expect(await count()).toBe(39)
  })
  it('a number is given once', async () => {
    expect((await admin.post(`${own}/plan/joints`, typed())).problem).toMatchObject({
      code: 'duplicate',
      field: 'start',
    })
    expect(await count()).toBe(39)
  })
  it('for no procedure that the project has not', async () => {
    const reply = await admin.post(`${own}/plan/joints`, typed({ system: 'glue', pattern: 'GL-{n}' }))
    expect(reply.problem).toMatchObject({ code: 'not-found', field: 'system' })
  })
  it('its line goes out as GeoJSON with its course, and comes in again as it was', async () => {
    const course = [[-2.5, 54.6, 100], [-2.49, 54.61, 98], [-2.47, 54.62, 91]] // prettier-ignore
    const sent = file('x.geojson', JSON.stringify({ type: 'LineString', coordinates: course }))
    const { path, profile } = (await admin.post(`${own}/lines/read`, { file: sent })).body as {
      path: { station: number }[]
      profile: object[]
    }
    const to = `${path.at(-1)!.station} m`
    const typed = { key: 'GEO', name: 'Over the moor', material: 'concrete', from: '0', to, path, profile }
    expect((await admin.post(`${own}/lines`, { id: uuidv7(), ...typed })).status).toBe(200)
    const cookie = (admin as unknown as { cookie: string }).cookie
    const text = await (
      await fetch(`${admin.address}/api/${own}/lines/geojson`, { headers: { cookie } })
    ).text()
    expect((await admin.post(`${own}/lines/read`, { file: file('y.geojson', text) })).body).toMatchObject({
      ...{ kind: 'alignment', name: 'Over the moor', path, profile },
    })
  })
  it('a schedule of twenty thousand rows is looked at in five seconds, and planned in ten', async () => {
    const rows = Array.from(
      { length: 20_000 },
      (_v, i) => `SC-${i},${100 + i * 2.5},rc-confined-ring,crew dunes`,
    )
    const body = { line, file: file('joints.csv', ['number,station,system,crew', ...rows].join('\n')) }
    let start = performance.now()
    const preview = await admin.post(`${own}/plan/schedule/preview`, body)
    expect(preview.body).toMatchObject({ joints: 20_000, faulty: 0 })
    expect(performance.now() - start).toBeLessThan(5000)
    start = performance.now()
    expect((await admin.post(`${own}/plan/schedule`, body)).body).toEqual({ planned: 20_000 })
    expect(performance.now() - start).toBeLessThan(10_000)
    expect(await count()).toBe(20_039)
  }, 60_000)
  it('one wrong row, and nothing of a schedule is planned', async () => {
    const before = await count()
    const text = [
      'number,station,system,crew',
      'OK-1,1,rc-confined-ring,Crew Dunes',
      '=2+2,2,glue,Crew Moon',
    ].join('\n')
    const body = { line, file: file('joints.csv', text) }
    const preview = (await admin.post(`${own}/plan/schedule/preview`, body)).body as {
      faults: { row: number; column: string }[]
    }
    expect(preview.faults.map((f) => [f.row, f.column])).toEqual([
      [3, 'number'],
      [3, 'system'],
      [3, 'crew'],
    ])
    expect((await admin.post(`${own}/plan/schedule`, body)).problem?.code).toBe('bad-rows')
    expect(await count()).toBe(before)
  })
  it('goes to another crew with its reason, which the record keeps', async () => {
    const joint = await db('joints').where({ number: 'PL-0001' }).first('id')
    const give = (to: string, reason = 'north is free') =>
      admin.post(`${own}/joints/${joint.id}/crew`, { crew: to, reason })
    expect((await give(crew)).problem?.code).toBe('same')
    expect((await give(north, ' ')).problem?.field).toBe('reason')
    expect((await give(north)).status).toBe(200)
    expect((await db('joints').where({ id: joint.id }).first('crew')).crew).toBe(north)
    const { id: project } = (await findProject(db, 'gull-skerry'))!
    const [last] = await db('entries').where({ project, kind: 'setting' }).orderBy('feed', 'desc').limit(1)
    expect(JSON.parse(last.payload)).toMatchObject({ what: 'joint-crew', before: crew, after: north })
  })
  it('the record of the project holds', async () => {
    const report = await verifyRecord(db, [(await findProject(db, 'gull-skerry'))!])
    expect([report.faults.slice(0, 3), report.stale.slice(0, 3)]).toEqual([[], []])
  })
  it('the plan check says what misses still', async () => {
    const { findings } = (await admin.get(`${own}/plan`)).body as { findings: { code: string }[] }
    expect(findings.map((f) => f.code)).toEqual(
      expect.arrayContaining(['not-issued', 'no-lead', 'no-inspector']),
    )
  })
})

describe('reaches of a line', () => {
  const typed = async (more: object = {}) => ({
    line: (await db('alignments').where({ line_key: 'SO' }).first('id')).id,
    crew: (await db('crews').where({ name: 'Crew Dunes' }).first('id')).id,
    system: 'embed-flexible',
    from: '0',
    to: '60 m',
    every: '30 m',
    pattern: 'SO stretch {n:2}',
    start: 1,
    facts: {},
    ...more,
  })
  it('are looked at, with the facts that are typed for them', async () => {
    const reply = (await petra.post(`${base}/plan/reaches/preview`, await typed())).body as {
      reaches: { from: number; to: number }[]
      facts: { key: string; optional?: boolean; example?: string }[]
    }
    expect(reply.reaches.map((r) => [r.from, r.to])).toEqual([
      [0, 30],
      [30, 60],
    ])
    const facts = Object.fromEntries(reply.facts.filter((f) => !f.optional).map((f) => [f.key, f.example]))
    expect((await petra.post(`${base}/plan/reaches`, await typed())).problem?.code).toBe('missing')
    expect((await petra.post(`${base}/plan/reaches`, await typed({ facts }))).body).toEqual({ planned: 2 })
    const over = await petra.post(
      `${base}/plan/reaches`,
      await typed({ facts, from: '45 m', pattern: 'X {n}' }),
    )
    expect(over.problem).toMatchObject({ code: 'overlap', field: 'from' })
    const report = await verified(db)
    expect([report.faults.slice(0, 3), report.stale.slice(0, 3)]).toEqual([[], []])
  })
  it.each([
    ['a procedure for joints', { system: 'rc-sealant' }, 'system'],
    ['a procedure that is not issued', { system: 'glue' }, 'system'],
    ['a crew of nowhere', { crew: uuidv7() }, 'crew'],
  ])('%s is refused by its field', async (_, more, field) => {
    expect((await petra.post(`${base}/plan/reaches/preview`, await typed(more))).problem?.field).toBe(field)
  })
})

describe('samples and the plan check', () => {
  it('what ships is listed, and adopted as a draft, once', async () => {
    const list = (await petra.get(`${base}/samples`)).body as { key: string; adopted: boolean }[]
    expect(list.length).toBeGreaterThan(20)
    expect(list.filter((s) => !s.adopted).map((s) => s.key)).toEqual([])
    expect((await petra.post(`${base}/samples/adopt`, { keys: ['rc-sealant'] })).body).toEqual({ adopted: 0 })
    expect((await petra.post(`${base}/samples/adopt`, { keys: ['glue'] })).problem?.field).toBe('keys')
  })
  it('the demo’s crews can work', async () => {
    const { findings } = (await petra.get(`${base}/plan`)).body as {
      findings: { needed: boolean; sentence: string }[]
    }
    expect(findings.filter((f) => f.needed)).toEqual([])
  })
})
