import type { Knex } from 'knex'
import { planCheck, type Planned } from '#core/plan/check'
import { generateJoints, type PlannedJoint } from '#core/plan/joints'
import type { RowFault } from '#core/plan/lists/define'
import { readSchedule } from '#core/plan/schedule'
import { Problem } from '#core/problem'
import { readQuantity } from '#core/quantity/read'
import { nameKey } from '#core/record/names'
import { uuidv7 } from 'uuidv7'
import { inTransaction } from '../db/connection'
import { instrumentsOf } from '../db/instruments'
import { findJoint } from '../db/joints'
import { countsOf, insertJoints, jointNumbers, moveJoint, proceduresOf, type NewJoint } from '../db/planning'
import { alignmentsOf, crewsOf, type Project } from '../db/projects'
import { packsOf } from '../db/packs'
import { noteChange } from './changes'
import { crewOf, lineOf } from './named'
import { groundOf } from './lists/ground'
import { runHeavy } from './heavy/run'
import type { SentFile } from './heavy/table-files'
import type { Actor } from './record'

export interface GeneratorTyped {
  line: string
  system: string
  crew: string
  from: string
  to: string
  pipeLength: string
  pattern: string
  start: number
}

async function generated(db: Knex, project: Project, typed: GeneratorTyped): Promise<PlannedJoint[]> {
  const line = await lineOf(db, project, typed.line)
  await crewOf(db, project, typed.crew)
  if (!(await proceduresOf(db, project.id)).has(typed.system))
    throw new Problem(
      'not-found',
      `This project has no procedure "${typed.system}": adopt it first.`,
      'system',
    )
  const length = (field: 'from' | 'to' | 'pipeLength') =>
    readQuantity(typed[field], 'length', { field, bareUnit: 'm' })
  const joints = generateJoints(
    { ...typed, from: length('from'), to: length('to'), pipeLength: length('pipeLength') },
    line,
  )
  const taken = new Set((await jointNumbers(db, project.id)).map(nameKey))
  const twice = joints.find((j) => taken.has(nameKey(j.number)))
  if (twice)
    throw new Problem(
      'duplicate',
      `${twice.number} is there already: begin with another number or pattern.`,
      'start',
    )
  return joints
}

/** The joints that a generator would make, drawn before anything is. */
export const previewJoints = (db: Knex, project: Project, typed: GeneratorTyped) =>
  generated(db, project, typed)

export async function planJoints(
  db: Knex,
  project: Project,
  actor: Actor,
  typed: GeneratorTyped,
): Promise<number> {
  const joints = await generated(db, project, typed)
  const { line, system, crew } = typed
  await keepJoints(
    db,
    project,
    actor,
    line,
    joints.map((j) => ({ ...j, id: uuidv7(), alignment: line, system, crew })),
    { by: 'generator', pattern: typed.pattern },
  )
  return joints.length
}

async function keepJoints(
  db: Knex,
  project: Project,
  actor: Actor,
  line: string,
  joints: NewJoint[],
  more: Record<string, unknown>,
) {
  await inTransaction(db, async (trx) => {
    await insertJoints(trx, project.id, joints)
    const [first, last] = [joints[0]!.number, joints.at(-1)!.number]
    await noteChange(trx, actor, 'plan-work', {
      what: 'joints',
      line,
      count: joints.length,
      first,
      last,
      ...more,
    })
  })
}

export interface ScheduleRead {
  joints: number
  faults: RowFault[]
  faulty: number
  /** of what would be planned, enough to draw */
  sample: PlannedJoint[]
}
const SHOWN = 200

async function scheduled(db: Knex, project: Project, id: string, file: SentFile) {
  const { key } = await lineOf(db, project, id)
  const [table, numbers, ground] = await Promise.all([
    runHeavy('table', file),
    jointNumbers(db, project.id),
    groundOf(db, project),
  ])
  const taken = new Set(numbers.map(nameKey))
  return {
    crewIds: ground.crewIds,
    ...readSchedule(table, { ...ground, taken }, ground.lines.get(nameKey(key))!),
  }
}

