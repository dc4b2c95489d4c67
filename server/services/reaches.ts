import type { Knex } from 'knex'
import { projectSubject } from '#core/judgement/projection'
import type { FactValue } from '#core/formula/formula'
import { cutReaches, type PlannedSpan } from '#core/plan/reaches'
import { readFacts } from '#core/procedure/facts'
import { Problem } from '#core/problem'
import { nameKey } from '#core/record/names'
import { readQuantity } from '#core/quantity/read'
import { uuidv7 } from 'uuidv7'
import { inTransaction } from '../db/connection'
import { issuedProcedure } from '../db/procedures'
import { saveProjection } from '../db/projection'
import { alignmentsOf, crewsOf, type Project } from '../db/projects'
import { insertReach, reachesOf } from '../db/reaches'
import { noteChange } from './changes'
import { judgeOptions, pointsOf } from './judging'
import { compiledProcedure } from './procedures'
import type { Actor } from './record'

export interface CuttingTyped {
  line: string
  system: string
  crew: string
  from: string
  to: string
  every: string
  pattern: string
  start: number
  /** what is the same for all of them, typed */
  facts: Record<string, unknown>
}

/** Where a line would be cut, and by which issued revision each reach is worked. */
async function cutting(db: Knex, project: Project, typed: CuttingTyped) {
  const line = (await alignmentsOf(db, project.id)).find((l) => l.id === typed.line)
  if (!line) throw new Problem('not-found', 'There is no such line.', 'line')
  if (!(await crewsOf(db, project.id)).some((c) => c.id === typed.crew))
    throw new Problem('not-found', 'There is no such crew.', 'crew')
  const row = await issuedProcedure(db, project.id, typed.system)
  if (!row)
    throw new Problem(
      'no-procedure',
      `No procedure "${typed.system}" is issued: reaches wait for it.`,
      'system',
    )
  const compiled = await compiledProcedure(db, project.id, row.id)
  if (compiled.procedure.subject !== 'reach')
    throw new Problem('unknown-choice', `"${row.title}" is for joints, not for reaches.`, 'system')
  const reaches = await reachesOf(db, project.id)
  const length = (field: 'from' | 'to' | 'every') =>
    readQuantity(typed[field], 'length', { field, bareUnit: 'm' })
  const spans = cutReaches(
    { ...typed, from: length('from'), to: length('to'), every: length('every') },
    line,
    reaches.filter((r) => r.alignment === line.id && r.state !== 'withdrawn'),
  )
  const taken = new Set(reaches.map((r) => nameKey(r.name)))
  const twice = spans.find((s) => taken.has(nameKey(s.name)))
  if (twice) throw new Problem('duplicate', `${twice.name} is there already.`, 'start')
  return { row, compiled, spans }
}

/** The reaches that a line would be cut into, and the facts that are typed for them. */
export async function previewReaches(db: Knex, project: Project, typed: CuttingTyped) {
  const { spans, compiled } = await cutting(db, project, typed)
  return { reaches: spans, facts: compiled.procedure.facts }
}

export interface ReachesLaid {
  line: string
  crew: string
  system: string
  /** the issued revision that they pin */
  procedure: string
  facts: Record<string, FactValue>
  spans: readonly PlannedSpan[]
}

/** Lays reaches out; each pins the issued revision, as joints do when they are opened. */
export async function layReaches(
  trx: Knex,
  project: Project,
  actor: Actor,
  laid: ReachesLaid,
): Promise<void> {
  const { line, crew, system, spans } = laid
  const facts = laid.facts as Record<string, number | string | boolean>
  const compiled = await compiledProcedure(trx, project.id, laid.procedure)
  const openedAt = new Date()
  const placed = { alignment: line, crew, openedAt: openedAt.toISOString() }
  const options = {
    ...(await judgeOptions(trx, project, system, [])),
    ...pointsOf(project, compiled, placed),
  }
  const projection = projectSubject(compiled, facts, [], openedAt.getTime(), options)
  for (const span of spans) {
    const id = uuidv7()
    const { procedure } = laid
    await insertReach(trx, project.id, {
      id,
      alignment: line,
      crew,
      ...span,
      system,
      procedure,
      facts,
      openedAt,
    })
    await saveProjection(trx, 'reaches', id, projection)
  }
  const [first, last] = [spans[0]!.name, spans.at(-1)!.name]
  const count = spans.length
  await noteChange(trx, actor, 'plan-work', { what: 'reaches', line, count, first, last, system, facts })
}

/** Cuts a line into reaches. */
export async function planReaches(
  db: Knex,
  project: Project,
  actor: Actor,
  typed: CuttingTyped,
): Promise<number> {
  const { row, compiled, spans } = await cutting(db, project, typed)
  const facts = readFacts(compiled.procedure, typed.facts)
  const { line, crew, system } = typed
  await inTransaction(db, (trx) =>
    layReaches(trx, project, actor, { line, crew, system, procedure: row.id, facts, spans }),
  )
  return spans.length
}
