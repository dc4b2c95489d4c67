import type { Knex } from 'knex'
import { alignmentsOf, crewsOf, peopleOf, type Project } from '../db/projects'
import { instrumentsOf } from '../db/instruments'
import { catalogueOf } from '../db/deliveries'
import type { Actor } from './record'

/** What every view needs to name things. */
export async function overview(db: Knex, project: Project, actor: Actor) {
  const [lines, crews, people, instruments, catalogue] = await Promise.all([
    alignmentsOf(db, project.id),
    crewsOf(db, project.id),
    peopleOf(db, project.id),
    instrumentsOf(db, project.id),
    catalogueOf(db, project.id),
  ])
  const articles = [...catalogue.values()].map(({ item, title, kind, pressureClass, gtin, mass, facts }) => ({
    item,
    title,
    kind,
    pressureClass,
    gtin,
    mass,
    facts,
  }))
  return {
    project: {
      key: project.key,
      name: project.name,
      zone: project.zone,
      units: project.settings.units ?? ('as-written' as const),
    },
    roles: actor.roles,
    crew: actor.crew,
    lines: lines.map(({ id, key, name, material, from, to, profile, course }) => ({
      id,
      key,
      name,
      material,
      from,
      to,
      profile,
      course,
    })),
    crews,
    people,
    instruments,
    articles,
  }
}
