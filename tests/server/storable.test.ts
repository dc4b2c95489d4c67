import fc from 'fast-check'
import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import { checkStorable, illFormed, isMoment } from '../../core/record/canonical'
import { canonicalEntry } from '../../core/record/chain'
import { entriesOf } from '../../server/db/entries'
import { findProject } from '../../server/db/projects'
import { appendEntries, sha256, type Actor } from '../../server/services/record'
import { base, Client } from './client'
import { asApplication } from './connect'
import { verified } from './verified'

/** Whatever the record takes, the database gives back as it was hashed. */
let db: Knex
let actor: Actor
let joint: string
let tool: string
beforeAll(async () => {
  db = asApplication(inject('data'))
  const project = (await findProject(db, 'skerry-head'))!
  joint = (await db('joints').where({ number: 'RM-238' }).first('id')).id
  // A record that nothing is worked out from.
  tool = (await db('instruments').where({ project: project.id }).first('id')).id
  const { id, name } = await db('people').where({ sign_in: 'ines' }).first('id', 'name')
  actor = { person: id, name, project: project.id, roles: ['inspector'], crew: null }
})
afterAll(() => db.destroy())

const anyText = (most: number) => fc.string({ unit: 'binary', maxLength: most })
const moment = fc.integer({ min: Date.UTC(2000, 0, 1), max: Date.UTC(2100, 0, 1) - 1 })

it('text, numbers and times survive the database unchanged', async () => {
  const payload = fc.record({
    text: anyText(200),
    number: fc.double({ noNaN: true, noDefaultInfinity: true }),
    list: fc.array(fc.oneof(anyText(20), fc.integer(), fc.boolean(), fc.constant(null))),
  })
  await fc.assert(
    fc.asyncProperty(payload, anyText(55), anyText(55), moment, async (data, step, device, at) => {
      const entry = {
        id: uuidv7(),
        kind: 'remark' as const,
        step,
        device,
        payload: data,
        recordedAt: new Date(at),
        late: 'no-stamp' as const,
      }
      await db.transaction(async (trx) => {
        const { entries } = await appendEntries(trx, actor, 'inspector', 'instrument', tool, [entry])
        const written = entries.at(-1)!
        const read = (await entriesOf(trx, tool)).at(-1)!
        expect({ ...read, feed: 0 }).toEqual({ ...written, feed: 0 })
        expect(sha256(canonicalEntry(read))).toBe(written.hash)
      })
    }),
    { numRuns: 200 },
  )
  const report = await verified(db)
  expect(report.faults).toEqual([])
})

describe('what would be stored otherwise is refused', () => {
  const lone = fc.constantFrom('\ud800', 'a\udfff', '\udbff\udbff', 'x\ud83d')
  it('half of a pair of surrogates, wherever it stands', () => {
    fc.assert(
      fc.property(fc.array(fc.string()), lone, fc.nat(), (texts, bad, at) => {
        const list = [
          ...texts.slice(0, at % (texts.length + 1)),
          bad,
          ...texts.slice(at % (texts.length + 1)),
        ]
        expect(illFormed({ a: [{ b: list }] })).not.toBeNull()
        expect(illFormed({ [bad]: 1 })).not.toBeNull()
        expect(illFormed({ a: texts })).toBeNull()
      }),
    )
  })
  it('a time outside the century', () => {
    for (const at of [
      Date.UTC(1999, 11, 31, 23, 59, 59, 999),
      Date.UTC(2100, 0, 1),
      NaN,
      -62135596800000,
      0.5,
    ])
      expect(isMoment(at), String(at)).toBe(false)
    for (const at of [Date.UTC(2000, 0, 1), Date.UTC(2100, 0, 1) - 1]) expect(isMoment(at)).toBe(true)
    expect(() => checkStorable({ payload: {}, recordedAt: new Date(NaN) })).toThrow(
      /not a day of this century/,
    )
  })
  it('over HTTP, with its code and field', async () => {
    const ines = await new Client(inject('address')).signIn('ines')
    const send = async (more: object) => {
      const entry = {
        id: uuidv7(),
        kind: 'remark',
        step: 'washed',
        payload: { text: 'x' },
        recordedAt: new Date().toISOString(),
        ...more,
      }
      const cookie = (ines as unknown as { cookie: string }).cookie
      // Written by hand, as a half pair does not survive the encoding of a text.
      const body = JSON.stringify({ entries: [entry] }).replaceAll('HALF', '\\ud800')
      const reply = await fetch(`${inject('address')}/api/${base}/joints/${joint}/entries`, {
        method: 'POST',
        headers: { cookie, 'content-type': 'application/json' },
        body,
      })
      return [reply.status, ((await reply.json()) as { data?: { code: string } }).data?.code]
    }
    for (const more of [
      { payload: { text: 'HALF' } },
      { device: 'HALF' },
      { step: 'HALF' },
      { instrument: 'HALF' },
    ])
      expect(await send(more)).toEqual([422, 'bad-text'])
  })
  it.each(['junk', 'http://', 'null', 'http://[', '://x'])(
    'an origin of %j is foreign, and no fault',
    async (origin) => {
      const ines = await new Client(inject('address')).signIn('ines')
      expect(
        (await ines.call('POST', `${base}/joints/${joint}/entries`, { entries: [] }, { origin })).problem
          ?.code,
      ).toBe('cross-site')
    },
  )
})

describe('what the base itself holds to', () => {
  const nobody = '0190aaaa-0000-7000-8000-000000000001'
  it('whoever is named is somebody, and whatever is stood for is there', async () => {
    const named = await db('information_schema.KEY_COLUMN_USAGE')
      .where({ TABLE_SCHEMA: db.client.database() })
      .whereNotNull('REFERENCED_TABLE_NAME')
      .select({ of: db.raw("CONCAT(TABLE_NAME, '.', COLUMN_NAME)") })
    const held = new Set(named.map((n: { of: string }) => n.of))
    const ids = await db('information_schema.COLUMNS')
      .where({ TABLE_SCHEMA: db.client.database(), DATA_TYPE: 'uuid' })
      .whereNot({ COLUMN_NAME: 'id' })
      .select({ of: db.raw("CONCAT(TABLE_NAME, '.', COLUMN_NAME)") })
    const free = ids.map((c: { of: string }) => c.of).filter((of) => !held.has(of))
    // What may be of several kinds is held by its chain; a session goes when its person leaves.
    expect(free.sort()).toEqual([
      ...['attachments.subject', 'chains.subject', 'devices_along.session', 'jobs.worker', 'ncrs.subject'],
    ])
  })
  it.each([
    ['ncrs', 'raised_by'],
    ['ncrs', 'crew'],
    ['packs', 'signed_by'],
    ['deliveries', 'signed_by'],
  ])('%s name nobody as %s who is not there', async (table, column) => {
    const { id } = await db(table).first('id')
    await expect(
      db(table)
        .where({ id })
        .update({ [column]: nobody }),
    ).rejects.toThrow(/foreign key constraint fails/)
  })
  it.each([
    ['items', { state: 'lost' }],
    ['items', { kind: 'bend' }],
    ['deliveries', { state: 'gone' }],
    ['packs', { verdict: 'perhaps' }],
    ['ncrs', { disposition: 'forget' }],
  ])('%s that are %j are refused', async (table, wrong) => {
    const { id } = await db(table).first('id')
    await expect(db(table).where({ id }).update(wrong)).rejects.toThrow(/CONSTRAINT/)
  })
})
