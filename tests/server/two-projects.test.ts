import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import { access, type RouteKey, type Who } from '../../server/http/access'
import { findProject } from '../../server/db/projects'
import { verifyRecord } from '../../server/services/verify'
import { freshJoint } from './fresh-joint'
import { REJECTED, reject } from './rejected'
import { base, Client, signedIn } from './client'
import { asOwner } from './connect'
import { laySecondProject, MARK, secondKey } from './second-project'

/** A second project with data in every table: nobody of the first one sees or moves any of it. */
let db: Knex
let other: Record<string, string>
let own: Record<string, string>
let people: Client[]
const names = ['ines', 'tam', 'petra', 'hale', 'admin']

beforeAll(async () => {
  db = asOwner(inject('data'))
  other = await laySecondProject(db)
  people = await signedIn(inject('address'), ...names)
  const project = (await db('projects').where({ project_key: 'skerry-head' }).first('id')).id
  const first = async (table: string, where: object = {}) =>
    (
      await db(table)
        .where({ project, ...where })
        .first('id')
    ).id as string
  own = {
    joint: await first('joints', { number: 'RM-239' }),
    reach: await first('reaches'),
    pack: await first('packs'),
    delivery: await first('deliveries'),
    order: await first('orders'),
    procedure: await first('procedures', { state: 'issued' }),
    lot: await first('lots'),
    place: await first('places'),
    item: await first('items'),
    instrument: await first('instruments'),
    ncr: await first('ncrs'),
  }
})
afterAll(() => db.destroy())

const chains = async () =>
  db('chains')
    .where({ project: other.project })
    .select('subject', 'subject_type', 'seq', 'hash')
    .orderBy('subject')
const projectRoutes = (Object.entries(access) as [RouteKey, Who][]).filter(
  ([key]) => key.includes(':project') && !key.endsWith('/feed'),
)
/** Every place of a path filled with the other project's id of that kind. */
const pathTo = (key: string) =>
  key
    .split(' ')[1]!
    .replace('/api/projects/:project', base)
    .replace(/:(\w+)/g, (_all, name: string) => other[name] ?? uuidv7())

const plan = () => ({
  line: other.line,
  system: 'pe-electrofusion-socket',
  crew: other.crew,
  from: '0',
  to: '50',
  pipeLength: '10',
  pattern: 'X-{n}',
  start: 1,
})

/** Bodies that are right but for the ids in them. */
const bodyOf = (key: string): object => {
  const secret = '2468'
  const at = new Date().toISOString()
  const bodies: Record<string, object> = {
    '/open': { upstream: other.item, downstream: other.item, fitting: other.item },
    '/joints/:joint/entries': {
      entries: [{ id: uuidv7(), kind: 'remark', step: 'washed', payload: { text: 'x' }, recordedAt: at }],
    },
    '/reaches/:reach/entries': {
      entries: [{ id: uuidv7(), kind: 'remark', payload: { text: 'x' }, recordedAt: at }],
    },
    '/release': { id: uuidv7(), step: 'before-fusion', kind: 'release', secret },
    '/ncrs': { id: uuidv7(), subjectType: 'joint', subject: other.joint, step: REJECTED },
    '/disposition': { disposition: 'rework', reason: 'x', secret },
    '/rework': { text: 'x' },
    '/verification': { accepted: true, text: 'x', secret },
    '/yard/:place/rounds': { answers: {} },
    '/store': { place: other.place, item: null },
    '/lots/:lot/dates': { made: null, expires: null, opened: null },
    '/quarantine': { on: true, reason: 'x' },
    '/trace/quarantine': {
      kind: 'lot',
      value: `${MARK} lot`,
      reason: 'x',
      joints: [{ joint: other.joint, ncr: uuidv7() }],
      stock: true,
    },
    '/sample': { item: 'GH-PIPE' },
    '/calibrations': { from: '2026-01-01', until: '2026-02-01', certificate: 'x' },
    '/review': { accepted: true, reason: '', secret },
    '/issue': { secret },
    '/source': { source: 'x', version: 1 },
    '/log': { csv: 'x' },
    '/confirm': { row: 'restraint' },
    '/witness': { id: uuidv7(), kind: 'reply', payload: { accepts: true } },
    '/sign': { secret, image: 'data:image/png;base64,AAAA' },
    '/shift/revoke': { entry: other.joint, reason: 'x' },
    '/roles': { roles: [{ role: 'inspector', crew: null }], reason: 'x' },
    '/active': { active: false, reason: 'x' },
    '/crews/:crew': { name: 'x', reason: 'x' },
    '/lines/:line': { key: 'X', name: 'x', material: 'x', from: '0', to: '9', reason: 'x' },
    '/joints/:joint/crew': { crew: other.crew, reason: 'x' },
    '/plan/joints': plan(),
    '/plan/joints/preview': plan(),
    '/plan/reaches': { ...plan(), pipeLength: undefined, every: '10', facts: {} },
    '/plan/schedule': { line: other.line, file: { name: 'x.csv', data: 'YQ==' } },
    '/plan/schedule/preview': { line: other.line, file: { name: 'x.csv', data: 'YQ==' } },
    '/orders/preview': { file: { name: 'x.csv', data: 'YQ==' } },
  }
  const end = Object.keys(bodies)
    .filter((e) => key.endsWith(e))
    .sort((a, b) => b.length - a.length)[0]
  return end ? bodies[end]! : {}
}

