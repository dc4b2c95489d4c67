import type { Knex } from 'knex'
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import type { Coming } from '../../server/services/coming'
import type { CrewLine, CrewPage } from '../../server/services/crews'
import type { roundStops } from '../../server/services/round'
import type { TodayItem } from '../../server/services/today'
import { base, Client } from './client'
import { asApplication } from './connect'

/** How each crew works, what is foreseen of it, and who waits for an inspector. */
let db: Knex
const clients = {} as Record<'ines' | 'tam' | 'hale' | 'petra', Client>
beforeAll(async () => {
  db = asApplication(inject('data'))
  for (const name of ['ines', 'tam', 'hale', 'petra'] as const)
    clients[name] = await new Client(inject('address')).signIn(name)
})
afterAll(() => db.destroy())
const get = async <T>(who: keyof typeof clients, path: string) =>
  (await clients[who].get(`${base}/${path}`)).body as T
const crewId = async (name: string) => (await db('crews').where({ name }).first('id')).id as string

describe('the crews', () => {
  it('are all there for the inspector, each with its lead', async () => {
    const list = await get<CrewLine[]>('ines', 'crews')
    const north = list.find((c) => c.name === 'Crew North')!
    expect(list.map((c) => c.name)).toEqual(
      expect.arrayContaining(['Crew North', 'Crew Harbour', 'Crew Dunes', 'Crew Quay']),
    )
    expect(north.leads).toContain('Tam Brodrick')
    expect(north.right.of).toBeGreaterThan(50)
    expect(north.right.right).toBeLessThan(north.right.of)
    expect(north.right.low).toBeLessThan(north.right.share!)
  })
  it('of a crew lead are the own one', async () => {
    expect((await get<CrewLine[]>('tam', 'crews')).map((c) => c.name)).toEqual(['Crew North'])
    const other = await clients.tam.get(`${base}/crews/${await crewId('Crew Harbour')}`)
    expect([other.status, other.problem?.code]).toEqual([404, 'not-found'])
  })
  it('wait for exactly what Today says they stand for', async () => {
    const holds = (await get<TodayItem[]>('ines', 'today')).filter((i) => i.kind === 'hold' && !i.of)
    const waits = (await get<CrewLine[]>('ines', 'crews')).flatMap((c) => c.waits)
    const key = (joint: string, step: string | null) => `${joint} ${step}`
    expect(waits.map((w) => key(w.joint, w.step)).sort()).toEqual(
      holds.map((h) => key(h.subject, h.step)).sort(),
    )
  })
  it('a joint with a report is not right at the first try', async () => {
    const harbour = await get<CrewPage>('ines', `crews/${await crewId('Crew Harbour')}`)
    const wrong = new Set(harbour.faults.flatMap((f) => f.joints.map((j) => j.id)))
    const reported = (await db('ncrs as n')
      .join('joints as j', 'j.id', 'n.subject')
      .where({ 'j.crew': harbour.id })
      .where('j.opened_at', '>=', new Date(Date.now() - 28 * 86_400_000))
      .pluck('j.id')) as string[]
    expect(reported.length).toBeGreaterThan(0)
    expect(reported.filter((id) => !wrong.has(id))).toEqual([])
    expect(harbour.right.of - harbour.right.right).toBeGreaterThanOrEqual(reported.length)
  })
  it('weeks add up to the whole', async () => {
    const page = await get<CrewPage>('ines', `crews/${await crewId('Crew North')}`)
    const sum = (of: (w: CrewPage['weeks'][number]) => number) => page.weeks.reduce((n, w) => n + of(w), 0)
    expect([sum((w) => w.share.of), sum((w) => w.share.right)]).toEqual([page.right.of, page.right.right])
    expect(page.series.length).toBeGreaterThan(2)
    for (const s of page.series)
      expect(s.points.map((p) => p.at)).toEqual([...s.points.map((p) => p.at)].sort((a, b) => a - b))
  })
  it('no crew is a clear answer', async () =>
    expect((await clients.ines.get(`${base}/crews/nothing`)).problem?.code).toBe('not-found'))
})

describe('what is foreseen', () => {
  it('lies ahead, within its span, at a joint that is at work', async () => {
    const coming = await get<Coming[]>('ines', 'coming')
    expect(coming.length).toBeGreaterThan(0)
    for (const c of coming) {
      expect(c.forecast.from).toBeLessThanOrEqual(c.forecast.at)
      expect(c.forecast.at).toBeLessThanOrEqual(c.forecast.to)
      expect(c.forecast.of).toBeGreaterThanOrEqual(4)
    }
    expect(coming.map((c) => c.forecast.at)).toEqual(
      [...coming.map((c) => c.forecast.at)].sort((a, b) => a - b),
    )
  })
  it('stands on Today when it is near, and a witness sees that, invitations and tests only', async () => {
    const kinds = new Set((await get<TodayItem[]>('hale', 'today')).map((i) => i.kind))
    expect([...kinds].filter((k) => !['coming', 'invitation', 'test'].includes(k))).toEqual([])
    const mine = (await get<Coming[]>('tam', 'coming')).map((c) => c.crew)
    expect(new Set(mine)).toEqual(new Set(mine.length > 0 ? [await crewId('Crew North')] : []))
  })
})

describe('the round', () => {
  it('has everybody who stands, and those who will within three hours, once each', async () => {
    const { stops } = await get<Awaited<ReturnType<typeof roundStops>>>('ines', 'round')
    const holds = (await get<TodayItem[]>('ines', 'today')).filter((i) => i.kind === 'hold')
    expect(stops.filter((s) => s.kind === 'hold')).toHaveLength(holds.length)
    expect(new Set(stops.map((s) => s.key)).size).toBe(stops.length)
    for (const s of stops.filter((x) => x.kind === 'coming'))
      expect(s.ready - Date.now()).toBeLessThan(3 * 3_600_000)
  })
  it('is nobody’s who stands with a crew', async () =>
    expect((await clients.tam.get(`${base}/round`)).status).toBe(403))
})
