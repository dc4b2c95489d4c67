import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import type { Summary } from '../../core/judgement/projection'
import type { Judgement } from '../../core/judgement/types'
import type { Watching, readingList } from '../../server/services/reading'
import type { TodayItem } from '../../server/services/today'
import { base, signedIn, type Client } from './client'
import { asApplication } from './connect'
import { secondKey } from './second-project'

/** Queries, conditions of a release and surveillance over HTTP: who may, what it does, what stays in the record. */
type List = Awaited<ReturnType<typeof readingList>>
let db: Knex
let people: Record<'ines' | 'oskar' | 'rhona' | 'tam' | 'hale' | 'petra' | 'bram' | 'admin', Client>
let joint: { id: string; crew: string }
const STEP = 'peeled'
beforeAll(async () => {
  db = asApplication(inject('data'))
  const names = ['ines', 'oskar', 'rhona', 'tam', 'hale', 'petra', 'bram', 'admin'] as const
  const clients = await signedIn(inject('address'), ...names)
  people = Object.fromEntries(names.map((n, i) => [n, clients[i]!])) as typeof people
  // An accepted joint of Crew Harbour that nobody else works at, and that nobody watched: which were drawn
  // and watched before differs from base to base.
  const accepted = await db('joints')
    .join('crews', 'crews.id', 'joints.crew')
    .where({ 'crews.name': 'Crew Harbour', then_state: 'accepted', system: 'pe-electrofusion-socket' })
    .orderBy('number')
    .select('joints.id', 'crew', 'summary')
  joint = accepted.find(({ summary }) => {
    const { watches } = JSON.parse(summary as string) as Pick<Summary, 'watches'>
    return watches?.length && watches.every((w) => w.done && !w.watched)
  })
})
afterAll(() => db.destroy())
const read = (who: keyof typeof people, kind: string, payload: object, more: object = {}) =>
  people[who].post(`${base}/joints/${joint.id}/reading`, { id: uuidv7(), step: STEP, kind, payload, ...more })
const say = (who: keyof typeof people, payload: object) =>
  people[who].post(`${base}/joints/${joint.id}/entries`, {
    entries: [{ id: uuidv7(), kind: 'response', step: STEP, payload, recordedAt: new Date().toISOString() }],
  })
const state = async () => (await db('joints').where({ id: joint.id }).first('state')).state as string

describe('a query', () => {
  it('is asked by whoever reads the record, and by nobody else', async () => {
    for (const who of ['rhona', 'bram', 'admin'] as const)
      expect((await read(who, 'query', { text: 'Why?', to: 'crew' })).problem?.code).toBe('forbidden')
    // Nor as one entry among others.
    const entry = {
      ...{ id: uuidv7(), kind: 'query', step: STEP, payload: { text: 'Why?', to: 'crew' } },
      recordedAt: new Date().toISOString(),
    }
    const sent = await people.rhona.post(`${base}/joints/${joint.id}/entries`, { entries: [entry] })
    expect(sent.problem).toMatchObject({ code: 'bad-kind', field: 'kind' })
  })
  it.each([
    ['no words', { to: 'crew' }, 'text'],
    ['of nobody', { text: 'Why?', to: 'moon' }, 'to'],
    ['what it does not know', { text: 'Why?', to: 'crew', loud: true }, 'payload'],
  ])('with %s is refused', async (_what, payload, field) => {
    const { problem } = await read('hale', 'query', payload)
    expect([problem?.code, problem?.field]).toEqual(['bad-payload', field])
  })
  it('at a step that there is not, or of a kind that is none, is refused', async () => {
    const at = await read('hale', 'query', { text: 'Why?', to: 'crew' }, { step: 'castle' })
    expect(at.problem?.code).toBe('unknown-step')
    expect((await read('hale', 'release', {})).problem?.field).toBe('kind')
  })
  it('holds the joint, and is on the Today of the crew, until it is answered', async () => {
    const id = uuidv7()
    expect(
      (await read('hale', 'query', { text: 'Which side was peeled twice?', to: 'crew' }, { id })).status,
    ).toBe(200)
    expect(await state()).toBe('held')
    const today = (await people.rhona.get(`${base}/today`)).body as TodayItem[]
    expect(today.find((i) => i.kind === 'query')).toMatchObject({
      ...{ subject: joint.id, step: STEP, detail: 'Asked: Which side was peeled twice?' },
    })
    const { asked } = (await people.hale.get(`${base}/reading`)).body as List
    expect(asked.map((a) => [a.of, a.step, a.text])).toContainEqual([
      'joint',
      STEP,
      'Which side was peeled twice?',
    ])
    expect((await say('tam', { to: id, text: 'The left' })).status).toBe(404)
    expect((await say('rhona', { to: uuidv7(), text: 'The left' })).problem).toMatchObject({
      code: 'not-found',
      field: 'to',
    })
    expect((await say('rhona', { to: id, text: 'The left' })).status).toBe(200)
    expect(await state()).toBe('accepted')
  })
  it('to an inspector is answered by one, and not by who asked', async () => {
    const id = uuidv7()
    await read('ines', 'query', { text: 'Was the gauge the right one?', to: 'inspector' }, { id })
    expect((await say('rhona', { to: id, text: 'Yes' })).problem?.code).toBe('forbidden')
    expect((await say('ines', { to: id, text: 'Yes' })).problem?.code).toBe('own-work')
    expect((await say('oskar', { to: id, text: 'Yes' })).status).toBe(200)
    expect(await state()).toBe('accepted')
  })
})

