import type { Knex } from 'knex'

/** Names of those who lead each crew. */
export async function crewLeadsOf(db: Knex, project: string): Promise<Map<string, string[]>> {
  const rows = (await db('memberships as m')
    .join('people as p', 'p.id', 'm.person')
    .where({ 'm.project': project, 'm.role': 'crew-lead', 'p.active': 1 })
    .whereNotNull('m.crew')
    .orderBy('p.name')
    .select('m.crew', 'p.name')) as { crew: string; name: string }[]
  const out = new Map<string, string[]>()
  for (const { crew, name } of rows) out.set(crew, [...(out.get(crew) ?? []), name])
  return out
}

/** Who leads one crew now. */
export const crewMembersOf = async (
  db: Knex,
  project: string,
  crew: string,
): Promise<{ id: string; name: string }[]> =>
  db('memberships as m')
    .join('people as p', 'p.id', 'm.person')
    .where({ 'm.project': project, 'm.crew': crew, 'm.role': 'crew-lead', 'p.active': 1 })
    .orderBy('p.name')
    .select('p.id', 'p.name')
