import { nameKey } from '../core/record/names'
import type { Knex } from 'knex'
import { DateTime } from 'luxon'
import { insertInstallation, installationName } from '../server/db/links'
import { emptySummary } from '../core/judgement/projection'
import { loadProcedure } from '../core/procedure/load'
import { readFacts } from '../core/procedure/facts'
import type { StoredEntry } from '../server/db/entries'
import { findJoint } from '../server/db/joints'
import { findProject } from '../server/db/projects'
import { saveMakeup } from '../server/services/makeup'
import { disposeNcr, raiseNcr, reworkNcr, verifyNcr } from '../server/services/ncrs'
import type { Actor } from '../server/services/record'
import { hashSecret } from '../server/services/secrets'
import { conformingJoint, upTo, type Made } from './joint-entries'
import { asMade, layFault } from './habits'
import { crewNames, demoPassword, demoPeople, demoPin } from './people'
import { DAY, HOUR, keepJudged, MINUTE, write, type Ground, openedBefore } from './ground'
import { seeded } from './random'
import { layOtherLines, layOtherJoints } from './seed-systems'
import { layProcedures } from './seed-procedures'
import { procedureSource } from './system-records'
import { catalogue } from './goods'
import { layEmbedment } from './seed-embedment'
import { layPacks } from './seed-packs'
import { layPoints, layRules } from './seed-points'
import { layReaches } from './seed-reaches'
import { layShifts } from './seed-shifts'
import { layGoods, type Stock } from './seed-goods'
import { branch, instruments, JOINTS, PIPE, risingMain, scheme } from './scheme'

const SEED = 20_411
/** the system of the rising main and its branch */
const SYSTEM = 'pe-electrofusion-socket'

async function layGround(db: Knex, now: number): Promise<Ground> {
  const random = seeded(SEED)
  const id = () => random.id(now - 40 * DAY)
  const project = id()
  await db('projects').insert({
    id: project,
    project_key: scheme.key,
    name: scheme.name,
    zone: scheme.zone,
    settings: JSON.stringify({ rule: 'guarded', schools: {}, plan: {} }),
  })
  const crews = crewNames.map(() => id())
  await db('crews').insert(crewNames.map((name, i) => ({ id: crews[i], project, name })))
  const people: Record<string, Actor> = {}
  const [password, pin] = await Promise.all([hashSecret(demoPassword), hashSecret(demoPin)])
  for (const p of demoPeople) {
    const person = id()
    const crew = p.crew ? crews[crewNames.indexOf(p.crew as (typeof crewNames)[number])]! : null
    await db('people').insert({
      id: person,
      sign_in: p.signIn,
      name: p.name,
      password_hash: password,
      pin_hash: pin,
      // The demo's administrator keeps the installation, unless somebody does already.
      keeper: p.role === 'administrator' && !(await installationName(db)),
    })
    await db('memberships').insert({ project, person, role: p.role, crew })
    people[p.signIn] = { person, name: p.name, project, roles: [p.role], crew }
  }
  if (!(await installationName(db))) await insertInstallation(db, 'Skerry Head demonstration', new Date(now))
  const tools: Record<string, string> = {}
  for (const i of instruments) {
    tools[i.kind] = id()
    await db('instruments').insert({
      id: tools[i.kind],
      project,
      name: i.name,
      name_key: nameKey(i.name),
      kind: i.kind,
      quantity: i.quantity,
      range_min: i.min,
      range_max: i.max,
      resolution: i.resolution,
      uncertainty: i.uncertainty,
    })
    await db('calibrations').insert({
      id: id(),
      project,
      instrument: tools[i.kind],
      from_at: new Date(now + (i.days - 365) * DAY),
      until_at: new Date(now + i.days * DAY),
      certificate: `K-${1000 + i.days}`,
    })
  }
  const lines = { main: id(), branch: id() }
  for (const [key, line] of [
    ['main', risingMain],
    ['branch', branch],
  ] as const) {
    await db('alignments').insert({
      id: lines[key],
      project,
      line_key: line.key,
      name: line.name,
      material: 'polyethylene',
      from_station: line.from,
      to_station: line.to,
      profile: JSON.stringify(line.profile),
      facts: JSON.stringify({ 'line.designPressure': 10e5 }),
    })
  }
  await db('catalogue').insert(
    catalogue.map((c) => ({
      project,
      item: c.item,
      title: c.title,
      kind: c.kind,
      pressure_class: c.pressureClass,
      facts: JSON.stringify(c.facts),
      gtin: c.gtin,
      limits: JSON.stringify(c.limits),
      mass: c.mass,
      shelf_months: c.shelfMonths,
      opened_days: c.openedDays,
    })),
  )
  return {
    db,
    random,
    now,
    project: (await findProject(db, scheme.key))!,
    crews,
    people,
    lines,
    instruments: tools,
    procedures: {},
  }
}

