import { readFileSync } from 'node:fs'
import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import { doneBeforeHold } from './at-hold'
import { base, signedIn, type Client } from './client'
import { asOwner } from './connect'
import { freshJoint } from './fresh-joint'
import { dot } from './picture'
import { REJECTED, reject } from './rejected'

/** Separation of duties, and what is refused at a joint of one's own, over HTTP. */
let db: Knex
let ines: Client
let oskar: Client
let tam: Client
let rhona: Client
let petra: Client
let juno: Client
let hale: Client
let joint: string
const secret = '2468'

beforeAll(async () => {
  db = asOwner(inject('data'))
  ;[ines, oskar, tam, rhona, petra, juno, hale] = (await signedIn(
    inject('address'),
    'ines',
    'oskar',
    'tam',
    'rhona',
    'petra',
    'juno',
    'hale',
  )) as [Client, Client, Client, Client, Client, Client, Client]
  joint = await freshJoint(db, 'RM-238')
})
afterAll(() => db.destroy())

const entry = (step: string | null, kind: string, payload: object, more: object = {}) => ({
  id: uuidv7(),
  kind,
  step,
  payload,
  recordedAt: new Date().toISOString(),
  ...more,
})
const send = async (client: Client, where: string, ...entries: object[]) => {
  const { status, problem } = await client.post(`${base}/joints/${where}/entries`, { entries })
  return problem ? [status, problem.code, problem.field] : [status]
}
const sign = async (client: Client, where: string, body: object) => {
  const { status, problem } = await client.post(`${base}/joints/${where}/release`, {
    id: uuidv7(),
    secret,
    ...body,
  })
  return problem ? [status, problem.code] : [status]
}
const stateOf = async (where: string, step: string) => {
  const { judgeSubject } = await import('../../server/services/subjects')
  const { findJoint } = await import('../../server/db/joints')
  const { findProject } = await import('../../server/db/projects')
  const project = (await findProject(db, 'skerry-head'))!
  return (await judgeSubject(db, project, {
    type: 'joint',
    title: '',
    ...(await findJoint(db, project.id, where))!,
  }))!.steps.find((s) => s.key === step)!.state
}

describe('a hold point', () => {
  it('is released by somebody else than who asked, when somebody asked and everything before it is done', async () => {
    expect(await sign(ines, joint, { step: 'before-fusion', kind: 'release' })).toEqual([409, 'not-ready'])
    expect(await sign(ines, joint, { step: 'before-fusion', kind: 'waiver', reason: 'hurry' })).toEqual([
      422,
      'not-named',
    ])
    expect(
      await send(
        ines,
        joint,
        entry('before-fusion', 'confirmation', { answer: 'yes' }),
        entry('before-fusion', 'request', {}),
      ),
    ).toEqual([200])
    const open = (
      (
        await ines.post(`${base}/joints/${joint}/release`, {
          id: uuidv7(),
          secret,
          step: 'before-fusion',
          kind: 'release',
        })
      ).body as { data: { code: string } }
    ).data
    expect(open.code).toBe('own-work')
    const refused = (
      await oskar.post(`${base}/joints/${joint}/release`, {
        id: uuidv7(),
        secret,
        step: 'before-fusion',
        kind: 'release',
      })
    ).body as { data: { code: string; details: { open: string[] } } }
    expect(refused.data.code).toBe('not-ready')
    expect(refused.data.details.open).toContain('wiped')
    expect(
      await sign(oskar, joint, {
        step: 'before-fusion',
        kind: 'waiver',
        reason: 'a trial piece',
        waives: refused.data.details.open,
      }),
    ).toEqual([200])
    expect(await stateOf(joint, 'before-fusion')).toBe('accepted')
  })
  it('that nobody asked to release is not released, although everything is done', async () => {
    const where = await freshJoint(db, 'RM-238')
    const sent = await doneBeforeHold(db, where)
    expect(await send(tam, where, ...sent)).toEqual([200])
    expect(await send(tam, where, entry('before-fusion', 'confirmation', { answer: 'yes' }))).toEqual([200])
    expect(await sign(ines, where, { step: 'before-fusion', kind: 'release' })).toEqual([
      422,
      'not-requested',
    ])
    expect(await send(tam, where, entry('before-fusion', 'request', {}))).toEqual([200])
    expect(await sign(ines, where, { step: 'before-fusion', kind: 'release' })).toEqual([200])
  })
  it('that is measured is not released while its reading does not conform', async () => {
    const where = await freshJoint(db, 'RM-238')
    // On a line where nobody else makes such joints, so that the rule is about this one alone.
    const { id: line } = await db('alignments').where({ line_key: 'GS' }).first('id')
    await db('joints').where({ id: where }).update({ alignment: line })
    const asked = await petra.post(`${base}/points`, {
      ...{ procedure: 'pe-electrofusion-socket', step: 'gouge', party: 'inspector', point: 'H', rate: null },
      ...{ line, crew: null, from: new Date().toISOString().slice(0, 10), until: null },
      reason: 'Gouges are looked at here.',
    })
    expect(asked.problem).toBeNull()
    const { id } = asked.body as { id: string }
    expect((await juno.post(`${base}/points/${id}`, { accepted: true })).problem).toBeNull()
    const ask = async (millimetres: number, more: object = {}) => {
      const reading = { values: [millimetres / 1000], typed: [`${millimetres} mm`], ...more }
      expect(
        await send(tam, where, entry('gouge', 'reading', reading), entry('gouge', 'request', {})),
      ).toEqual([200])
      const { body } = await ines.post(`${base}/joints/${where}/release`, {
        ...{ id: uuidv7(), secret, step: 'gouge', kind: 'release' },
      })
      return (body as { data: { details: { open: string[] } } }).data.details.open
    }
    expect(await ask(9)).toContain('gouge')
    expect(await stateOf(where, 'gouge')).toBe('rejected')
    const again = { step: 'gouge', kind: 'decision', verdict: 'again', reason: 'Cut back, measure anew.' }
    expect(await sign(ines, where, again)).toEqual([200])
    expect(await ask(0.1)).not.toContain('gouge')
    expect(await stateOf(where, 'gouge')).toBe('held')
  })
  it('once released covers what was recorded before it: a crew changes none of it, an inspector does', async () => {
    const { id } = await db('entries')
      .where({ subject: joint, step: 'before-fusion', kind: 'confirmation' })
      .first('id')
    expect(await send(tam, joint, entry('wiped', 'choice', { choice: 'ipa96' }))).toEqual([
      409,
      'signed-off',
      'step',
    ])
    expect(
      await send(tam, joint, entry('before-fusion', 'correction', { strikes: id, reason: 'x' })),
    ).toEqual([403, 'forbidden', 'strikes'])
    expect(await send(ines, joint, entry('wiped', 'choice', { choice: 'ipa96' }))).toEqual([200])
    // What comes after the hold point is the crew's.
    expect(await send(tam, joint, entry('power', 'confirmation', { answer: 'yes' }))).toEqual([200])
    expect(await send(tam, joint, entry('wiped', 'remark', { text: 'a word' }))).toEqual([200])
  })
})

