import type { Knex } from 'knex'
import Papa from 'papaparse'
import { uuidv7 } from 'uuidv7'
import { standing } from '#core/judgement/standing'
import type { TestEvaluation } from '#core/pressure/report'
import { confirmableRows } from '#core/pressure/ready'
import { may } from '#core/access'
import { Problem } from '#core/problem'
import { checkLogTime } from '#core/pressure/log-time'
import { checkWitness } from '#core/judgement/duties'
import { inTransaction } from '../db/connection'
import { entriesOf, forCore } from '../db/entries'
import type { Project } from '../db/projects'
import { insertFile } from '../db/files'
import { runHeavy } from './heavy/run'
import {
  insertSamples,
  packOfLog,
  samplesOf,
  savePack,
  type Pack,
  type PackProjection,
  type SampleRow,
} from '../db/site'
import { packOf, projectPack, readyOf, testOf, type Signing } from './pack-sheet'
import { cleanPicture, pngOf } from './pictures'
import { actingRole, appendAfter, appendEntries, sha256, type Actor, type NewEntry } from './record'

/** A person confirms a row that the tool cannot see. */
export async function confirmRow(db: Knex, actor: Actor, id: string, row: string): Promise<void> {
  const role = actingRole(actor, 'run-test')
  await packOf(db, actor, id)
  if (!confirmableRows.includes(row))
    throw new Problem('bad-row', 'This row follows from the record; nobody confirms it by hand.', 'row')
  await inTransaction(db, (trx) =>
    appendEntries(trx, actor, role, 'pack', id, [
      { id: uuidv7(), kind: 'confirmation', step: row, payload: { answer: 'yes' }, recordedAt: new Date() },
    ]),
  )
}

const refuse = (sentence: string): never => {
  throw new Problem('wrong-state', sentence, 'pack')
}
const mayStart = (pack: Pack, { state }: Pick<PackProjection, 'state'> = pack) => {
  if (state === 'running' || state === 'signed') refuse(`Test pack ${pack.number} is ${state}.`)
}

/** Starts the test. Rows still open need an engineer's name and reason. */
export async function startTest(
  db: Knex,
  project: Project,
  actor: Actor,
  id: string,
  reason: string | null,
): Promise<void> {
  const pack = await packOf(db, actor, id)
  mayStart(pack)
  const open = (await readyOf(db, project, pack, await entriesOf(db, id))).filter((r) => r.state === 'open')
  if (open.length > 0 && !reason)
    throw new Problem(
      'not-ready',
      `Not ready: ${open.map((r) => r.title.toLowerCase()).join('; ')}. An engineer may start it with a reason.`,
      'reason',
    )
  const role = actingRole(actor, open.length > 0 ? 'start-unready-test' : 'run-test')
  const start: NewEntry = {
    id: uuidv7(),
    kind: 'start',
    payload: { open: open.map((r) => r.key), reason },
    recordedAt: new Date(),
  }
  await inTransaction(db, async (trx) => {
    const { entries } = await appendAfter(trx, actor, role, 'pack', id, [start], (before) =>
      mayStart(pack, projectPack(before)),
    )
    await trx('samples').where({ pack: id }).delete()
    await savePack(trx, id, projectPack(entries))
  })
}

const mustRun = (pack: Pack, { state }: Pick<PackProjection, 'state'> = pack) => {
  if (state !== 'running') refuse(`Test pack ${pack.number} is not running: start it first.`)
}

/** Keeps samples pushed by a logger while the test runs. */
export async function pushSamples(db: Knex, actor: Actor, id: string, samples: SampleRow[]): Promise<void> {
  actingRole(actor, 'run-test')
  mustRun(await packOf(db, actor, id))
  await insertSamples(db, id, samples)
}

