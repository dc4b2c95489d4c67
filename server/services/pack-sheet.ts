import type { Knex } from 'knex'
import { stateAt } from '#core/judgement/ahead'
import { standing } from '#core/judgement/standing'
import type { TestReadiness } from '#core/judgement/types'
import { analyseLog, type Analysis } from '#core/pressure/analysis'
import { readPressureLog, type Sample } from '#core/pressure/log'
import { planPack, profileBetween } from '#core/pressure/pack'
import { evaluateLog, type PackTest, type TestEvaluation } from '#core/pressure/report'
import { readyList, type ReadyRow } from '#core/pressure/ready'
import { Problem } from '#core/problem'
import { entriesOf, forCore, type StoredEntry } from '../db/entries'
import { jointsWhere, type Joint } from '../db/joints'
import { alignmentsOf, peopleOf, type Project } from '../db/projects'
import { instrumentsOf } from '../db/instruments'
import { findFile } from '../db/files'
import { findPack, ncrsOf, samplesOf, type Pack, type PackProjection } from '../db/site'
import { reachesOf } from '../db/reaches'
import type { Actor } from './record'

export async function packOf(db: Knex, actor: Actor, id: string): Promise<Pack> {
  const pack = await findPack(db, actor.project, id)
  if (!pack) throw new Problem('not-found', 'There is no such test pack.', 'pack')
  return pack
}

/** The state of a pack from its entries. */
export function projectPack(entries: StoredEntry[]): PackProjection {
  const out: PackProjection = {
    state: 'planned',
    logFile: null,
    verdict: null,
    signedBy: null,
    signedAt: null,
  }
  for (const e of standing(entries.map(forCore))) {
    if (e.kind === 'start')
      Object.assign(out, { state: 'running', logFile: null, verdict: null, signedBy: null, signedAt: null })
    if (e.kind === 'run') out.logFile = String(e.payload.file)
    if (e.kind === 'evaluation')
      Object.assign(out, {
        state:
          e.payload.verdict === 'reject'
            ? 'failed'
            : e.payload.verdict === 'incomplete'
              ? 'running'
              : 'evaluated',
        verdict: e.payload.verdict,
      })
    if (e.kind === 'signature' && e.role === 'witness')
      Object.assign(out, { state: 'signed', signedBy: e.person, signedAt: new Date(e.recordedAt) })
  }
  return out
}

async function sectionOf(db: Knex, pack: Pack, project: string) {
  const line = (await alignmentsOf(db, project)).find((l) => l.id === pack.alignment)!
  const plan = planPack(profileBetween(line.profile, pack.from, pack.to), pack.design)
  return { line, plan }
}

/** What a joint says to a test; of one stored before that was kept, what its state says. */
function readiness(j: Joint, now: number): TestReadiness {
  const state = stateAt(j, now)
  return (
    j.summary.test ?? { ready: state === 'accepted' || state === 'waiting', gated: true, at: j.testableAt }
  )
}

/** The ready list of a pack, with its evidence. */
export async function readyOf(
  db: Knex,
  project: Project,
  pack: Pack,
  entries: StoredEntry[],
): Promise<ReadyRow[]> {
  const { line, plan } = await sectionOf(db, pack, project.id)
  const [joints, reaches, instruments, people] = await Promise.all([
    jointsWhere(db, { project: project.id, alignment: pack.alignment, from: pack.from, to: pack.to }),
    reachesOf(db, project.id),
    instrumentsOf(db, project.id),
    peopleOf(db, project.id),
  ])
  const within = reaches.filter((r) => r.alignment === pack.alignment && r.from < pack.to && r.to > pack.from)
  const ncrs = await ncrsOf(db, project.id, {
    subjects: [...joints.map((j) => j.id), ...within.map((r) => r.id), pack.id],
  })
  const gauge = instruments.find((i) => i.id === pack.gauge)
  const now = Date.now()
  const confirmed = Object.fromEntries(
    standing(entries.map(forCore))
      .filter((e) => e.kind === 'confirmation' && e.payload.answer === 'yes')
      .map((e) => [e.step ?? '', people.find((p) => p.id === e.person)?.name ?? '']),
  )
  return readyList({
    now,
    testPressure: pack.design.testPressure,
    plan,
    material: line.material,
    methodMaterial: pack.design.methodMaterial,
    confirmed,
    joints: joints.map((j) => ({
      id: j.id,
      number: j.number,
      ...readiness(j, now),
      heldSteps: j.summary.holds.filter((h) => !h.afterTest).length,
    })),
    ncrs: ncrs.map((n) => ({
      id: n.id,
      number: n.number,
      open: n.state !== 'closed',
      conceded: n.disposition === 'use-as-is',
    })),
    reaches: within.map((r) => ({ id: r.id, name: r.name, state: r.state })),
    gauge: gauge
      ? { id: gauge.id, name: gauge.name, max: gauge.max, calibratedUntil: Date.parse(gauge.calibratedUntil) }
      : null,
  })
}

