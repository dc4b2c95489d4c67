import type { Knex } from 'knex'
import { watchCount, type WatchCount } from '#core/plan/surveillance'
import { pointedAt, type Pointed } from '../db/points'
import { issuedProcedures } from '../db/procedures'
import { crewsOf, type Project } from '../db/projects'
import type { OpenAsked } from '#core/judgement/projection'

const named = ({ id, of, name, crew }: Pointed) => ({ id, of, name, crew })
type Named = ReturnType<typeof named>

/** A record to be read. */
export type ToRead = Named & { step: string; title: string; since: number }
/** A question, or a condition of a release, that nobody has answered. */
export type AskedHere = Named & OpenAsked

const PAGE = 50

/** Records that wait to be read, the oldest first, and what is asked and not answered. */
export async function readingList(
  db: Knex,
  project: Project,
  from: number,
): Promise<{ total: number; rows: ToRead[]; next: number | null; asked: AskedHere[] }> {
  const [reviews, asked] = await Promise.all([
    pointedAt(db, project.id, 'reviews'),
    from === 0 ? pointedAt(db, project.id, 'asked') : [],
  ])
  const rows = reviews
    .flatMap((p) => p.summary.reviews!.map((r): ToRead => ({ ...named(p), ...r })))
    .sort((a, b) => a.since - b.since)
  return {
    total: rows.length,
    rows: rows.slice(from, from + PAGE),
    next: from + PAGE < rows.length ? from + PAGE : null,
    asked: asked
      .flatMap((p) => p.summary.asked!.map((a): AskedHere => ({ ...named(p), ...a, id: p.id })))
      .sort((a, b) => a.since - b.since),
  }
}

/** One step under surveillance, and how it was watched, crew by crew. */
export interface Watching {
  system: string
  /** what its procedure is called */
  procedure: string
  step: string
  title: string
  crews: ({ crew: string; name: string } & WatchCount)[]
  /** drawn and still to come, at joints at work */
  next: Named[]
}

/** What was watched against what was drawn, by step and crew; and what is drawn next. */
export async function watching(db: Knex, project: Project): Promise<Watching[]> {
  const [pointed, crews, issued] = await Promise.all([
    pointedAt(db, project.id, 'watches'),
    crewsOf(db, project.id),
    issuedProcedures(db, project.id),
  ])
  const titles = new Map(issued.map((p) => [p.key, p.title]))
  const groups = new Map<string, { system: string; step: string; title: string; rows: (Named & Row)[] }>()
  for (const p of pointed)
    for (const w of p.summary.watches!) {
      const key = `${p.system} ${w.step}`
      const group = groups.get(key) ?? { system: p.system, step: w.step, title: w.title, rows: [] }
      group.rows.push({ ...named(p), drawn: w.drawn, done: w.done, watched: w.watched })
      groups.set(key, group)
    }
  return [...groups.values()].map(({ rows, ...of }) => ({
    ...of,
    procedure: titles.get(of.system) ?? of.system,
    crews: crews
      .map(({ id, name }) => ({ crew: id, name, ...watchCount(rows.filter((r) => r.crew === id)) }))
      .filter((c) => c.done > 0),
    next: rows
      .filter((r) => r.drawn && !r.done && !r.watched)
      .map(({ drawn: _d, done: _o, watched: _w, ...n }) => n),
  }))
}
interface Row {
  drawn: boolean
  done: boolean
  watched: boolean
}
