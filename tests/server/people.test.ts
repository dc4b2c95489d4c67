import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import { makeLink } from '../../server/services/links'
import { base, Client, signedIn } from './client'
import { asApplication, asOwner } from './connect'

/** Who comes into a project over HTTP: by a link that lets one in once, with roles, into crews. */
let db: Knex
let admin: Client
const nobody = () => new Client(inject('address'))
beforeAll(async () => {
  db = asOwner(inject('data'))
  ;[admin] = (await signedIn(inject('address'), 'admin')) as [Client]
})
afterAll(() => db.destroy())

const PASSWORD = 'a moor with curlews'
const secrets = (token: string) => ({ token, password: PASSWORD, pin: '7391' })
const add = async (signIn: string, roles: object[], more: object = {}) =>
  admin.post(`${base}/people`, { id: uuidv7(), name: `Person ${signIn}`, signIn, roles, ...more })
const tokenOf = (reply: { body: unknown }) => (reply.body as { token: string }).token
const personOf = async (signIn: string) =>
  (await db('people').where({ sign_in: signIn }).first('id')).id as string

describe('a one-time link', () => {
  it('lets the person in who it is for, once', async () => {
    const token = tokenOf(await add('curlew', [{ role: 'inspector', crew: null }]))
    expect(token).toMatch(/^[\w-]{43}$/)
    const look = await nobody().post('links/look', { token })
    expect(look.body).toMatchObject({ kind: 'join', person: { name: 'Person curlew', signIn: 'curlew' } })
    const [one, two] = await Promise.all([1, 2].map(() => nobody().post('links/choose', secrets(token))))
    expect([one!.status, two!.status].sort()).toEqual([200, 422])
    expect((await nobody().post('links/choose', secrets(token))).problem?.code).toBe('dead-link')
    expect((await nobody().post('links/look', { token })).problem?.code).toBe('dead-link')
  })
  it('before it is used nobody signs in as that person', async () => {
    await add('dunlin', [{ role: 'inspector', crew: null }])
    for (const password of ['', 'null', PASSWORD])
      expect((await nobody().post('session', { signIn: 'dunlin', password })).status).not.toBe(200)
  })
  it.each([
    ['password', { password: 'short' }, 'password'],
    ['PIN', { pin: '1234' }, 'pin'],
  ])('is not used up by a %s that is refused', async (_, wrong, field) => {
    const person = await personOf('dunlin')
    const token = tokenOf(await admin.post(`${base}/people/${person}/link`, {}))
    expect((await nobody().post('links/choose', { ...secrets(token), ...wrong })).problem?.field).toBe(field)
    expect((await nobody().post('links/look', { token })).status).toBe(200)
  })
  it('ends with its time, and with a newer one', async () => {
    const person = await personOf('dunlin')
    const first = tokenOf(await admin.post(`${base}/people/${person}/link`, {}))
    const second = tokenOf(await admin.post(`${base}/people/${person}/link`, {}))
    expect((await nobody().post('links/look', { token: first })).problem?.code).toBe('dead-link')
    expect((await nobody().post('links/look', { token: second })).status).toBe(200)
    await db('links')
      .where({ person })
      .update({ expires_at: new Date(Date.now() - 1000) })
    expect((await nobody().post('links/choose', secrets(second))).problem?.code).toBe('dead-link')
  })
  it('is no use to somebody who was let in no more', async () => {
    const person = await personOf('dunlin')
    const token = tokenOf(await admin.post(`${base}/people/${person}/link`, {}))
    await admin.post(`${base}/people/${person}/active`, { active: false, reason: 'left' })
    expect((await nobody().post('links/choose', secrets(token))).problem?.code).toBe('dead-link')
    expect((await admin.post(`${base}/people/${person}/link`, {})).problem?.code).toBe('not-active')
  })
  it('that founds an installation works in no installation that is founded', async () => {
    const token = await makeLink(asApplication(inject('data')), 'found', null, null)
    const founding = { ...secrets(token), installation: 'Mine', name: 'Thief', signIn: 'thief' }
    expect((await nobody().post('links/found', founding)).problem?.code).toBe('dead-link')
    expect(await db('people').where({ sign_in: 'thief' })).toEqual([])
  })
  it('of a join does not found anything', async () => {
    const token = tokenOf(await add('plover', [{ role: 'witness', crew: null }]))
    const founding = { ...secrets(token), installation: 'Mine', name: 'Thief', signIn: 'thief' }
    expect((await nobody().post('links/found', founding)).problem?.code).toBe('dead-link')
    expect((await nobody().post('links/look', { token })).status).toBe(200)
  })
  it('its token is kept nowhere', async () => {
    const token = tokenOf(await add('siskin', [{ role: 'witness', crew: null }]))
    const kept =
      JSON.stringify(await db('links')) + JSON.stringify(await db('entries').where({ kind: 'setting' }))
    expect(kept).not.toContain(token)
  })
  it('whoever guesses waits longer and longer', async () => {
    const codes = []
    for (let i = 0; i < 36; i++)
      codes.push(
        (await nobody().post('links/look', { token: 'x'.repeat(42) + String(i % 10) })).problem!.code,
      )
    expect(codes.slice(0, 30)).toEqual(new Array(30).fill('dead-link'))
    expect(codes.slice(30)).toContain('too-many')
    await db('tries').delete()
  })
})

