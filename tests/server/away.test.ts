import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { afterAll, afterEach, beforeAll, describe, expect, inject, it } from 'vitest'
import { sealPin } from '../../app/device/sealed-pin'
import { boundTo } from '../../core/record/release-here'
import { demoPin } from '../../demo/people'
import type { Openings } from '../../server/services/openings'
import { entriesOf } from '../../server/db/entries'
import { findJoint } from '../../server/db/joints'
import { findProject } from '../../server/db/projects'
import { saveMakeup } from '../../server/services/makeup'
import type { Releasers } from '../../server/services/release-here'
import { makeStamp } from '../../server/services/sessions'
import { askedAt, doneBeforeHold, HOLD } from './at-hold'
import { base, signedIn, type Client } from './client'
import { asOwner, settingsOf } from './connect'
import { freshJoint } from './fresh-joint'
import { recordOf } from './verified'

/** What was done where there was no signal and is no entry: a joint opened, a hold released on the spot. */
let db: Knex
let tam: Client
let ines: Client
let hale: Client
const MINUTE = 60_000
const person = { tam: '', ines: '', petra: '' }

beforeAll(async () => {
  db = asOwner(inject('data'))
  ;[tam, ines, hale] = (await signedIn(inject('address'), 'tam', 'ines', 'hale')) as [Client, Client, Client]
  process.env.VET_LINE_SECRET = settingsOf(inject('data')).sessionPassword
  for (const name of Object.keys(person) as (keyof typeof person)[])
    person[name] = (await db('people').where({ sign_in: name }).first('id')).id
})
afterAll(() => db.destroy())

let places = 0
/** A station where no test of the demo lies, so that what is left there holds none of them back. */
const aside = () => 50_000 + ++places

/** A device that heard of the server so long ago. */
const device = (minutes: number) => {
  const id = uuidv7()
  return { id, stamp: makeStamp(id, person.tam, Date.now() - minutes * MINUTE) }
}
type Device = ReturnType<typeof device>
const from = (d: Device, path: string, body: object) =>
  tam.call('POST', `${base}/${path}`, body, { 'x-vet-line-device': d.id })

