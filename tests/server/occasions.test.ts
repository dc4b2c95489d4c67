import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import type { pointMatrix } from '../../server/services/points'
import type { Coming } from '../../server/services/coming'
import { base, signedIn, type Client } from './client'
import { asApplication } from './connect'
import { keepRules } from './rules-kept'
import { freshJoint, judgeAgain } from './fresh-joint'
import { reject, REJECTED } from './rejected'

/** What is watched when there is an occasion, and not one in so many. */
let db: Knex
let ines: Client, petra: Client, juno: Client, rhona: Client
let giveBack: () => Promise<void>
const project = { project_key: 'skerry-head' }
const SYSTEM = 'rc-profile-gasket'
beforeAll(async () => {
  db = asApplication(inject('data'))
  ;[ines, petra, juno, rhona] = (await signedIn(
    inject('address'),
    ...['ines', 'petra', 'juno', 'rhona'],
  )) as [Client, Client, Client, Client]
  giveBack = await keepRules(db, [SYSTEM, 'pe-electrofusion-socket'])
})
afterAll(async () => {
  await giveBack()
  await db.destroy()
})

const occasionsOf = async (joint: string) =>
  (await db('joints').where({ id: joint }).first('occasions')).occasions as string
const begin = async (joint: string) => {
  const remark = { id: uuidv7(), kind: 'remark', payload: { text: 'Begun' } }
  const entries = [{ ...remark, step: null, recordedAt: new Date().toISOString() }]
  expect((await ines.post(`${base}/joints/${joint}/entries`, { entries })).status).toBe(200)
}

describe('what beginning a joint is the occasion of', () => {
  it('is settled by its first entry, and stays', async () => {
    const [one, two] = [await freshJoint(db, 'GS-01'), await freshJoint(db, 'GS-01')]
    await begin(one)
    await begin(two)
    const before = await occasionsOf(two)
    expect(before.split(',')).not.toContain('first-of-crew')
    expect(before.split(',')).not.toContain('first-of-day')
    await begin(two)
    expect(await occasionsOf(two)).toBe(before)
  })
  it('the one after a rejection, until another was begun', async () => {
    const rejected = await freshJoint(db, 'GS-17')
    await reject(ines, rejected)
    const [next, second] = [await freshJoint(db, 'GS-17'), await freshJoint(db, 'GS-17')]
    await begin(next)
    await begin(second)
    expect((await occasionsOf(next)).split(',')).toContain('after-rejection')
    expect((await occasionsOf(second)).split(',')).not.toContain('after-rejection')
  })
  it('after a report too, of whichever joint it is', async () => {
    const [old, between] = [await freshJoint(db, 'GS-17'), await freshJoint(db, 'GS-17')]
    await reject(ines, old)
    await begin(between)
    const raise = { id: uuidv7(), subjectType: 'joint', subject: old, step: REJECTED, photo: null }
    expect((await ines.post(`${base}/ncrs`, raise)).status).toBe(200)
    const next = await freshJoint(db, 'GS-17')
    await begin(next)
    expect((await occasionsOf(next)).split(',')).toContain('after-rejection')
  })
})

describe('surveillance after a rejection', () => {
  const step = 'right-parts'
  it('is proposed, reviewed and shown as such', async () => {
    const rule = {
      ...{ procedure: SYSTEM, step, party: 'inspector', point: 'S', rate: 'after-rejection' },
      ...{ line: null, crew: null, from: new Date().toISOString().slice(0, 10), until: null },
      reason: 'What went wrong is looked at the next time.',
    }
    const asked = await petra.post(`${base}/points`, rule)
    expect(asked.status).toBe(200)
    const { id } = asked.body as { id: string }
    expect((await juno.post(`${base}/points/${id}`, { accepted: true, reason: '' })).status).toBe(200)
    const { matrices } = (await ines.get(`${base}/points`)).body as Awaited<ReturnType<typeof pointMatrix>>
    const row = matrices.find((m) => m.procedure.key === SYSTEM)!.rows.find((r) => r.step === step)!
    expect(row.cells.inspector).toMatchObject({ point: 'S', rate: 'after-rejection' })
    const { cookie } = ines as unknown as { cookie: string }
    const csv = await fetch(`${ines.address}/api/${base}/points/file`, { headers: { cookie } })
    expect(await csv.text()).toMatch(/Right parts on site,S after a rejection/)
  })
  it('draws the joint after one that was rejected, and no other', async () => {
    const like = (await db('joints').where({ system: SYSTEM }).whereNotNull('procedure_id').first('number'))
      .number as string
    const bad = await freshJoint(db, like)
    await begin(bad)
    await db('joints').where({ id: bad }).update({ state: 'rejected' })
    const [next, second] = [await freshJoint(db, like), await freshJoint(db, like)]
    await begin(next)
    await begin(second)
    await judgeAgain(db, [bad])
    const drawn = async (joint: string) =>
      ((await ines.get(`${base}/joints/${joint}`)).body as { drawn: string[] }).drawn
    expect(await drawn(next)).toEqual([step])
    expect(await drawn(second)).toEqual([])
  })
})

it('what is drawn is foreseen for those who stand by, and for no crew', async () => {
  const shown = async (who: Client) =>
    new Set(((await who.get(`${base}/coming`)).body as Coming[]).map((c) => c.point))
  // Everything that is under surveillance is watched, so that something is drawn at the joints at work.
  const kept = await db('projects').where(project).first('settings')
  const rule = (step: string) => ({
    ...{ id: uuidv7(), procedure: 'pe-electrofusion-socket', step, party: 'inspector', point: 'S' },
    ...{ rate: 1, line: null, crew: null, from: '2020-01-01', until: null, reason: 'All of them.' },
    ...{ by: uuidv7(), at: 1, review: { by: uuidv7(), at: Date.now(), accepted: true, reason: '' } },
  })
  const settled = JSON.parse(kept.settings) as { points: unknown[] }
  // The client watches at the inspector's hold: who comes there once has seen both.
  const beside = { ...rule('before-fusion'), party: 'witness' }
  const points = [...settled.points, ...['chamfer', 'wiped', 'clamped'].map(rule), beside]
  await db('projects')
    .where(project)
    .update({ settings: JSON.stringify({ ...settled, points }) })
  // The known project is held for a moment: any write of settings lets it go.
  const asked = await petra.post(`${base}/points/notice`, { notice: 7200, reason: 'As before' })
  expect(asked.status).toBe(200)
  expect(await shown(ines)).toContain('S')
  const places = ((await ines.get(`${base}/coming`)).body as Coming[]).map((c) => `${c.joint} ${c.step}`)
  expect(new Set(places).size).toBe(places.length)
  expect(await shown(rhona)).not.toContain('S')
})
