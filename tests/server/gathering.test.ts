import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import { findProject } from '../../server/db/projects'
import { findSubject, judgeSubject } from '../../server/services/subjects'
import { verifyRecord } from '../../server/services/verify'
import { base, signedIn, type Client } from './client'
import { asOwner } from './connect'
import { openAsShown, plannedJoint, sheetOf } from './planned-joint'

/** What a register knows is not asked: it stands in the record of a joint from its opening. */
let db: Knex
let milo: Client
let sorrel: Client
beforeAll(async () => {
  db = asOwner(inject('data'))
  ;[milo, sorrel] = (await signedIn(inject('address'), 'milo', 'sorrel')) as [Client, Client]
})
afterAll(() => db.destroy())

const FRP = 'frp-threaded'
const gathered = (entries: Awaited<ReturnType<typeof openAsShown>>) =>
  Object.fromEntries(entries.filter((e) => e.kind === 'gathered').map((e) => [e.step, e.payload.found]))
const judged = async (joint: string, step: string) => {
  const project = (await findProject(db, 'skerry-head'))!
  const subject = (await findSubject(db, project.id, 'joint', joint))!
  return (await judgeSubject(db, project, subject))!.steps.find((s) => s.key === step)!
}

describe('whether the installer is qualified', () => {
  it('is known of who is, until when, by the register', async () => {
    const joint = await plannedJoint(db, FRP, 'Crew Quay')
    const entries = await openAsShown(milo, joint)
    expect(gathered(entries).installer).toMatch(/^qualified until \d{4}-\d\d-\d\d\.$/)
    expect(await judged(joint, 'installer')).toMatchObject({
      ...{ state: 'accepted', sentence: expect.stringMatching(/^By the register: qualified until/) },
    })
  })
  it('is asked of who is not in it, and of whom it ran out', async () => {
    const never = await plannedJoint(db, 'manhole-sealant', 'Crew Dunes')
    expect(gathered(await openAsShown(sorrel, never))).not.toHaveProperty('installer')
    const expired = await plannedJoint(db, 'pe-corrugated-gasket', 'Crew Dunes')
    expect(gathered(await openAsShown(sorrel, expired))).not.toHaveProperty('installer')
    expect(await judged(expired, 'installer')).toMatchObject({ state: 'not-started' })
  })
  it('is asked where the plan has every point held for a new crew', async () => {
    const joint = await plannedJoint(db, 'di-restrained-gripper', 'Crew Quay')
    expect(gathered(await openAsShown(milo, joint))).not.toHaveProperty('installer')
  })
  it('and so is what was answered for the shift, though it stands elsewhere', async () => {
    const answered = async (system: string) => {
      const [one, two] = [
        await plannedJoint(db, system, 'Crew Quay'),
        await plannedJoint(db, system, 'Crew Quay'),
      ]
      await openAsShown(milo, one)
      const answer = { id: uuidv7(), kind: 'confirmation', step: 'tools', payload: { answer: 'yes' } }
      const parts = { ...answer, id: uuidv7(), step: 'right-parts' }
      const entries = [parts, answer].map((e) => ({ ...e, recordedAt: new Date().toISOString() }))
      expect((await milo.post(`${base}/joints/${one}/entries`, { entries })).problem).toBeNull()
      return (await openAsShown(milo, two)).filter((e) => e.payload.once).map((e) => e.step)
    }
    expect(await answered('di-restrained-gripper')).toEqual(['tools'])
    expect(await answered('steel-axial-swage')).toEqual(['right-parts', 'tools'])
  })
  it('that was struck is asked', async () => {
    const joint = await plannedJoint(db, FRP, 'Crew Quay')
    const entry = (await openAsShown(milo, joint)).find(
      (e) => e.kind === 'gathered' && e.step === 'installer',
    )!
    const strike = { strikes: entry.id, reason: 'Somebody else makes it.' }
    const sent = {
      id: uuidv7(),
      kind: 'correction',
      step: 'installer',
      payload: strike,
      recordedAt: new Date().toISOString(),
    }
    expect((await milo.post(`${base}/joints/${joint}/entries`, { entries: [sent] })).status).toBe(200)
    expect(await judged(joint, 'installer')).toMatchObject({ state: 'not-started' })
  })
})

it('is nobody’s word: what a register knows is not sent', async () => {
  const joint = await plannedJoint(db, 'manhole-sealant', 'Crew Dunes')
  await openAsShown(sorrel, joint)
  const sent = {
    ...{ id: uuidv7(), kind: 'gathered', step: 'installer', payload: { found: 'qualified for ever.' } },
    recordedAt: new Date().toISOString(),
  }
  const reply = await sorrel.post(`${base}/joints/${joint}/entries`, { entries: [sent] })
  expect(reply.problem).toMatchObject({ code: 'bad-kind', field: 'kind' })
  expect(
    (await sheetOf(sorrel, joint)).entries.filter((e) => e.kind === 'gathered' && e.step === 'installer'),
  ).toEqual([])
})

it('at the next joint of the shift it is asked of the register anew, and stands once', async () => {
  const [one, two] = [await plannedJoint(db, FRP, 'Crew Quay'), await plannedJoint(db, FRP, 'Crew Quay')]
  await openAsShown(milo, one)
  const entries = (await openAsShown(milo, two)).filter((e) => e.step === 'installer')
  expect(entries.map((e) => [e.kind, e.payload.once])).toEqual([['gathered', undefined]])
})

it('stays in a record that verifies', async () => {
  const project = (await findProject(db, 'skerry-head'))!
  expect((await verifyRecord(db, [project])).faults).toEqual([])
})
