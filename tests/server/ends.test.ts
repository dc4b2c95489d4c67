import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import type { Summary } from '../../core/judgement/projection'
import { base, signedIn, type Client } from './client'
import { asOwner } from './connect'
import { freshJoint } from './fresh-joint'

/** What is made at each end of a joint is recorded at an end. */
let db: Knex
let milo: Client
let joint: string
beforeAll(async () => {
  db = asOwner(inject('data'))
  ;[milo] = (await signedIn(inject('address'), 'milo')) as [Client]
  joint = await freshJoint(db, 'IP-04')
})
afterAll(() => db.destroy())

const reading = (step: string, degrees: number) => ({
  id: uuidv7(),
  kind: 'reading',
  step,
  payload: { values: [degrees], typed: [`${degrees}`] },
  recordedAt: new Date().toISOString(),
})
const send = (...entries: object[]) => milo.post(`${base}/joints/${joint}/entries`, { entries })
const stored = async () => {
  const row = await db('joints')
    .where({ id: joint })
    .first<Record<'drafts' | 'done', number> & { summary: string }>()
  return { drafts: row.drafts, done: row.done, summary: JSON.parse(row.summary) as Summary }
}

describe('a step that is made at each end', () => {
  it('is refused without its end, and nothing is written', async () => {
    const { status, problem } = await send(reading('cut', 1))
    expect([status, problem]).toMatchObject([422, { code: 'which-end', field: 'step' }])
    expect(problem!.message).toContain('cut@upstream')
    expect(await db('entries').where({ subject: joint })).toEqual([])
  })
  it('is not known at an end that it does not have', async () => {
    for (const step of ['cut@sideways', 'tool@upstream', 'cut@'])
      expect((await send(reading(step, 1))).problem).toMatchObject({ code: 'unknown-step', field: 'step' })
  })
  it('is judged at its own end, and drafts its report there', async () => {
    expect((await send(reading('cut@upstream', 1), reading('cut@downstream', 9))).status).toBe(200)
    const { drafts, done, summary } = await stored()
    expect([drafts, summary.drafts.map((d) => d.step)]).toEqual([1, ['cut@downstream']])
    // The two marks are worked out at both ends; only the upstream cut conforms.
    expect(done).toBe(3)
  })
  it('says on lists which end comes next', async () => {
    const { summary } = await stored()
    expect([summary.next, summary.nextTitle]).toEqual(['right-parts', 'Right parts on site'])
  })
})
