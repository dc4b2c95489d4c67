import type { Knex } from 'knex'
import { DateTime } from 'luxon'
import { writeCsv } from '#core/files/safe-csv'
import { rateWords } from '#core/plan/occasions'
import { parties, partyTitles, pointTitles, type Party, type Row } from '#core/plan/points'
import type { Project } from '../db/projects'
import type { PlanPaper } from './heavy/plan-paper'
import { runHeavy } from './heavy/run'
import { crewOf, lineOf } from './named'
import { pointMatrix, type PlanWhere } from './points'
import { dayOf } from '#core/quantity/day'

const said = ({ point, rate }: Row[Party]) =>
  point === null ? '' : point === 'S' && rate !== null ? `S ${rateWords(rate)}` : point

/** The plan as it counts somewhere, with the words of a document. */
async function planPaper(db: Knex, project: Project, where: PlanWhere): Promise<PlanPaper> {
  const { matrices } = await pointMatrix(db, project, where)
  const crew = where.crew === null ? null : await crewOf(db, project, where.crew)
  const line = where.line === null ? null : await lineOf(db, project, where.line)
  const day = where.day ?? dayOf(Date.now(), project.zone)
  const shown = DateTime.fromISO(day, { zone: 'utc' }).toFormat('d LLLL yyyy')
  return {
    project: project.name,
    scope: [line?.name ?? 'every line', crew?.name ?? 'every crew', `as of ${shown}`].join(', '),
    parties: parties.map((p) => partyTitles[p]),
    legend: Object.entries(pointTitles),
    procedures: matrices.map((m) => ({
      title: m.procedure.title,
      revision: m.procedure.revision,
      rows: m.rows.map((r) => ({
        ...{ stage: r.stage, step: r.title, cells: parties.map((p) => said(r.cells[p])) },
      })),
    })),
  }
}

/** The plan as a document's rows: every step, and who comes to look. */
export async function planCsv(db: Knex, project: Project, where: PlanWhere): Promise<string> {
  const { procedures } = await planPaper(db, project, where)
  return writeCsv(
    ['procedure', 'revision', 'stage', 'step', ...parties],
    procedures.flatMap((p) => p.rows.map((r) => [p.title, p.revision, r.stage, r.step, ...r.cells])),
  )
}

/** The plan as a spreadsheet, or as a document to be signed. */
export async function planFile(
  db: Knex,
  project: Project,
  where: PlanWhere,
  as: 'xlsx' | 'pdf',
): Promise<Buffer> {
  const paper = await planPaper(db, project, where)
  return Buffer.from(await runHeavy(as === 'pdf' ? 'plan' : 'planSheet', paper))
}
