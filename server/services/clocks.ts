import type { Knex } from 'knex'
import type { RunningClock } from '#core/judgement/types'
import { livelyJoints } from '../db/joints'
import { crewsOf, type Project } from '../db/projects'
import type { Actor } from './record'

export interface JointClock extends RunningClock {
  joint: string
  number: string
  station: number
  system: string
  crew: string | null
}

/** Every clock that runs on a joint, soonest first; a crew lead's own crew only. */
export async function clocks(db: Knex, project: Project, actor: Actor): Promise<JointClock[]> {
  const [joints, crews] = await Promise.all([
    livelyJoints(db, project.id, actor.crew),
    crewsOf(db, project.id),
  ])
  const names = new Map(crews.map((c) => [c.id, c.name]))
  return joints
    .flatMap((j) =>
      j.summary.clocks.map((c): JointClock => ({
        ...c,
        joint: j.id,
        number: j.number,
        station: j.station,
        system: j.system,
        crew: names.get(j.crew) ?? null,
      })),
    )
    .sort((a, b) => a.until - b.until)
}
