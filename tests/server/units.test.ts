import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import { showQuantity } from '../../core/quantity/show'
import { wordedIn, type SiteUnits } from '../../core/quantity/site-units'
import { findProject } from '../../server/db/projects'
import type { Found } from '../../server/services/find'
import { certificateDefinition } from '../../server/services/heavy/certificate'
import { packSheet } from '../../server/services/pack-view'
import { base, signedIn, type Client } from './client'
import { asOwner } from './connect'

/** What a site reads its figures in, and what one person reads them in. */
let petra: Client
let admin: Client
beforeAll(async () => {
  ;[petra, admin] = (await signedIn(inject('address'), 'petra', 'admin')) as [Client, Client]
})

const stationOf = async (headers: Record<string, string> = {}) => {
  const { body } = await petra.call('GET', `${base}/find?text=RM-100`, undefined, headers)
  return (body as Found[])[0]!.detail
}
const us = { 'x-vet-line-units': 'us' }

describe('a person who reads other units', () => {
  it('is answered in them', async () => {
    expect(await stationOf()).toMatch(/^station \d+ m$/)
    expect(await stationOf(us)).toMatch(/^station \d+ ft$/)
    const [metres, feet] = [await stationOf(), await stationOf(us)].map((t) => Number(/\d+/.exec(t)![0]))
    expect(feet! / metres!).toBeCloseTo(1 / 0.3048, 1)
  })
  it('does not change what others read, nor what the project is shown in', async () => {
    await stationOf(us)
    expect(await stationOf()).toMatch(/ m$/)
    const { body } = await petra.call('GET', `${base}/overview`, undefined, us)
    expect((body as { project: { units: string } }).project.units).toBe('as-written')
  })
  it.each(['furlongs', '__proto__', ''])(
    'of units that there are not (%j) is answered as the project has it',
    async (units) => expect(await stationOf({ 'x-vet-line-units': units })).toMatch(/ m$/),
  )
})

describe('a project that reads US units', () => {
  const project = { name: '', zone: '', codes: '', title: '' }
  const change = (units: string, who = admin, reason = 'the client reads them') =>
    who.post(`${base}/settings/project`, { ...project, units, reason })
  beforeAll(async () => {
    const { body } = await admin.get(`${base}/settings`)
    Object.assign(project, (body as { project: object }).project)
  })
  afterAll(async () => void (await change('as-written')))
  it('is changed by its administrator alone, with a reason, to units that there are', async () => {
    expect((await change('us', petra)).problem?.code).toBe('forbidden')
    expect((await change('us', admin, '')).problem?.field).toBe('reason')
    expect((await change('cubits')).problem?.field).toBe('units')
    expect((await change('us')).status).toBe(200)
    expect(await stationOf()).toMatch(/ ft$/)
  })
  it('prints its documents in them', async () => {
    const db = asOwner(inject('data'))
    const project = (await findProject(db, 'skerry-head'))!
    const { id } = await db('packs').where({ number: 'TP-01' }).first('id')
    const actor = { ...{ person: '', name: '', crew: null }, project: project.id, roles: [] }
    const sheet = await packSheet(db, project, actor, id)
    await db.destroy()
    const said = (units: SiteUnits) =>
      JSON.stringify(wordedIn(units, () => certificateDefinition({ ...sheet, earlier: [] }, project, [])))
    const { testPressure } = sheet.pack.design
    const gauge = (units: SiteUnits) => wordedIn(units, () => showQuantity(testPressure, 'pressure', 'kPa'))
    expect(gauge('us')).toMatch(/^[\d.]+ psi$/)
    expect(said('us')).toContain(`${gauge('us')} at `)
    expect(said('metric')).toContain(`${gauge('metric')} at `)
    expect(said('metric')).not.toContain('psi')
  })
  it('is read in metres by whoever does', async () => {
    expect(await stationOf({ 'x-vet-line-units': 'metric' })).toMatch(/ m$/)
  })
})
