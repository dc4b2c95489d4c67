import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import type { QualifyMode } from '#core/crew/qualification'
import { rowOf, type PointRule, type Row } from '#core/plan/points'
import { checkProposed, checkReview, type ProposedPoint } from '#core/plan/proposed-point'
import { Problem } from '#core/problem'
import { dayOf, isDay } from '#core/quantity/day'
import type { CompiledProcedure } from '#core/procedure/compile'
import { inTransaction } from '../db/connection'
import { issuedProcedures } from '../db/procedures'
import { alignmentsOf, crewsOf, lockProject, peopleOf, saveSettings, type Project } from '../db/projects'
import { noteChange } from './changes'
import { askRejudge } from './jobs'
import { madeWell } from './new-crew'
import { compiledProcedure } from './procedures'
import { actingRole, type Actor } from './record'

export interface MatrixRow {
  step: string
  title: string
  stage: string
  cells: Row
}
/** The plan of one procedure as it counts somewhere. */
export interface Matrix {
  procedure: { key: string; title: string; revision: string; of: string }
  rows: MatrixRow[]
}

export interface PlanWhere {
  line: string | null
  crew: string | null
  day?: string | undefined
}

const today = (project: Project) => dayOf(Date.now(), project.zone)

/** Steps of a document as they are written: one made at each end is one row. */
const stepsOf = ({ procedure }: CompiledProcedure) =>
  procedure.stages.flatMap((stage) => stage.steps.map((step) => ({ step, stage: stage.title })))

/** Every procedure in use with its points, and what was changed and waits for its review. */
export async function pointMatrix(
  db: Knex,
  project: Project,
  where: PlanWhere,
): Promise<{
  matrices: Matrix[]
  rules: PointRule[]
  names: Record<string, string>
  notice: number | null
  qualify: Record<string, QualifyMode>
  /** of each rule for a new crew how many in a row were good since, by the rule's id */
  made: Record<string, number>
}> {
  const day = where.day ?? today(project)
  if (!isDay(day)) throw new Problem('not-a-date', 'There is no such day.', 'day')
  const rules = project.settings.points ?? []
  const matrices: Matrix[] = []
  const made: Record<string, number> = {}
  for (const { id } of await issuedProcedures(db, project.id)) {
    const compiled = await compiledProcedure(db, project.id, id)
    const { key, title, revision, subject } = compiled.procedure
    const base = project.settings.plan[key] ?? {}
    const passed = await lookAtCrews(db, project, { key, of: subject ?? 'joint' }, made)
    matrices.push({
      procedure: { key, title, revision, of: subject ?? 'joint' },
      rows: stepsOf(compiled).map(({ step, stage }) => {
        const own = Object.hasOwn(base, step.key) ? base[step.key]! : (step.point ?? null)
        const cells = rowOf(rules, key, step.key, own, { ...where, day, passed })
        return { step: step.key, title: step.title, stage, cells }
      }),
    })
  }
  const [people, crews, lines] = await Promise.all([
    peopleOf(db, project.id),
    crewsOf(db, project.id),
    alignmentsOf(db, project.id),
  ])
  const names = Object.fromEntries([...people, ...crews, ...lines].map((x) => [x.id, x.name]))
  return {
    matrices,
    rules,
    names,
    notice: project.settings.notice ?? null,
    qualify: project.settings.qualify ?? {},
    made,
  }
}

/** Counts what new crews have made well by a procedure. @returns the rules that are worked out of */
async function lookAtCrews(
  db: Knex,
  project: Project,
  { key, of }: { key: string; of: string },
  made: Record<string, number>,
): Promise<string[]> {
  const crews = new Set((project.settings.points ?? []).flatMap((r) => (r.good && r.crew ? [r.crew] : [])))
  const passed: string[] = []
  for (const crew of crews) {
    const table = of === 'reach' ? ('reaches' as const) : ('joints' as const)
    for (const m of await madeWell(db, project, { table, crew, system: key }, new Date())) {
      made[m.rule] = m.good
      if (m.good >= m.asked) passed.push(m.rule)
    }
  }
  return passed
}

/** Puts a change of the plan before a second engineer. */
export async function proposePoint(
  db: Knex,
  project: Project,
  actor: Actor,
  typed: ProposedPoint,
): Promise<{ id: string }> {
  actingRole(actor, 'set-rule')
  const found = (await issuedProcedures(db, project.id)).find((p) => p.key === typed.procedure)
  if (!found) throw new Problem('not-found', 'There is no issued procedure of that key.', 'procedure')
  const compiled = await compiledProcedure(db, project.id, found.id)
  checkProposed(typed, new Set(stepsOf(compiled).map(({ step }) => step.key)))
  if (typed.line !== null && !(await alignmentsOf(db, project.id)).some((l) => l.id === typed.line))
    throw new Problem('not-found', 'There is no such line.', 'line')
  if (typed.crew !== null && !(await crewsOf(db, project.id)).some((c) => c.id === typed.crew))
    throw new Problem('not-found', 'There is no such crew.', 'crew')
  const rule: PointRule = { id: uuidv7(), ...typed, by: actor.person, at: Date.now(), review: null }
  await inTransaction(db, async (trx) => {
    const { settings } = await lockProject(trx, project.id)
    await saveSettings(trx, project.id, { ...settings, points: [...(settings.points ?? []), rule] })
    await noteChange(trx, actor, 'set-rule', { what: 'point-proposed', ...rule, review: null })
  })
  return { id: rule.id }
}

/**
 * A second engineer takes a change into the plan or turns it down. What it touches is judged anew by a job.
 */
export async function reviewPoint(
  db: Knex,
  project: Project,
  actor: Actor,
  id: string,
  { accepted, reason }: { accepted: boolean; reason: string },
): Promise<{ job: string | null; total: number }> {
  actingRole(actor, 'set-rule')
  return inTransaction(db, async (trx) => {
    const { settings } = await lockProject(trx, project.id)
    const rules = settings.points ?? []
    const rule = rules.find((r) => r.id === id)
    if (!rule) throw new Problem('not-found', 'There is no such change.', 'rule')
    checkReview(rule, actor.person, { accepted, reason })
    const review = { by: actor.person, at: Date.now(), accepted, reason }
    const points = rules.map((r) => (r.id === id ? { ...r, review } : r))
    await saveSettings(trx, project.id, { ...settings, points })
    await noteChange(trx, actor, 'set-rule', { what: 'point-reviewed', rule: id, accepted, reason })
    return accepted ? askRejudge(trx, project, actor, 'rule', { all: true }) : { job: null, total: 0 }
  })
}

/**
 * How long before a witness is told, s; null where the plan says nothing. What counts as short notice is judged
 * anew by a job.
 */
export async function setNotice(
  db: Knex,
  project: Project,
  actor: Actor,
  { notice, reason }: { notice: number | null; reason: string },
): Promise<{ job: string; total: number }> {
  actingRole(actor, 'set-rule')
  return inTransaction(db, async (trx) => {
    const { settings } = await lockProject(trx, project.id)
    const { notice: before = null, ...rest } = settings
    await saveSettings(trx, project.id, notice === null ? rest : { ...rest, notice })
    await noteChange(trx, actor, 'set-rule', { what: 'notice', notice, before, reason })
    return askRejudge(trx, project, actor, 'rule', { all: true })
  })
}
