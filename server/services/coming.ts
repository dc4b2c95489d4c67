import type { Knex } from 'knex'
import { forecast, LAST, walkOf, type Forecast, type Walk } from '#core/crew/pace'
import { standing } from '#core/judgement/standing'
import { entriesOfMany, forCore } from '../db/entries'
import { jointsAtWork, lastFinished } from '../db/joints'
import type { Project } from '../db/projects'
import { finished, madeOf, type Made } from './crew-work'
import type { Actor } from './record'

const DAY = 86_400_000

/** A point that a crew will come to, and when that is foreseen. */
export interface Coming {
  joint: string
  number: string
  alignment: string
  station: number
  crew: string
  step: string
  title: string
  point: 'H' | 'W'
  forecast: Forecast
}

/** The next hold or witness point of a joint at work, by how its crew's last joints went. */
export function comingOf(m: Made, past: readonly Walk[], now: number): Coming | null {
  const { joint, compiled, judgement, last } = m
  if (!['in-work', 'not-started'].includes(judgement.state) || last === null) return null
  const at = compiled.stepIndex.get(last.key) ?? -1
  const next = judgement.steps.find(
    (s, i) =>
      i > at &&
      (s.point === 'H' || s.point === 'W') &&
      s.release.state === 'none' &&
      !['accepted', 'not-applicable', 'rejected'].includes(s.state),
  )
  const found = next && forecast(past, last, next.key, now)
  if (!found) return null
  const { title } = compiled.steps[compiled.stepIndex.get(next.key)!]!.step
  const { id, number, alignment, station, crew } = joint
  const point = next.point as 'H' | 'W'
  return { joint: id, number, alignment, station, crew, step: next.key, title, point, forecast: found }
}

/** How a crew's finished joints by one procedure went, of work that was read already. */
export const pastOf = (work: readonly Made[], m: Made): Walk[] =>
  work
    .filter(
      (o) => o !== m && finished(o) && o.joint.crew === m.joint.crew && o.joint.system === m.joint.system,
    )
    .map((o) => o.walk)

/** What lies open longer than this is not being worked at. */
const AT_WORK = 3 * DAY
const MOST_AT_WORK = 60

/** Points that crews will come to soon, the next first. Only what is at work is judged for it. */
export async function comingPoints(
  db: Knex,
  project: Project,
  actor: Actor,
  now = Date.now(),
): Promise<Coming[]> {
  const since = new Date(now - AT_WORK)
  const joints = await jointsAtWork(db, project.id, actor.crew, since, MOST_AT_WORK)
  const work = await madeOf(db, project, joints, now)
  const walks = new Map<string, Walk[]>()
  for (const { joint } of work) {
    const key = `${joint.crew} ${joint.system}`
    if (walks.has(key)) continue
    const ids = await lastFinished(db, project.id, joint.crew, joint.system, LAST)
    const records = await entriesOfMany(db, ids)
    walks.set(
      key,
      ids.map((id) => walkOf(standing((records.get(id) ?? []).map(forCore)))),
    )
  }
  return work
    .flatMap((m) => comingOf(m, walks.get(`${m.joint.crew} ${m.joint.system}`)!, now) ?? [])
    .sort((a, b) => a.forecast.at - b.forecast.at)
}
