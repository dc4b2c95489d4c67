import type { Knex } from 'knex'
import { stateAt } from '#core/judgement/ahead'
import { standing } from '#core/judgement/standing'
import type { Procedure } from '#core/procedure/types'
import { curvesOf } from '../db/curves'
import { entriesOf, forCore } from '../db/entries'
import { instrumentsOf } from '../db/instruments'
import { itemsByIds } from '../db/items'
import { jointsOpened, type Joint } from '../db/joints'
import { limitedLots } from '../db/lots'
import { peopleOf, type Project } from '../db/projects'
import { lotFacts, ofSubject } from './judging'
import { openingOf } from './opening'
import { compiledProcedure } from './procedures'
import type { Machine } from '#core/plan/lists/plants'
import { plantsOf } from '../db/plants'
import { qualificationAt } from './qualified'
import type { Actor } from './record'
import { visibleSubject, type Subject } from './subjects'

/** A tin that was open so long ago is another one. */
const OPENED_TIN_MS = 2 * 86_400_000

/** What every worksheet of a project is judged with; read once for many. */
export async function commonOf(db: Knex, project: Project) {
  const [lots, people, instruments, curves] = await Promise.all([
    limitedLots(db, project.id),
    peopleOf(db, project.id),
    instrumentsOf(db, project.id),
    curvesOf(db, project.id),
  ])
  const names = Object.fromEntries(people.map((p) => [p.id, p.name]))
  return { lots: lotFacts(lots), people: names, instruments, curves }
}
type Common = Awaited<ReturnType<typeof commonOf>>

/** Everything that a worksheet needs, so that the device can judge by itself. */
async function worksheet(db: Knex, project: Project, actor: Actor, subject: Subject, given?: Common) {
  const [entries, { lots, people, instruments, curves }] = await Promise.all([
    entriesOf(db, subject.id),
    given ?? commonOf(db, project),
  ])
  const procedure = subject.procedure ? await compiledProcedure(db, project.id, subject.procedure) : null
  const key = procedure?.procedure.key ?? ''
  const { type, id, title, alignment, crew, system, facts } = subject
  return {
    subject: { type, id, title, alignment, crew, system, facts, state: stateAt(subject, Date.now()) },
    procedure: procedure?.procedure ?? null,
    schools: project.settings.schools[key] ?? {},
    ...{ plan: {}, beside: {} },
    ...(procedure && (await ofSubject(db, project, procedure, subject))),
    // Which steps are drawn to be watched is shown to nobody whose work is watched.
    ...(actor.crew === null ? {} : { drawn: undefined }),
    notice: project.settings.notice ?? null,
    rule: project.settings.rule,
    instruments,
    lots,
    people,
    /** what fill is compared with: of reaches */
    curves: type === 'reach' ? curves : [],
    entries: entries.map((e) => ({ ...forCore(e), seq: e.seq, hash: e.hash, lateReason: e.late })),
  }
}

/** The lots that the crew used at the joint opened before this one, by step: offered, never filled in. */
async function lotsUsedBefore(db: Knex, project: Project, joint: Joint, procedure: Procedure) {
  const asked = procedure.stages.flatMap((s) => s.steps).some((s) => s.check.kind === 'lot')
  if (!asked || !joint.openedAt) return null
  const [before] = await jointsOpened(
    db,
    {
      project: project.id,
      since: new Date(Date.parse(joint.openedAt) - OPENED_TIN_MS),
      before: new Date(joint.openedAt),
      crew: joint.crew,
      system: joint.system,
    },
    1,
  )
  if (!before) return null
  const used = standing((await entriesOf(db, before.id)).map(forCore)).filter((e) => e.kind === 'lot')
  return { number: before.number, lots: Object.fromEntries(used.map((e) => [e.step, e.payload])) }
}

export async function jointSheet(db: Knex, project: Project, actor: Actor, id: string, common?: Common) {
  const joint = await visibleSubject(db, actor, 'joint', id)
  const parts = [joint.upstream, joint.downstream, joint.fitting].filter((x): x is string => x !== null)
  const [sheet, items] = await Promise.all([
    worksheet(db, project, actor, joint, common),
    itemsByIds(db, project.id, parts),
  ])
  const opening = sheet.procedure ? null : await openingOf(db, project, joint)
  const compiled = joint.procedure ? await compiledProcedure(db, project.id, joint.procedure) : null
  const qualification = compiled && (await qualificationAt(db, project, actor, compiled))
  const lotsBefore = sheet.procedure ? await lotsUsedBefore(db, project, joint, sheet.procedure) : null
  const { number, station } = joint
  return {
    ...sheet,
    subject: { ...sheet.subject, title: number, station },
    joint,
    opening,
    items,
    qualification,
    plants: [] as Machine[],
    lotsBefore,
  }
}

export async function reachSheet(db: Knex, project: Project, actor: Actor, id: string, common?: Common) {
  const reach = await visibleSubject(db, actor, 'reach', id)
  const { from, to } = reach
  const sheet = await worksheet(db, project, actor, reach, common)
  const compiled = reach.procedure ? await compiledProcedure(db, project.id, reach.procedure) : null
  const qualification = compiled && (await qualificationAt(db, project, actor, compiled))
  const plants = (await plantsOf(db, project.id, reach.crew)).map(({ crew: _crew, ...machine }) => machine)
  return { ...sheet, subject: { ...sheet.subject, from, to }, qualification, plants, lotsBefore: null }
}
