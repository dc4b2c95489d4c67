import { judgeAhead } from '../core/judgement/ahead'
import { emptySummary } from '../core/judgement/projection'
import { plainKey } from '../core/procedure/ends'
import { findJoint } from '../server/db/joints'
import { forCore } from '../server/db/entries'
import { judgeOptions, pointsOf } from '../server/services/judging'
import { saveMakeup } from '../server/services/makeup'
import { DAY, HOUR, keepJudged, MINUTE, write, type Ground, openedBefore } from './ground'
import { withHolds, withWitness, type PointedEntry } from './points-in-records'
import {
  atEnds,
  loadSystem,
  rejectedAt,
  replaceAnswers,
  sampleEntries,
  type RejectedSample,
  type SampleAnswer,
  type System,
} from './system-records'

interface OtherLine {
  key: string
  name: string
  material: string
  from: number
  to: number
  profile: [station: number, elevation: number][]
  facts: Record<string, number | string | boolean>
  crew: number
  systems: string[]
}

/** The other lines of the made-up scheme, and the systems that are joined on each. */
export const otherLines: OtherLine[] = [
  {
    key: 'GS',
    name: 'Gravity sewer',
    material: 'concrete',
    from: 0,
    to: 640,
    profile: [
      [0, 12.8],
      [160, 11.2],
      [320, 9.7],
      [480, 8.1],
      [640, 6.4],
    ],
    facts: {},
    crew: 2,
    systems: [
      'rc-profile-gasket',
      'rc-confined-ring',
      'rc-rubber-ring',
      'rc-sealant',
      'rc-factory-seal',
      'manhole-prelubed-gasket',
      'manhole-sealant',
    ],
  },
  {
    key: 'SO',
    name: 'Storm outfall',
    material: 'polyethylene',
    from: 0,
    to: 420,
    profile: [
      [0, 9.2],
      [140, 7.9],
      [280, 5.1],
      [420, 1.6],
    ],
    facts: {},
    crew: 2,
    systems: ['pe-corrugated-gasket', 'pe-corrugated-coupler', 'pe-profile-gasket'],
  },
  {
    key: 'RC',
    name: 'River crossing',
    material: 'ductile iron',
    from: 0,
    to: 180,
    profile: [
      [0, 6.1],
      [60, 1.2],
      [90, -2.4],
      [120, 0.8],
      [180, 6.6],
    ],
    facts: { 'line.designPressure': 10e5 },
    crew: 3,
    systems: ['di-restrained-gripper'],
  },
  {
    key: 'BL',
    name: 'Brine line',
    material: 'fibreglass',
    from: 0,
    to: 260,
    profile: [
      [0, 8],
      [130, 12],
      [260, 15],
    ],
    facts: {},
    crew: 3,
    systems: ['frp-threaded'],
  },
  {
    key: 'WL',
    name: 'Warm-water loop',
    material: 'pre-insulated',
    from: 0,
    to: 210,
    profile: [
      [0, 11],
      [105, 12.4],
      [210, 11.2],
    ],
    facts: {},
    crew: 3,
    systems: ['preinsulated-shrink-casing', 'abs-preinsulated-nipple'],
  },
  {
    key: 'CD',
    name: 'Chemical dosing',
    material: 'CPVC and PVC',
    from: 0,
    to: 90,
    profile: [
      [0, 14],
      [90, 14.6],
    ],
    facts: { 'line.designPressure': 6e5, 'line.testPressure': 9e5 },
    crew: 3,
    systems: ['cpvc-solvent-weld', 'pvc-solvent-weld'],
  },
  {
    key: 'IP',
    name: 'Instrument piping',
    material: 'steel',
    from: 0,
    to: 60,
    profile: [
      [0, 15],
      [60, 16],
    ],
    facts: {},
    crew: 3,
    systems: ['steel-axial-swage'],
  },
  {
    key: 'TC',
    name: 'Tank connections',
    material: 'steel and hose',
    from: 0,
    to: 48,
    profile: [
      [0, 15.5],
      [48, 15.5],
    ],
    facts: { 'line.designPressure': 10e5, 'line.fluid': 'water' },
    crew: 3,
    systems: ['bolted-coupling', 'hose-band-clamp'],
  },
  {
    key: 'SC',
    name: 'Service connections',
    material: 'polyethylene',
    from: 0,
    to: 300,
    profile: [
      [0, 20],
      [150, 23],
      [300, 27],
    ],
    facts: { 'line.designPressure': 10e5 },
    crew: 1,
    systems: ['pe-electrofusion-saddle'],
  },
]
const leads = ['tam', 'rhona', 'sorrel', 'milo']

export async function layOtherLines(g: Ground): Promise<Record<string, string>> {
  const ids: Record<string, string> = {}
  for (const line of otherLines) {
    ids[line.key] = g.random.id(g.now - 40 * DAY)
    await g.db('alignments').insert({
      id: ids[line.key],
      project: g.project.id,
      line_key: line.key,
      name: line.name,
      material: line.material,
      from_station: line.from,
      to_station: line.to,
      profile: JSON.stringify(line.profile.map(([station, elevation]) => ({ station, elevation }))),
      facts: JSON.stringify(line.facts),
    })
  }
  return ids
}

type Scene = 'accepted' | 'rejected' | 'in-work' | 'held' | 'opened' | 'planned'
/** Every system stands in several states; the first joints are long done. */
const scenes: Scene[] = ['accepted', 'accepted', 'rejected', 'in-work', 'held', 'opened', 'planned']