describe('a rejection', () => {
  it('is measured again with a reason only, and accepted by nobody who measured', async () => {
    const where = await freshJoint(db, 'RM-238')
    expect(await send(tam, where, entry('gouge', 'reading', { values: [0.02] }))).toEqual([200])
    expect(await send(tam, where, entry('gouge', 'reading', { values: [0.0001] }))).toEqual([
      422,
      'needs-reason',
      'reason',
    ])
    const better = entry('gouge', 'reading', { values: [0.0001], reason: 'the gauge slipped' })
    expect(await send(ines, where, better)).toEqual([200])
    expect(await stateOf(where, 'gouge')).toBe('differs')
    expect(
      await sign(ines, where, {
        step: 'gouge',
        kind: 'decision',
        verdict: 'accept',
        stands: better.id,
        reason: 'mine',
      }),
    ).toEqual([403, 'own-work'])
    expect(
      await sign(oskar, where, {
        step: 'gouge',
        kind: 'decision',
        verdict: 'accept',
        stands: uuidv7(),
        reason: 'that',
      }),
    ).toEqual([404, 'not-found'])
    expect(
      await sign(oskar, where, {
        step: 'gouge',
        kind: 'decision',
        verdict: 'accept',
        stands: better.id,
        reason: 'seen',
      }),
    ).toEqual([200])
    expect(await stateOf(where, 'gouge')).toBe('accepted')
  })
})

describe('what an entry names', () => {
  it('must be in the register: lots and instruments', async () => {
    const where = (
      await db('joints').where({ system: 'cpvc-solvent-weld' }).whereNotNull('procedure_id').first('id')
    ).id
    const milo = (await signedIn(inject('address'), 'milo'))[0]!
    expect(await send(milo, where, entry('cement', 'lot', { lot: 'NO-SUCH-LOT' }))).toEqual([
      422,
      'unknown-lot',
      'lot',
    ])
    expect(
      await send(tam, joint, entry('temperature', 'reading', { values: [12] }, { instrument: uuidv7() })),
    ).toEqual([404, 'not-found', 'instrument'])
  })
  it('an id that another person has used is not the same entry', async () => {
    const mine = entry(null, 'remark', { text: 'mine' })
    expect(await send(tam, joint, mine)).toEqual([200])
    expect(await send(ines, joint, mine)).toEqual([409, 'id-taken', 'id'])
    expect(await send(tam, joint, { ...mine, instrument: null })).toEqual([200])
  })
})

