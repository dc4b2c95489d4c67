import type { Knex } from 'knex'
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import { base, Client } from './client'
import { asApplication } from './connect'
import { dot } from './picture'

/** A test that failed, what was done, and the run after it: both stay, on screen and on paper. */
let db: Knex
let pack: string
let petra: Client
let hale: Client
beforeAll(async () => {
  db = asApplication(inject('data'))
  petra = await new Client(inject('address')).signIn('petra')
  hale = await new Client(inject('address')).signIn('hale')
  pack = (await db('packs').where({ number: 'TP-B1.2' }).first('id')).id
})
afterAll(() => db.destroy())
const post = (what: string, body: unknown = {}) => petra.post(`${base}/packs/${pack}/${what}`, body)
interface Sheet {
  pack: { state: string; verdict: string | null }
  earlier: { evaluation: { verdict: string }; trace: { samples: unknown[] } | null }[]
  run: { since: string | null }
  after: { key: string; answer: string | null }[]
}
const sheet = async () => (await petra.get(`${base}/packs/${pack}`)).body as Sheet

/** raised in five minutes, settled, held for an hour, falling by so many kPa an hour */
const log = (perHour: number, noise: number) => {
  const from = Date.now() - 25 * 60_000
  return [
    'time,pressure kPa,pipe degC',
    ...Array.from({ length: 140 }, (_v, i) => {
      const t = i * 10
      const pressure = t < 200 ? (1500 * t) / 200 : 1503 - (perHour * t) / 3600 + ((i * 7919) % 13) * noise
      return `${new Date(from + t * 1000).toISOString()},${pressure.toFixed(2)},12`
    }),
  ].join('\n')
}

describe('a run after one that failed', () => {
  it('says what was found and done in between, or does not begin', async () => {
    const begun = await sheet()
    expect(begun.pack).toMatchObject({ state: 'failed' })
    expect(begun.earlier).toEqual([])
    expect((await post('start', { reason: 'Programme' })).problem).toMatchObject({
      code: 'repeat',
      field: 'since',
    })
    await db('packs')
      .where({ id: pack })
      .update({
        design: db.raw("JSON_SET(design, '$.parameters.settle', 300, '$.parameters.duration', 600)"),
      })
    expect(
      (await post('start', { reason: 'Programme', since: 'The coupling at BL-17 was re-made.' })).status,
    ).toBe(200)
    const again = await sheet()
    expect(again.run.since).toBe('The coupling at BL-17 was re-made.')
    expect(again.earlier).toMatchObject([{ evaluation: { verdict: 'reject' } }])
    expect(again.earlier[0]!.trace!.samples.length).toBeGreaterThan(100)
  })
  it('that is too close to call is neither signed nor failed', async () => {
    expect((await post('log', { csv: log(19, 0.6) })).body).toEqual({ verdict: 'too-close' })
    const image = `data:image/png;base64,${dot}`
    const signed = await hale.post(`${base}/packs/${pack}/sign`, { secret: '2468', image })
    expect(signed.problem?.message).toMatch(/too close to call/)
  })
  it('that holds is accepted; what comes after is said, the last word standing', async () => {
    expect((await post('start', { reason: 'Programme', since: 'A better gauge.' })).status).toBe(200)
    expect((await post('log', { csv: log(2, 0.1) })).body).toEqual({ verdict: 'accept' })
    expect((await post('after', { row: 'left', answer: 'drained' })).problem?.code).toBe('bad-row')
    for (const answer of ['filled', 'emptied'])
      expect((await post('after', { row: 'left', answer })).status).toBe(200)
    expect((await sheet()).after.find((r) => r.key === 'left')!.answer).toBe('emptied')
    expect((await sheet()).earlier).toHaveLength(2)
  })
  it('stands on the certificate with every run before it', async () => {
    const cookie = (petra as unknown as { cookie: string }).cookie
    const reply = await fetch(`${inject('address')}/api/${base}/packs/${pack}/certificate`, {
      headers: { cookie },
    })
    const pdf = Buffer.from(await reply.arrayBuffer()).toString('latin1')
    expect(pdf.slice(0, 5)).toBe('%PDF-')
    // Two pages of this run, and one for each before it at the least.
    expect((pdf.match(/\/Type \/Page\b(?!s)/g) ?? []).length).toBeGreaterThanOrEqual(4)
  })
})