describe('a second project with data in every table', () => {
  it('has some in every table that projects share', async () => {
    const [tables] = (await db.raw(
      "SELECT TABLE_NAME AS t FROM information_schema.COLUMNS WHERE TABLE_SCHEMA = DATABASE() AND COLUMN_NAME = 'project'",
    )) as [{ t: string }[]]
    const empty = []
    for (const { t } of tables)
      if (Number((await db(t).where({ project: other.project }).count('* as n'))[0]!.n) === 0) empty.push(t)
    // Remembered headings come with an import only.
    expect(empty).toEqual(['column_maps'])
  })

  it.each(projectRoutes)('%s tells nothing of it and moves nothing in it', async (key) => {
    const before = await chains()
    for (const client of people) {
      const method = key.split(' ')[0]!
      const reply = await client.call(method, pathTo(key), method === 'GET' ? undefined : bodyOf(key))
      expect(JSON.stringify(reply.body) ?? '').not.toContain(MARK)
      expect(reply.status).toBeLessThan(500)
      if (/:project\/.*:/.test(key)) expect(reply.status, key).not.toBe(200)
    }
    expect(await chains()).toEqual(before)
  })

  it.each(projectRoutes.filter(([key]) => key.startsWith('GET')))(
    '%s of the other project is not there for anybody of this one',
    async (key) => {
      for (const client of people)
        expect((await client.get(pathTo(key).replace(base, `projects/${secondKey}`))).status).toBe(404)
    },
  )

  it.each(['joint', 'reach', 'pack', 'delivery', 'item', 'lot', 'instrument', 'person', 'crew', 'procedure'])(
    'a trace from its %s finds nothing',
    async (kind) => {
      const value = kind === 'lot' ? `${MARK} lot` : other[kind]!
      const { status, problem } = await people[0]!.get(
        `${base}/trace?kind=${kind}&value=${encodeURIComponent(value)}`,
      )
      expect(status).toBe(404)
      expect(problem?.message).toMatch(/^There is no such/)
    },
  )

  it('finding by name finds nothing of it', async () => {
    for (const client of people.slice(0, 4))
      expect((await client.get(`${base}/find?text=${MARK}`)).body).toEqual([])
  })

  it('the feed of this project hears nothing of what is recorded there', async () => {
    const abort = new AbortController()
    const cookie = (people[0] as unknown as { cookie: string }).cookie
    const stream = await fetch(`${inject('address')}/api/${base}/feed`, {
      headers: { cookie },
      signal: abort.signal,
    })
    const reader = stream.body!.pipeThrough(new TextDecoderStream()).getReader()
    let text = ''
    while (!text.includes('open')) text += (await reader.read()).value ?? ''
    const gorse = await new Client(inject('address')).signIn('gorse')
    const remark = (step: string) => ({
      entries: [
        {
          id: uuidv7(),
          kind: 'remark',
          step,
          payload: { text: 'heard?' },
          recordedAt: new Date().toISOString(),
        },
      ],
    })
    expect(
      (await gorse.post(`projects/${secondKey}/joints/${other.joint}/entries`, remark('washed'))).status,
    ).toBe(200)
    expect((await people[0]!.post(`${base}/joints/${own.joint}/entries`, remark('washed'))).status).toBe(200)
    while (!text.includes(own.joint!)) text += (await reader.read()).value ?? ''
    abort.abort()
    expect(text).not.toContain(other.joint)
  })
})

