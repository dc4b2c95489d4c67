import type { Knex } from 'knex'
import { may } from '#core/access'
import { forecast, LAST, walkOf, type Forecast, type Walk } from '#core/crew/pace'
import type { StepJudgement } from '#core/judgement/types'
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
  /** surveillance is foreseen only where it was drawn, for those who stand by */
  point: 'H' | 'W' | 'S'
  /** whether the client's witness is wanted there */
  witness: boolean
  forecast: Forecast
}

const stops = (s: StepJudgement) => s.point === 'H' || s.witness !== null
/** Where somebody stands for a point, or the witness is wanted, whoever comes sees it all. */
const drawn = (s: StepJudgement) => !stops(s) && s.watch?.drawn === true && s.watch.watched === null

/**
 * The next hold or witness point of a joint at work, by how its crew's last joints went.
 *
 * @param standsBy whether what was drawn to be watched is told: then the next of it too
 */
export function comingOf(m: Made, past: readonly Walk[], now: number, standsBy = false): Coming[] {
  const { joint, compiled, judgement, last } = m
  if (!['in-work', 'not-started'].includes(judgement.state) || last === null) return []
  const at = compiled.stepIndex.get(last.key) ?? -1
  const ahead = judgement.steps.filter(
    (s, i) =>
      i > at && s.release.state === 'none' && !['accepted', 'not-applicable', 'rejected'].includes(s.state),
  )
  const next = [ahead.find(stops), standsBy ? ahead.find(drawn) : undefined]
  return next.flatMap((s): Coming[] => {
    const found = s && forecast(past, last, s.key, now)
    if (!found) return []
    const { title } = compiled.steps[compiled.stepIndex.get(s.key)!]!.step
    const { id, number, alignment, station, crew } = joint
    const [point, witness] = [s.point as Coming['point'], s.witness !== null]
    return [
      { joint: id, number, alignment, station, crew, step: s.key, title, point, witness, forecast: found },
    ]
  })
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
  // What is drawn is told to those who release, and to nobody whose work is watched.
  const standsBy = actor.crew === null && may(actor.roles, 'release-hold')
  return work
    .flatMap((m) => comingOf(m, walks.get(`${m.joint.crew} ${m.joint.system}`)!, now, standsBy))
    .sort((a, b) => a.forecast.at - b.forecast.at)
}