async function writeJoint(g: Ground, joint: string, lead: string, made: Made[], startedAt: number) {
  let entries: StoredEntry[] = []
  for (let i = 0; i < made.length;) {
    let k = i
    while (k < made.length && made[k]!.by === made[i]!.by) k++
    entries = await write(
      g,
      'joint',
      joint,
      made[i]!.by === 'lead' ? lead : 'ines',
      made.slice(i, k).map((m) => ({
        kind: m.kind,
        step: m.step,
        payload: m.payload,
        instrument: m.instrument ? g.instruments[m.instrument] : null,
        at: startedAt + m.after * 1000,
      })),
      entries,
    )
    i = k
  }
  return entries
}

const dayOf = (at: number) => new Date(at).toISOString().slice(0, 10)

/** The tail of the line where everything happens now; counted from the last joint that is finished. */
const scenes = [
  'accepted',
  'accepted',
  'cooling-test',
  'cooling-test',
  'rejected',
  'reworked',
  'past-hold',
  'cooling',
  'fusion',
  'held',
  'too-close',
  'refused',
  'in-work',
  'held-long',
  'opened',
  'struck',
] as const
const FINISHED = 224
/** Eight joints a day over four weeks, begun from seven in the morning on; the last of them yesterday. */
const A_DAY = 8
function finishedStart(g: Ground, n: number): number {
  const back = FINISHED - n
  const day = DateTime.fromMillis(g.now, { zone: g.project.zone }).minus({
    days: 1 + Math.floor(back / A_DAY),
  })
  return day.startOf('day').toMillis() + 7 * HOUR + (A_DAY - 1 - (back % A_DAY)) * 65 * MINUTE
}

async function layJoints(g: Ground, stock: Stock) {
  const { db, random, now } = g
  const compiled = loadProcedure(procedureSource(SYSTEM))
  const [pipe, fitting] = [catalogue[0].facts, catalogue[1].facts]
  const { 'fitting.bore': _bore, ...coupler } = fitting
  const facts = readFacts(compiled.procedure, { ...pipe, ...coupler, 'line.designPressure': 10e5 })
  const shape = { od: 0.315, wall: 0.0286, stab: 0.118, fusion: 480, cooling: 1800 }
  for (let n = 1; n <= JOINTS; n++) {
    const id = random.id(now - 35 * DAY)
    const scene = n <= FINISHED ? 'accepted' : (scenes[n - FINISHED - 1] ?? 'planned')
    const crew = n <= FINISHED ? Math.floor((n - 1) / 24) % 2 : n % 2
    const lead = crew === 0 ? 'tam' : 'rhona'
    const opened = scene !== 'planned'
    await db('joints').insert({
      id,
      project: g.project.id,
      alignment: g.lines.main,
      number: `RM-${String(n).padStart(3, '0')}`,
      station: n * PIPE,
      system: SYSTEM,
      crew: g.crews[crew],
      procedure_id: opened ? g.procedures[SYSTEM] : null,
      upstream: opened ? stock.pipes[n - 1]!.id : null,
      downstream: opened ? stock.pipes[n]!.id : null,
      fitting: opened ? stock.fittings[n - 1]!.id : null,
      facts: JSON.stringify(opened ? facts : {}),
      opened_at: opened ? new Date(now - HOUR) : null,
      summary: JSON.stringify(emptySummary),
    })
    if (!opened) continue
    const made = asMade(n, conformingJoint(random, shape, 12))
    const startedAt = n <= FINISHED ? finishedStart(g, n) : now
    const entries =
      n <= FINISHED
        ? await writeJoint(g, id, lead, made, startedAt)
        : await playScene(g, id, lead, scene, made)
    const at = entries.length > 0 ? Date.parse(entries.at(-1)!.receivedAt) : now
    await openedBefore(db, id, entries)
    await keepJudged(g, 'joint', id, entries, at)
    await saveMakeup(db, (await findJoint(db, g.project.id, id))!, entries)
    await layFault(g, n, id, lead)
    if (scene === 'rejected' || scene === 'reworked') await layNcr(g, id, scene, lead)
  }
  for (let n = 1; n <= 5; n++)
    await db('joints').insert({
      id: random.id(now),
      project: g.project.id,
      alignment: g.lines.branch,
      number: `SB-0${n}`,
      station: n * PIPE,
      system: SYSTEM,
      crew: g.crews[1],
      facts: '{}',
      summary: JSON.stringify(emptySummary),
    })
}

const replace = (made: Made[], step: string, payload: Record<string, unknown>): Made[] =>
  made.map((m) => (m.step === step && m.kind !== 'request' && m.kind !== 'release' ? { ...m, payload } : m))

