import type { Knex } from 'knex'
import type { PathPoint } from '#core/line/alignment'
import type { ProfilePoint } from '#core/pressure/pack'

export interface LineRow {
  id: string
  key: string
  name: string
  material: string
  from: number
  to: number
  profile: ProfilePoint[]
  ground: ProfilePoint[]
  path: PathPoint[]
  facts: Record<string, number | string | boolean>
}

const columns = (l: LineRow) => ({
  line_key: l.key,
  name: l.name,
  material: l.material,
  from_station: l.from,
  to_station: l.to,
  profile: JSON.stringify(l.profile),
  ground: JSON.stringify(l.ground),
  path: JSON.stringify(l.path),
  facts: JSON.stringify(l.facts),
})

export const insertLine = async (db: Knex, project: string, l: LineRow): Promise<void> =>
  void (await db('alignments').insert({ id: l.id, project, ...columns(l) }))

/** Saves a line; the course, profile or ground that was not read anew stays as it was. */
export async function saveLine(db: Knex, l: LineRow): Promise<void> {
  const { path, profile, ground, ...plain } = columns(l)
  await db('alignments')
    .where({ id: l.id })
    .update({
      ...plain,
      ...(l.path.length > 0 && { path }),
      ...(l.profile.length > 0 && { profile }),
      ...(l.ground.length > 0 && { ground }),
    })
}

/** The stations between which something of a line is planned; null where nothing is. */
export async function workedStations(db: Knex, line: string): Promise<{ from: number; to: number } | null> {
  const [joints] = await db('joints').where({ alignment: line }).min({ a: 'station' }).max({ b: 'station' })
  const [reaches] = await db('reaches')
    .where({ alignment: line })
    .min({ a: 'from_station' })
    .max({ b: 'to_station' })
  const [packs] = await db('packs')
    .where({ alignment: line })
    .min({ a: 'from_station' })
    .max({ b: 'to_station' })
  const found = [joints, reaches, packs].filter((r): r is { a: number; b: number } => r?.a != null)
  if (found.length === 0) return null
  return { from: Math.min(...found.map((r) => r.a)), to: Math.max(...found.map((r) => r.b)) }
}

/** Profile, ground and course of each line of a project, by the line's id. */
export async function lineGeometry(
  db: Knex,
  project: string,
): Promise<Map<string, Pick<LineRow, 'profile' | 'ground' | 'path'>>> {
  const rows = (await db('alignments').where({ project }).select('id', 'profile', 'ground', 'path')) as {
    id: string
    profile: string
    ground: string
    path: string
  }[]
  return new Map(
    rows.map((r) => [
      r.id,
      { profile: JSON.parse(r.profile), ground: JSON.parse(r.ground), path: JSON.parse(r.path) },
    ]),
  )
}