/** a joint of the own project with something to report */
let reported: string

/** Routes that create something under an id made by the client: body by id, and who does it. */
const creating: [route: string, who: string, body: (id: string) => object][] = [
  ['ncrs', 'ines', (id) => ({ id, subjectType: 'joint', subject: reported, step: REJECTED })],
  ['procedures', 'petra', (id) => ({ id, source: draftSource })],
  [
    'instruments',
    'admin',
    (id) => ({
      id,
      name: `rule ${id}`,
      kind: 'rule',
      quantity: 'length',
      min: '0 mm',
      max: '1 m',
      resolution: '1 mm',
      uncertainty: '1 mm',
    }),
  ],
  [
    'yard',
    'ines',
    (id) => ({ id, name: `place ${id.slice(-6)}`, kind: 'plastic pipe', min: null, max: null, everyDays: 7 }),
  ],
]
let draftSource = ''
const kinds = [
  'joint',
  'reach',
  'pack',
  'delivery',
  'item',
  'order',
  'procedure',
  'lot',
  'place',
  'instrument',
  'ncr',
]

describe('an id that the client makes', () => {
  beforeAll(async () => {
    const { source } = await db('procedures').where({ id: own.procedure }).first('source')
    draftSource = (source as string).replace(/^revision: .*$/m, 'revision: ZZ')
  })
  const heads = async (id: string) => [
    await db('chains').where({ subject: id }).first(),
    await db('entries').where({ subject: id }).count('* as n').first(),
  ]

  beforeAll(async () => {
    reported = await freshJoint(db, 'RM-236')
    await reject(people[0]!, reported)
  })
  it.each(
    creating.flatMap(([route, who, body]) =>
      kinds.flatMap((kind) =>
        (['own', 'other'] as const).map((whose) => [route, kind, whose, who, body] as const),
      ),
    ),
  )('of %s opens no record of a %s (%s project)', async (route, kind, whose, who, body) => {
    const id = (whose === 'own' ? own : other)[kind]!
    const before = await heads(id)
    const reply = await people[names.indexOf(who)]!.post(`${base}/${route}`, body(id))
    // The same kind in the same project is the same thing sent again, or refused; nothing is added to it.
    if (!(whose === 'own' && route.startsWith(kind) && (kind === 'ncr' || kind === 'procedure')))
      expect([reply.status, reply.problem?.code]).toEqual([409, 'id-taken'])
    expect(JSON.stringify(reply.body)).not.toContain(MARK)
    expect(await heads(id)).toEqual(before)
  })

  it('of an entry that stands elsewhere is taken', async () => {
    const reply = await people[0]!.post(`${base}/joints/${own.joint}/entries`, {
      entries: [
        {
          id: other.entry,
          kind: 'remark',
          step: 'washed',
          payload: { text: 'x' },
          recordedAt: new Date().toISOString(),
        },
      ],
    })
    expect([reply.status, reply.problem?.code]).toEqual([409, 'id-taken'])
  })

  it('a chain takes no entry of another kind or project, whatever the application does', async () => {
    const head = await db('chains').where({ subject: other.joint }).first()
    const row = (more: object) => ({
      id: uuidv7(),
      project: head.project,
      subject_type: 'joint',
      subject: other.joint,
      seq: head.seq + 1,
      prev: head.hash,
      kind: 'remark',
      payload: '{}',
      person: other.person,
      role: 'inspector',
      recorded_at: new Date(),
      received_at: new Date(),
      hash: 'f'.repeat(64),
      ...more,
    })
    const [{ id: skerry }] = await db('projects').where({ project_key: 'skerry-head' }).select('id')
    for (const more of [{ project: skerry }, { subject_type: 'ncr' }, { subject: uuidv7() }])
      await expect(db('entries').insert(row(more))).rejects.toMatchObject({ errno: 31002 })
  })
})

