import type { Knex } from 'knex'
import { positionAt } from '#core/line/geojson'
import type { Place } from '#core/round/travel'
import { livelyJoints } from '../db/joints'
import { lineGeometry } from '../db/lines'
import { livelyReaches } from '../db/reaches'
import { alignmentsOf, crewsOf, type Project } from '../db/projects'
import { packsOf } from '../db/packs'
import { comingPoints } from './coming'
import type { Actor } from './record'

const HOUR = 3_600_000
/** How far ahead a round looks. */
const AHEAD = 3 * HOUR
/** Nobody stands still for whoever only watches; but who comes late has seen nothing. */
const WATCHING = 0.25

/** Somebody or something that waits for an inspector, or will soon. */
export interface RoundStop extends Place {
  /** stays the same while it is the same thing */
  key: string
  kind: 'hold' | 'coming' | 'watch' | 'test'
  /** where a tap goes */
  path: string
  title: string
  name: string
  crew: string | null
  /** ms; what is foreseen has a span */
  ready: number
  from: number | null
  to: number | null
  /** how many stand still for it */
  weight: number
}

/** Who waits now, who will be ready within three hours by what is foreseen, and the tests that are due. */
export async function roundStops(
  db: Knex,
  project: Project,
  actor: Actor,
  now = Date.now(),
): Promise<{ stops: RoundStop[]; courses: Record<string, { from: number; to: number }> }> {
  const [joints, reaches, packs, crews, lines, geometry, coming] = await Promise.all([
    livelyJoints(db, project.id, actor.crew),
    livelyReaches(db, project.id, actor.crew),
    packsOf(db, project.id),
    crewsOf(db, project.id),
    alignmentsOf(db, project.id),
    lineGeometry(db, project.id),
    comingPoints(db, project, actor, now),
  ])
  const crewName = (id: string | null) => crews.find((c) => c.id === id)?.name ?? null
  const place = (line: string, station: number): Place => {
    const path = geometry.get(line)?.path ?? []
    return { line, station, at: path.length > 1 ? positionAt(path, station) : null }
  }
  const held = [
    ...joints.map((j) => ({ ...j, name: j.number, path: `/joints/${j.id}` })),
    ...reaches.map((r) => ({ ...r, station: r.from, path: `/embedment/${r.id}` })),
  ].flatMap((s) =>
    s.summary.holds.map((h): RoundStop => ({
      ...place(s.alignment, s.station),
      ...{ key: `hold ${s.id} ${h.step}`, kind: 'hold', path: `${s.path}?step=${h.step}` },
      ...{ title: h.title, name: s.name, crew: crewName(s.crew) },
      ...{ ready: h.since, from: null, to: null, weight: 1 },
    })),
  )
  const soon = coming
    .filter((c) => c.point !== 'W' && c.forecast.at < now + AHEAD)
    .map((c): RoundStop => ({
      ...place(c.alignment, c.station),
      ...(c.point === 'H'
        ? { key: `hold ${c.joint} ${c.step}`, kind: 'coming' as const, weight: 1 }
        : { key: `watch ${c.joint} ${c.step}`, kind: 'watch' as const, weight: WATCHING }),
      path: `/joints/${c.joint}?step=${c.step}`,
      ...{ title: c.title, name: c.number, crew: crewName(c.crew) },
      ...{ ready: c.forecast.at, from: c.forecast.from, to: c.forecast.to },
    }))
  const tests = packs
    .filter((p) => p.state === 'planned' && p.dueAt && Date.parse(p.dueAt) < now + AHEAD)
    .map((p): RoundStop => ({
      ...place(p.alignment, p.from),
      ...{ key: `test ${p.id}`, kind: 'test', path: `/tests/${p.id}`, title: 'Test due' },
      ...{ name: p.number, crew: null, ready: Date.parse(p.dueAt!), from: null, to: null, weight: 1 },
    }))
  return {
    stops: [...held, ...soon, ...tests],
    courses: Object.fromEntries(lines.map((l) => [l.id, { from: l.from, to: l.to }])),
  }
}
