import { readdirSync, readFileSync, statSync } from 'node:fs'
import { join } from 'node:path'
import { beforeAll, describe, expect, inject, it } from 'vitest'
import { access, rolesOf, type RouteKey, type Who } from '../../server/http/access'
import { roles, type Role } from '../../core/access'
import { demoPeople } from '../../demo/people'
import { unpackStrip, type StripColumns } from '../../core/line/strip-rows'
import { Client } from './client'

/** every file of a route; the one that answers what no route does has no name of its own */
const files = (folder: string): string[] =>
  readdirSync(folder)
    .filter((name) => name !== '[...].ts')
    .flatMap((name) =>
      statSync(join(folder, name)).isDirectory() ? files(join(folder, name)) : [join(folder, name)],
    )
const api = join(import.meta.dirname, '../../server/api')
const keyOf = (file: string): string => {
  const match = /^(.*?)(?:\/index)?\.(get|post|delete)\.ts$/.exec(file.slice(api.length))!
  return `${match[2]!.toUpperCase()} /api${match[1]!.replace(/\[(\w+)\]/g, ':$1')}`
}

describe('every route', () => {
  it('has one line in the access table, and uses it', () => {
    const found = files(api).map((file) => {
      const key = keyOf(file)
      expect(readFileSync(file, 'utf8'), file).toMatch(
        new RegExp(
          `(projectRoute|openRoute|(entries|signOff|witness|reading|withdraw|releaseHere)Route)\\(\\s*'${key.replace(/[/:]/g, '\\$&')}'`,
        ),
      )
      return key
    })
    expect(found.sort()).toEqual(Object.keys(access).sort())
  })
})

/** one of the demo's people for every role that there is */
const people = Object.fromEntries(
  Object.keys(roles).map((role) => [role, demoPeople.find((p) => p.role === role)?.signIn ?? `no ${role}`]),
) as Record<Role, string>
const nowhere = '01900000-0000-7000-8000-000000000000'
const path = (key: string, project = 'skerry-head') =>
  key
    .split(' ')[1]!
    .replace('/api/', '')
    .replace(':project', project)
    .replace(/:(\w+)/g, nowhere)
const projectRoutes = (Object.entries(access) as [RouteKey, Who][])
  .filter(([key, who]) => who !== 'anyone' && who !== 'signed-in' && !key.endsWith('/feed'))
  .map(([key]) => [key, rolesOf(key)] as const)