/** A rejecting record that leaves the facts as they are, so that the joint could have come about so. */
const rejection = (system: System): RejectedSample | undefined =>
  system.sample.rejecting.find((r) => r.values && !r.facts && !r.schools) ??
  system.sample.rejecting.find((r) => r.choice && !r.facts && !r.schools)

/** What was answered at a joint in a scene; null where the system has no such scene. */
function answersOf(system: System, scene: Scene): SampleAnswer[] | null {
  const all = atEnds(system.compiled, system.sample.conforming)
  switch (scene) {
    case 'accepted':
      return all
    case 'rejected': {
      const bad = rejection(system)
      if (!bad) return null
      const step = rejectedAt(system.compiled, bad)
      const changed = replaceAnswers(system.compiled, all, [{ ...bad, step }])
      return changed.slice(0, changed.findIndex((a) => a.step === step) + 1)
    }
    case 'in-work':
      return all.slice(0, Math.ceil(all.length * 0.55))
    case 'held': {
      const at = all.findIndex((a) => a.release)
      return at < 0 ? null : all.slice(0, at + 1)
    }
    case 'opened':
      return []
    case 'planned':
      return null
  }
}

export async function layOtherJoints(g: Ground, lines: Record<string, string>): Promise<void> {
  for (const line of otherLines) {
    let n = 0
    const pitch = (line.to - line.from) / (line.systems.length * scenes.length + 1)
    for (const key of line.systems) {
      const system = loadSystem(key)
      for (const scene of scenes) {
        const answers = answersOf(system, scene)
        if (answers === null && scene !== 'planned') continue
        n++
        await layJoint(
          g,
          {
            line: lines[line.key]!,
            number: `${line.key}-${String(n).padStart(2, '0')}`,
            station: Math.round(n * pitch * 10) / 10,
            crew: line.crew,
            scene,
            n,
          },
          system,
          answers,
        )
      }
    }
  }
}

/**
 * Samples are written as of a day; their dates of lots move with the demo, so that what was good stays
 * good.
 */
const SAMPLE_DAY = Date.UTC(2026, 2, 9)
function moveDates(payload: Record<string, unknown>, now: number): Record<string, unknown> {
  const days = Math.round((now - SAMPLE_DAY) / DAY)
  return Object.fromEntries(
    Object.entries(payload).map(([key, value]) => [
      key,
      typeof value === 'string' && /^\d{4}-\d\d-\d\d$/.test(value)
        ? new Date(Date.parse(value) + days * DAY).toISOString().slice(0, 10)
        : value,
    ]),
  )
}

async function layJoint(
  g: Ground,
  at: { line: string; number: string; station: number; crew: number; scene: Scene; n: number },
  system: System,
  answers: SampleAnswer[] | null,
) {
  const { db, now, random } = g
  const id = random.id(now - 30 * DAY)
  const facts = answers === null ? {} : (system.facts as Record<string, number | string | boolean>)
  await db('joints').insert({
    id,
    project: g.project.id,
    alignment: at.line,
    number: at.number,
    station: at.station,
    system: system.key,
    crew: g.crews[at.crew],
    procedure_id: answers === null ? null : g.procedures[system.key],
    facts: JSON.stringify(facts),
    opened_at: answers === null ? null : new Date(now - HOUR),
    summary: JSON.stringify(emptySummary),
  })
  if (answers === null) return
  // Opened a while ago, or today: the points are those that the plan has then.
  const openedAt = new Date(at.scene === 'accepted' ? now - 4 * DAY : now).toISOString()
  const where = { alignment: at.line, crew: g.crews[at.crew]!, openedAt }
  const { plan } = pointsOf(g.project, system.compiled, where)
  const points = Object.fromEntries(
    system.compiled.steps.map(({ step }) => [step.key, plan[plainKey(step.key)] ?? step.point ?? null]),
  )
  const made = withHolds(sampleEntries(system.compiled, answers), points)
  // The last release is still waited for where the joint is held.
  const worked: PointedEntry[] =
    at.scene === 'held' ? made.slice(0, made.findLastIndex((e) => e.kind === 'request') + 1) : made
  const end =
    at.scene === 'accepted'
      ? now - (4 + (at.n % 9)) * DAY
      : at.scene === 'rejected'
        ? now - (5 + (at.n % 7)) * HOUR
        : now - (2 + (at.n % 11)) * MINUTE
  const start = end - (worked.at(-1)?.minute ?? 0) * MINUTE
  // The first time the witness came late, since then to the minute.
  const entries = at.scene === 'accepted' ? withWitness(worked, points, start, at.n === 1 ? 34 : 0) : worked
  let stored: Awaited<ReturnType<typeof write>> = []
  for (const e of entries)
    stored = await write(
      g,
      'joint',
      id,
      { lead: leads[at.crew]!, inspector: 'ines', witness: 'hale' }[e.by],
      [{ kind: e.kind, step: e.step, payload: moveDates(e.payload, now), at: start + e.minute * MINUTE }],
      stored,
    )
  await openedBefore(db, id, stored)
  const options = await judgeOptions(db, g.project, system.key)
  await keepJudged(g, 'joint', id, stored, stored.length > 0 ? Date.parse(stored.at(-1)!.receivedAt) : now)
  await saveMakeup(db, (await findJoint(db, g.project.id, id))!, stored)
  // A sample that no longer judges as its scene says would make the demo lie.
  const { state } = judgeAhead(system.compiled, facts, stored.map(forCore), now, options).judgement
  if ((at.scene === 'accepted') !== (state === 'accepted'))
    throw new Error(`${at.number} (${system.key}) is ${state}, its scene is ${at.scene}.`)
}