/** Plays a joint so that it stands in its scene now. */
async function playScene(
  g: Ground,
  id: string,
  lead: string,
  scene: string,
  made: Made[],
): Promise<StoredEntry[]> {
  const { now } = g
  const endAt = (list: Made[], end: number) => writeJoint(g, id, lead, list, end - list.at(-1)!.after * 1000)
  const at = (step: string) => made.find((m) => m.step === step)!.after * 1000
  switch (scene) {
    case 'accepted':
      return endAt(made, now - 20 * HOUR)
    case 'cooling-test':
      return endAt(made, now - 25 * MINUTE)
    case 'cooling':
      return writeJoint(g, id, lead, upTo(made, 'fusion-run'), now - at('fusion-start') - 21 * MINUTE)
    case 'fusion':
      return writeJoint(g, id, lead, upTo(made, 'fusion-start'), now - at('fusion-start') - 3 * MINUTE)
    case 'held':
      return endAt(
        upTo(made, 'before-fusion').filter((m) => m.kind !== 'release'),
        now - 6 * MINUTE,
      )
    case 'held-long':
      return endAt(
        upTo(made, 'before-fusion').filter((m) => m.kind !== 'release'),
        now - 34 * MINUTE,
      )
    case 'refused': {
      const list = upTo(made, 'before-fusion').map((m) =>
        m.kind === 'release'
          ? {
              ...m,
              kind: 'refusal' as const,
              payload: { reason: 'Downstream pipe hangs; support it within a metre of the clamp.' },
            }
          : m,
      )
      return endAt(list, now - 15 * MINUTE)
    }
    case 'too-close':
      return endAt(
        replace(upTo(made, 'ovality'), 'ovality', {
          values: [0.3169, 0.3152, 0.314, 0.3155],
          typed: ['316.9', '315.2', '314', '315.5'],
        }),
        now - 9 * MINUTE,
      )
    case 'in-work':
      return endAt(upTo(made, 'peel-depth'), now - 4 * MINUTE)
    case 'past-hold':
      return endAt(
        upTo(made, 'fusion-run').filter((m) => m.kind !== 'release' && m.kind !== 'request'),
        now - 50 * MINUTE,
      )
    case 'rejected':
      return endAt(
        replace(upTo(made, 'controller-time'), 'controller-time', { values: [360], typed: ['360 s'] }),
        now - 26 * HOUR,
      )
    case 'reworked':
      return endAt(
        replace(upTo(made, 'square'), 'square', { values: [0.0081, 0.0021], typed: ['8.1', '2.1'] }),
        now - 30 * HOUR,
      )
    case 'struck': {
      const entries = await endAt(
        replace(upTo(made, 'temperature'), 'temperature', { values: [61], typed: ['61 °C'] }),
        now - 3 * MINUTE,
      )
      const wrong = entries.at(-1)!
      const struck = await write(
        g,
        'joint',
        id,
        lead,
        [
          {
            kind: 'correction',
            step: 'temperature',
            payload: { strikes: wrong.id, reason: 'Thermometer lay in the sun' },
            at: now - 2 * MINUTE,
          },
        ],
        entries,
      )
      return write(
        g,
        'joint',
        id,
        lead,
        [
          {
            kind: 'reading',
            step: 'temperature',
            payload: { values: [13.5], typed: ['13.5'] },
            instrument: g.instruments.thermometer,
            at: now - MINUTE,
          },
        ],
        struck,
      )
    }
    default:
      return []
  }
}

async function layNcr(g: Ground, joint: string, scene: string, lead: string) {
  const { db, people, now, random } = g
  const raise = (criterion: string, reading: string, step: string, at: number) =>
    raiseNcr(
      db,
      g.project,
      people.ines!,
      { id: random.id(at), subjectType: 'joint', subject: joint, step, photo: null },
      { criterion, reading },
      new Date(at),
    )
  const found = (await findJoint(db, g.project.id, joint))!.summary.drafts[0]!
  if (scene === 'rejected') {
    const id = await raise(found.criterion, found.reading, found.step, now - 25 * HOUR)
    await disposeNcr(
      db,
      people.petra!,
      id,
      {
        ...{ disposition: 'rework', cause: 'time', due: dayOf(now - 24 * HOUR) },
        reason: 'Clear the controller, scan the label again, take the new reading before connecting.',
      },
      new Date(now - 23 * HOUR),
    )
    return
  }
  const id = await raise(found.criterion, found.reading, found.step, now - 29 * HOUR)
  await disposeNcr(
    db,
    people.petra!,
    id,
    {
      ...{ disposition: 'rework', cause: 'preparation', due: dayOf(now + 24 * HOUR) },
      reason: 'Cut the end again with the guided cutter.',
    },
    new Date(now - 28 * HOUR),
  )
  await reworkNcr(
    db,
    people[lead]!,
    id,
    'End cut again, 2 mm out of square now.',
    null,
    new Date(now - 27 * HOUR),
  )
  await verifyNcr(db, g.project, people.oskar!, id, true, 'Seen and measured.', new Date(now - 26.5 * HOUR))
}

/** Lays out the demo project once. @returns false when it is there already */
export async function seedDemo(db: Knex, now = Date.now()): Promise<boolean> {
  if (await findProject(db, scheme.key)) return false
  await db.transaction(async (trx) => {
    const ground = await layGround(trx, now)
    await layProcedures(ground)
    await layRules(ground)
    const stock = await layGoods(ground)
    await layJoints(ground, stock)
    const lines = await layOtherLines(ground)
    await layOtherJoints(ground, lines)
    await layReaches(ground)
    await layEmbedment(ground, lines)
    await layPacks(ground)
    await layPoints(ground)
    await layShifts(ground)
  })
  return true
}
