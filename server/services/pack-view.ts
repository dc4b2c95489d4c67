import { wordedIn } from '#core/quantity/site-units'
import type { Knex } from 'knex'
import { standing } from '#core/judgement/standing'
import { afterTest } from '#core/pressure/after'
import { analyseLog, type Analysis } from '#core/pressure/analysis'
import { contactOf } from '#core/pressure/contact'
import { lookAtLog, readPressureLog, type PressureLog, type Sample } from '#core/pressure/log'
import type { LogMap } from '#core/pressure/log-map'
import { eventsOf, marksNow, type Mark } from '#core/pressure/marks'
import { findTestMethod } from '#core/pressure/methods/registry'
import { evaluateLog, type TestEvaluation } from '#core/pressure/report'
import { runsOf, type TestRun } from '#core/pressure/runs'
import { thin } from '#core/pressure/thin'
import { Problem } from '#core/problem'
import { entriesOf, forCore } from '../db/entries'
import { findFile } from '../db/files'
import { instrumentsOf } from '../db/instruments'
import { peopleOf, type Project, wordsFor } from '../db/projects'
import { ncrsOf } from '../db/ncrs'
import type { Pack } from '../db/packs'
import { samplesMark, samplesOf } from '../db/samples'
import { packOf, readyOf, samplesLog, sectionOf, testOf, witnessAt } from './pack-sheet'
import type { Actor } from './record'

/** The log of a run as it was taken. Files taken before headings had to say the unit were in kPa and L. */
export async function logOfRun(db: Knex, project: string, run: TestRun): Promise<PressureLog | null> {
  const file = run.log && (await findFile(db, project, run.log.file))
  if (!file) return null
  const text = file.bytes.toString('utf8')
  return readPressureLog(text, run.log!.map ?? unitsBefore(text))
}
function unitsBefore(text: string): Partial<LogMap> {
  const { asks } = lookAtLog(text)
  return {
    ...(asks.includes('pressureUnit') ? { pressureUnit: 'kPa' as const } : {}),
    ...(asks.includes('makeupUnit') ? { makeupUnit: 'L' as const } : {}),
  }
}

/** What a log says by the pack's method; a test whose figures are missing says which. */
function evaluate(pack: Pack, project: Project, log: PressureLog, marks: readonly Mark[]): TestEvaluation {
  try {
    return wordedIn(wordsFor(project), () =>
      evaluateLog(testOf(pack, project.settings.rule), log.samples, eventsOf(marks, log.startedAt)),
    )
  } catch (error) {
    if (!(error instanceof Problem)) throw error
    return {
      ...{ method: pack.method, verdict: 'incomplete', phases: [], numbers: [], notes: [], needed: null },
      sentence: `It cannot be worked out: ${error.message}`,
    }
  }
}

/** What the log says beyond its verdict; nothing while no phase has begun. */
function analysisOf(
  pack: Pack,
  material: string,
  samples: readonly Sample[],
  evaluation: TestEvaluation,
): Analysis | null {
  const hold = evaluation.phases.at(-1)
  if (!hold || hold.to <= hold.from) return null
  const { section, testPressure, parameters } = pack.design
  const figure = (key: string) => (typeof parameters[key] === 'number' ? parameters[key] : 0)
  return analyseLog(
    samples,
    {
      ...{ section: { ...section }, resolution: figure('gaugeResolution'), testPressure },
      lag: figure('lag'),
    },
    hold,
    /polyethylene/i.test(material),
  )
}

interface Watched {
  key: string
  log: PressureLog | null
  rows: readonly { receivedAt: Date }[]
  evaluation: TestEvaluation | null
}
/** What the tests that are watched say, so that several people who watch cost no more than one. */
const watched = new Map<string, Watched>()
const MOST_WATCHED = 12
/** so many arrivals tell how often a logger sends */
const ARRIVALS = 20