describe('a joint opened without a signal', () => {
  let openings: Openings
  const system = 'pe-electrofusion-socket'
  beforeAll(async () => {
    openings = (await tam.get(`${base}/openings`)).body as Openings
  })

  /** A joint of the crew that nobody has begun, with pieces that are free. */
  async function planned() {
    const crew = (await db('memberships').where({ person: person.tam }).first('crew')).crew
    const own = db('joints').where({ crew, system }).where('number', 'like', 'RM-%')
    const model = await own.clone().whereNull('opened_at').first()
    const id = uuidv7()
    await db('joints').insert({ ...model, id, number: `T-${id.slice(-8)}`, station: aside() })
    const along = (await tam.get(`${base}/openings`)).body as Openings
    const free = (place: string) => along.systems[system]!.places.find((p) => p.place === place)!.pieces
    // Pieces that go together: other tests deliver other sizes too.
    const fitting = free('fitting')[0]!
    const bore = along.pieces[fitting.item]!['fitting.bore']
    const upstream = free('upstream').find((p) => along.pieces[p.item]!['pipe.od'] === bore)!
    const downstream = free('downstream').find((p) => p.item === upstream.item && p.id !== upstream.id)!
    const chosen = { upstream: upstream.id, downstream: downstream.id, fitting: fitting.id }
    const sheet = (await tam.get(`${base}/joints/${id}`)).body as { opening: { facts: { key: string }[] } }
    const given: Record<string, unknown> = JSON.parse(
      (await own.clone().whereNotNull('opened_at').first('facts')).facts,
    )
    const facts = Object.fromEntries(
      sheet.opening.facts.filter((f) => given[f.key] !== undefined).map((f) => [f.key, given[f.key]]),
    )
    return { id, body: { ...chosen, facts }, chosen }
  }
  const away = (d: Device, minutes: number, procedure = openings.systems[system]!.procedure) => ({
    id: uuidv7(),
    at: new Date(Date.now() - minutes * MINUTE).toISOString(),
    stamp: d.stamp,
    procedure,
  })
  const row = (id: string) => db('joints').where({ id }).first()
  // The demo has few fittings: what was built in here is free again for other tests.
  afterEach(async () => {
    const { id: project } = (await findProject(db, 'skerry-head'))!
    for (const { id } of await db('joints')
      .where('station', '>', 50_000)
      .whereNotNull('fitting')
      .select('id')) {
      await db('joints').where({ id }).update({ upstream: null, downstream: null, fitting: null })
      await saveMakeup(db, (await findJoint(db, project, id))!, await entriesOf(db, id))
    }
  })
  const remark = (minutes: number, d: Device) => ({
    ...{ id: uuidv7(), kind: 'remark', step: 'washed', payload: { text: 'x' }, stamp: d.stamp, number: 1 },
    recordedAt: new Date(Date.now() - minutes * MINUTE).toISOString(),
  })
  const lateOf = async (id: string) => (await db('entries').where({ id }).first('late')).late

  it('takes along what it needs, of the own crew only', async () => {
    expect(openings.systems[system]!.places.map((p) => p.place)).toContain('upstream')
    expect(new Set(openings.plans.map((p) => p.crew)).size).toBe(1)
    const item = openings.systems[system]!.places[0]!.pieces[0]!.item
    expect(openings.pieces[item]).toHaveProperty(['pipe.od'])
    expect((await hale.get(`${base}/openings`)).status).toBe(403)
  })
  it('was opened when its device says, and what was recorded there since is in time', async () => {
    const { id, body } = await planned()
    const d = device(60)
    const at = away(d, 40)
    expect((await from(d, `joints/${id}/open`, { ...body, away: at })).status).toBe(200)
    expect((await row(id)).opened_at.toISOString()).toBe(at.at)
    const entry = remark(30, d)
    expect((await from(d, `joints/${id}/entries`, { entries: [entry] })).status).toBe(200)
    expect(await lateOf(entry.id)).toBeNull()
  })
  it('of which the device cannot show when counts from its arrival: what is dated before is late', async () => {
    const { id, body } = await planned()
    const d = device(20)
    const before = Date.now()
    expect((await from(d, `joints/${id}/open`, { ...body, away: away(d, 40) })).status).toBe(200)
    expect((await row(id)).opened_at.getTime()).toBeGreaterThanOrEqual(before)
    const entry = remark(15, d)
    await from(d, `joints/${id}/entries`, { entries: [entry] })
    expect(await lateOf(entry.id)).toBe('before-opening')
  })
  it('is not opened before what its device recorded earlier, however old the stamp', async () => {
    const first = await planned()
    const d = device(600)
    expect((await from(d, `joints/${first.id}/open`, { ...first.body, away: away(d, 30) })).status).toBe(200)
    const entry = remark(20, d)
    expect((await from(d, `joints/${first.id}/entries`, { entries: [entry] })).status).toBe(200)
    // Its pieces are chosen when those of the first are not free any more.
    const second = await planned()
    const before = Date.now()
    const back = await from(d, `joints/${second.id}/open`, { ...second.body, away: away(d, 300) })
    expect(back.status).toBe(200)
    expect((await row(second.id)).opened_at.getTime()).toBeGreaterThanOrEqual(before)
  })
  it('comes twice and is opened once; with other pieces it is refused', async () => {
    const [one, two] = [await planned(), device(60)]
    const body = { ...one.body, away: away(two, 30) }
    expect((await from(two, `joints/${one.id}/open`, body)).status).toBe(200)
    expect((await from(two, `joints/${one.id}/open`, body)).status).toBe(200)
    const otherFacts = { ...body, facts: {} }
    const other = { ...body, upstream: (await planned()).chosen.upstream }
    for (const changed of [other, ...(Object.keys(body.facts).length > 0 ? [otherFacts] : [])])
      expect((await from(two, `joints/${one.id}/open`, changed)).problem?.code).toBe('already-open')
  })
  it('keeps the revision that its device had, if the next was issued after its last contact', async () => {
    const old = await db('procedures').where({ id: openings.systems[system]!.procedure }).first()
    const next = { ...old, id: uuidv7(), revision: '99', issued_at: new Date(Date.now() - 30 * MINUTE) }
    await db('procedures').insert(next)
    await db('procedures').where({ id: old.id }).update({ state: 'superseded' })
    try {
      const [{ id, body }, late] = [await planned(), device(20)]
      const refused = await from(late, `joints/${id}/open`, { ...body, away: away(late, 10, old.id) })
      expect(refused.problem?.code).toBe('changed')
      const d = device(60)
      expect((await from(d, `joints/${id}/open`, { ...body, away: away(d, 40, old.id) })).status).toBe(200)
      expect((await row(id)).procedure_id).toBe(old.id)
      const foreign = (await db('procedures').whereNot({ procedure_key: system }).first('id')).id
      const wrong = await from(d, `joints/${(await planned()).id}/open`, {
        ...body,
        away: away(d, 9, foreign),
      })
      expect(wrong.problem?.field).toBe('procedure')
    } finally {
      // Made here by hand, with no record: it goes as it came, with its chain.
      await db('procedures').where({ id: next.id }).delete()
      await db('chains').where({ subject: next.id }).delete()
      await db('procedures').where({ id: old.id }).update({ state: 'issued' })
    }
  })
  it('with a piece that came into quarantine meanwhile stands, and a report says so', async () => {
    const { id, body, chosen } = await planned()
    const { lot } = await db('items').where({ id: chosen.upstream! }).first('lot')
    const known = await db('lots').where({ lot }).first('id')
    const quarantine = { quarantined_at: new Date(Date.now() - 20 * MINUTE), reason: 'cracks' }
    await db('lots').where({ id: known.id }).update(quarantine)
    try {
      const [d, asked] = [device(60), { ...body }]
      const known = away(d, 10)
      const refused = await from(d, `joints/${id}/open`, { ...asked, away: known })
      expect(refused.problem?.code).toBe('quarantined')
      const unknown = { ...asked, away: away(d, 40) }
      for (let i = 0; i < 2; i++) expect((await from(d, `joints/${id}/open`, unknown)).status).toBe(200)
      const reports = await db('ncrs').where({ subject: id })
      expect(reports.map((r) => r.reading)).toEqual([expect.stringContaining(`lot ${lot}`)])
    } finally {
      await db('lots').where({ id: known.id }).update({ quarantined_at: null, reason: null })
    }
  })
})

