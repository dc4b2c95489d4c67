import type { Knex } from 'knex'
import { DateTime } from 'luxon'
import { uuidv7 } from 'uuidv7'
import { rightFirstTime } from '#core/crew/first-time'
import { shiftReport, type ShiftReport, type ShiftWork } from '#core/crew/shift-report'
import {
  checkShiftSignature,
  shiftStateOf,
  signaturesOf,
  type ShiftPage,
  type ShiftState,
} from '#core/crew/shift-signing'
import { Problem } from '#core/problem'
import { dayOf, isDay } from '#core/quantity/day'
import { inTransaction } from '../db/connection'
import { entriesOf, forCore, type StoredEntry } from '../db/entries'
import { jointsWhere } from '../db/joints'
import { crewsOf, type Project } from '../db/projects'
import { reachesOf } from '../db/reaches'
import { beginShift, daysWorked, findShift, saveShift, shiftsOf, workedAt } from '../db/shifts'
import { filledOf, finished, madeOf } from './crew-work'
import { cleanPicture, pngOf } from './pictures'
import { actingRole, appendAfter, sha256, type Actor } from './record'

/** so many days back are offered */
const DAYS = 14

const spanOf = (project: Project, day: string, now: number) => {
  if (!isDay(day)) throw new Problem('not-a-date', 'There is no such day.', 'day')
  const start = DateTime.fromISO(day, { zone: project.zone })
  if (start.toMillis() > now) throw new Problem('not-yet', 'This day is still to come.', 'day')
  return { from: start.toMillis(), to: Math.min(now, start.plus({ days: 1 }).toMillis()) }
}

async function crewSeen(db: Knex, project: Project, actor: Actor, crew: string) {
  const found = (await crewsOf(db, project.id)).find(
    (c) => c.id === crew && (actor.crew === null || c.id === actor.crew),
  )
  if (!found) throw new Problem('not-found', 'There is no such crew.', 'crew')
  return found
}

async function workOf(db: Knex, project: Project, crew: string, span: { from: number; to: number }) {
  const ids = await workedAt(db, project.id, crew, { from: new Date(span.from), to: new Date(span.to) })
  const [joints, reaches] = await Promise.all([
    ids.joints.length === 0 ? [] : jointsWhere(db, { project: project.id, ids: ids.joints }),
    ids.reaches.length === 0 ? [] : reachesOf(db, project.id, crew),
  ])
  const made = await madeOf(db, project, joints, span.to, true)
  const out: ShiftWork[] = made.map(({ joint, compiled, entries, judgement, ...m }) => {
    const titles = Object.fromEntries(compiled.steps.map((s) => [s.step.key, s.step.title]))
    const good = rightFirstTime(judgement, entries)
    const faults = judgement.steps.filter(
      (s) => s.state === 'rejected' || s.ncr !== null || s.computed === 'rejected',
    )
    return {
      ...{ id: joint.id, name: joint.number, of: 'joint', procedure: compiled.procedure.title },
      state: judgement.state,
      right: finished({ joint, compiled, entries, judgement, ...m }) || !good ? good : null,
      faults: faults.map((s) => titles[s.key]!),
      ...{ titles, entries, judged: { compiled, judgement } },
    }
  })
  const worked = reaches.filter((r) => ids.reaches.includes(r.id))
  for (const { reach, compiled, entries, judgement } of await filledOf(db, project, worked, span.to, true)) {
    out.push({
      ...{ id: reach.id, name: reach.name, of: 'reach', procedure: compiled.procedure.title },
      ...{ state: '', right: null, faults: [] },
      titles: Object.fromEntries(compiled.steps.map((s) => [s.step.key, s.step.title])),
      ...{ entries, judged: { compiled, judgement } },
    })
  }
  return out.sort((a, b) => a.name.localeCompare(b.name, 'en', { numeric: true }))
}

/** Digest of a report: what is signed is this and nothing else. */
export const digestOf = (report: ShiftReport): string => sha256(JSON.stringify(report))

/** The state of a day from its record. */
export const projectShift = (entries: readonly StoredEntry[]): ShiftState =>
  shiftStateOf(signaturesOf(entries.map(forCore)))

const MINUTE = 60_000

/**
 * The report of a crew and a day as the record makes it, with who signed it. One that was signed is of the
 * record as it stood then, unless more came in since: then it is of the day as it is now, to be signed anew.
 */
