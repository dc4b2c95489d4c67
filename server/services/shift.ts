import type { Knex } from 'knex'
import { DateTime } from 'luxon'
import { uuidv7 } from 'uuidv7'
import { standingAnswers } from '#core/judgement/once'
import { standing, type OnceAnswered } from '#core/judgement/standing'
import type { CompiledProcedure } from '#core/procedure/compile'
import { Problem } from '#core/problem'
import { isDay } from '#core/quantity/day'
import { entriesOfMany, forCore } from '../db/entries'
import { jointsOpened, type Joint } from '../db/joints'
import type { Project } from '../db/projects'
import { judgeOptions, pointsOf } from './judging'
import { compiledProcedure } from './procedures'
import type { Actor, NewEntry } from './record'
import { recordAtAll } from './record-at'

/** A crew opens no more joints a day than this. */
const A_DAY = 400

/** A day of the project, from its first moment to the first of the next. */
function dayOf(project: Project, day?: string): { since: Date; before: Date } {
  if (day !== undefined && !isDay(day)) throw new Problem('not-a-date', 'There is no such day.', 'day')
  const start = (
    day ? DateTime.fromISO(day, { zone: project.zone }) : DateTime.now().setZone(project.zone)
  ).startOf('day')
  return { since: start.toJSDate(), before: start.plus({ days: 1 }).toJSDate() }
}

/** What was asked once today, and stands at a joint that this person opens now, as entries for its record. */
export async function onceAnswered(
  db: Knex,
  project: Project,
  actor: Actor,
  joint: Pick<Joint, 'id' | 'crew' | 'alignment'>,
  opening: { procedure: string; compiled: CompiledProcedure; facts: Joint['facts']; at: Date },
): Promise<NewEntry[]> {
  const { compiled, facts, at } = opening
  if (!compiled.steps.some((s) => s.once)) return []
  const earlier = await jointsOpened(
    db,
    {
      project: project.id,
      since: dayOf(project).since,
      crew: joint.crew,
      alignment: joint.alignment,
      procedure: opening.procedure,
    },
    A_DAY,
  )
  const records = await entriesOfMany(
    db,
    earlier.map((j) => j.id),
  )
  const before = earlier.map((j) => ({
    subject: j.id,
    name: j.number,
    entries: (records.get(j.id) ?? []).map(forCore),
  }))
  const options = {
    ...(await judgeOptions(
      db,
      project,
      compiled.procedure.key,
      before.flatMap((b) => b.entries),
    )),
    ...pointsOf(project, compiled, { ...joint, openedAt: at.toISOString() }),
  }
  return standingAnswers(compiled, facts, actor.person, at.getTime(), before, options).map((answer) => ({
    id: uuidv7(),
    ...answer,
    recordedAt: at,
  }))
}

/** An answer that was given once, and the joints of the day at which it stands. */
export interface ShiftAnswer {
  /** the entry that gave it */
  entry: string
  crew: string
  procedure: { key: string; title: string }
  step: string
  title: string
  question: string
  answer: string
  person: string
  answeredAt: number
  /** the first is where it was given */
  joints: { id: string; number: string }[]
}

interface Standing extends ShiftAnswer {
  /** by joint: the entry of its record */
  entries: Map<string, string>
}

async function answersOf(db: Knex, project: Project, joints: readonly Joint[]): Promise<Standing[]> {
  const records = await entriesOfMany(
    db,
    joints.map((j) => j.id),
  )
  const found = new Map<string, Standing>()
  for (const joint of [...joints].reverse()) {
    const compiled = await compiledProcedure(db, project.id, joint.procedure!)
    for (const entry of standing((records.get(joint.id) ?? []).map(forCore))) {
      const step = compiled.steps[compiled.stepIndex.get(entry.step ?? '') ?? -1]
      if (!step?.once || !step.definition.takes.has(entry.kind)) continue
      const { describe } = step.definition
      const origin = (entry.payload.once as OnceAnswered | undefined)?.entry ?? entry.id
      const answer: Standing = found.get(origin) ?? {
        entry: origin,
        crew: joint.crew,
        procedure: { key: compiled.procedure.key, title: compiled.procedure.title },
        step: step.key,
        title: step.title,
        question: describe.rule(step.step.check),
        answer: describe.entry(entry.payload, step.step.check, entry.kind),
        person: entry.person,
        answeredAt: entry.recordedAt,
        joints: [],
        entries: new Map(),
      }
      answer.joints.push({ id: joint.id, number: joint.number })
      answer.entries.set(joint.id, entry.id)
      found.set(origin, answer)
    }
  }
  return [...found.values()]
}

const openedOn = (db: Knex, project: Project, actor: Actor, day?: string) =>
  jointsOpened(db, { project: project.id, ...dayOf(project, day), crew: actor.crew }, A_DAY)

/** What was asked once on a day, of the crews that this person sees: of each question the answer given last. */
export async function shiftAnswers(
  db: Knex,
  project: Project,
  actor: Actor,
  day?: string,
): Promise<ShiftAnswer[]> {
  const answers = await answersOf(db, project, await openedOn(db, project, actor, day))
  const latest = new Map<string, ShiftAnswer>()
  for (const { entries: _, ...answer } of answers.sort((a, b) => a.answeredAt - b.answeredAt))
    latest.set(`${answer.crew} ${answer.procedure.key} ${answer.step}`, answer)
  return [...latest.values()].sort((a, b) => a.answeredAt - b.answeredAt)
}

/**
 * Takes an answer of the shift back: it is struck, with its reason, at every joint of that day at which it
 * stands, or at none.
 *
 * @returns how many joints it stood at
 */
export async function revokeShiftAnswer(
  db: Knex,
  project: Project,
  actor: Actor,
  entry: string,
  reason: string,
  day?: string,
): Promise<number> {
  const answers = await answersOf(db, project, await openedOn(db, project, actor, day))
  const answer = answers.find((a) => a.entry === entry)
  if (!answer) throw new Problem('not-found', 'No such answer stands on this day.', 'entry')
  const strike = (strikes: string): NewEntry => ({
    id: uuidv7(),
    kind: 'correction',
    step: answer.step,
    payload: { strikes, reason },
    recordedAt: new Date(),
  })
  const news = new Map([...answer.entries].map(([joint, id]) => [joint, [strike(id)]]))
  await recordAtAll(db, project, actor, 'joint', news)
  return news.size
}
