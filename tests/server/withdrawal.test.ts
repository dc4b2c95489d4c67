import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import { findProject } from '../../server/db/projects'
import { findPack } from '../../server/db/packs'
import { readyOf } from '../../server/services/pack-sheet'
import { base, signedIn, type Client } from './client'
import { asOwner } from './connect'
import { freshJoint } from './fresh-joint'
import { verified } from './verified'

/** What bears entries is withdrawn with a reason, never deleted, and can be brought back. */
let db: Knex
let sorrel: Client
let ines: Client
let tam: Client
let petra: Client
let admin: Client
let joint: string

beforeAll(async () => {
  db = asOwner(inject('data'))
  ;[sorrel, ines, tam, petra, admin] = (await signedIn(
    inject('address'),
    'sorrel',
    'ines',
    'tam',
    'petra',
    'admin',
  )) as [Client, Client, Client, Client, Client]
  joint = await freshJoint(db, 'RM-238')
  // Where no joint of another test lies.
  await db('joints').where({ id: joint }).update({ station: 60_000 })
})
afterAll(() => db.destroy())

const reason = 'The line was moved beside the ditch.'
const withdraw = (who: Client, where: string, more: object = {}) =>
  who.post(`${base}/${where}/withdraw`, { id: uuidv7(), reason, secret: '2468', ...more })
const yes = (step = 'right-parts') => ({
  ...{ id: uuidv7(), kind: 'confirmation', step, payload: { answer: 'yes' } },
  recordedAt: new Date().toISOString(),
})
const send = (who: Client, ...entries: object[]) => who.post(`${base}/joints/${joint}/entries`, { entries })
const stateOf = async () => (await db('joints').where({ id: joint }).first('state')).state as string

describe('a joint', () => {
  const answered = yes()
  it('is withdrawn by an engineer alone, with a reason and the PIN', async () => {
    expect((await send(tam, answered)).status).toBe(200)
    for (const who of [tam, ines, admin])
      expect((await withdraw(who, `joints/${joint}`)).problem?.code).toBe('forbidden')
    expect((await withdraw(petra, `joints/${joint}`, { secret: '0000' })).status).toBeGreaterThan(400)
    expect((await withdraw(petra, `joints/${joint}`, { reason: ' ' })).problem?.field).toBe('reason')
    expect(await stateOf()).toBe('in-work')
    expect((await withdraw(petra, `joints/${joint}`)).status).toBe(200)
    expect(await stateOf()).toBe('withdrawn')
  })
  it('a crew of another sees nothing of it', async () => {
    expect((await sorrel.get(`${base}/joints/${joint}`)).status).toBe(404)
  })
  it('takes no entry any more; what it has already is known again', async () => {
    expect((await send(tam, yes('tools'))).problem).toMatchObject({ code: 'withdrawn', field: 'entries' })
    expect((await send(tam, yes('tools'))).problem?.message).toContain(reason)
    expect((await send(tam, answered)).status).toBe(200)
    expect((await withdraw(petra, `joints/${joint}`)).problem?.code).toBe('withdrawn')
  })
  it('holds no test back: the ready list does not speak of it', async () => {
    const project = (await findProject(db, 'skerry-head'))!
    const { number, station, alignment } = await db('joints').where({ id: joint }).first()
    const row = await db('packs').where({ alignment }).first('id')
    const pack = (await findPack(db, project.id, row.id))!
    const said = async () =>
      JSON.stringify(await readyOf(db, project, { ...pack, from: station - 0.1, to: station + 0.1 }, []))
    expect(await said()).not.toContain(number)
    await db('joints').where({ id: joint }).update({ state: 'in-work' })
    expect(await said()).toContain(number)
    await db('joints').where({ id: joint }).update({ state: 'withdrawn' })
  })
  it('comes back when an inspector strikes the word, and the record holds throughout', async () => {
    const { id } = await db('entries').where({ subject: joint, kind: 'withdrawal' }).first('id')
    const strike = {
      ...{ id: uuidv7(), kind: 'correction', step: null, recordedAt: new Date().toISOString() },
      payload: { strikes: id, reason: 'The ditch was moved instead.' },
    }
    expect((await send(tam, strike)).problem?.code).toBe('forbidden')
    expect((await send(ines, strike)).status).toBe(200)
    expect(await stateOf()).toBe('in-work')
    expect((await send(tam, yes('tools'))).status).toBe(200)
  })
  it('that is not open is taken off the plan instead', async () => {
    const planned = await db('joints').whereNull('procedure_id').first('id')
    expect((await withdraw(petra, `joints/${planned.id}`)).problem?.code).toBe('not-open')
  })
})

describe('a test pack', () => {
  let pack: string
  beforeAll(async () => {
    const like = await db('packs').where({ number: 'TP-05' }).first()
    pack = uuidv7()
    await db('packs').insert({
      ...{ ...like, id: pack, number: `T-${pack.slice(-6)}`, state: 'planned' },
      ...{ log_file: null, verdict: null, signed_by: null, signed_at: null },
    })
  })
  const state = async () => (await db('packs').where({ id: pack }).first('state')).state as string
  it('is not withdrawn while it runs', async () => {
    const start = await petra.post(`${base}/packs/${pack}/start`, { reason: 'to try it' })
    expect(start.status).toBe(200)
    expect((await withdraw(petra, `packs/${pack}`)).problem?.code).toBe('wrong-state')
    expect(await state()).toBe('running')
  })
  it('is withdrawn when planned, by an engineer, and not started any more', async () => {
    const other = uuidv7()
    const like = await db('packs').where({ id: pack }).first()
    await db('packs').insert({ ...like, id: other, number: `T-${other.slice(-6)}`, state: 'planned' })
    expect((await withdraw(ines, `packs/${other}`)).problem?.code).toBe('forbidden')
    expect((await withdraw(petra, `packs/${other}`)).status).toBe(200)
    pack = other
    expect(await state()).toBe('withdrawn')
    const again = await petra.post(`${base}/packs/${other}/start`, { reason: 'to try it' })
    expect(again.problem?.code).toBe('wrong-state')
  })
})

it('the record holds, and what is stored of them follows from it', async () => {
  const { faults, stale } = await verified(db)
  expect(faults.filter((f) => f.subject === joint)).toEqual([])
  expect(stale.filter((f) => f.subject === joint || f.subjectType === 'pack')).toEqual([])
})