describe('routes × roles', () => {
  const clients = {} as Record<Role, Client>
  beforeAll(async () => {
    for (const [role, name] of Object.entries(people))
      clients[role as Role] = await new Client(inject('address')).signIn(name)
  })
  const call = (client: Client, key: string, project?: string) =>
    client.call(key.split(' ')[0]!, path(key, project), key.startsWith('GET') ? undefined : {})

  it.each(projectRoutes)('%s', async (key, who) => {
    expect((await call(new Client(inject('address')), key)).status, 'signed out').toBe(401)
    for (const role of Object.keys(people) as Role[]) {
      const { status, problem } = await call(clients[role], key)
      if (who.includes(role))
        expect(
          [status === 401, problem?.code === 'forbidden' && problem.message.startsWith('Only ')],
          `${role} may`,
        ).toEqual([false, false])
      else expect([status, problem?.code], `${role} may not`).toEqual([403, 'forbidden'])
      expect(status, `${role} never sees a crash`).toBeLessThan(500)
    }
    expect(
      (await call(clients.inspector, key, 'another-project')).status,
      'a project that one is not on',
    ).toBe(404)
  })

  // Written out by hand: the table is not its own judge.
  it.each<[string, Role[]]>([
    ['POST joints/:joint/release', ['inspector', 'engineer']],
    ['POST joints/:joint/entries', ['inspector', 'crew-lead', 'engineer']],
    ['POST lots/:lot/quarantine', ['inspector', 'engineer']],
    ['POST ncrs/:ncr/disposition', ['engineer']],
    ['POST ncrs/:ncr/verification', ['inspector']],
    ['POST packs/:pack/sign', ['inspector', 'witness']],
    ['POST packs/:pack/start', ['inspector', 'engineer']],
    ['POST procedures/:procedure/issue', ['engineer']],
    ['POST settings/rule', ['engineer']],
    ['POST instruments', ['administrator']],
    ['POST deliveries', ['inspector']],
    ['GET deliveries', ['inspector', 'engineer', 'storekeeper', 'witness']],
    ['GET packs', ['inspector', 'engineer', 'storekeeper', 'witness']],
    ['GET joints/:joint', ['inspector', 'crew-lead', 'engineer', 'storekeeper', 'witness']],
    ['GET verify', ['inspector', 'engineer', 'administrator']],
  ])('%s is for %j and nobody else', async (route, may) => {
    const [method, place] = route.split(' ') as [string, string]
    for (const role of Object.keys(people) as Role[]) {
      const { status, problem } = await clients[role].call(
        method,
        `projects/skerry-head/${place.replace(/:\w+/g, nowhere)}`,
        method === 'GET' ? undefined : {},
      )
      expect(status === 403 && problem!.message.startsWith('Only '), role).toBe(!may.includes(role))
    }
  })

  it('a crew lead sees only the own crew’s joints', async () => {
    const client = clients['crew-lead']
    const overview = (await client.get('projects/skerry-head/overview')).body as {
      lines: { id: string; key: string }[]
      crew: string
    }
    const path = `projects/skerry-head/lines/${overview.lines.find((l) => l.key === 'RM')!.id}/strip`
    const joints = async (who: Client) =>
      unpackStrip(((await who.get(path)).body as { joints: StripColumns }).joints)
    expect(new Set((await joints(client)).map((j) => j.crew))).toEqual(new Set([overview.crew]))
    const foreign = (await joints(clients.inspector)).find((j) => j.crew !== overview.crew)!
    expect((await client.get(`projects/skerry-head/joints/${foreign.id}`)).status).toBe(404)
  })

  it.each([
    ['an origin elsewhere', { origin: 'http://elsewhere.example' }],
    ['a cross-site fetch', { 'sec-fetch-site': 'cross-site' }],
  ])('%s is refused', async (_what, headers) => {
    const reply = await clients.inspector.call(
      'POST',
      `projects/skerry-head/joints/${nowhere}/open`,
      {},
      headers,
    )
    expect([reply.status, reply.problem?.code]).toEqual([403, 'cross-site'])
  })

  it('a wrong password says so without saying which, and many are slowed', async () => {
    const wrong = async () =>
      (await new Client(inject('address')).call('POST', 'session', { signIn: 'nobody', password: 'x' }))
        .problem?.code
    expect(await wrong()).toBe('bad-sign-in')
    let last: string | undefined
    for (let i = 0; i < 10; i++) last = await wrong()
    expect(last).toBe('too-many')
  })

  it('bad input has a code, a sentence and a field; never a stack', async () => {
    const reply = await clients.inspector.post(`projects/skerry-head/joints/${nowhere}/open`, {
      upstream: 'x',
    })
    expect(reply.status).toBe(422)
    expect(reply.problem).toMatchObject({ code: 'bad-input', field: expect.any(String) })
    expect(JSON.stringify(reply.body)).not.toMatch(/node_modules|at .*\.mjs/)
  })

  it('pages carry a strict content policy', async () => {
    const reply = await fetch(inject('address'))
    const policy = reply.headers.get('content-security-policy')!
    const nonce = /'nonce-([^']+)'/.exec(policy)![1]
    expect(policy).toContain("default-src 'self'")
    for (const script of (await reply.text()).match(/<script[^>]*>/g) ?? [])
      expect(script).toContain(`nonce="${nonce}"`)
  })
})
