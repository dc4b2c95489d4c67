import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import { access, rolesOf, type RouteKey, type Who } from '../../server/http/access'
import { base, Client } from './client'
import { asApplication } from './connect'

/**
 * Whatever is sent to whichever route, the answer is one that a person can act on, and the server stays
 * up.
 */
let db: Knex
let clients: Record<'inspector' | 'engineer' | 'administrator', Client>
const ids: Record<string, string> = {}

beforeAll(async () => {
  db = asApplication(inject('data'))
  const sign = (name: string) => new Client(inject('address')).signIn(name)
  const [inspector, engineer, administrator] = await Promise.all([sign('ines'), sign('petra'), sign('admin')])
  clients = { inspector, engineer, administrator }
  const first = async (table: string, where: object = {}) =>
    (await db(table).where(where).first('id')).id as string
  Object.assign(ids, {
    joint: await first('joints', { number: 'RM-237' }),
    line: await first('alignments'),
    delivery: await first('deliveries', { number: 'DN-2201' }),
    item: await first('items'),
    lot: await first('lots'),
    place: await first('places'),
    ncr: await first('ncrs'),
    reach: await first('reaches'),
    pack: await first('packs', { number: 'TP-02' }),
    procedure: await first('procedures'),
    instrument: await first('instruments'),
    file: uuidv7(),
    key: 'grade',
  })
})
afterAll(() => db.destroy())

const long = 'x'.repeat(5000)
const pieces: unknown[] = [
  null,
  true,
  0,
  -1,
  1.5,
  1e308,
  '',
  ' ',
  'x',
  long,
  '\u0000',
  '😀',
  "'; DROP TABLE joints; --",
  '../../etc/passwd',
  '2026-02-30',
  [],
  {},
  [null],
  [[]],
  { a: { b: {} } },
  JSON.parse('{"__proto__":1}'),
  { valueOf: 1 },
  { constructor: { x: 1 } },
  { toString: 'x', id: uuidv7() },
  uuidv7(),
]
/** Names that a route may know. */
const names = [
  'entries',
  'id',
  'text',
  'file',
  'rows',
  'order',
  'reason',
  'on',
  'lot',
  'facts',
  'upstream',
  'csv',
  'samples',
  'source',
  'version',
  'rule',
  'secret',
  'accepted',
  'outcome',
  'answers',
  'name',
  'from',
  'until',
  'row',
  'mapping',
  'value',
  'kind',
  'joints',
  'inputs',
  'step',
]
/** Each piece alone, one under each name, another for every route, and under all of them at once. */
const bodiesFor = (route: number): unknown[] => [
  ...pieces,
  ...names.map((name, i) => ({ [name]: pieces[(i * 7 + route) % pieces.length] })),
  ...['x', [], {}].map((piece) => Object.fromEntries(names.map((n) => [n, piece]))),
]

const path = (key: string) =>
  key
    .split(' ')[1]!
    .replace('/api/', '')
    .replace('projects/:project', base)
    .replace(/:(\w+)/g, (_all, name: string) => ids[name] ?? uuidv7())
const whoMay = (key: string): Client => {
  const who: Who = access[key as RouteKey]
  if (who === 'anyone' || who === 'signed-in') return clients.inspector
  const may = rolesOf(key as RouteKey)
  return may.includes('inspector')
    ? clients.inspector
    : may.includes('engineer')
      ? clients.engineer
      : clients.administrator
}
const keys = Object.keys(access).filter(
  (k) => k !== 'POST /api/session' && k !== 'DELETE /api/session' && !k.endsWith('/feed'),
)
const posts = keys.filter((k) => k.startsWith('POST'))
const gets = keys.filter((k) => k.startsWith('GET'))

const readable = (what: unknown, status: number, problem: { code: string; message: string } | null) => {
  const sent = JSON.stringify(what)?.slice(0, 120)
  expect(status, sent).toBeLessThan(500)
  if (status === 200) return
  expect(problem, sent).not.toBeNull()
  expect(problem!.message.length, sent).toBeGreaterThan(5)
  expect(problem!.message, sent).not.toMatch(
    /node_modules|Cannot read|undefined is|SELECT |ER_[A-Z]+|at \w+ \(/,
  )
}

describe('junk in a body', () => {
  it.each(posts)('%s', async (key) => {
    const client = whoMay(key)
    for (const body of bodiesFor(posts.indexOf(key))) {
      const { status, problem } = await client.post(path(key), body)
      readable(body, status, problem)
    }
  })
})

describe('junk in a query', () => {
  const queries = [
    '?from=-1',
    '?from=x&count=y',
    '?count=100000',
    '?search=%25%5f%5c',
    `?search=${long}`,
    '?text=%00',
    '?text=%27%22',
    '?kind=x&value=y',
    '?kind=lot&value=%F0%9F%98%80',
    '?place=nowhere',
    '?at=NaN',
    '?after=x',
    '?unknown=1',
    '?text[]=a&text[]=b',
    '?kind=lot&value=',
    '?show=%00&search=',
    '?valueOf=1',
    '?constructor=x&toString=y',
    '?__proto__=1',
  ]
  // A walk through the whole record, or a document, is the same whatever it is asked for: some of it will do.
  const weighty = new RegExp(
    `(${[
      ...['verify', 'certificate', 'print', 'notice', 'openings', 'crews', 'points/file'],
      ...[':procedure/joints', 'coming', 'round', 'left-open', 'today', 'slice'],
    ].join('|')})$`,
  )
  it.each(gets)('%s', async (key) => {
    const client = whoMay(key)
    for (const query of weighty.test(key) ? queries.filter((_q, i) => i % 6 === 0) : queries) {
      const { status, problem } = await client.get(path(key) + query)
      readable(query, status, problem)
    }
  })
})

describe('junk in a path', () => {
  it.each(['%00', 'x', "'", '..%2f..', '-1', `${long.slice(0, 200)}`, 'null'])(
    '%j is not there',
    async (name) => {
      for (const what of [
        'joints',
        'deliveries',
        'lots',
        'ncrs',
        'packs',
        'reaches',
        'procedures',
        'files',
        'yard',
      ]) {
        const { status, problem } = await clients.inspector.get(`${base}/${what}/${name}`)
        readable(name, status, problem)
        expect(status).toBeGreaterThanOrEqual(400)
      }
    },
  )
})

it('text that is not JSON, and a body that never ends, are refused', async () => {
  const cookie = (clients.inspector as unknown as { cookie: string }).cookie
  const send = (body: string) =>
    fetch(`${inject('address')}/api/${base}/joints/${ids.joint}/entries`, {
      method: 'POST',
      headers: { cookie, 'content-type': 'application/json' },
      body,
    })
  expect((await send(`${'['.repeat(50_000)}${']'.repeat(50_000)}`)).status).toBe(422)
  expect((await send(`${'{"a":'.repeat(20_000)}1${'}'.repeat(20_000)}`)).status).toBe(422)
  for (const body of ['{', '[1,', 'text', '\u0000', '{"entries":[}'])
    expect((await send(body)).status).toBe(422)
  expect((await send('['.repeat(100_000))).status).toBe(422)
  expect((await send('x'.repeat(3_000_000))).status).toBe(413)
})

it('the server is still there', async () =>
  expect((await clients.inspector.get(`${base}/overview`)).status).toBe(200))
