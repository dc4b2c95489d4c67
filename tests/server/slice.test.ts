import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import type { SlicePage } from '../../server/services/slice'
import { base, signedIn, type Client } from './client'
import { asOwner } from './connect'
import { freshJoint } from './fresh-joint'

/** What a device takes along: what its person may see, whole, and afterwards only what has changed. */
let db: Knex
let ines: Client
let sorrel: Client
let hale: Client
beforeAll(async () => {
  db = asOwner(inject('data'))
  ;[ines, sorrel, hale] = (await signedIn(inject('address'), 'ines', 'sorrel', 'hale')) as [
    Client,
    Client,
    Client,
  ]
})
afterAll(() => db.destroy())

async function taken(client: Client, after = 0) {
  const pages: SlicePage[] = []
  for (let from: number | null = 0; from !== null;) {
    const reply = await client.get(`${base}/slice?after=${after}&from=${from}&addresses=${after === 0}`)
    expect(reply.status).toBe(200)
    pages.push(reply.body as SlicePage)
    from = pages.at(-1)!.next
  }
  return pages
}
const rowsOf = (pages: SlicePage[]) => pages.flatMap((p) => p.rows)
const composed = (pages: SlicePage[], path: string): Record<string, unknown> => {
  const page = pages.find((p) => p.rows.some((r) => r.path === path))!
  const { sheet, shared } = page.rows.find((r) => r.path === path)!
  const parts = Object.entries(shared).map(([part, digest]) => [part, page.shared[digest]])
  return { ...sheet, ...(Object.fromEntries(parts) as object) }
}
const remark = (step: string) => ({
  entries: [
    { id: uuidv7(), kind: 'remark', step, payload: { text: 'x' }, recordedAt: new Date().toISOString() },
  ],
})

describe('the slice of a device', () => {
  it('holds worksheets as their own routes give them', async () => {
    const pages = await taken(sorrel)
    const rows = rowsOf(pages)
    expect(rows.length).toBe(pages[0]!.total)
    expect(pages[0]!.addresses).toEqual(rows.map((r) => r.path))
    for (const { path } of [
      rows[0]!,
      rows.at(-1)!,
      rows.find((r) => r.path.startsWith('reaches')) ?? rows[1]!,
    ])
      expect(composed(pages, path)).toEqual((await sorrel.get(`${base}/${path}`)).body)
  })
  it('of a crew lead holds nothing of another crew', async () => {
    const crew = (await db('crews').where({ name: 'Crew Dunes' }).first('id')).id as string
    for (const { sheet } of rowsOf(await taken(sorrel)))
      expect((sheet.subject as { crew: string }).crew).toBe(crew)
  })
  it('of an inspector holds what is at work with every crew', async () => {
    const crews = new Set(rowsOf(await taken(ines)).map((r) => (r.sheet.subject as { crew: string }).crew))
    expect(crews.size).toBeGreaterThan(2)
  })
  it('afterwards brings only what has changed, and again nothing', async () => {
    const joint = await freshJoint(db, 'GS-17')
    const [{ sequence }] = (await taken(sorrel)) as [SlicePage]
    expect(rowsOf(await taken(sorrel, sequence))).toEqual([])
    await sorrel.post(`${base}/joints/${joint}/entries`, remark('tools'))
    const news = await taken(sorrel, sequence)
    expect(rowsOf(news).map((r) => r.path)).toEqual([`joints/${joint}`])
    expect(news[0]!.addresses).toBeNull()
    expect(rowsOf(await taken(sorrel, news[0]!.sequence))).toEqual([])
  })
  it('says procedures, instruments and names once a page, however many sheets have them', async () => {
    const [page] = (await taken(ines)) as [SlicePage]
    expect(Object.keys(page!.shared).length).toBeLessThan(page!.rows.length)
  })
  it('is not for whoever records nothing in the field', async () => {
    expect((await hale.get(`${base}/slice`)).problem?.code).toBe('forbidden')
  })
  it.each([
    ['a place ahead of the record', '?after=999999999', 'after'],
    ['what is no place', '?after=x', 'after'],
    ['a page before the first', '?from=-1', 'from'],
  ])('refuses %s', async (_what, query, field) => {
    expect((await ines.get(`${base}/slice${query}`)).problem?.field).toBe(field)
  })
})

describe('before a device keeps anything', () => {
  it('the PIN is seen to be the person’s', async () => {
    expect((await sorrel.post(`${base}/device`, { secret: '9999' })).problem?.code).toBe('bad-secret')
    const mine = (await sorrel.post(`${base}/device`, { secret: '2468' })).body as { share: string }
    const other = (await ines.post(`${base}/device`, { secret: '2468' })).body as { share: string }
    expect(mine.share).toMatch(/^[\w-]{43}$/)
    expect(other.share).not.toBe(mine.share)
    expect((await sorrel.get('session')).body).toMatchObject({ share: mine.share })
  })
  it('whoever is not signed in is given nothing that opens a store', async () => {
    const reply = await fetch(`${inject('address')}/api/session`)
    expect(await reply.json()).toMatchObject({ person: null, share: null })
  })
})
