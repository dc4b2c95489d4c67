import type { Knex } from 'knex'
import { rightFirstTime, wilson, type Share } from '#core/crew/first-time'
import { standingTime, standsOf, type Stand, type StandingCause } from '#core/crew/standing-time'
import type { Judgement } from '#core/judgement/types'
import { Problem } from '#core/problem'
import type { DimensionKey } from '#core/quantity/dimension'
import { crewLeadsOf } from '../db/crews'
import { jointsOpened } from '../db/joints'
import { crewsOf, type Project } from '../db/projects'
import { comingOf, pastOf, type Coming } from './coming'
import { finished, madeOf, type Made } from './crew-work'
import { crewQualifications, type CrewQualified } from './qualified'
import type { Actor } from './record'
import { dayOf, weekOf } from '#core/quantity/day'

const DAY = 86_400_000
/** How far back a crew's work is looked at. */
const WEEKS = 4
/** A crew opens no more joints in that time than are looked at. */
const MOST = 600

/** The joints that crews opened of late, the latest first. */
async function workOf(db: Knex, project: Project, crew: string | null, now: number): Promise<Made[]> {
  const since = new Date(now - WEEKS * 7 * DAY)
  return madeOf(db, project, await jointsOpened(db, { project: project.id, since, crew }, MOST), now)
}

export interface CrewLine {
  id: string
  name: string
  leads: string[]
  /** the joint it was last at, while that is not done */
  now: {
    joint: string
    number: string
    alignment: string
    state: Judgement['state']
    step: string | null
    since: number
  } | null
  today: number
  /** joints accepted on a day on which any were */
  usual: number | null
  right: Share
  /** within the last seven days, ms */
  standing: Record<StandingCause, number>
  waits: { joint: string; number: string; step: string; title: string; since: number }[]
  coming: Coming[]
}

const doneOn = (m: Made): number => m.last?.at ?? Date.parse(m.joint.openedAt!)

function lineOf(
  crew: { id: string; name: string },
  leads: string[],
  work: readonly Made[],
  zone: string,
  now: number,
): CrewLine {
  const done = work.filter(finished)
  const judged = work.filter((m) => finished(m) || !rightFirstTime(m.judgement, m.entries))
  const dayOfDone = (m: Made) => dayOf(doneOn(m), zone)
  const today = dayOf(now, zone)
  const days = new Map<string, number>()
  for (const m of done) days.set(dayOfDone(m), (days.get(dayOfDone(m)) ?? 0) + 1)
  const before = [...days].filter(([day]) => day !== today)
  const stands = work.flatMap((m) => standsOf(m.joint.id, m.entries))
  const latest = work
    .filter((m) => m.last !== null && !finished(m))
    .reduce<Made | null>((last, m) => (last === null || m.last!.at > last.last!.at ? m : last), null)
  const title = (m: Made, key: string) => m.compiled.steps[m.compiled.stepIndex.get(key)!]!.step.title
  const { next } = latest?.judgement ?? {}
  return {
    ...{ id: crew.id, name: crew.name, leads },
    now: latest && {
      joint: latest.joint.id,
      number: latest.joint.number,
      alignment: latest.joint.alignment,
      state: latest.judgement.state,
      step: next ? title(latest, next) : null,
      since: latest.last!.at,
    },
    today: days.get(today) ?? 0,
    usual: before.length === 0 ? null : before.reduce((sum, [, n]) => sum + n, 0) / before.length,
    right: wilson(judged.filter((m) => rightFirstTime(m.judgement, m.entries)).length, judged.length),
    standing: standingTime(stands, now - 7 * DAY, now),
    waits: work.flatMap((m) =>
      m.judgement.steps
        .filter((s) => s.release.state === 'requested' && s.state === 'held')
        .map((s) => ({
          joint: m.joint.id,
          number: m.joint.number,
          step: s.key,
          title: title(m, s.key),
          since: s.release.at!,
        })),
    ),
    coming: work
      .flatMap((m) => comingOf(m, pastOf(work, m), now))
      .sort((a, b) => a.forecast.at - b.forecast.at),
  }
}

const ofCrew = (work: readonly Made[], crew: string) => work.filter((m) => m.joint.crew === crew)

/** Every crew that this person sees. */
export async function crewLines(
  db: Knex,
  project: Project,
  actor: Actor,
  now = Date.now(),
): Promise<CrewLine[]> {
  const [crews, leads, work] = await Promise.all([
    crewsOf(db, project.id),
    crewLeadsOf(db, project.id),
    workOf(db, project, actor.crew, now),
  ])
  return crews
    .filter((c) => actor.crew === null || c.id === actor.crew)
    .map((c) => lineOf(c, leads.get(c.id) ?? [], ofCrew(work, c.id), project.zone, now))
}

