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
import { keepRules } from './rules-kept'

/** What a report says beside its state: why, whether it came before, what is changed because of it. */
let db: Knex
const clients = {} as Record<'ines' | 'oskar' | 'tam' | 'petra' | 'bram' | 'hale' | 'juno', Client>
beforeAll(async () => {
  db = asApplication(inject('data'))
  for (const name of ['ines', 'oskar', 'tam', 'petra', 'bram', 'hale', 'juno'] as const)
    clients[name] = await new Client(inject('address')).signIn(name)
})
afterAll(() => db.destroy())
const counts = async (who: keyof typeof clients = 'ines') =>
  (await clients[who].get(`${base}/ncrs/counts`)).body as Counted[]
/** the demo's report that its engineer has decided and nobody has answered */
const decidedReport = async () =>
  (await db('ncrs').where({ step: 'controller-time' }).orderBy('number').first('id')).id as string

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

describe('a concession where the plan has the client hold the step', () => {
  let giveBack: () => Promise<void>
  let at: string
  let joint: string
  beforeAll(async () => {
    joint = await freshJoint(db, 'GS-23')
    const { system } = await db('joints').where({ id: joint }).first('system')
    giveBack = await keepRules(db, [system])
    const today = new Date().toISOString().slice(0, 10)
    const rule = {
      ...{ procedure: system, step: REJECTED, party: 'witness', point: 'H', rate: null, line: null },
      ...{ crew: null, from: today, until: null, reason: 'The client wants to see these.' },
    }
    const kept = await clients.petra.post(`${base}/points`, rule)
    expect(kept.status).toBe(200)
    const { rules } = (await clients.juno.get(`${base}/points`)).body as {
      rules: { id: string; step: string; review: unknown }[]
    }
    const { id: ruled } = rules.find((r) => r.step === REJECTED && r.review === null)!
    expect((await clients.juno.post(`${base}/points/${ruled}`, { accepted: true, reason: '' })).status).toBe(
      200,
    )
    await reject(clients.ines, joint)
    const id = uuidv7()
    at = `${base}/ncrs/${id}`
    await clients.ines.post(`${base}/ncrs`, {
      id,
      subjectType: 'joint',
      subject: joint,
      step: REJECTED,
      photo: null,
    })
    // Where other tests reported the same step of this crew, it is a repeat, and asks for an action first.
    const { id: owner } = await db('people').where({ sign_in: 'sorrel' }).first('id')
    const action = { text: 'Look twice.', owner, due: '2027-03-01' }
    expect((await clients.petra.post(`${at}/action`, action)).status).toBe(200)
  })
  afterAll(() => giveBack())
  const decide = () =>
    clients.petra.post(`${at}/disposition`, {
      ...{ disposition: 'use-as-is', reason: 'It seals all the same.', secret: demoPin },
    })
  const say = (agrees: boolean, who: keyof typeof clients = 'hale', more: object = {}) =>
    clients[who].post(`${at}/concession`, { agrees, text: 'Seen on site.', secret: demoPin, ...more })
  const done = () => clients.ines.post(`${at}/rework`, { text: 'Left as it is.', photo: null })
  const verify = () =>
    clients.oskar.post(`${at}/verification`, { accepted: true, text: 'Looked at.', secret: demoPin })
  const waits = async () =>
    ((await clients.hale.get(`${base}/today`)).body as TodayItem[]).filter((i) => i.kind === 'concession')

  it('is not asked for before the engineer has decided', async () => {
    expect((await say(true)).problem?.code).toBe('wrong-state')
    expect(await waits()).toEqual([])
  })
  it('waits on the Today of the witness, and is not closed without the client', async () => {
    expect((await decide()).status).toBe(200)
    expect((await waits()).map((i) => i.detail)).toEqual(['A concession waits for the client’s word'])
    expect((await done()).status).toBe(200)
    expect((await verify()).problem?.code).toBe('needs-client')
  })
  it('is the client’s word alone, with the PIN and the grounds', async () => {
    for (const who of ['ines', 'petra', 'tam', 'bram'] as const)
      expect((await say(true, who)).problem?.code).toBe('forbidden')
    expect((await say(true, 'hale', { secret: '1111' })).problem?.code).toBe('bad-secret')
    expect((await say(true, 'hale', { text: ' ' })).problem?.field).toBe('text')
    expect((await say(true, 'hale', { agrees: 'yes' })).problem?.field).toBe('agrees')
  })
  it('that the client does not agree to goes back to the engineer', async () => {
    expect((await say(false)).status).toBe(200)
    const sheet = (await clients.petra.get(at)).body as { ncr: { state: string; disposition: string | null } }
    expect([sheet.ncr.state, sheet.ncr.disposition]).toEqual(['open', null])
  })
  it('that the client signs for closes, once; a word on the earlier decision does not count', async () => {
    expect((await decide()).status).toBe(200)
    expect((await done()).status).toBe(200)
    expect((await verify()).problem?.code).toBe('needs-client')
    expect((await say(true)).status).toBe(200)
    expect((await say(true)).problem?.code).toBe('done')
    expect((await verify()).status).toBe(200)
    const { entries } = (await clients.ines.get(at)).body as { entries: { kind: string; role: string }[] }
    expect(entries.filter((e) => e.kind === 'concession').map((e) => e.role)).toEqual(['witness', 'witness'])
  })
  it('of a step that the plan leaves to the inspector is not the client’s', async () => {
    const other = await decidedReport()
    const reply = await clients.hale.post(`${base}/ncrs/${other}/concession`, {
      ...{ agrees: true, text: 'Seen.', secret: demoPin },
    })
    expect(reply.problem?.code).toBe('not-asked')
  })
})

describe('a corrective action', () => {
  const action = async (more: object = {}) => ({
    ...{ text: 'The saw is set square each morning.', due: '2027-03-01' },
    owner: (await db('people').where({ sign_in: 'tam' }).first('id')).id as string,
    ...more,
  })
  it('has an owner and a day, is asked for by an inspector or engineer, and done once', async () => {
    const id = await decidedReport()
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
  const id = await decidedReport()
  const { repeat } = (await clients.ines.get(`${base}/ncrs/${id}`)).body as {
    repeat: { times: number; before: unknown[]; asksForAction: boolean }
  }
  expect(repeat.times).toBe(repeat.before.length + 1)
  expect(repeat.asksForAction).toBe(repeat.times >= 3)
})
