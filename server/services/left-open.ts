import type { Knex } from 'knex'
import { DateTime } from 'luxon'
import { leftOpen, type LeftOpen } from '#core/crew/end-of-day'
import { livelyJoints } from '../db/joints'
import { crewsOf, type Project } from '../db/projects'
import { unfinishedReaches } from '../db/reaches'
import { filledOf, madeOf } from './crew-work'
import type { Actor } from './record'

/** What one crew would leave open over night. */
export interface CrewLeft {
  crew: string
  name: string
  left: LeftOpen[]
}

/** What would be left open if the crews that a person sees went home now; crews that leave nothing are not there. */
export async function leftNow(
  db: Knex,
  project: Project,
  actor: Actor,
  now = Date.now(),
): Promise<CrewLeft[]> {
  const [crews, joints, reaches] = await Promise.all([
    crewsOf(db, project.id),
    livelyJoints(db, project.id, actor.crew),
    unfinishedReaches(db, project.id, actor.crew),
  ])
  const since = DateTime.fromMillis(now, { zone: project.zone }).startOf('day').toMillis()
  const [made, filled] = await Promise.all([
    madeOf(
      db,
      project,
      joints.filter((j) => j.procedure !== null),
      now,
    ),
    filledOf(db, project, reaches, now),
  ])
  const work = [
    ...made.map(({ joint, ...m }) => ({
      ...m,
      id: joint.id,
      name: joint.number,
      of: 'joint' as const,
      crew: joint.crew,
    })),
    ...filled.map(({ reach, ...f }) => ({
      ...f,
      id: reach.id,
      name: reach.name,
      of: 'reach' as const,
      crew: reach.crew,
    })),
  ]
  return crews
    .map(({ id, name }) => ({
      crew: id,
      name,
      left: leftOpen(
        work.filter((w) => w.crew === id),
        since,
      ),
    }))
    .filter((c) => c.left.length > 0)
}
