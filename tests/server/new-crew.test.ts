import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import { findProject } from '../../server/db/projects'
import { findSubject, judgeSubject } from '../../server/services/subjects'
import type { Openings } from '../../server/services/openings'
import type { pointMatrix } from '../../server/services/points'
import { base, signedIn, type Client } from './client'
import { asApplication } from './connect'
import { freshJoint } from './fresh-joint'
import { keepRules } from './rules-kept'

/** A crew that is new is held at every point until so many of its joints in a row were good. */
let db: Knex
let ines: Client, petra: Client, juno: Client, sorrel: Client
let giveBack: () => Promise<void>
const SYSTEM = 'rc-factory-seal'
const STEP = 'right-parts'
let like: string
let crew: string
let rule: string
beforeAll(async () => {
  db = asApplication(inject('data'))
  ;[ines, petra, juno, sorrel] = (await signedIn(
    inject('address'),
    ...['ines', 'petra', 'juno', 'sorrel'],
  )) as [Client, Client, Client, Client]
  giveBack = await keepRules(db, [SYSTEM])
  crew = (await db('crews').where({ name: 'Crew Dunes' }).first('id')).id
  like = (await db('joints').where({ system: SYSTEM }).whereNotNull('procedure_id').first('number')).number
  const sent = {
    ...{ procedure: SYSTEM, step: '*', party: 'inspector', point: 'H', rate: null, line: null, crew },
    ...{ from: new Date().toISOString().slice(0, 10), until: null, good: 2, reason: 'New at this joint.' },
  }
  rule = ((await petra.post(`${base}/points`, sent)).body as { id: string }).id
  expect((await juno.post(`${base}/points/${rule}`, { accepted: true, reason: '' })).status).toBe(200)
})
afterAll(async () => {
  await giveBack()
  await db.destroy()
})

/** Begins a joint of the crew, which then comes to stand so. */
async function made(state: string): Promise<string> {
  const joint = await freshJoint(db, like)
  const remark = { id: uuidv7(), kind: 'remark', step: null, payload: { text: 'Begun' } }
  const entries = [{ ...remark, recordedAt: new Date().toISOString() }]
  expect((await ines.post(`${base}/joints/${joint}/entries`, { entries })).status).toBe(200)
  await db('joints').where({ id: joint }).update({ state })
  return joint
}
async function pointAt(joint: string) {
  const own = (await findProject(db, 'skerry-head'))!
  const judged = await judgeSubject(db, own, (await findSubject(db, own.id, 'joint', joint))!)
  return judged!.steps.find((s) => s.key === STEP)!.point
}
const progress = async () => {
  const reply = (await petra.get(`${base}/points?crew=${crew}`)).body as Awaited<
    ReturnType<typeof pointMatrix>
  >
  const row = reply.matrices.find((m) => m.procedure.key === SYSTEM)!.rows.find((r) => r.step === STEP)!
  return [reply.made[rule], row.cells.inspector.point]
}
const along = async () =>
  ((await sorrel.get(`${base}/openings`)).body as Openings).plans.find((p) => p.system === SYSTEM)!.plan[STEP]

describe('a new crew', () => {
  let first: string
  it('is held at every point', async () => {
    // What was begun today before the rule is of no crew that was new then.
    await made('rejected')
    first = await made('accepted')
    expect(await pointAt(first)).toBe('H')
    expect(await progress()).toEqual([1, 'H'])
    expect(await along()).toBe('H')
  })
  it('begins anew after a rejection', async () => {
    await made('rejected')
    expect((await progress())[0]).toBe(0)
  })
  it('is held no more once so many in a row were good, from the next that it begins', async () => {
    await made('accepted')
    const second = await made('accepted')
    expect(await pointAt(second)).toBe('H')
    expect(await progress()).toEqual([2, 'S'])
    expect(await along()).not.toBe('H')
    const third = await made('in-work')
    expect(await pointAt(third)).toBe('S')
  })
  it('what was begun under the rule stays held, and is held again after a rejection', async () => {
    expect(await pointAt(first)).toBe('H')
    await made('rejected')
    expect(await progress()).toEqual([0, 'H'])
    expect(await pointAt(await made('in-work'))).toBe('H')
  })
})
