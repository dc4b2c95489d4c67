import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { afterAll, beforeAll, expect, inject, it } from 'vitest'
import { feedAfter } from '../../server/db/entries'
import { base, Client } from './client'
import { asApplication } from './connect'

let db: Knex
beforeAll(() => {
  db = asApplication(inject('data'))
})
afterAll(() => db.destroy())
const WRITERS = 20
const LISTENERS = 20
const EACH = 12

/** A listener that keeps every id it hears, as a browser does. */
async function listen(who: string) {
  const client = await new Client(inject('address')).signIn(who)
  const abort = new AbortController()
  const stream = await fetch(`${inject('address')}/api/${base}/feed`, {
    headers: { cookie: (client as unknown as { cookie: string }).cookie },
    signal: abort.signal,
  })
  const heard: { feed: number; subject: string; crew: string | null }[] = []
  const reader = stream.body!.pipeThrough(new TextDecoderStream()).getReader()
  let rest = ''
  let opened: () => void = () => undefined
  const open = new Promise<void>((done) => (opened = done))
  void (async () => {
    for (;;) {
      const { value, done } = await reader.read()
      if (done) return
      rest += value
      for (let end = rest.indexOf('\n\n'); end >= 0; end = rest.indexOf('\n\n')) {
        const block = rest.slice(0, end)
        rest = rest.slice(end + 2)
        if (block.includes('event: open')) opened()
        const data = /^data: (\[.*)$/m.exec(block)?.[1]
        if (data) heard.push(...(JSON.parse(data) as typeof heard))
      }
    }
  })().catch(() => undefined)
  await open
  return { heard, abort }
}

it(
  'with many writers and listeners every listener hears every entry it may, once and in order',
  { timeout: 120_000 },
  async () => {
    const project = (await db('projects').where({ project_key: 'skerry-head' }).first('id')).id as string
    const joints = await db('joints')
      .where({ project })
      .whereNotNull('procedure_id')
      .where('number', 'like', 'RM-2%')
      .orderBy('number', 'desc')
      .limit(WRITERS)
      .select('id', 'crew')
    const crew = (
      await db('memberships as m')
        .join('people as p', 'p.id', 'm.person')
        .where('p.sign_in', 'tam')
        .first('m.crew')
    ).crew as string
    // One place behind what is there: a reader that keeps a place, as a device does.
    const from = Number((await db('feeds').where({ project }).first('place')).place)
    let place = from
    let stop = false
    const seen: number[] = []
    const reader = (async () => {
      while (!stop) {
        for (const row of await feedAfter(db, project, place)) {
          seen.push(row.feed)
          place = row.feed
        }
      }
    })()
    const names = Array.from(
      { length: LISTENERS },
      (_v, i) => ['ines', 'oskar', 'petra', 'juno', 'hale', 'tam', 'rhona'][i % 7]!,
    )
    const listeners: ({ name: string } & Awaited<ReturnType<typeof listen>>)[] = []
    for (const name of names) listeners.push({ name, ...(await listen(name)) })
    const ines = await new Client(inject('address')).signIn('ines')
    const written: { id: string; subject: string; crew: string }[] = []
    await Promise.all(
      joints.map(async (j: { id: string; crew: string }) => {
        for (let i = 0; i < EACH; i++) {
          const id = uuidv7()
          const reply = await ines.post(`${base}/joints/${j.id}/entries`, {
            entries: [
              {
                id,
                kind: 'remark',
                step: null,
                payload: { text: `feed ${i}` },
                recordedAt: new Date().toISOString(),
              },
            ],
          })
          expect(reply.status).toBe(200)
          written.push({ id, subject: j.id, crew: j.crew })
        }
      }),
    )
    const rows = await db('entries')
      .whereIn(
        'id',
        written.map((w) => w.id),
      )
      .select('feed', 'subject')
    expect(rows).toHaveLength(WRITERS * EACH)
    const last = Math.max(...rows.map((r) => r.feed))
    const deadline = Date.now() + 20_000
    const complete = () =>
      listeners.every(
        (l) => l.heard.some((h) => h.feed === last) || l.name === 'rhona' || l.name === 'tam',
      ) && place >= last
    while (!complete() && Date.now() < deadline) await new Promise((done) => setTimeout(done, 50))
    await new Promise((done) => setTimeout(done, 900))
    stop = true
    await reader
    for (const l of listeners) l.abort.abort()
    // What grows by one from commit to commit leaves no hole behind a reader.
    expect(seen).toEqual(Array.from({ length: seen.length }, (_v, i) => from + 1 + i))
    const crewOf = new Map(joints.map((j: { id: string; crew: string }) => [j.id, j.crew]))
    for (const { name, heard } of listeners) {
      const mine = heard.filter((h) => rows.some((r) => r.feed === h.feed)).map((h) => h.feed)
      const own =
        name === 'tam' ? crew : name === 'rhona' ? [...crewOf.values()].find((c) => c !== crew) : null
      const wanted = rows
        .filter((r) => own === null || crewOf.get(r.subject) === own)
        .map((r) => r.feed as number)
        .sort((a, b) => a - b)
      expect(mine, name).toEqual(wanted)
      if (own !== null)
        expect(
          heard.every((h) => h.crew === null || h.crew === own),
          `${name} hears of no other crew`,
        ).toBe(true)
    }
  },
)
