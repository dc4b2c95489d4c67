import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import { findProject } from '../../server/db/projects'
import { verifyRecord } from '../../server/services/verify'
import { base, signedIn, type Client } from './client'
import { asApplication } from './connect'
import { freshJoint, judgeAgain } from './fresh-joint'
import { jobsDone } from './verified'

/** Judging many anew: outside any request, gone on with after a crash, and followed by whoever looks. */
let db: Knex
let project: string
let person: string
let petra: Client
let hale: Client
beforeAll(async () => {
  db = asApplication(inject('data'))
  ;[petra, hale] = (await signedIn(inject('address'), 'petra', 'hale')) as [Client, Client]
  project = (await db('projects').where({ project_key: 'skerry-head' }).first('id')).id
  person = (await db('people').where({ sign_in: 'petra' }).first('id')).id
})
afterAll(() => db.destroy())

const row = (id: string) => db('jobs').where({ id }).first()
const finished = (id: string) =>
  expect.poll(async () => (await row(id)).state, { timeout: 30_000 }).toBe('done')

/** A joint whose stored state is not what its record says, as one judged by an older rule. */
async function stale(): Promise<string> {
  const joint = await freshJoint(db, 'RM-236')
  await db('joints').where({ id: joint }).update({ state: 'rejected' })
  return joint
}
const stateOf = async (joint: string) => (await db('joints').where({ id: joint }).first('state')).state

async function add(joints: string[], more: object = {}): Promise<string> {
  const id = uuidv7()
  await db('jobs').insert({
    id,
    project,
    reason: 'lot',
    scope: JSON.stringify({ joints }),
    total: joints.length,
    asked_by: person,
    asked_at: new Date(),
    ...more,
  })
  return id
}

describe('a job', () => {
  it('that nobody works at is taken up, and judges what it names', async () => {
    const joint = await stale()
    await finished(await add([joint]))
    expect(await stateOf(joint)).toBe('not-started')
  })
  it('whose worker was killed goes on where it stopped', async () => {
    const joints = await Promise.all(Array.from({ length: 4 }, stale))
    const id = await add(joints, {
      state: 'running',
      worker: uuidv7(),
      lease_until: new Date(Date.now() - 1000),
      done: 2,
      last_id: `joint ${joints[1]}`,
    })
    await finished(id)
    expect(await Promise.all(joints.map(stateOf))).toEqual([
      'rejected',
      'rejected',
      'not-started',
      'not-started',
    ])
    expect((await row(id)).done).toBe(4)
    await judgeAgain(db, joints)
  })
  it('whose worker still holds it is left alone', async () => {
    await jobsDone(db, project)
    const joint = await stale()
    const held = await add([joint], {
      state: 'running',
      worker: uuidv7(),
      lease_until: new Date(Date.now() + 60_000),
    })
    await finished(await add([await stale()]))
    expect([(await row(held)).state, await stateOf(joint)]).toEqual(['running', 'rejected'])
    expect((await hale.get(`${base}/jobs`)).body).toContainEqual(
      expect.objectContaining({ id: held, reason: 'lot', done: 0, total: 1 }),
    )
    // Whoever verifies meanwhile hears that it may be what is still to come.
    const verified = async () => {
      const { judging, stale } = await verifyRecord(db, [(await findProject(db, 'skerry-head'))!])
      return [judging, stale.filter((s) => s.subject === joint).map((s) => s.field)]
    }
    expect(await verified()).toEqual([1, ['state']])
    await db('jobs').where({ id: held }).delete()
    expect(await verified()).toEqual([0, ['state']])
    await db('joints').where({ id: joint }).update({ state: 'not-started' })
  })
  it('names joints of its own project only: another’s is not touched', async () => {
    const foreign = await db('joints').whereNot({ project }).first('id', 'state')
    if (foreign) {
      await finished(await add([foreign.id]))
      expect(await stateOf(foreign.id)).toBe(foreign.state)
    }
    await finished(await add([uuidv7()]))
  })
})

describe('changing the rule', () => {
  it('is answered before all is judged, and nobody waits meanwhile', async () => {
    const reply = await petra.post(`${base}/settings/rule`, {
      rule: 'simple',
      reason: 'of the plan',
      secret: '2468',
    })
    expect(reply.status).toBe(200)
    const begun = performance.now()
    expect((await hale.get(`${base}/overview`)).status).toBe(200)
    expect(performance.now() - begun).toBeLessThan(1000)
    const last = await db('jobs').where({ project, reason: 'rule' }).orderBy('asked_at', 'desc').first('id')
    await finished(last.id)
    await petra.post(`${base}/settings/rule`, { rule: 'guarded', reason: 'as before', secret: '2468' })
    await finished(
      (await db('jobs').where({ project, reason: 'rule' }).orderBy('asked_at', 'desc').first('id')).id,
    )
  })
})
