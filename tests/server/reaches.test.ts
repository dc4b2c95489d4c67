import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import { base, signedIn, type Client } from './client'
import type { Summary } from '../../core/judgement/projection'
import { asApplication } from './connect'

/** Embedment recorded over HTTP: what is taken, what is refused, and what is never half done. */
let db: Knex
let reach: string
let ines: Client
let tam: Client
let rhona: Client
beforeAll(async () => {
  db = asApplication(inject('data'))
  ;[ines, tam, rhona] = (await signedIn(inject('address'), 'ines', 'tam', 'rhona')) as [
    Client,
    Client,
    Client,
  ]
  const north = (await db('crews').where({ name: 'Crew North' }).first('id')).id
  reach = (
    await db('reaches').where({ crew: north, state: 'not-started' }).orderBy('from_station').first('id')
  ).id
})
afterAll(() => db.destroy())

const entry = (kind: string, payload: object, more: object = {}) => ({
  id: uuidv7(),
  kind,
  step: ({ lift: 'lifts', density: 'density' } as Record<string, string>)[kind] ?? null,
  payload,
  recordedAt: new Date().toISOString(),
  ...more,
})
const lift = (side: string, thickness: number, more: object = {}) =>
  entry('lift', {
    side,
    thickness,
    passes: 4,
    plant: 'hand',
    material: 'sand',
    moisture: 'damp',
    haunched: true,
    factor: 1,
    ...more,
  })
const density = (wetDensity: number, more: object = {}) =>
  entry('density', {
    side: 'both',
    station: 2650,
    wetDensity,
    moisture: 0.08,
    maximum: 1900,
    method: 'sand',
    ...more,
  })
const send = (who: Client, ...entries: object[]) => who.post(`${base}/reaches/${reach}/entries`, { entries })
const state = async () => {
  const row = (await db('reaches').where({ id: reach }).first('state', 'summary')) as {
    state: string
    summary: string
  }
  const { left, right } = (JSON.parse(row.summary) as Summary).figures
  return { state: row.state, left, right }
}
const count = async () => Number((await db('entries').where({ subject: reach }).count('* as n'))[0]!.n)

describe('embedment', () => {
  it('levels grow side by side', async () => {
    expect((await send(tam, lift('left', 0.15))).status).toBe(200)
    expect(await state()).toMatchObject({ state: 'in-work', left: 0.15, right: 0 })
    expect((await send(tam, lift('right', 0.15))).status).toBe(200)
    expect(await state()).toMatchObject({ state: 'in-work', left: 0.15, right: 0.15 })
  })
  it('a bad lift is recorded and rejects; relaid, it stands again', async () => {
    const bad = lift('both', 0.4)
    expect((await send(tam, bad)).status).toBe(200)
    expect((await state()).state).toBe('rejected')
    expect((await send(tam, lift('both', 0.15, { replaces: bad.id }))).status).toBe(200)
    expect(await state()).toMatchObject({ state: 'in-work', left: expect.closeTo(0.3, 9) })
  })
  it('a failed density test rejects until one beside it passes', async () => {
    const failed = density(1700)
    await send(tam, failed)
    expect((await state()).state).toBe('rejected')
    await send(tam, density(1960))
    expect((await state()).state).toBe('rejected')
    await send(tam, density(1960, { retestOf: failed.id }))
    expect((await state()).state).toBe('in-work')
  })
  it.each([
    ['a side that is none', lift('top', 0.1), 'side'],
    ['no thickness', lift('both', 0), 'thickness'],
    ['two and a half passes', lift('both', 0.1, { passes: 2.5 }), 'passes'],
    ['a lift without its moisture', lift('both', 0.1, { moisture: undefined }), 'moisture'],
    ['an unknown key', lift('both', 0.1, { colour: 'red' }), 'payload'],
    ['soil without weight', density(0), 'wetDensity'],
    ['a retest of nothing', density(1960, { retestOf: uuidv7() }), 'retestOf'],
    ['a lift without its step', { ...lift('both', 0.1), step: null }, 'step'],
    ['a step that is not there', { ...lift('both', 0.1), step: 'lift' }, 'step'],
    ['a thickness written as text', lift('both', 0.1, { thickness: '0.1' }), 'thickness'],
    ['a lift to take out that is not there', lift('both', 0.1, { replaces: uuidv7() }), 'replaces'],
    ['a strike of nothing', entry('correction', { strikes: uuidv7(), reason: 'x' }), 'strikes'],
    ['a strike without a reason', entry('correction', { strikes: uuidv7(), reason: ' ' }), 'reason'],
    [
      'tomorrow',
      { ...lift('both', 0.1), recordedAt: new Date(Date.now() + 86_400_000).toISOString() },
      'recordedAt',
    ],
    ['a release', entry('release', {}), 'kind'],
  ])('%s is refused by its field, and nothing is written', async (_what, bad, field) => {
    const before = [await count(), await state()]
    const reply = await send(tam, lift('both', 0.1), bad)
    expect(reply.status).toBeGreaterThanOrEqual(400)
    expect(reply.problem!.field?.replace('entries[1]', 'entries[0]')).toBe(field)
    expect([await count(), await state()]).toEqual(before)
  })
  it('a lead strikes the own entries only; an inspector any', async () => {
    const byInspector = density(1950)
    const byLead = density(1955)
    await send(ines, byInspector)
    await send(tam, byLead)
    expect(
      (await send(tam, entry('correction', { strikes: byInspector.id, reason: 'mine is better' }))).problem,
    ).toMatchObject({ code: 'forbidden', field: 'strikes' })
    expect((await send(tam, entry('correction', { strikes: byLead.id, reason: 'wrong hole' }))).status).toBe(
      200,
    )
    expect(
      (await send(ines, entry('correction', { strikes: byInspector.id, reason: 'wrong hole' }))).status,
    ).toBe(200)
  })
  it('another crew’s reach is not there', async () => {
    expect((await send(rhona, lift('both', 0.1))).problem?.code).toBe('not-found')
    expect((await rhona.get(`${base}/reaches/${reach}`)).status).toBe(404)
  })
  it('the same lift sent twice is one lift', async () => {
    const one = lift('both', 0.05)
    const before = await count()
    await send(tam, one)
    await send(tam, one)
    expect(await count()).toBe(before + 1)
  })
})