describe('people of a project', () => {
  it.each([
    ['a sign-in name that is taken, whatever its letters', { signIn: 'TAM' }, 'signIn'],
    ['a sign-in name with spaces', { signIn: 'a b' }, 'signIn'],
    ['an unknown role', { roles: [{ role: 'king', crew: null }] }, 'roles'],
    [
      'a role twice',
      {
        roles: [
          { role: 'witness', crew: null },
          { role: 'witness', crew: null },
        ],
      },
      'roles',
    ],
    ['a crew lead without a crew', { roles: [{ role: 'crew-lead', crew: null }] }, 'crew'],
    ['a crew of nowhere', { roles: [{ role: 'crew-lead', crew: uuidv7() }] }, 'crew'],
  ])('%s is refused by its field', async (_, more, field) => {
    const reply = await add('linnet', [{ role: 'witness', crew: null }], more)
    expect([reply.status >= 400 && reply.status < 500, reply.problem?.field]).toEqual([true, field])
    expect(await db('people').where({ sign_in: 'linnet' })).toEqual([])
  })
  it('a project keeps an administrator', async () => {
    const person = await personOf('admin')
    const less = { roles: [{ role: 'inspector', crew: null }], reason: 'x' }
    expect((await admin.post(`${base}/people/${person}/roles`, less)).problem?.code).toBe(
      'last-administrator',
    )
    const shut = { active: false, reason: 'x' }
    expect((await admin.post(`${base}/people/${person}/active`, shut)).problem?.code).toBe(
      'last-administrator',
    )
  })
  it('other roles end the sessions, and are noted with their reason', async () => {
    const token = tokenOf(await add('wren', [{ role: 'inspector', crew: null }]))
    await nobody().post('links/choose', secrets(token))
    const wren = nobody()
    const signIn = await fetch(`${inject('address')}/api/session`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ signIn: 'wren', password: PASSWORD }),
    })
    ;(wren as unknown as { cookie: string }).cookie = signIn.headers.getSetCookie()[0]!.split(';')[0]!
    expect((await wren.get(`${base}/today`)).status).toBe(200)
    const person = await personOf('wren')
    const change = { roles: [{ role: 'witness', crew: null }], reason: 'inspects elsewhere' }
    expect((await admin.post(`${base}/people/${person}/roles`, change)).status).toBe(200)
    expect((await wren.get(`${base}/today`)).problem?.code).toBe('signed-out')
    const [last] = await db('entries').where({ kind: 'setting' }).orderBy('feed', 'desc').limit(1)
    expect(JSON.parse(last.payload)).toMatchObject({ what: 'roles', person, reason: 'inspects elsewhere' })
  })
  it('a crew is there once, and keeps its joints under another name', async () => {
    const crew = (await db('crews').where({ name: 'Crew Quay' }).first('id')).id
    const again = await admin.post(`${base}/crews`, { id: uuidv7(), name: 'crew  QUAY' })
    expect(again.problem).toMatchObject({ code: 'duplicate', field: 'name' })
    const rename = { name: 'Crew Jetty', reason: 'moved' }
    expect((await admin.post(`${base}/crews/${crew}`, rename)).status).toBe(200)
    expect(Number((await db('joints').where({ crew }).count('* as n'))[0]!.n)).toBeGreaterThan(0)
    await admin.post(`${base}/crews/${crew}`, { name: 'Crew Quay', reason: 'back' })
  })
})
