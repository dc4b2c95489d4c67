import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { may } from '#core/access'
import { checkWitness } from '#core/judgement/duties'
import { standing } from '#core/judgement/standing'
import { answersAfter } from '#core/pressure/after'
import type { Hole } from '#core/pressure/holes'
import { writePressureLog } from '#core/pressure/log'
import type { LogMap } from '#core/pressure/log-map'
import { checkLogTime } from '#core/pressure/log-time'
import { checkMark, marksOf, type MarkKind } from '#core/pressure/marks'
import { findTestMethod } from '#core/pressure/methods/registry'
import type { TestEvaluation } from '#core/pressure/report'
import { WITNESS } from '#core/pressure/ready'
import { runsOf } from '#core/pressure/runs'
import { showDuration } from '#core/quantity/show'
import { Problem } from '#core/problem'
import { inTransaction } from '../db/connection'
import { entriesOf, forCore } from '../db/entries'
import { insertFile } from '../db/files'
import type { Project } from '../db/projects'
import { packOfLog, savePack, type Pack, type PackProjection } from '../db/packs'
import { insertSamples, samplesOf, type SampleRow } from '../db/samples'
import { refreshAfterTest } from './after-test'
import { runHeavy } from './heavy/run'
import { packOf, projectPack, samplesLog, testOf } from './pack-sheet'
import { refuse } from './packs'
import { actingRole, appendAfter, sha256, type Actor, type NewEntry } from './record'

const mustRun = (pack: Pack, { state }: Pick<PackProjection, 'state'> = pack) => {
  if (state !== 'running') refuse(`Test pack ${pack.number} is not running: start it first.`)
}

/** Keeps samples pushed by a logger, or typed from a gauge, while the test runs. */
export async function pushSamples(db: Knex, actor: Actor, id: string, samples: SampleRow[]): Promise<void> {
  actingRole(actor, 'run-test')
  mustRun(await packOf(db, actor, id))
  await insertSamples(db, id, samples)
}

/** Marks a moment of a running test on its trace. */
export async function markRun(
  db: Knex,
  actor: Actor,
  id: string,
  mark: { id: string; kind: MarkKind; at: Date },
): Promise<void> {
  const role = actingRole(actor, 'run-test')
  const pack = await packOf(db, actor, id)
  mustRun(pack)
  const method = findTestMethod(pack.method)
  const entry: NewEntry = {
    id: mark.id,
    kind: 'event',
    payload: { kind: mark.kind, at: mark.at.toISOString() },
    recordedAt: new Date(),
  }
  await inTransaction(db, (trx) =>
    appendAfter(trx, actor, role, 'pack', id, [entry], (before) => {
      mustRun(pack, projectPack(before))
      const entries = before.map(forCore)
      const begun = runsOf(entries).at(-1)!.startedAt
      const no = checkMark(method, marksOf(entries), mark.kind, mark.at.getTime(), begun, Date.now())
      if (no) throw new Problem('bad-mark', no, 'kind')
    }),
  )
}

/** Strikes a mark that was set by mistake; it stays in the record. */
export async function unmarkRun(db: Knex, actor: Actor, id: string, mark: string): Promise<void> {
  const role = actingRole(actor, 'run-test')
  const pack = await packOf(db, actor, id)
  mustRun(pack)
  const strike: NewEntry = {
    ...{ id: uuidv7(), kind: 'correction', recordedAt: new Date() },
    payload: { strikes: mark, reason: 'Marked by mistake' },
  }
  await inTransaction(db, (trx) =>
    appendAfter(trx, actor, role, 'pack', id, [strike], (before) => {
      mustRun(pack, projectPack(before))
      if (!marksOf(before.map(forCore)).some((m) => m.id === mark))
        throw new Problem('not-found', 'There is no such mark on this run.', 'mark')
    }),
  )
}

/** A witness says that he is here; said twice, it is said once. */
export async function joinRun(db: Knex, actor: Actor, id: string): Promise<void> {
  const role = actingRole(actor, 'answer-invitation')
  const pack = await packOf(db, actor, id)
  mustRun(pack)
  const here: NewEntry = {
    ...{ id: uuidv7(), kind: 'attendance', step: WITNESS, recordedAt: new Date() },
    payload: { present: true },
  }
  const news = runsOf((await entriesOf(db, id)).map(forCore))
    .at(-1)!
    .present.some((p) => p.person === actor.person)
    ? []
    : [here]
  if (news.length === 0) return
  await inTransaction(db, (trx) =>
    appendAfter(trx, actor, role, 'pack', id, news, (before) => {
      mustRun(pack, projectPack(before))
      checkWitness(standing(before.map(forCore)), actor.person)
    }),
  )
}

