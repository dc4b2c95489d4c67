import type { Knex } from 'knex'
import type { Ground } from '#core/plan/lists/define'
import { membersOf } from '../../db/people'
import { nameKey } from '#core/record/names'
import { instrumentsOf } from '../../db/instruments'
import { proceduresOf } from '../../db/planning'
import { issuedProcedure } from '../../db/procedures'
import { alignmentsOf, crewsOf, type Project } from '../../db/projects'
import { reachesOf } from '../../db/reaches'
import { compiledProcedure } from '../procedures'

/** What a project has, as its lists are read against it, and the ids behind the names. */
export interface ProjectGround extends Omit<Ground, 'taken'> {
  lineIds: ReadonlyMap<string, string>
  personIds: ReadonlyMap<string, string>
  crewIds: ReadonlyMap<string, string>
  instrumentIds: ReadonlyMap<string, string>
  /** rows of the issued revisions, by the procedure's key */
  issuedIds: ReadonlyMap<string, string>
}

export async function groundOf(db: Knex, project: Project): Promise<ProjectGround> {
  const [lines, crews, procedures, instruments, reaches, members] = await Promise.all([
    alignmentsOf(db, project.id),
    crewsOf(db, project.id),
    proceduresOf(db, project.id),
    instrumentsOf(db, project.id),
    reachesOf(db, project.id),
    membersOf(db, project.id),
  ])
  const systems = new Map<string, { ofReach: boolean; issued: Awaited<ReturnType<typeof loaded>> }>()
  const issuedIds = new Map<string, string>()
  const facts = new Map<string, 'word' | 'flag' | Extract<ReturnType<Ground['facts']['get']>, string>>()
  async function loaded(key: string) {
    const row = await issuedProcedure(db, project.id, key)
    if (!row) return null
    issuedIds.set(key, row.id)
    return (await compiledProcedure(db, project.id, row.id)).procedure
  }
  for (const p of procedures.values()) {
    const issued = p.issued ? await loaded(p.key) : null
    systems.set(p.key, { ofReach: p.ofReach, issued })
    for (const fact of issued?.facts ?? []) facts.set(fact.key, fact.dimension)
  }
  return {
    lines: new Map(
      lines.map((l) => [
        nameKey(l.key),
        { key: l.key, from: l.from, to: l.to, material: l.material, profiled: l.profile.length > 1 },
      ]),
    ),
    crews: new Map(crews.map((c) => [nameKey(c.name), c.name])),
    people: new Map(members.map((m) => [m.signIn, m.name])),
    systems,
    instruments: new Map(
      instruments.map((i) => [
        nameKey(i.name),
        {
          ...{ name: i.name, quantity: i.quantity, max: i.max },
          calibrated: i.calibrations.map((c) => c.from.slice(0, 10)),
        },
      ]),
    ),
    reaches: new Map(
      lines.map((l) => [
        l.key,
        reaches
          .filter((r) => r.alignment === l.id && r.state !== 'withdrawn')
          .map(({ name, from, to }) => ({ name, from, to })),
      ]),
    ),
    facts,
    lineIds: new Map(lines.map((l) => [l.key, l.id])),
    personIds: new Map(members.map((m) => [m.signIn, m.id])),
    crewIds: new Map(crews.map((c) => [c.name, c.id])),
    instrumentIds: new Map(instruments.map((i) => [i.name, i.id])),
    issuedIds,
  }
}
