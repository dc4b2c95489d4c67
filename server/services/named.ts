import type { Knex } from 'knex'
import { Problem } from '#core/problem'
import { alignmentsOf, crewsOf, type Project } from '../db/projects'

/** A line of the project by its id. @throws Problem `not-found` naming `line` */
export async function lineOf(db: Knex, project: Project, id: string) {
  const line = (await alignmentsOf(db, project.id)).find((l) => l.id === id)
  if (!line) throw new Problem('not-found', 'There is no such line.', 'line')
  return line
}

/** A crew of the project by its id. @throws Problem `not-found` naming `crew` */
export async function crewOf(db: Knex, project: Project, id: string) {
  const crew = (await crewsOf(db, project.id)).find((c) => c.id === id)
  if (!crew) throw new Problem('not-found', 'There is no such crew.', 'crew')
  return crew
}
