import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { afterAll, beforeAll, beforeEach, describe, expect, inject, it } from 'vitest'
import { signInKey } from '../../core/record/names'
import { demoPassword } from '../../demo/people'
import { hashSecret } from '../../server/services/secrets'
import { base } from './client'
import { asOwner } from './connect'

let db: Knex
let password: string
const address = () => inject('address')
const people: string[] = []
beforeAll(async () => {
  db = asOwner(inject('data'))
  password = await hashSecret(demoPassword)
})
beforeEach(async () => void (await db('tries').delete()))
afterAll(() => db.destroy())

/** Somebody of one's own, so that nobody else's sessions end. */
async function somebody(role = 'inspector'): Promise<{ id: string; name: string }> {
  const [id, name] = [uuidv7(), `test.${people.length}`]
  const project = (await db('projects').where({ project_key: 'skerry-head' }).first('id')).id
  await db('people').insert({ id, sign_in: name, name, password_hash: password, pin_hash: null })
  await db('memberships').insert({ project, person: id, role, crew: null })
  people.push(name)
  return { id, name }
}
const enter = async (signIn: string, secret: string, cookie = '') => {
  const reply = await fetch(`${address()}/api/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', cookie },
    body: JSON.stringify({ signIn, password: secret }),
  })
  const body = (await reply.json()) as { data?: { code: string; details?: { wait: number } } }
  return {
    status: reply.status,
    code: body.data?.code,
    wait: body.data?.details?.wait ?? 0,
    cookies: reply.headers.getSetCookie().map((c) => c.split(';')[0]!),
  }
}
const sees = async (cookie: string) =>
  (await fetch(`${address()}/api/${base}/overview`, { headers: { cookie } })).status

describe('one name, however it is typed', () => {
  it.each(['test.x', ' TEST.X ', 'Tést.x', 'test\u200b.x', 'ｔｅｓｔ.x', 'te\u00adst.x', 'TEST\u2060.X'])(
    '%j is the same account to the limit and to the look-up',
    (typed) => expect(signInKey(typed)).toBe('test.x'),
  )
  it('other spellings of a name share one count of tries, and the right one still signs in', async () => {
    const { name } = await somebody()
    const spellings = [
      name,
      name.toUpperCase(),
      ` ${name}`,
      name.replace('t', 'ｔ'),
      `${name}\u200b`,
      name.replace('e', 'é'),
      `${name}\u00ad`,
    ]
    const codes = []
    for (const [i, typed] of spellings.entries()) codes.push((await enter(typed, `wrong ${i}`)).code)
    expect(codes.slice(0, 5)).toEqual(Array(5).fill('bad-sign-in'))
    expect(codes.at(-1)).toBe('too-many')
    await db('tries').delete()
    expect((await enter(spellings[3]!, demoPassword)).status).toBe(200)
  })
})

describe('wrong tries', () => {
  it('wait longer each time, and one that comes too early is not looked at and costs nothing', async () => {
    const { name } = await somebody()
    for (let i = 0; i < 5; i++) expect((await enter(name, 'wrong')).code).toBe('bad-sign-in')
    const first = await enter(name, 'wrong')
    expect([first.status, first.code]).toEqual([429, 'too-many'])
    for (let i = 0; i < 10; i++) await enter(name, 'wrong')
    expect((await enter(name, 'wrong')).wait).toBeLessThanOrEqual(first.wait)
  })
  it('do not keep the right person out: after the wait, and at once where they have signed in before', async () => {
    const { name } = await somebody()
    const known = (await enter(name, demoPassword)).cookies.find((c) => c.startsWith('vet-line-known='))!
    for (let i = 0; i < 12; i++) await enter(name, 'wrong')
    expect((await enter(name, demoPassword)).code).toBe('too-many')
    expect((await enter(name, demoPassword, known)).status).toBe(200)
    await db('tries').update({ next_at: new Date(Date.now() - 1000) })
    expect((await enter(name, demoPassword)).status).toBe(200)
  })
  it('a mark of somebody else, or made up, opens no lane', async () => {
    const [one, other] = [await somebody(), await somebody()]
    const known = (await enter(one.name, demoPassword)).cookies.find((c) => c.startsWith('vet-line-known='))!
    for (let i = 0; i < 12; i++) await enter(other.name, 'wrong')
    for (const mark of [
      known,
      `vet-line-known=${other.id}.x`,
      `vet-line-known=${other.id}`,
      'vet-line-known=%7C%7C',
    ])
      expect((await enter(other.name, demoPassword, mark)).code).toBe('too-many')
  })
  it('with ever new names from one address are slowed too', async () => {
    const codes = []
    for (let i = 0; i < 34; i++) codes.push((await enter(`nobody-${i}`, 'wrong')).code)
    expect(codes.slice(0, 30)).toEqual(Array(30).fill('bad-sign-in'))
    expect(codes).toContain('too-many')
  })
  it('many at once are counted one by one', async () => {
    const { name } = await somebody()
    const codes = (await Promise.all(Array.from({ length: 20 }, () => enter(name, 'wrong')))).map(
      (r) => r.code,
    )
    expect(codes.filter((c) => c === 'bad-sign-in').length).toBeLessThanOrEqual(6)
  })
  it('two dozen sign-ins at once leave the server to others', async () => {
    const { name } = await somebody()
    const going = Promise.all(Array.from({ length: 24 }, () => enter(name, demoPassword)))
    const waits = []
    for (let i = 0; i < 10; i++) {
      const start = performance.now()
      expect((await fetch(`${address()}/api/health`)).ok).toBe(true)
      waits.push(performance.now() - start)
    }
    expect((await going).every((r) => r.status === 200)).toBe(true)
    // Nine of ten: one may meet a hiccup of the machine.
    expect(waits.sort((a, b) => a - b)[8]).toBeLessThan(250)
  })
})

/** Waits for what shows: a stream that ends, a status that changes. */
async function until<T>(act: () => Promise<T>, good: (value: T) => boolean): Promise<T> {
  const deadline = Date.now() + 10_000
  for (;;) {
    const value = await act()
    if (good(value) || Date.now() > deadline) return value
    await new Promise((done) => setTimeout(done, 50))
  }
}

describe('a session', () => {
  const ways: [string, (person: { id: string; name: string }, cookie: string) => Promise<unknown>][] = [
    [
      'signing out',
      (_p, cookie) => fetch(`${address()}/api/session`, { method: 'DELETE', headers: { cookie } }),
    ],
    ['being made inactive', ({ id }) => db('people').where({ id }).update({ active: false })],
    [
      'another password',
      async ({ id }) =>
        db('people')
          .where({ id })
          .update({ password_hash: await hashSecret('another') }),
    ],
    ['another role', ({ id }) => db('memberships').where({ person: id }).update({ role: 'witness' })],
    ['removal from the project', ({ id }) => db('memberships').where({ person: id }).delete()],
    [
      'ending it from another device',
      async ({ name }, cookie) => {
        const other = (await enter(name, demoPassword)).cookies[0]!
        const list = (await (
          await fetch(`${address()}/api/sessions`, { headers: { cookie: other } })
        ).json()) as { id: string; here: boolean }[]
        expect(list.filter((s) => s.here)).toHaveLength(1)
        expect(await sees(cookie)).toBe(200)
        for (const s of list.filter((s) => !s.here))
          expect(
            (
              await fetch(`${address()}/api/sessions/${s.id}`, {
                method: 'DELETE',
                headers: { cookie: other },
              })
            ).status,
          ).toBe(200)
      },
    ],
  ]
  it.each(ways)('ends with %s, and so does its open feed', async (_what, end) => {
    const person = await somebody()
    const cookie = (await enter(person.name, demoPassword)).cookies[0]!
    expect(await sees(cookie)).toBe(200)
    const stream = await fetch(`${address()}/api/${base}/feed`, { headers: { cookie } })
    const reader = stream.body!.getReader()
    await reader.read()
    await end(person, cookie)
    expect(
      await until(
        () => sees(cookie),
        (status) => status === 401,
      ),
    ).toBe(401)
    const ended = (async () => {
      for (;;) if ((await reader.read()).done) return true
    })()
    expect(await Promise.race([ended, new Promise((late) => setTimeout(() => late(false), 8000))])).toBe(true)
  })
  it('is kept as a digest: what the table holds signs nobody in', async () => {
    const person = await somebody()
    const cookie = (await enter(person.name, demoPassword)).cookies[0]!
    const { token } = await db('sessions').where({ person: person.id }).first('token')
    expect(cookie).not.toContain((token as Buffer).toString('base64url'))
    expect(await sees(`vet-line=${(token as Buffer).toString('base64url')}`)).toBe(401)
  })
  it.each([
    ['after a shift of silence', { seen_at: new Date(Date.now() - 15 * 3_600_000) }],
    ['after some days whatever happens', { began_at: new Date(Date.now() - 6 * 86_400_000) }],
  ])('ends %s', async (_what, change) => {
    const person = await somebody()
    const cookie = (await enter(person.name, demoPassword)).cookies[0]!
    await db('sessions').where({ person: person.id }).update(change)
    expect(await sees(cookie)).toBe(401)
  })
  it('of somebody else is not there to be ended', async () => {
    const [one, other] = [await somebody(), await somebody()]
    const cookie = (await enter(one.name, demoPassword)).cookies[0]!
    const theirs = (await enter(other.name, demoPassword)).cookies[0]!
    const { id } = await db('sessions').where({ person: other.id }).first('id')
    expect(
      (await fetch(`${address()}/api/sessions/${id}`, { method: 'DELETE', headers: { cookie } })).status,
    ).toBe(404)
    expect(await sees(theirs)).toBe(200)
  })
  it('signing in anew ends the one that the browser had', async () => {
    const person = await somebody()
    const first = (await enter(person.name, demoPassword)).cookies[0]!
    const second = (await enter(person.name, demoPassword, first)).cookies[0]!
    expect([await sees(first), await sees(second)]).toEqual([401, 200])
  })
  it('is begun by nobody who has none: no cookie comes with what anybody may ask', async () => {
    for (const path of ['health', 'session', '_auth/session', 'no/such/place']) {
      const reply = await fetch(`${address()}/api/${path}`)
      expect(reply.headers.getSetCookie()).toEqual([])
      expect(reply.headers.get('content-type'), path).toContain('json')
    }
    expect((await fetch(`${address()}/api/_auth/session`)).status).toBe(404)
  })
  it('one person holds so many feeds, and the oldest gives way', async () => {
    const person = await somebody()
    const cookie = (await enter(person.name, demoPassword)).cookies[0]!
    const open = async () =>
      (await fetch(`${address()}/api/${base}/feed`, { headers: { cookie } })).body!.getReader()
    const first = await open()
    for (let i = 0; i < 8; i++) await (await open()).read()
    for (;;) if ((await first.read()).done) break
  })
})

describe('a crew lead', () => {
  it.each([
    ['without a crew', ['crew-lead']],
    ['who is a witness besides, without a crew', ['crew-lead', 'witness']],
  ])('%s sees no crew’s joints', async (_what, roles) => {
    const person = await somebody('crew-lead')
    const { project } = await db('memberships').where({ person: person.id }).first('project')
    for (const role of roles.slice(1))
      await db('memberships').insert({ project, person: person.id, role, crew: null })
    const cookie = (await enter(person.name, demoPassword)).cookies[0]!
    const get = async (path: string) => fetch(`${address()}/api/${base}/${path}`, { headers: { cookie } })
    const line = (await db('alignments').where({ project }).first('id')).id
    expect(
      ((await (await get(`lines/${line}/strip`)).json()) as { joints: { ids: string[] } }).joints.ids,
    ).toEqual([])
    expect(await (await get('find?text=RM-')).json()).toEqual([])
    expect((await get(`joints/${(await db('joints').where({ project }).first('id')).id}`)).status).toBe(404)
  })
  it('reads no test log by its file', async () => {
    const { name } = await somebody('crew-lead')
    const cookie = (await enter(name, demoPassword)).cookies[0]!
    const { id } = await db('files').where({ mime: 'text/csv' }).first('id')
    expect((await fetch(`${address()}/api/${base}/files/${id}`, { headers: { cookie } })).status).toBe(404)
  })
})