/** What was measured at one step of one procedure, joint by joint. */
export interface Series {
  procedure: string
  step: string
  title: string
  dimension: DimensionKey
  unit: string
  points: { joint: string; number: string; at: number; value: number }[]
}

/** Fewer readings make no chart. */
const LEAST = 5

function seriesOf(work: readonly Made[]): Series[] {
  const out = new Map<string, Series>()
  for (const m of [...work].reverse())
    for (const { step } of m.compiled.steps) {
      const { check } = step
      if (check.kind !== 'measure') continue
      const last = m.entries.findLast((e) => e.step === step.key && e.kind === 'reading')
      const values = (Array.isArray(last?.payload.values) ? last.payload.values : []).filter(
        (v): v is number => typeof v === 'number' && Number.isFinite(v),
      )
      if (!last || values.length === 0) continue
      const key = `${m.compiled.procedure.key} ${step.key}`
      const series: Series = out.get(key) ?? {
        ...{ procedure: m.compiled.procedure.title, step: step.key, title: step.title },
        ...{ dimension: check.quantity, unit: check.unit, points: [] },
      }
      series.points.push({
        ...{ joint: m.joint.id, number: m.joint.number, at: last.recordedAt },
        value: values.reduce((a, b) => a + b, 0) / values.length,
      })
      out.set(key, series)
    }
  return [...out.values()]
    .filter((s) => s.points.length >= LEAST)
    .map((s) => ({ ...s, points: s.points.sort((a, b) => a.at - b.at).slice(-120) }))
}

export interface CrewPage extends CrewLine {
  /** by week, the first day of each, oldest first */
  weeks: { from: string; share: Share; made: number }[]
  series: Series[]
  stands: (Stand & { number: string; title: string | null })[]
  /** what was wrong, most often first */
  faults: { step: string; title: string; joints: { id: string; number: string }[] }[]
  qualified: CrewQualified[]
}

/** One crew, with how it works. */
export async function crewPage(
  db: Knex,
  project: Project,
  actor: Actor,
  crew: string,
  now = Date.now(),
): Promise<CrewPage> {
  const [crews, leads] = await Promise.all([crewsOf(db, project.id), crewLeadsOf(db, project.id)])
  const found = crews.find((c) => c.id === crew && (actor.crew === null || c.id === actor.crew))
  if (!found) throw new Problem('not-found', 'There is no such crew.', 'crew')
  const work = await workOf(db, project, crew, now)
  const week = (m: Made) => weekOf(doneOn(m), project.zone)
  const judged = work.filter((m) => finished(m) || !rightFirstTime(m.judgement, m.entries))
  const weeks = new Map<string, Made[]>()
  for (const m of judged) weeks.set(week(m), [...(weeks.get(week(m)) ?? []), m])
  const numbers = new Map(work.map((m) => [m.joint.id, m]))
  const faults = new Map<string, CrewPage['faults'][number]>()
  for (const m of judged)
    for (const s of m.judgement.steps) {
      if (s.state !== 'rejected' && s.ncr === null && s.computed !== 'rejected') continue
      const { title } = m.compiled.steps[m.compiled.stepIndex.get(s.key)!]!.step
      const fault = faults.get(title) ?? { step: s.key, title, joints: [] }
      fault.joints.push({ id: m.joint.id, number: m.joint.number })
      faults.set(title, fault)
    }
  return {
    ...lineOf(found, leads.get(crew) ?? [], work, project.zone, now),
    weeks: [...weeks]
      .sort(([a], [b]) => a.localeCompare(b))
      .map(([from, list]) => ({
        from,
        share: wilson(list.filter((m) => rightFirstTime(m.judgement, m.entries)).length, list.length),
        made: list.filter(finished).length,
      })),
    series: seriesOf(work),
    stands: work
      .flatMap((m) => standsOf(m.joint.id, m.entries))
      .filter((s) => (s.to ?? now) > now - 14 * DAY)
      .sort((a, b) => b.from - a.from)
      .slice(0, 40)
      .map((s) => {
        const m = numbers.get(s.subject)!
        const at = s.step === null ? undefined : m.compiled.stepIndex.get(s.step)
        return {
          ...s,
          number: m.joint.number,
          title: at === undefined ? null : m.compiled.steps[at]!.step.title,
        }
      }),
    qualified: await crewQualifications(db, project, crew, now),
    faults: [...faults.values()].sort((a, b) => b.joints.length - a.joints.length),
  }
}
