import type { Knex } from 'knex'
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import type { JointClock } from '../../server/services/clocks'
import type { TodayItem } from '../../server/services/today'
import { base, Client } from './client'
import { unpackStrip, type StripColumns } from '../../core/line/strip-rows'
import { asApplication } from './connect'

/** What each person is shown of the day, and in which order. */
let db: Knex
const clients = {} as Record<'ines' | 'tam' | 'rhona' | 'hale' | 'petra' | 'admin', Client>
beforeAll(async () => {
  db = asApplication(inject('data'))
  for (const name of ['ines', 'tam', 'rhona', 'hale', 'petra', 'admin'] as const)
    clients[name] = await new Client(inject('address')).signIn(name)
})
afterAll(() => db.destroy())

const today = async (who: keyof typeof clients) =>
  (await clients[who].get(`${base}/today`)).body as TodayItem[]
const clocks = async (who: keyof typeof clients) =>
  (await clients[who].get(`${base}/clocks`)).body as JointClock[]
const crewsOf = (list: { crew: string | null }[]) =>
  [...new Set(list.map((x) => x.crew))].filter((c) => c !== null).sort()

describe('Today', () => {
  it('who stands still longest comes first', async () => {
    const holds = (await today('ines')).filter((i) => i.kind === 'hold')
    expect(holds.length).toBeGreaterThan(1)
    expect(holds.map((h) => h.since)).toEqual([...holds.map((h) => h.since)].sort((a, b) => a! - b!))
    expect((await today('ines')).slice(0, holds.length).every((i) => i.kind === 'hold')).toBe(true)
  })
  it('clocks come by when they fall due, and only those of the next hours', async () => {
    const running = (await today('ines')).filter((i) => i.kind === 'clock')
    expect(running.map((c) => c.due)).toEqual([...running.map((c) => c.due)].sort((a, b) => a! - b!))
    for (const c of running) expect(c.due! - Date.now()).toBeLessThan(12 * 3_600_000)
  })
  it('a hold is there for as long as its release is asked for', async () => {
    for (const item of (await today('ines')).filter((i) => i.kind === 'hold')) {
      const { summary } = await db('joints').where({ id: item.subject }).first('summary')
      expect((JSON.parse(summary) as { holds: { step: string }[] }).holds.map((h) => h.step)).toContain(
        item.step,
      )
    }
  })
  it('a report is there until it is closed', async () => {
    const open = (await db('ncrs as n')
      .join('projects as p', 'p.id', 'n.project')
      .where('p.project_key', 'skerry-head')
      .whereNot('n.state', 'closed')
      .pluck('n.number')) as string[]
    expect(
      (await today('petra'))
        .filter((i) => i.kind === 'ncr')
        .map((i) => i.title)
        .sort(),
    ).toEqual([...open].sort())
  })
  it('a crew lead sees the own crew’s work, and nothing of the office', async () => {
    expect(crewsOf(await today('tam'))).toEqual(['Crew North'])
    expect(crewsOf(await today('rhona'))).toEqual(['Crew Harbour'])
    expect((await today('tam')).some((i) => ['delivery', 'test', 'lot', 'round'].includes(i.kind))).toBe(
      false,
    )
  })
  it('an administrator has no day on the site', async () =>
    expect((await clients.admin.get(`${base}/today`)).status).toBe(403))
  it('a lot past its date and a round that is due are named with their place', async () => {
    const list = await today('ines')
    expect(list.find((i) => i.kind === 'lot' && i.title === 'Lot past its date')).toMatchObject({
      place: 'CE-3',
    })
    expect(list.filter((i) => i.kind === 'round').every((i) => i.place.length > 0 && i.due !== null)).toBe(
      true,
    )
  })
})

describe('Clocks', () => {
  it('are those of the joints, soonest first', async () => {
    const list = await clocks('ines')
    expect(list.length).toBeGreaterThan(3)
    expect(list.map((c) => c.until)).toEqual([...list.map((c) => c.until)].sort((a, b) => a - b))
    for (const c of list) expect(c.until).toBeGreaterThanOrEqual(c.startedAt)
  })
  it('of a crew lead are the own crew’s', async () => {
    expect(crewsOf(await clocks('tam'))).toEqual(['Crew North'])
    const all = await clocks('ines')
    expect((await clocks('tam')).length + (await clocks('rhona')).length).toBeLessThanOrEqual(all.length)
  })
})

