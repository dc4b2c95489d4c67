import { wordedIn } from '#core/quantity/site-units'
import type { Knex } from 'knex'
import { stateAt } from '#core/judgement/ahead'
import { standing } from '#core/judgement/standing'
import { witnessOf } from '#core/judgement/witness'
import type { Entry } from '#core/record/entry'
import type { RecordFile } from '#core/record/record-file'
import type { TestReadiness } from '#core/judgement/types'
import type { BandRule } from '#core/calculators/guard-band'
import { couldSee } from '#core/pressure/could-see'
import type { PressureLog } from '#core/pressure/log'
import { findTestMethod } from '#core/pressure/methods/registry'
import { planPack, profileBetween } from '#core/pressure/pack'
import type { PackTest } from '#core/pressure/report'
import { readyList, WITNESS, type ReadyRow } from '#core/pressure/ready'
import { Problem } from '#core/problem'
import { entriesOf, forCore, type StoredEntry } from '../db/entries'
import { jointsWhere, type Joint } from '../db/joints'
import { alignmentsOf, peopleOf, type Project, wordsFor } from '../db/projects'
import { instrumentsOf } from '../db/instruments'
import { ncrsOf } from '../db/ncrs'
import { findPack, type Pack, type PackProjection } from '../db/packs'
import type { SampleRow } from '../db/samples'
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
    if (e.kind === 'withdrawal') out.state = 'withdrawn'
  }
  return out
}

export async function sectionOf(db: Knex, pack: Pack, project: string) {
  const line = (await alignmentsOf(db, project)).find((l) => l.id === pack.alignment)!
  const air = findTestMethod(pack.method).air === true
  const plan = planPack(profileBetween(line.profile, pack.from, pack.to), { ...pack.design, air })
  return { line, plan }
}

/** What a joint says to a test; of one stored before that was kept, what its state says. */
function readiness(j: Joint, now: number): TestReadiness {
  const state = stateAt(j, now)
  return (
    j.summary.test ?? { ready: state === 'accepted' || state === 'waiting', gated: true, at: j.testableAt }
  )
}

/** The record of a pack as a file, with nothing that is not hashed but the hashes. */
export const recordFileOf = async (db: Knex, pack: Pack): Promise<RecordFile> => ({
  record: pack.number,
  entries: (await entriesOf(db, pack.id)).map(({ feed: _feed, ...entry }) => entry),
})

/** Who was invited to see a test, and what was answered. */
export const witnessAt = (project: Project, stands: readonly Entry[]) =>
  witnessOf(
    stands.filter((e) => e.step === WITNESS && e.kind !== 'confirmation'),
    project.settings.notice,
  )

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
  const stays = (s: { state: string }) => s.state !== 'withdrawn'
  const within = reaches.filter(
    (r) => stays(r) && r.alignment === pack.alignment && r.from < pack.to && r.to > pack.from,
  )
  const ncrs = await ncrsOf(db, project.id, {
    subjects: [...joints.map((j) => j.id), ...within.map((r) => r.id), pack.id],
  })
  const gauge = instruments.find((i) => i.id === pack.gauge)
  const now = Date.now()
  const stands = standing(entries.map(forCore))
  const confirmed = Object.fromEntries(
    stands
      .filter((e) => e.kind === 'confirmation' && e.payload.answer === 'yes')
      .map((e) => [
        e.step ?? '',
        {
          by: people.find((p) => p.id === e.person)?.name ?? '',
          photo: typeof e.payload.photo === 'string' ? e.payload.photo : null,
        },
      ]),
  )
  return wordedIn(wordsFor(project), () =>
    readyList({
      now,
      testPressure: pack.design.testPressure,
      sight: couldSee(testOf(pack, project.settings.rule)),
      plan,
      material: line.material,
      methodMaterial: pack.design.methodMaterial,
      methodReason: pack.design.methodReason ?? null,
      confirmed,
      witness: witnessAt(project, stands),
      joints: joints.filter(stays).map((j) => ({
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
        ? {
            id: gauge.id,
            name: gauge.name,
            max: gauge.max,
            calibratedUntil: Date.parse(gauge.calibratedUntil),
          }
        : null,
    }),
  )
}

/** Of the gauge, kept among the parameters of a pack. */
const ofGauge = {
  gaugeUncertainty: 'uncertainty',
  gaugeResolution: 'resolution',
  meterUncertainty: 'meterUncertainty',
} as const

/** What a pack is tested by, and the project's rule for what lies close to a limit. */
export function testOf({ method, design }: Pick<Pack, 'method' | 'design'>, rule: BandRule): PackTest {
  const all = Object.entries(design.parameters)
  const gauge = all.flatMap(([key, value]) =>
    key in ofGauge ? [[ofGauge[key as keyof typeof ofGauge], value] as const] : [],
  )
  return {
    ...{ method, rule },
    parameters: Object.fromEntries(all.filter(([key]) => !(key in ofGauge))),
    section: { ...design.section },
    gauge: Object.fromEntries(gauge),
  }
}

/** A drawn signature with the name of the person who was signed in and gave the PIN. */
export interface Signing {
  name: string
  image: string
}

/** Samples that a logger sent as a log; null of none. */
export function samplesLog(rows: readonly SampleRow[]): PressureLog | null {
  if (rows.length === 0) return null
  const startedAt = rows[0]!.at.getTime()
  return {
    startedAt,
    samples: rows.map(({ at, pressure, pipe, air, makeup }) => ({
      ...{ t: (at.getTime() - startedAt) / 1000, pressure, pipe, air, makeup },
    })),
  }
}
