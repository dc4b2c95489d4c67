import { DateTime } from 'luxon'
import { emptySummary } from '../core/judgement/projection'
import { loadProcedure } from '../core/procedure/load'
import { readFacts } from '../core/procedure/facts'
import { findJoint } from '../server/db/joints'
import { saveMakeup } from '../server/services/makeup'
import { disposeNcr, raiseNcr, reworkNcr, verifyNcr } from '../server/services/ncrs'
import { conformingJoint } from './joint-entries'
import { asMade, layFault } from './habits'
import { DAY, HOUR, keepJudged, MINUTE, type Ground, openedBefore } from './ground'
import { procedureSource } from './system-records'
import { catalogue } from './goods'
import { playScene, writeJoint } from './scenes'
import type { Stock } from './seed-goods'
import { JOINTS, PIPE } from './scheme'

/** the system of the rising main and its branch */
const SYSTEM = 'pe-electrofusion-socket'
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

/** The joints of the rising main: four weeks of them finished, the last ones as they stand now. */
export async function layRisingMain(g: Ground, stock: Stock) {
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
