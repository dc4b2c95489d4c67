import type { Knex } from 'knex'
import { DateTime } from 'luxon'
import { goodInARow, newCrewRules } from '#core/plan/points'
import { outcomes } from '../db/begun'
import type { Project } from '../db/projects'

interface Work {
  table: 'joints' | 'reaches'
  crew: string
  /** key of the procedure */
  system: string
}

/** How many in a row a crew has made well since each of its rules for new crews counts, up to a moment. */
export async function madeWell(
  db: Knex,
  project: Project,
  { table, crew, system }: Work,
  before: Date,
): Promise<{ rule: string; good: number; asked: number }[]> {
  const rules = newCrewRules(project.settings.points ?? [], system, crew)
  return Promise.all(
    rules.map(async (rule) => {
      const since = DateTime.fromISO(rule.from, { zone: project.zone }).toJSDate()
      const made = await outcomes(db, table, { project: project.id, crew, system }, since, before)
      return { rule: rule.id, good: goodInARow(made), asked: rule.good }
    }),
  )
}

/** The rules for new crews that a crew has worked its way out of. */
export const rulesPassed = async (...of: Parameters<typeof madeWell>): Promise<string[]> =>
  (await madeWell(...of)).filter((m) => m.good >= m.asked).map((m) => m.rule)