/** Keeps a log as a file with what it says; the run that it belongs to must still be on. */
async function keepLog(
  db: Knex,
  actor: Actor,
  pack: Pack,
  csv: string,
  reason: string | null,
): Promise<TestEvaluation> {
  const role = actingRole(actor, 'run-test')
  const log = await runHeavy('log', { csv, test: testOf(pack) })
  const bytes = Buffer.from(csv, 'utf8')
  const file = {
    id: uuidv7(),
    name: `${pack.number}-log.csv`,
    mime: 'text/csv',
    sha256: sha256(bytes),
    bytes,
  }
  const used = await packOfLog(db, actor.project, file.sha256)
  if (used)
    throw new Problem(
      'used-log',
      `This log was taken for test pack ${used} already: a log stands for one run.`,
      'csv',
    )
  const now = new Date()
  const news: NewEntry[] = [
    {
      id: uuidv7(),
      kind: 'run',
      payload: {
        file: file.id,
        sha256: file.sha256,
        samples: log.samples,
        startedAt: new Date(log.startedAt).toISOString(),
        ...(reason ? { reason } : {}),
      },
      recordedAt: now,
    },
    { id: uuidv7(), kind: 'evaluation', payload: { ...log.evaluation }, recordedAt: now },
  ]
  await inTransaction(db, async (trx) => {
    const { entries, fresh } = await appendAfter(trx, actor, role, 'pack', pack.id, news, (before) => {
      mustRun(pack, projectPack(before))
      const begun = standing(before.map(forCore)).findLast((e) => e.kind === 'start')!.recordedAt
      const foreign = checkLogTime(log, begun, now.getTime())
      if (foreign && !(reason && may(actor.roles, 'take-foreign-log')))
        throw new Problem('other-time', `${foreign} An engineer may take it with a reason.`, 'csv')
    })
    if (fresh > 0) await insertFile(trx, actor.project, actor.person, file)
    await savePack(trx, pack.id, projectPack(entries))
  })
  return log.evaluation
}

/** Takes a log from a file, evaluates it and keeps both. */
export async function importLog(
  db: Knex,
  actor: Actor,
  id: string,
  csv: string,
  reason: string | null = null,
): Promise<TestEvaluation> {
  const pack = await packOf(db, actor, id)
  mustRun(pack)
  return keepLog(db, actor, pack, csv, reason)
}

/** Ends a streamed run: the samples become the log. */
export async function finishRun(
  db: Knex,
  actor: Actor,
  id: string,
  reason: string | null = null,
): Promise<TestEvaluation> {
  const pack = await packOf(db, actor, id)
  mustRun(pack)
  const samples = await samplesOf(db, id)
  if (samples.length < 2) throw new Problem('no-log', 'No samples have arrived from the logger.', 'pack')
  const csv = Papa.unparse(
    samples.map((s) => ({
      time: s.at.toISOString(),
      'pressure kPa': s.pressure / 1000,
      temperature: s.temperature ?? '',
      'makeup L': s.makeup * 1000,
    })),
  )
  return keepLog(db, actor, pack, csv, reason)
}

/** Signs the evaluated test; the signature is bound to the digest of everything before it. */
export async function signPack(db: Knex, actor: Actor, id: string, image: string): Promise<void> {
  const role = actingRole(actor, 'sign-test')
  const pack = await packOf(db, actor, id)
  const picture = await cleanPicture(pngOf(image), 'image/png').catch(() => null)
  if (!picture)
    throw new Problem('bad-file', 'The drawn signature is not a whole picture: draw it again.', 'image')
  const signing: Signing = { name: actor.name, image: `data:image/png;base64,${picture.toString('base64')}` }
  const signature: NewEntry = {
    id: uuidv7(),
    kind: 'signature',
    payload: { ...signing },
    recordedAt: new Date(),
  }
  await inTransaction(db, async (trx) => {
    const { entries } = await appendAfter(trx, actor, role, 'pack', id, [signature], (before) => {
      const { state } = projectPack(before)
      if (state !== 'evaluated' && !(state === 'signed' && role === 'inspector'))
        refuse(
          state === 'failed'
            ? 'A failed test is not signed; raise its nonconformance.'
            : `Test pack ${pack.number} is ${state}; an evaluated test is signed.`,
        )
      if (role === 'witness') checkWitness(standing(before.map(forCore)), actor.person)
      signature.payload.digest = before.at(-1)!.hash
    })
    await savePack(trx, id, projectPack(entries))
  })
}