/** What a pack is tested by. The gauge's uncertainty stood among the parameters before. */
export function testOf({ method, design }: Pick<Pack, 'method' | 'design'>): PackTest {
  const { gaugeUncertainty, ...parameters } = design.parameters
  return {
    method,
    parameters,
    section: { ...design.section },
    gauge: { uncertainty: gaugeUncertainty },
  }
}

export const evaluate = (pack: Pack, samples: readonly Sample[]): TestEvaluation =>
  evaluateLog(testOf(pack), samples)

/** A drawn signature with the name of the person who was signed in and gave the PIN. */
export interface Signing {
  name: string
  image: string
}

/** The log of a pack: the file once it is kept, the samples while it runs. */
export async function logOf(
  db: Knex,
  project: string,
  pack: Pack,
): Promise<{ startedAt: number; samples: Sample[] } | null> {
  if (pack.logFile) {
    const file = await findFile(db, project, pack.logFile)
    return file ? readPressureLog(file.bytes.toString('utf8')) : null
  }
  const rows = await samplesOf(db, pack.id)
  if (rows.length === 0) return null
  const startedAt = rows[0]!.at.getTime()
  return {
    startedAt,
    samples: rows.map((r) => ({
      t: (r.at.getTime() - startedAt) / 1000,
      pressure: r.pressure,
      temperature: r.temperature,
      makeup: r.makeup,
    })),
  }
}

/** At most so many points of a trace are sent to a screen; ends and extremes of each bucket are kept. */
const SCREEN_POINTS = 1500
export function thin(samples: Sample[], most = SCREEN_POINTS): Sample[] {
  if (samples.length <= most) return samples
  const size = Math.ceil(samples.length / (most / 2))
  const out: Sample[] = []
  for (let i = 0; i < samples.length; i += size) {
    const bucket = samples.slice(i, i + size)
    const low = bucket.reduce((a, b) => (b.pressure < a.pressure ? b : a))
    const high = bucket.reduce((a, b) => (b.pressure > a.pressure ? b : a))
    out.push(...(low === high ? [low] : low.t < high.t ? [low, high] : [high, low]))
  }
  return out
}

/** What the log says beyond its verdict; nothing while no phase has begun. */
function analysisOf(
  pack: Pack,
  material: string,
  samples: readonly Sample[],
  kept: TestEvaluation | null,
): Analysis | null {
  const hold = (kept ?? evaluate(pack, samples)).phases.at(-1)
  if (!hold || hold.to <= hold.from) return null
  const { section, testPressure, parameters } = pack.design
  const resolution = typeof parameters.gaugeResolution === 'number' ? parameters.gaugeResolution : 0
  return analyseLog(
    samples,
    { section: { ...section }, resolution, testPressure },
    hold,
    /polyethylene/i.test(material),
  )
}

export async function packSheet(db: Knex, project: Project, actor: Actor, id: string) {
  const pack = await packOf(db, actor, id)
  const entries = await entriesOf(db, id)
  const [{ line, plan }, ready, log, people, instruments, ncrs] = await Promise.all([
    sectionOf(db, pack, project.id),
    readyOf(db, project, pack, entries),
    logOf(db, project.id, pack),
    peopleOf(db, project.id),
    instrumentsOf(db, project.id),
    ncrsOf(db, project.id, { subjects: [id] }),
  ])
  const stands = standing(entries.map(forCore))
  const evaluation = (stands.filter((e) => e.kind === 'evaluation').at(-1)?.payload ??
    null) as TestEvaluation | null
  const started = stands.filter((e) => e.kind === 'start').at(-1)
  const last = log?.samples.at(-1) ?? null
  return {
    pack,
    line: { name: line.name, material: line.material },
    plan,
    ready,
    gauge: instruments.find((i) => i.id === pack.gauge) ?? null,
    log: log
      ? { startedAt: log.startedAt, samples: thin(log.samples), count: log.samples.length, last }
      : null,
    evaluation:
      pack.state === 'running' || pack.state === 'planned'
        ? log
          ? evaluate(pack, log.samples)
          : null
        : evaluation,
    analysis: log ? analysisOf(pack, line.material, log.samples, evaluation) : null,
    signatures: stands
      .filter((e) => e.kind === 'signature' && (!started || e.recordedAt > started.recordedAt))
      .map((e) => ({
        ...(e.payload as unknown as Signing & { digest: string }),
        role: e.role,
        at: e.recordedAt,
      })),
    deviations: started
      ? { reason: (started.payload.reason as string | null) ?? null, open: started.payload.open as string[] }
      : null,
    digest: entries.at(-1)?.hash ?? null,
    ncrs,
    entries: entries.map((e) => ({ ...forCore(e), seq: e.seq, hash: e.hash })),
    people: Object.fromEntries(people.map((p) => [p.id, p.name])),
  }
}
