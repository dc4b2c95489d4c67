import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import { procedureSource } from '../../demo/system-records'
import { base, Client } from './client'
import { asApplication } from './connect'
import { recordOf } from './verified'

let db: Knex
let petra: Client
let juno: Client
let sorrel: Client
const PIN = '2468'
const KEY = 'rc-profile-gasket'
const source = (revision: string) => procedureSource(KEY).replace('revision: A', `revision: ${revision}`)
const state = async (id: string): Promise<string> =>
  (await db('procedures').where({ id }).first('state')).state

beforeAll(async () => {
  db = asApplication(inject('data'))
  const sign = (name: string) => new Client(inject('address')).signIn(name)
  ;[petra, juno, sorrel] = await Promise.all([sign('petra'), sign('juno'), sign('sorrel')])
})
afterAll(() => db.destroy())

const draft = async (client: Client, text: string) => {
  const id = uuidv7()
  return { id, reply: await client.post(`${base}/procedures`, { id, source: text }) }
}

describe('a revision from draft to issue', () => {
  it('goes from hand to hand: two engineers, each step in its turn', async () => {
    const { id, reply } = await draft(petra, source('B'))
    expect(reply.status).toBe(200)
    const post = (client: Client, act: string, body: object = {}) =>
      client.post(`${base}/procedures/${id}/${act}`, body)
    expect((await post(petra, 'issue', { secret: PIN })).problem?.code).toBe('wrong-state')
    expect((await post(petra, 'submit')).status).toBe(200)
    expect((await post(petra, 'source', { source: source('B'), version: 1 })).problem?.code).toBe(
      'wrong-state',
    )
    expect((await post(petra, 'review', { accepted: true, secret: PIN })).problem?.code).toBe('own-work')
    expect((await post(juno, 'review', { accepted: true, secret: '0000' })).problem?.code).toBe('bad-secret')
    expect((await post(juno, 'review', { accepted: false, secret: PIN })).problem).toMatchObject({
      code: 'missing',
      field: 'reason',
    })
    expect(
      (await post(juno, 'review', { accepted: false, reason: 'The gap is too wide.', secret: PIN })).status,
    ).toBe(200)
    expect(await state(id)).toBe('draft')
    const version = (await db('procedures').where({ id }).first('version')).version
    expect(
      (await post(petra, 'source', { source: source('B').replace('max: 1 deg', 'max: 0.8 deg'), version }))
        .status,
    ).toBe(200)
    expect((await post(petra, 'source', { source: source('B'), version })).problem?.code).toBe('changed')
    await post(petra, 'submit')
    expect((await post(juno, 'review', { accepted: true, secret: PIN })).status).toBe(200)
    const before = (await db('procedures').where({ procedure_key: KEY, state: 'issued' }).first('id')).id
    expect((await post(petra, 'issue', { secret: PIN })).status).toBe(200)
    expect([await state(id), await state(before)]).toEqual(['issued', 'superseded'])
    expect(await recordOf(db)).toEqual([[], []])
  })
  it('new joints are pinned to it, joints made before keep theirs', async () => {
    const issued = await db('procedures')
      .where({ procedure_key: KEY, state: 'issued' })
      .first('id', 'revision')
    expect(issued.revision).toBe('B')
    const made = await db('joints').where({ number: 'GS-01' }).first('procedure_id')
    expect(made.procedure_id).not.toBe(issued.id)
    const planned = (await db('joints').where({ system: KEY }).whereNull('procedure_id').first('id')).id
    expect(
      (
        await sorrel.post(`${base}/joints/${planned}/open`, {
          facts: { 'pipe.od': '760', 'pipe.bell': '110 mm', 'joint.gapMax': '19 mm' },
        })
      ).status,
    ).toBe(200)
    expect((await db('joints').where({ id: planned }).first('procedure_id')).procedure_id).toBe(issued.id)
  })
  it.each([
    [
      'a document that cannot be read',
      () => source('C').replace('max: joint.gapMax', 'max: joint.gapMax + 1 bar'),
      'bad-procedure',
      /^Line \d+, column \d+: adding/,
    ],
    ['a revision that is there already', () => source('A'), 'duplicate', /Revision A .* is there already/],
  ])('%s is refused, and nothing is taken in', async (_what, text, code, sentence) => {
    const before = Number((await db('procedures').count('* as n'))[0]!.n)
    const { reply } = await draft(petra, text())
    expect(reply.problem).toMatchObject({ code, message: expect.stringMatching(sentence) })
    expect(Number((await db('procedures').count('* as n'))[0]!.n)).toBe(before)
  })
  it('a JSON document is taken in like a YAML one', async () => {
    const { parse } = await import('yaml')
    const { reply } = await draft(juno, JSON.stringify(parse(source('D'))))
    expect(reply.status).toBe(200)
  })
  it('joints to be judged anew come in pages with their records', async () => {
    const id = (
      await db('procedures').where({ procedure_key: 'pe-electrofusion-socket', revision: 'B' }).first('id')
    ).id
    const first = (await petra.get(`${base}/procedures/${id}/joints`)).body as {
      joints: { id: string; state: string; entries: unknown[] }[]
      options: { rule: string }
    }
    expect(first.options.rule).toBe('guarded')
    expect(first.joints.filter((j) => j.state === 'accepted').length).toBeGreaterThan(200)
    const rest = (await petra.get(`${base}/procedures/${id}/joints?after=${first.joints.at(-1)!.id}`))
      .body as { joints: unknown[] }
    expect(rest.joints).toEqual([])
  })
})

describe('opening a joint by facts', () => {
  it.each([
    ['a fact that is missing', { 'pipe.od': '760 mm' }, 'missing', 'pipe.bell'],
    [
      'a fact out of bounds',
      { 'pipe.od': '9 m', 'pipe.bell': '110 mm', 'joint.gapMax': '19 mm' },
      'out-of-bounds',
      'pipe.od',
    ],
    [
      'a fact of another dimension',
      { 'pipe.od': '5 bar', 'pipe.bell': '110 mm', 'joint.gapMax': '19 mm' },
      'wrong-dimension',
      'pipe.od',
    ],
    ['a fact that nobody asked', { 'pipe.colour': 'grey' }, 'unknown-fact', 'facts.pipe.colour'],
  ])('%s is refused by name', async (_what, facts, code, field) => {
    const joint = (
      await db('joints').where({ system: 'rc-confined-ring' }).whereNull('procedure_id').first('id')
    ).id
    const wanted =
      code === 'unknown-fact' || code === 'missing'
        ? facts
        : { 'pipe.od': (facts as Record<string, string>)['pipe.od'], 'pipe.bell': '110 mm' }
    expect((await sorrel.post(`${base}/joints/${joint}/open`, { facts: wanted })).problem).toMatchObject({
      code,
      field,
    })
    expect((await db('joints').where({ id: joint }).first('procedure_id')).procedure_id).toBeNull()
  })
  it('what an item gives is not typed', async () => {
    const rhona = await new Client(inject('address')).signIn('rhona')
    const joint = (await db('joints').where({ number: 'SB-04' }).first('id')).id
    const sheet = (await rhona.get(`${base}/joints/${joint}`)).body as {
      opening: { places: string[]; facts: unknown[] }
    }
    expect(sheet.opening).toMatchObject({
      places: ['upstream', 'downstream', 'fitting'],
      facts: [{ key: 'joint.restraintCooling', optional: true }],
    })
    expect(
      (await rhona.post(`${base}/joints/${joint}/open`, { facts: { 'pipe.od': '63 mm' } })).problem,
    ).toMatchObject({ code: 'missing', field: 'upstream' })
  })
})