/** Says what was done after the test; the last word stands. */
export async function sayAfter(
  db: Knex,
  actor: Actor,
  id: string,
  { row, answer }: { row: string; answer: string },
): Promise<void> {
  const role = actingRole(actor, 'run-test')
  const pack = await packOf(db, actor, id)
  if (!answersAfter(row, answer, findTestMethod(pack.method).air === true))
    throw new Problem('bad-row', 'This is nothing that is seen to after a test.', 'row')
  const entry: NewEntry = {
    ...{ id: uuidv7(), kind: 'choice', step: row, payload: { answer }, recordedAt: new Date() },
  }
  await inTransaction(db, (trx) =>
    appendAfter(trx, actor, role, 'pack', id, [entry], (before) => {
      const { state } = projectPack(before)
      // One that was withdrawn before it ever ran has nothing after it.
      if (state === 'running' || !before.some((e) => e.kind === 'start'))
        refuse(`Test pack ${pack.number} is ${state}: this comes when the run has ended.`)
    }),
  )
}

const sayHole = ({ from, to }: Hole) =>
  `The log has no reading for ${showDuration(to - from)} of the test, from ${showDuration(from)} after it ` +
  'began: what happened there nobody knows. Let the logger send what it has kept, or run the test again.'

interface TakenLog {
  csv: string
  map: Partial<LogMap> | null
  reason: string | null
}

const logInput = async (db: Knex, project: Project, pack: Pack, { csv, map }: Omit<TakenLog, 'reason'>) => ({
  ...{ csv, map: map ?? {}, test: testOf(pack, project.settings.rule) },
  marks: marksOf((await entriesOf(db, pack.id)).map(forCore)),
})

/** Keeps a log as a file with what it says; the run that it belongs to must still be on. */
async function keepLog(
  db: Knex,
  project: Project,
  actor: Actor,
  pack: Pack,
  taken: TakenLog,
): Promise<TestEvaluation> {
  const role = actingRole(actor, 'run-test')
  const { csv, map, reason } = taken
  const log = await runHeavy('log', await logInput(db, project, pack, taken), project.settings.units)
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
  const run = {
    ...{ file: file.id, sha256: file.sha256, samples: log.samples },
    startedAt: new Date(log.startedAt).toISOString(),
    ...(map ? { map } : {}),
    ...(reason ? { reason } : {}),
  }
  const news: NewEntry[] = [
    { id: uuidv7(), kind: 'run', payload: run, recordedAt: now },
    { id: uuidv7(), kind: 'evaluation', payload: { ...log.evaluation }, recordedAt: now },
  ]
  await inTransaction(db, async (trx) => {
    const { entries, fresh } = await appendAfter(trx, actor, role, 'pack', pack.id, news, (before) => {
      mustRun(pack, projectPack(before))
      const begun = runsOf(before.map(forCore)).at(-1)!.startedAt
      const foreign = checkLogTime(log, begun, now.getTime())
      if (foreign && !(reason && may(actor.roles, 'take-foreign-log')))
        throw new Problem('other-time', `${foreign} An engineer may take it with a reason.`, 'csv')
      if (log.hole && !(reason && may(actor.roles, 'take-foreign-log')))
        throw new Problem('log-hole', `${sayHole(log.hole)} An engineer may take it with a reason.`, 'csv')
    })
    if (fresh > 0) await insertFile(trx, actor.project, actor.person, file)
    await savePack(trx, pack.id, projectPack(entries))
    await refreshAfterTest(trx, project, pack)
  })
  return log.evaluation
}

/** Takes a log from a file, evaluates it and keeps both. */
export async function importLog(
  db: Knex,
  project: Project,
  actor: Actor,
  id: string,
  log: TakenLog,
): Promise<TestEvaluation> {
  const pack = await packOf(db, actor, id)
  mustRun(pack)
  return keepLog(db, project, actor, pack, log)
}

/** What a file would say, before it is taken: its columns, what has to be said, and the verdict. */
export async function lookAtFile(
  db: Knex,
  project: Project,
  actor: Actor,
  id: string,
  log: Omit<TakenLog, 'reason'>,
) {
  actingRole(actor, 'run-test')
  const pack = await packOf(db, actor, id)
  return runHeavy('look', await logInput(db, project, pack, log), project.settings.units)
}

/** Ends a streamed run: the samples become the log. */
export async function finishRun(
  db: Knex,
  project: Project,
  actor: Actor,
  id: string,
  reason: string | null = null,
): Promise<TestEvaluation> {
  const pack = await packOf(db, actor, id)
  mustRun(pack)
  const log = samplesLog(await samplesOf(db, id))
  if (!log || log.samples.length < 2)
    throw new Problem('no-log', 'No samples have arrived from the logger.', 'pack')
  return keepLog(db, project, actor, pack, { csv: writePressureLog(log), map: null, reason })
}