describe('a hold released on the crew’s device', () => {
  let along: Releasers
  beforeAll(async () => {
    along = (await tam.get(`${base}/releasers`)).body as Releasers
  })

  /** A joint that has come to its hold half an hour ago, without a signal. */
  async function held() {
    const joint = await freshJoint(db, 'RM-238', new Date(Date.now() - 50 * MINUTE))
    await db('joints').where({ id: joint }).update({ station: aside() })
    const d = device(60)
    const entries = [
      ...(await doneBeforeHold(db, joint, Date.now() - 40 * MINUTE)),
      ...askedAt(Date.now() - 30 * MINUTE),
    ].map((e, i) => ({ ...e, stamp: d.stamp, number: i + 1 }))
    expect((await from(d, `joints/${joint}/entries`, { entries })).problem).toBeNull()
    return { joint, d, number: entries.length + 1 }
  }
  async function word(
    { joint, d, number }: Awaited<ReturnType<typeof held>>,
    { by = person.ines, pin = demoPin, sealedFor = joint } = {},
  ) {
    const id = uuidv7()
    const sealed = await sealPin(along.key, pin, boundTo({ id, subject: sealedFor, step: HOLD, by }))
    return {
      ...{ id, step: HOLD, by, sealed, report: uuidv7(), stamp: d.stamp, number },
      recordedAt: new Date(Date.now() - 20 * MINUTE).toISOString(),
    }
  }
  const stateOf = async (joint: string) =>
    ((await ines.get(`${base}/joints/${joint}`)).body as { subject: { state: string } }).subject.state

  it('is known to be possible by the names of who may, and by nothing of their PINs', () => {
    const names = along.people.map((p) => p.id)
    expect(names).toContain(person.ines)
    expect(names).not.toContain(person.tam)
    expect(Object.keys(along.people[0]!).sort()).toEqual(['id', 'name'])
  })
  it('is the inspector’s, in the device’s time, and says where it was given; the same letter twice is one', async () => {
    const at = await held()
    const body = await word(at)
    for (let i = 0; i < 2; i++)
      expect((await from(at.d, `joints/${at.joint}/release-here`, body)).problem).toBeNull()
    const rows = await db('entries').where({ subject: at.joint, kind: 'release' })
    expect(rows).toHaveLength(1)
    expect(rows[0]).toMatchObject({ id: body.id, person: person.ines, role: 'inspector', late: null })
    expect(JSON.parse(rows[0].payload)).toEqual({ here: true })
    expect(await stateOf(at.joint)).not.toBe('held')
  })
  it.each([
    ['with a wrong PIN', { pin: '1357' }, 'PIN'],
    ['with a PIN that was given for another joint', { sealedFor: uuidv7() }, 'PIN'],
    ['by somebody who may not release', { by: 'petra' }, 'may do this'],
    ['by somebody of nowhere', { by: uuidv7() }, 'not on the project'],
  ])('%s is no release, and a report says so', async (_what, how, words) => {
    const at = await held()
    const by = 'by' in how && how.by === 'petra' ? person.petra : (how as { by?: string }).by
    const body = await word(at, { ...how, by: by ?? person.ines })
    const reply = await from(at.d, `joints/${at.joint}/release-here`, body)
    expect(reply.problem).toMatchObject({ code: 'not-released' })
    expect(reply.problem!.message).toContain(words)
    expect(await db('entries').where({ subject: at.joint, kind: 'release' })).toEqual([])
    const [report] = await db('ncrs').where({ subject: at.joint })
    expect(report).toMatchObject({ id: body.report, step: HOLD, raised_by: person.tam })
  })
  it('before everything is done is none either', async () => {
    const joint = await freshJoint(db, 'RM-238', new Date(Date.now() - 50 * MINUTE))
    await db('joints').where({ id: joint }).update({ station: aside() })
    const at = { joint, d: device(60), number: 1 }
    const reply = await from(at.d, `joints/${joint}/release-here`, await word(at))
    expect(reply.problem?.code).toBe('not-released')
  })
  it('leaves a record that verifies', async () => {
    expect(await recordOf(db)).toEqual([[], []])
  })
  it('is carried by the crew only: another crew does not see the joint', async () => {
    const at = await held()
    const [rhona] = (await signedIn(inject('address'), 'rhona')) as [Client]
    const reply = await rhona.post(`${base}/joints/${at.joint}/release-here`, await word(at))
    expect(reply.status).toBe(404)
    expect(await db('ncrs').where({ subject: at.joint })).toEqual([])
  })
})