async function watch(db: Knex, project: Project, pack: Pack, marks: readonly Mark[]): Promise<Watched> {
  const { count, received } = await samplesMark(db, pack.id)
  const key = [count, received, ...marks.map((m) => m.id), project.settings.rule, wordsFor(project)].join(' ')
  const known = watched.get(pack.id)
  if (known?.key === key) return known
  const rows = await samplesOf(db, pack.id)
  const log = samplesLog(rows)
  const now = { key, log, rows, evaluation: log && evaluate(pack, project, log, marks) }
  watched.delete(pack.id)
  watched.set(pack.id, now)
  for (const old of [...watched.keys()].slice(0, -MOST_WATCHED)) watched.delete(old)
  return now
}

/**
 * What a screen that watches a running test is sent: what arrived since it last asked, and what it all says
 * so far. A logger that was out of reach sends older readings later, so it goes by their arrival.
 *
 * @param since ms of the last arrival that the screen has
 */
export async function packLive(db: Knex, project: Project, actor: Actor, id: string, since: number | null) {
  const pack = await packOf(db, actor, id)
  const entries = await entriesOf(db, id)
  const marks = runsOf(entries.map(forCore)).at(-1)?.marks ?? []
  if (pack.state !== 'running') return { state: pack.state, marks, running: null }
  const { log, rows, evaluation } = await watch(db, project, pack, marks)
  const arrivals = [...new Set(rows.map((r) => r.receivedAt.getTime()))].sort((a, b) => a - b)
  const fresh = log?.samples.filter((_s, i) => since === null || rows[i]!.receivedAt.getTime() >= since)
  return {
    state: pack.state,
    marks,
    running: {
      next: marksNow(findTestMethod(pack.method), marks),
      contact: contactOf(arrivals.slice(-ARRIVALS), Date.now()),
      received: arrivals.at(-1) ?? null,
      startedAt: log?.startedAt ?? null,
      count: rows.length,
      samples: thin(fresh ?? []),
      last: log?.samples.at(-1) ?? null,
      evaluation,
    },
  }
}

/** Runs before the last, with their logs, for whoever reads how it came to the last. */
async function earlierRuns(db: Knex, project: string, runs: readonly TestRun[]) {
  return Promise.all(
    runs.slice(0, -1).map(async (run) => {
      const log = await logOfRun(db, project, run)
      return { ...run, trace: log ? { startedAt: log.startedAt, samples: thin(log.samples) } : null }
    }),
  )
}

export async function packSheet(db: Knex, project: Project, actor: Actor, id: string) {
  const pack = await packOf(db, actor, id)
  const entries = await entriesOf(db, id)
  const stands = standing(entries.map(forCore))
  const runs = runsOf(stands)
  const run = runs.at(-1) ?? null
  const method = findTestMethod(pack.method)
  const [{ line, plan }, ready, log, people, instruments, ncrs, earlier] = await Promise.all([
    sectionOf(db, pack, project.id),
    readyOf(db, project, pack, entries),
    run?.log ? logOfRun(db, project.id, run) : samplesOf(db, id).then(samplesLog),
    peopleOf(db, project.id),
    instrumentsOf(db, project.id),
    ncrsOf(db, project.id, { subjects: [id] }),
    earlierRuns(db, project.id, runs),
  ])
  const running = pack.state === 'running' || pack.state === 'planned'
  const evaluation = running
    ? log && evaluate(pack, project, log, run?.marks ?? [])
    : (run?.evaluation ?? null)
  return {
    pack,
    method: { title: method.title, air: method.air === true },
    line: { name: line.name, material: line.material },
    plan,
    ready,
    witness: witnessAt(project, stands),
    gauge: instruments.find((i) => i.id === pack.gauge) ?? null,
    log: log
      ? {
          ...{ startedAt: log.startedAt, samples: thin(log.samples), count: log.samples.length },
          last: log.samples.at(-1) ?? null,
        }
      : null,
    evaluation,
    analysis: log && evaluation ? analysisOf(pack, line.material, log.samples, evaluation) : null,
    run,
    earlier,
    after: !run || pack.state === 'running' ? [] : afterTest(stands, method.air === true),
    signatures: run?.signatures ?? [],
    digest: entries.at(-1)?.hash ?? null,
    ncrs,
    entries: entries.map((e) => ({ ...forCore(e), seq: e.seq, hash: e.hash })),
    people: Object.fromEntries(people.map((p) => [p.id, p.name])),
  }
}