describe('what waits to be read', () => {
  const due = async () => {
    const out: List['rows'] = []
    for (let from: number | null = 0; from !== null;) {
      const page = (await people.ines.get(`${base}/reading?from=${from}`)).body as List
      out.push(...page.rows)
      from = page.next
    }
    return out
  }
  it('comes page by page, the oldest first, and goes once it is read', async () => {
    const rows = await due()
    expect(rows.length).toBeGreaterThan(50)
    expect(rows.map((r) => r.since)).toEqual(rows.map((r) => r.since).sort((a, b) => a - b))
    const own = rows.find((r) => r.id === joint.id)!
    expect((await read('oskar', 'review', {}, { step: own.step })).status).toBe(200)
    expect((await due()).filter((r) => r.id === joint.id && r.step === own.step)).toEqual([])
  })
  it.each(['-1', '1.5', 'x'])('from %s is refused', async (from) =>
    expect((await people.ines.get(`${base}/reading?from=${from}`)).problem?.field).toBe('from'),
  )
})

describe('surveillance', () => {
  const watching = async () => (await people.ines.get(`${base}/watching`)).body as Watching[]
  it('counts what was watched against what was drawn', async () => {
    const rows = await watching()
    const own = rows.find((w) => w.system === 'pe-electrofusion-socket')!
    const crew = own.crews.find((c) => c.name === 'Crew Harbour')!
    expect(crew.drawn).toBeGreaterThan(0)
    // One in five: far from none and from all.
    expect(crew.drawn / crew.done).toBeLessThan(0.6)
    expect((await read('oskar', 'watch', { good: true, note: 'Clean' }, { step: own.step })).status).toBe(200)
    const after = (await watching()).find((w) => w.step === own.step && w.system === own.system)!
    const now = after.crews.find((c) => c.name === 'Crew Harbour')!
    expect(now.watched + now.besides).toBe(crew.watched + crew.besides + 1)
  })
  it('is drawn for those who watch, and told to nobody whose work is watched', async () => {
    const sheet = async (who: 'rhona' | 'ines') =>
      (await people[who].get(`${base}/joints/${joint.id}`)).body as { drawn?: string[] }
    expect(await sheet('ines')).toHaveProperty('drawn')
    expect(await sheet('rhona')).not.toHaveProperty('drawn')
    const slice = JSON.stringify((await people.rhona.get(`${base}/slice?after=0&from=0`)).body)
    expect(slice).not.toContain('"drawn"')
  })
  it.each(['rhona', 'bram', 'admin'] as const)('is not for %s', async (who) => {
    expect((await people[who].get(`${base}/watching`)).problem?.code).toBe('forbidden')
    expect((await people[who].get(`${base}/reading`)).problem?.code).toBe('forbidden')
  })
  it('of another project is not there', async () => {
    expect((await people.ines.get(`projects/${secondKey}/watching`)).status).toBe(404)
    expect((await people.ines.get(`projects/${secondKey}/reading`)).status).toBe(404)
  })
})

it('what was said stays in a record that verifies', async () => {
  const sheet = (await people.ines.get(`${base}/joints/${joint.id}`)).body as {
    entries: { kind: string }[]
    judgement?: Judgement
  }
  const kinds = sheet.entries.map((e) => e.kind)
  for (const kind of ['query', 'response', 'review', 'watch']) expect(kinds).toContain(kind)
})