export async function shiftPage(
  db: Knex,
  project: Project,
  actor: Actor,
  crew: string,
  day: string,
  now = Date.now(),
): Promise<ShiftPage> {
  const found = await crewSeen(db, project, actor, crew)
  const span = spanOf(project, day, now)
  const shift = await findShift(db, project.id, { crew, day })
  const entries = shift ? await entriesOf(db, shift.id) : []
  const signed = signaturesOf(entries.map(forCore))
  const upTo = async (to: number, told = true) => {
    const part = { from: span.from, to }
    const report = shiftReport(
      { id: crew, name: found.name },
      day,
      part,
      await workOf(db, project, crew, part),
      told,
    )
    return { report, digest: digestOf(report), until: to }
  }
  const state = projectShift(entries)
  if (signed.lead) {
    const then = await upTo(signed.lead.until, signed.lead.told)
    const later = await workedAt(db, project.id, crew, {
      from: new Date(signed.lead.until),
      to: new Date(span.to),
    })
    if (then.digest === signed.lead.report && later.joints.length + later.reaches.length === 0)
      return { ...then, state, signed, moved: false }
  }
  // To the whole minute, so that who looks and signs a moment later signs what was seen.
  return {
    ...(await upTo(Math.min(span.to, Math.floor(now / MINUTE) * MINUTE))),
    state,
    signed,
    moved: signed.lead !== null,
  }
}

/** The last days of a crew, each with whether its report is signed. */
export async function shiftDays(
  db: Knex,
  project: Project,
  actor: Actor,
  crew: string,
  now = Date.now(),
): Promise<{ day: string; state: ShiftState }[]> {
  await crewSeen(db, project, actor, crew)
  const since = DateTime.fromMillis(now, { zone: project.zone }).minus({ days: DAYS }).startOf('day')
  const [signed, hours] = await Promise.all([
    shiftsOf(db, project.id, crew, DAYS),
    daysWorked(db, project.id, crew, since.toJSDate()),
  ])
  const states = new Map(signed.map((s) => [s.day, s.state]))
  for (const { at } of hours) {
    const day = dayOf(at.getTime(), project.zone)
    if (!states.has(day)) states.set(day, 'open')
  }
  return [...states]
    .map(([day, state]) => ({ day, state }))
    .sort((a, b) => b.day.localeCompare(a.day))
    .slice(0, DAYS)
}

export interface ShiftSigning {
  /** digest of the report that the person saw, and up to when it was */
  report: string
  until: number
  image: string
  weather: string
  words: string
  rain: boolean | null
}

/** Whoever reads a report that long signs what is there by then. */
const A_LOOK = 30 * MINUTE

/** The report that a person saw a while ago, as far as it is still what the record says. */
async function seenPage(
  db: Knex,
  project: Project,
  actor: Actor,
  crew: string,
  day: string,
  { until }: ShiftSigning,
  now: number,
): Promise<ShiftPage> {
  const page = await shiftPage(db, project, actor, crew, day, now)
  if (page.until === until || until > now || now - until > A_LOOK) return page
  return shiftPage(db, project, actor, crew, day, until + MINUTE - 1)
}

/** Signs the report of a day: the crew lead first, then an inspector under the same report. */
export async function signShift(
  db: Knex,
  project: Project,
  actor: Actor,
  crew: string,
  day: string,
  signing: ShiftSigning,
  now = Date.now(),
): Promise<ShiftState> {
  const role = actingRole(actor, 'sign-shift')
  const page = await seenPage(db, project, actor, crew, day, signing, now)
  if (page.report.work.length === 0)
    throw new Problem('nothing', 'The crew recorded nothing on this day: there is nothing to sign.', 'day')
  if (signing.report !== page.digest)
    throw new Problem('moved', 'The record has moved on since you looked: look again and sign.', 'report')
  const picture = await cleanPicture(pngOf(signing.image), 'image/png').catch(() => null)
  if (!picture)
    throw new Problem('bad-file', 'The drawn signature is not a whole picture: draw it again.', 'image')
  const { report, until, weather, words, rain } = signing
  const told = page.report.left !== undefined
  const image = `data:image/png;base64,${picture.toString('base64')}`
  return inTransaction(db, async (trx) => {
    const shift = await beginShift(trx, project.id, { id: uuidv7(), crew, day })
    const entry = {
      ...{ id: uuidv7(), kind: 'signature' as const, recordedAt: new Date(now), receivedAt: new Date(now) },
      payload: {
        name: actor.name,
        image,
        report,
        until,
        weather,
        words,
        rain,
        told,
        work: page.report.work.length,
      },
    }
    const { entries } = await appendAfter(trx, actor, role, 'shift', shift.id, [entry], (before) =>
      checkShiftSignature(signaturesOf(before.map(forCore)), { person: actor.person, role, report }),
    )
    const state = projectShift(entries)
    await saveShift(trx, shift.id, state)
    return state
  })
}