describe('Today of reaches', () => {
  it('lists what is drafted at them, for those who see the crew, with their sheet behind it', async () => {
    const drafted = await db('reaches').where('drafts', '>', 0).select('id', 'crew')
    expect(drafted.length).toBeGreaterThan(0)
    const of = async (who: keyof typeof clients) =>
      ((await clients[who].get(`${base}/today`)).body as TodayItem[]).filter(
        (i) => i.of === 'reach' && i.kind === 'draft',
      )
    expect(new Set((await of('ines')).map((i) => i.subject))).toEqual(new Set(drafted.map((r) => r.id)))
    const north = (await db('crews').where({ name: 'Crew North' }).first('id')).id
    expect(new Set((await of('tam')).map((i) => i.subject))).toEqual(
      new Set(drafted.filter((r) => r.crew === north).map((r) => r.id)),
    )
  })
})

describe('the line', () => {
  it('shows a crew lead the own joints only, and all of them', async () => {
    const main = (await db('alignments').where({ name: 'Rising main' }).first('id')).id
    const strip = async (who: keyof typeof clients) => ({
      joints: unpackStrip(
        ((await clients[who].get(`${base}/lines/${main}/strip`)).body as { joints: StripColumns }).joints,
      ),
    })
    const [all, mine] = [await strip('ines'), await strip('tam')]
    const north = (await db('crews').where({ name: 'Crew North' }).first('id')).id
    expect(mine.joints.map((j) => j.id)).toEqual(all.joints.filter((j) => j.crew === north).map((j) => j.id))
    expect((await clients.ines.get(`${base}/lines/${north}/strip`)).problem).toMatchObject({
      code: 'not-found',
      field: 'line',
    })
    expect(all.joints.map((j) => j.station)).toEqual(
      [...all.joints.map((j) => j.station)].sort((a, b) => a - b),
    )
  })
})

describe('go-to', () => {
  const find = async (who: keyof typeof clients, text: string) =>
    (
      (await clients[who].get(`${base}/find?text=${encodeURIComponent(text)}`)).body as {
        kind: string
        label: string
      }[]
    ).map((f) => `${f.kind} ${f.label}`)
  it('finds what is meant, whatever it is', async () => {
    expect(await find('ines', 'RM-234')).toContain('joint RM-234')
    expect((await find('ines', 'L2411')).some((f) => f.startsWith('lot L2411'))).toBe(true)
    expect((await find('ines', 'ncr-0001')).some((f) => f.includes('NCR-0001'))).toBe(true)
    expect((await find('ines', 'TP-01')).some((f) => f.includes('TP-01'))).toBe(true)
  })
  it('gives a crew lead no joint of another crew', async () => {
    const rhonas = (
      await db('joints as j')
        .join('crews as c', 'c.id', 'j.crew')
        .where('c.name', 'Crew Harbour')
        .first('j.number')
    ).number as string
    expect((await find('tam', rhonas)).filter((f) => f === `joint ${rhonas}`)).toEqual([])
  })
  it('takes signs of a pattern as they are written', async () => {
    for (const text of ['%', '_', '\\', "'"])
      expect((await find('ines', text)).filter((f) => f.startsWith('joint'))).toEqual([])
  })
  it('tells what changed of joints asked for, and only of those that a person sees', async () => {
    const main = (await db('alignments').where({ name: 'Rising main' }).first('id')).id
    const north = (await db('crews').where({ name: 'Crew North' }).first('id')).id
    const of = async (crew: object) =>
      (
        await db('joints')
          .where({ alignment: main, ...crew })
          .first('id')
      ).id
    const own = await of({ crew: north })
    const foreign = (await db('joints').where({ alignment: main }).whereNot({ crew: north }).first('id')).id
    const changes = async (who: keyof typeof clients, query: string) =>
      (await clients[who].get(`${base}/lines/${main}/changes${query}`)).body as {
        joints: StripColumns
        spans: { packs: unknown[]; reaches: unknown[] } | null
      }
    expect((await changes('ines', `?joints=${own},${foreign}`)).joints.ids.sort()).toEqual(
      [own, foreign].sort(),
    )
    expect((await changes('tam', `?joints=${own},${foreign}`)).joints.ids).toEqual([own])
    expect((await changes('ines', '')).joints.ids).toEqual([])
    expect((await changes('ines', '')).spans).toBeNull()
    expect((await changes('ines', '?spans=true')).spans!.packs.length).toBeGreaterThan(0)
    const bad = await clients.ines.get(`${base}/lines/${main}/changes?joints=RM-001`)
    expect(bad.problem).toMatchObject({ field: 'joints' })
  })
  it('is packed for whoever unpacks, and says the same', async () => {
    const main = (await db('alignments').where({ name: 'Rising main' }).first('id')).id
    const path = `${base}/lines/${main}/strip`
    const plain = await clients.ines.call('GET', path, undefined, { 'accept-encoding': 'identity' })
    expect(plain.body).toEqual((await clients.ines.get(path)).body)
  })
})
