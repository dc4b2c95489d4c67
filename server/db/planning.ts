import type { Knex } from 'knex'
import { emptySummary } from '#core/judgement/projection'
import type { Role } from '#core/access'

export interface NewJoint {
  id: string
  alignment: string
  number: string
  station: number
  system: string
  crew: string
}

const AT_ONCE = 500

export async function insertJoints(db: Knex, project: string, joints: readonly NewJoint[]): Promise<void> {
  const summary = JSON.stringify(emptySummary)
  for (let i = 0; i < joints.length; i += AT_ONCE)
    await db('joints').insert(
      joints.slice(i, i + AT_ONCE).map((j) => ({ ...j, project, facts: '{}', summary })),
    )
}

/** Numbers that joints of a project have. */
export const jointNumbers = async (db: Knex, project: string): Promise<string[]> =>
  db('joints').where({ project }).pluck('number')

export const moveJoint = async (db: Knex, id: string, crew: string): Promise<void> =>
  void (await db('joints').where({ id }).update({ crew }))

/** How many are planned, by line, crew and system. */
export async function countsOf(db: Knex, project: string) {
  const count = (table: string, column: string) =>
    db(table)
      .where({ project })
      .groupBy(column)
      .select(`${column} as key`)
      .count('* as n') as unknown as Promise<{ key: string; n: number }[]>
  const [byLine, byCrew, reaches, systems, reachSystems, roles, articles] = await Promise.all([
    count('joints', 'alignment'),
    count('joints', 'crew'),
    count('reaches', 'alignment'),
    db('joints').where({ project }).distinct('system', 'alignment') as Promise<
      { system: string; alignment: string }[]
    >,
    db('reaches').where({ project }).distinct('system', 'alignment') as Promise<
      { system: string; alignment: string }[]
    >,
    db('memberships as m')
      .join('people as p', 'p.id', 'm.person')
      .where({ 'm.project': project, 'p.active': true })
      .select('m.role', 'm.crew', 'm.person')
      .select({ joined: db.raw('p.password_hash IS NOT NULL') }) as Promise<
      { role: Role; crew: string | null; person: string; joined: number }[]
    >,
    db('catalogue').where({ project }).count('* as n') as unknown as Promise<{ n: number }[]>,
  ])
  const map = (rows: { key: string; n: number }[]) => new Map(rows.map((r) => [r.key, Number(r.n)]))
  return {
    jointsByLine: map(byLine),
    jointsByCrew: map(byCrew),
    reachesByLine: map(reaches),
    systems: [...systems, ...reachSystems],
    roles,
    articles: Number(articles[0]!.n),
  }
}

export interface PlannedProcedure {
  key: string
  title: string
  /** it is worked along a reach, not at a joint */
  ofReach: boolean
  issued: boolean
}

/** The procedures of a project by their keys, and whether one of their revisions is issued. */
export async function proceduresOf(db: Knex, project: string): Promise<Map<string, PlannedProcedure>> {
  const rows = (await db('procedures')
    .where({ project })
    .select('procedure_key', 'title', 'state')
    .select({ of_reach: db.raw(`source REGEXP '["]?subject["]?[ ]*:[ ]*["]?reach'`) })
    .orderBy('revision')) as { procedure_key: string; title: string; state: string; of_reach: number }[]
  const out = new Map<string, PlannedProcedure>()
  for (const { procedure_key: key, title, state, of_reach } of rows)
    out.set(key, {
      key,
      title,
      ofReach: of_reach === 1,
      issued: out.get(key)?.issued === true || state === 'issued',
    })
  return out
}