describe('verify', () => {
  const verify = async (key: string) => verifyRecord(db, [(await findProject(db, key))!])
  const own = async () => (await verify('skerry-head')).faults
  it('of one project says nothing of another’s faults', async () => {
    const before = await own()
    await db('joints').where({ id: other.joint }).update({ state: 'accepted' })
    const there = await verify(secondKey)
    expect(there.stale.map((s) => [s.subject, s.field, s.stored])).toContainEqual([
      other.joint,
      'state',
      'accepted',
    ])
    expect(await own()).toEqual(before)
    expect(JSON.stringify(await verify('skerry-head'))).not.toContain(other.joint)
  })
  it('finds a file whose bytes are not its digest', async () => {
    await db('files')
      .where({ id: other.file })
      .update({ bytes: Buffer.from('other bytes') })
    expect((await verify(secondKey)).faults).toContainEqual(
      expect.objectContaining({ subject: other.file, subjectType: 'file' }),
    )
  })
  it('finds a chain whose kind or project was changed, and one that was removed', async () => {
    const raw = async (sql: string, ...values: unknown[]) => {
      await db.raw('SET FOREIGN_KEY_CHECKS = 0')
      await db.raw(sql, values as string[])
      await db.raw('SET FOREIGN_KEY_CHECKS = 1')
    }
    await db.transaction(async (trx) => {
      await trx.raw('SET FOREIGN_KEY_CHECKS = 0')
      await trx('chains').where({ subject: other.reach }).update({ subject_type: 'ncr' })
      await trx.raw('SET FOREIGN_KEY_CHECKS = 1')
    })
    const changed = (await verify(secondKey)).faults
    expect(changed.map((f) => f.subject)).toContain(other.reach)
    await raw("UPDATE chains SET subject_type = 'reach' WHERE subject = ?", other.reach)
    await raw('DELETE FROM chains WHERE subject = ?', other.lot)
    expect((await verify(secondKey)).faults.map((f) => f.subject)).toContain(other.lot)
  })
  it.each([
    ['items', () => ({ state: 'accepted' }), 'item'],
    ['reaches', () => ({ state: 'accepted' }), 'reach'],
    ['packs', () => ({ state: 'signed' }), 'pack'],
    ['lots', () => ({ quarantined_at: new Date() }), 'lot'],
    ['joints', () => ({ state: 'accepted', done: 9 }), 'joint'],
  ])('finds a projection in %s that nobody’s entry stands for', async (table, change, type) => {
    const fresh = uuidv7()
    const [row] = await db(table).where({ id: other[type] }).select()
    const unique = {
      number: `new ${type}`,
      name: `new ${type}`,
      serial: `new ${type}`,
      lot: `new ${type}`,
      procedure_id: null,
      opened_at: null,
    }
    const copy = {
      ...row,
      id: fresh,
      ...Object.fromEntries(
        Object.entries(unique).filter(([k]) => k in row && (k !== 'lot' || table === 'lots')),
      ),
      state: table === 'items' ? 'received' : table === 'packs' ? 'planned' : 'not-started',
    }
    if (table === 'lots') delete (copy as Record<string, unknown>).state
    await db(table).insert(copy)
    expect((await verify(secondKey)).stale.map((s) => s.subject)).not.toContain(fresh)
    await db(table).where({ id: fresh }).update(change())
    expect((await verify(secondKey)).stale.map((s) => s.subject)).toContain(fresh)
  })
})
