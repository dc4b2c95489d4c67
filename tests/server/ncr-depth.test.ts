import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import type { Counted } from '../../core/ncr/analysis'
import type { TodayItem } from '../../server/services/today'
import { base, Client } from './client'
import { demoPin } from '../../demo/people'
import { asApplication } from './connect'
import { freshJoint } from './fresh-joint'
import { reject, REJECTED } from './rejected'

/** What a report says beside its state: why, whether it came before, what is changed because of it. */
let db: Knex
const clients = {} as Record<'ines' | 'oskar' | 'tam' | 'petra' | 'bram', Client>
beforeAll(async () => {
  db = asApplication(inject('data'))
  for (const name of ['ines', 'oskar', 'tam', 'petra', 'bram'] as const)
    clients[name] = await new Client(inject('address')).signIn(name)
})
afterAll(() => db.destroy())
const counts = async (who: keyof typeof clients = 'ines') =>
  (await clients[who].get(`${base}/ncrs/counts`)).body as Counted[]
const reportOf = async (number: string) => (await db('ncrs').where({ number }).first('id')).id as string

describe('what reports come to', () => {
  it('each is counted once, by the title of its step and the name of its crew', async () => {
    const rows = await counts()
    const ours = (await db('ncrs as n')
      .join('projects as p', 'p.id', 'n.project')
      .where('p.project_key', 'skerry-head')
      .pluck('n.number')) as string[]
    expect(rows.map((r) => r.number).sort()).toEqual([...ours].sort())
    expect(rows.find((r) => r.step === 'Pressure test')).toMatchObject({ system: 'Test packs' })
    expect(rows.every((r) => /^\d{4}-\d\d-\d\d$/.test(r.week))).toBe(true)
  })
  it('of a crew lead they are those of the own crew', async () => {
    expect(new Set((await counts('tam')).map((r) => r.crew))).toEqual(new Set(['Crew North']))
  })
})

describe('a report', () => {
  it('is to be answered until a day, which is on Today and in the record', async () => {
    const joint = await freshJoint(db, 'GS-17')
    await reject(clients.ines, joint)
    const id = uuidv7()
    const raise = { id, subjectType: 'joint', subject: joint, step: REJECTED, photo: null }
    expect((await clients.ines.post(`${base}/ncrs`, raise)).status).toBe(200)
    const at = `${base}/ncrs/${id}`
    const decide = (due: string | null) =>
      clients.petra.post(`${at}/disposition`, {
        ...{ disposition: 'rework', reason: 'Cut it again.', secret: '2468', due },
      })
    expect((await decide('soon')).problem?.field).toBe('due')
    expect((await decide('2026-02-31')).problem?.field).toBe('due')
    const shown = async () => {
      const sheet = (await clients.petra.get(at)).body as { ncr: { due: string | null } }
      const items = (await clients.petra.get(`${base}/today`)).body as TodayItem[]
      return [sheet.ncr.due, items.find((i) => i.subject === id)?.due ?? null]
    }
    expect((await decide('2026-03-04')).status).toBe(200)
    // The day ends where the project is.
    expect(await shown()).toEqual(['2026-03-04', Date.parse('2026-03-04T23:59:59.999Z')])
    expect((await decide(null)).status).toBe(200)
    expect(await shown()).toEqual([null, null])
  })
})

describe('a corrective action', () => {
  const action = async (more: object = {}) => ({
    ...{ text: 'The saw is set square each morning.', due: '2027-03-01' },
    owner: (await db('people').where({ sign_in: 'tam' }).first('id')).id as string,
    ...more,
  })
  it('has an owner and a day, is asked for by an inspector or engineer, and done once', async () => {
    const id = await reportOf('NCR-0001')
    const at = `${base}/ncrs/${id}`
    expect((await clients.tam.post(`${at}/action`, await action())).status).toBe(403)
    expect((await clients.petra.post(`${at}/action`, await action({ due: 'soon' }))).problem?.field).toBe(
      'due',
    )
    expect((await clients.petra.post(`${at}/action`, await action({ owner: uuidv7() }))).problem?.field).toBe(
      'owner',
    )
    expect((await clients.petra.post(`${at}/action`, await action())).status).toBe(200)
    const sheet = async () =>
      (await clients.ines.get(at)).body as { actions: { id: string; doneAt: number | null }[] }
    const [asked] = (await sheet()).actions
    expect(asked!.doneAt).toBeNull()
    const done = { action: asked!.id, text: 'Set, and looked at.' }
    expect((await clients.ines.post(`${at}/done`, { ...done, action: uuidv7() })).problem?.field).toBe(
      'action',
    )
    expect((await clients.ines.post(`${at}/done`, done)).status).toBe(200)
    expect((await clients.ines.post(`${at}/done`, done)).problem?.code).toBe('done')
    expect((await sheet()).actions[0]!.doneAt).toBeGreaterThan(0)
  })
  it('is nobody’s of another crew', async () => {
    const other = (await db('ncrs as n')
      .join('crews as c', 'c.id', 'n.crew')
      .where('c.name', 'Crew Harbour')
      .first('n.id')) as { id: string } | undefined
    if (!other) throw new Error('The demo has no report of Crew Harbour.')
    const reply = await clients.tam.post(`${base}/ncrs/${other.id}/done`, { action: uuidv7(), text: 'x' })
    expect(reply.problem?.code).toBe('not-found')
  })
})

it('the third joint at one step asks for an action before its report is closed', async () => {
  const ends: string[] = []
  for (let i = 0; i < 3; i++) {
    const joint = await freshJoint(db, 'RM-237')
    await reject(clients.ines, joint)
    const ncr = uuidv7()
    const raise = { id: ncr, subjectType: 'joint', subject: joint, step: REJECTED, photo: null }
    expect((await clients.ines.post(`${base}/ncrs`, raise)).status).toBe(200)
    ends.push(ncr)
  }
  const last = `${base}/ncrs/${ends.at(-1)!}`
  const disposed = { secret: demoPin, disposition: 'rework', cause: 'material', reason: 'Look at the label.' }
  expect((await clients.petra.post(`${last}/disposition`, disposed)).status).toBe(200)
  expect((await clients.ines.post(`${last}/rework`, { text: 'Looked.' })).status).toBe(200)
  const { repeat } = (await clients.ines.get(last)).body as {
    repeat: { times: number; asksForAction: boolean }
  }
  expect([repeat.times >= 3, repeat.asksForAction]).toEqual([true, true])
  const verified = { secret: demoPin, accepted: true, text: 'Right.' }
  expect((await clients.oskar.post(`${last}/verification`, verified)).problem?.code).toBe('needs-action')
  const { id: owner } = await db('people').where({ sign_in: 'rhona' }).first('id')
  const action = { text: 'Labels are read out loud.', owner, due: '2027-03-01' }
  expect((await clients.petra.post(`${last}/action`, action)).status).toBe(200)
  expect((await clients.oskar.post(`${last}/verification`, verified)).status).toBe(200)
  expect((await counts()).find((r) => r.id === ends.at(-1))!.cause).toBe('material')
})

it('a report says how often the same came within the crew’s last joints', async () => {
  const id = await reportOf('NCR-0001')
  const { repeat } = (await clients.ines.get(`${base}/ncrs/${id}`)).body as {
    repeat: { times: number; before: unknown[]; asksForAction: boolean }
  }
  expect(repeat.times).toBe(repeat.before.length + 1)
  expect(repeat.asksForAction).toBe(repeat.times >= 3)
})
