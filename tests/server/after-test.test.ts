import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import { findJoint } from '../../server/db/joints'
import { findProject, type Project } from '../../server/db/projects'
import { savePack } from '../../server/db/packs'
import { projectPack } from '../../server/services/pack-sheet'
import { refreshAfterTest } from '../../server/services/after-test'
import { appendEntries, type Actor } from '../../server/services/record'
import { base, signedIn, type Client } from './client'
import { asOwner } from './connect'
import { freshJoint } from './fresh-joint'
import { verified } from './verified'

/** The gate that an accepted pressure test opens, from the pack to the joints under it. */
let db: Knex
let project: Project
let ines: Client
let milo: Client
let joint: string
let pack: string
let section: { alignment: string; from: number; to: number }
const actor = async (): Promise<Actor> => ({
  ...{ person: (await db('people').where({ sign_in: 'ines' }).first('id')).id, name: 'Ines Marwood' },
  ...{ project: project.id, roles: ['inspector'], crew: null },
})
beforeAll(async () => {
  db = asOwner(inject('data'))
  project = (await findProject(db, 'skerry-head'))!
  ;[ines, milo] = (await signedIn(inject('address'), 'ines', 'milo')) as [Client, Client]
  joint = await freshJoint(db, 'WL-12', new Date(Date.now() - 86_400_000))
  const { alignment, station } = (await findJoint(db, project.id, joint))!
  section = { alignment, from: station - 0.1, to: station + 0.1 }
  await db('joints').where({ id: joint }).update({ station: 9000 })
  section = { alignment, from: 8990, to: 9010 }
})
afterAll(() => db.destroy())

const sheet = async () => {
  const { body } = await ines.get(`${base}/joints/${joint}`)
  return body as { tested?: number | null; subject: { title: string } }
}
const say = (who: Client, kind: string, payload: object) =>
  who.post(`${base}/joints/${joint}/entries`, {
    entries: [{ id: uuidv7(), kind, step: 'gaps-open', payload, recordedAt: new Date().toISOString() }],
  })

describe('what waits for a pressure test', () => {
  it('waits for none where none is planned', async () => expect((await sheet()).tested).toBeUndefined())
  it('waits when one is planned over it, and its standing is written anew', async () => {
    const like = await db('packs').where({ number: 'TP-05' }).first()
    pack = uuidv7()
    await db('packs').insert({
      ...{ ...like, id: pack, number: `T-${pack.slice(-6)}`, state: 'planned', verdict: null },
      ...{ alignment: section.alignment, from_station: section.from, to_station: section.to },
      ...{ log_file: null, signed_by: null, signed_at: null },
    })
    await refreshAfterTest(db, project, section)
    expect((await sheet()).tested).toBeNull()
  })
  it('cannot be released before it', async () => {
    expect((await say(milo, 'confirmation', { answer: 'yes' })).status).toBe(200)
    expect((await say(milo, 'request', {})).status).toBe(200)
    const reply = await ines.post(`${base}/joints/${joint}/release`, {
      ...{ id: uuidv7(), step: 'gaps-open', kind: 'release', secret: '2468' },
    })
    expect(reply.problem?.code).toBe('not-ready')
  })
  it('a run that was not accepted opens nothing, one that was opens it from then on', async () => {
    const evaluation = async (verdict: string) => {
      const entry = {
        id: uuidv7(),
        kind: 'evaluation' as const,
        payload: { verdict },
        recordedAt: new Date(),
      }
      await db.transaction(async (trx) => {
        const { entries } = await appendEntries(trx, await actor(), 'inspector', 'pack', pack, [entry])
        await savePack(trx, pack, projectPack(entries))
        await refreshAfterTest(trx, project, section)
      })
      return entry.recordedAt.getTime()
    }
    await evaluation('reject')
    expect((await sheet()).tested).toBeNull()
    const at = await evaluation('accept')
    expect((await sheet()).tested).toBe(at)
    await evaluation('accept')
    expect((await sheet()).tested).toBe(at)
  })
  it('leaves projections that verify', async () => {
    const { stale } = await verified(db)
    expect(stale.filter((s) => s.subject === joint)).toEqual([])
  })
})