/** What a schedule would plan, and what is wrong with its rows. */
export async function previewSchedule(
  db: Knex,
  project: Project,
  line: string,
  file: SentFile,
): Promise<ScheduleRead> {
  const { joints, faults } = await scheduled(db, project, line, file)
  return {
    joints: joints.length,
    faults: faults.slice(0, SHOWN),
    faulty: faults.length,
    sample: joints.slice(0, SHOWN).map(({ number, station }) => ({ number, station })),
  }
}

/** Plans the joints of a schedule: all of them, or none where a row is wrong. */
export async function importSchedule(
  db: Knex,
  project: Project,
  actor: Actor,
  line: string,
  file: SentFile,
): Promise<number> {
  const { joints, faults, crewIds } = await scheduled(db, project, line, file)
  if (faults.length > 0)
    throw new Problem('bad-rows', `${faults.length} cells are not right: nothing was planned.`, 'file', {
      rows: faults.slice(0, SHOWN),
    })
  await keepJoints(
    db,
    project,
    actor,
    line,
    joints.map(({ number, station, system, crew }) => ({
      id: uuidv7(),
      alignment: line,
      number,
      station,
      system,
      crew: crewIds.get(crew)!,
    })),
    { by: 'schedule', file: file.name },
  )
  return joints.length
}

/** Gives a joint to another crew: before it is opened, or with what was recorded staying as it was. */
export async function giveJoint(
  db: Knex,
  project: Project,
  actor: Actor,
  id: string,
  typed: { crew: string; reason: string },
): Promise<void> {
  const joint = await findJoint(db, project.id, id)
  if (!joint) throw new Problem('not-found', 'There is no such joint.', 'joint')
  const crew = await crewOf(db, project, typed.crew)
  if (crew.id === joint.crew) throw new Problem('same', `${joint.number} is ${crew.name}'s already.`, 'crew')
  await inTransaction(db, async (trx) => {
    await moveJoint(trx, id, crew.id)
    const { number, crew: before } = joint
    await noteChange(trx, actor, 'plan-work', {
      what: 'joint-crew',
      joint: id,
      number,
      before,
      after: crew.id,
      reason: typed.reason,
    })
  })
}

/** What still misses before a crew can work. */
export async function checkPlan(db: Knex, project: Project) {
  const [lines, crews, counts, procedures, instruments, packs] = await Promise.all([
    alignmentsOf(db, project.id),
    crewsOf(db, project.id),
    countsOf(db, project.id),
    proceduresOf(db, project.id),
    instrumentsOf(db, project.id),
    packsOf(db, project.id),
  ])
  const now = Date.now()
  const good = instruments.filter((i) => Date.parse(i.calibratedUntil) > now)
  const came = counts.roles.filter((r) => r.joined === 1)
  const lineName = new Map(lines.map((l) => [l.id, l.name]))
  const plan: Planned = {
    lines: lines.map((l) => ({
      name: l.name,
      points: l.profile.length,
      joints: counts.jointsByLine.get(l.id) ?? 0,
      reaches: counts.reachesByLine.get(l.id) ?? 0,
    })),
    systems: [...new Set(counts.systems.map((s) => s.system))].map((key) => ({
      key,
      lines: [
        ...new Set(counts.systems.filter((s) => s.system === key).map((s) => lineName.get(s.alignment)!)),
      ],
      issued: procedures.get(key)?.issued === true,
      inHand: procedures.has(key),
    })),
    crews: crews.map((c) => ({
      name: c.name,
      leads: came.filter((r) => r.role === 'crew-lead' && r.crew === c.id).length,
      joints: counts.jointsByCrew.get(c.id) ?? 0,
    })),
    roles: Object.fromEntries(
      [...new Set(came.map((r) => r.role))].map((role) => [role, came.filter((r) => r.role === role).length]),
    ),
    waiting: new Set(counts.roles.filter((r) => r.joined === 0).map((r) => r.person)).size,
    instruments: good.length,
    instrumentsOut: instruments.length - good.length,
    articles: counts.articles,
    packs: packs
      .filter((p) => p.state === 'planned')
      .map((p) => {
        const gauge = instruments.find((i) => i.id === p.gauge)
        return {
          number: p.number,
          testPressure: p.design.testPressure,
          gauge: gauge ? { name: gauge.name, max: gauge.max, inCalibration: good.includes(gauge) } : null,
        }
      }),
  }
  return { plan, procedures: [...procedures.values()], findings: planCheck(plan) }
}