describe('a report', () => {
  const raise = (client: Client, subject: string) =>
    client.post(`${base}/ncrs`, { id: uuidv7(), subjectType: 'joint', subject, step: REJECTED })
  it('is raised on the own crew’s work only', async () => {
    const own = await freshJoint(db, 'RM-236')
    expect((await raise(rhona, own)).problem?.code).toBe('not-found')
    expect((await raise(tam, own)).problem?.code).toBe('no-draft')
    await reject(tam, own)
    expect((await raise(tam, own)).status).toBe(200)
  })
  it('is verified by nobody who did any of its rework, also after another decision', async () => {
    const other = await freshJoint(db, 'RM-238')
    await reject(ines, other)
    const id = ((await raise(ines, other)).body as { id: string }).id
    const step = async (client: Client, what: string, body: object) => {
      const { status, problem } = await client.post(`${base}/ncrs/${id}/${what}`, body)
      return problem?.code ?? status
    }
    const dispose = { disposition: 'rework', reason: 'x', secret }
    const look = (accepted: boolean) => ({ accepted, text: 'looked', secret })
    expect(await step(petra, 'disposition', dispose)).toBe(200)
    expect(await step(ines, 'rework', { text: 'done' })).toBe(200)
    expect(await step(oskar, 'verification', look(false))).toBe(200)
    expect(await step(petra, 'disposition', dispose)).toBe(200)
    expect(await step(tam, 'rework', { text: 'done again' })).toBe(200)
    expect(await step(ines, 'verification', look(true))).toBe('own-work')
    // Where other tests reported the same step of this crew, it is a repeat: it asks for an action first.
    const { id: owner } = await db('people').where({ sign_in: 'tam' }).first('id')
    expect(await step(petra, 'action', { text: 'Look twice.', owner, due: '2027-03-01' })).toBe(200)
    expect(await step(oskar, 'verification', look(true))).toBe(200)
  })
})

it('a revision is not reviewed by whoever saved a line of it, also when a colleague saved last', async () => {
  const source = readFileSync(
    new URL('../../procedures/hose-band-clamp.yaml', import.meta.url),
    'utf8',
  ).replace(/^revision: .*$/m, 'revision: DUTY')
  const id = uuidv7()
  const at = (client: Client, what: string, body: object) =>
    client.post(`${base}/procedures/${id}/${what}`, body)
  expect((await petra.post(`${base}/procedures`, { id, source })).status).toBe(200)
  expect(
    (await at(juno, 'source', { source: source.replace('title: Hose', 'title: Hose '), version: 1 })).status,
  ).toBe(200)
  expect((await at(juno, 'submit', {})).status).toBe(200)
  for (const author of [petra, juno])
    expect((await at(author, 'review', { accepted: true, reason: '', secret })).problem?.code).toBe(
      'own-work',
    )
})

/** An engineer who is the project's witness as well. */
async function inBothRoles(project: string): Promise<Client> {
  const like = await db('people').where({ sign_in: 'petra' }).first()
  const id = uuidv7()
  await db('people').insert({ ...like, id, sign_in: 'both.roles', name: 'Both Roles' })
  for (const role of ['engineer', 'witness'])
    await db('memberships').insert({ project, person: id, role, crew: null })
  return (await signedIn(inject('address'), 'both.roles'))[0]!
}

describe('a test pack', () => {
  it('tested anew carries no signature of the run before; who ran it does not witness it', async () => {
    const like = await db('packs').where({ number: 'TP-04' }).first()
    const id = uuidv7()
    await db('packs').insert({
      ...like,
      id,
      number: `T-${id.slice(-6)}`,
      state: 'planned',
      log_file: null,
      verdict: null,
      signed_by: null,
      signed_at: null,
    })
    const post = (client: Client, what: string, body: object = {}) =>
      client.post(`${base}/packs/${id}/${what}`, body)
    const tight = readFileSync(new URL('../../samples/log-tight.csv', import.meta.url), 'utf8')
    const reason = 'The logger’s clock stood.'
    const image = `data:image/png;base64,${dot}`
    const both = await inBothRoles(like.project as string)
    expect((await post(both, 'start', { reason })).status).toBe(200)
    expect((await post(petra, 'log', { csv: `${tight}\n`, reason })).status).toBe(200)
    expect((await post(ines, 'sign', { secret, image })).status).toBe(200)
    const sheet = async () =>
      (await ines.get(`${base}/packs/${id}`)).body as { signatures: { name: string }[] }
    expect((await sheet()).signatures.map((s) => s.name)).toEqual(['Ines Marwood'])
    expect((await post(petra, 'start', { reason })).status).toBe(200)
    expect((await sheet()).signatures).toEqual([])
    expect((await post(petra, 'log', { csv: `${tight}\n\n`, reason })).status).toBe(200)
    expect((await post(both, 'sign', { secret, image })).problem?.code).toBe('own-work')
    expect((await post(hale, 'sign', { secret, image })).status).toBe(200)
    expect((await sheet()).signatures.map((s) => s.name)).toEqual(['Hale Crossmere'])
  })
})
