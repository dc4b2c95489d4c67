import type { Knex } from 'knex'
import type { Use, UseKind } from '#core/tracing/uses'

/** Writes what a joint was made with: what is new is added, what no longer stands is taken away. */
export async function saveUses(
  trx: Knex,
  project: string,
  joint: string,
  uses: readonly Use[],
): Promise<void> {
  const before = await usesOfJoint(trx, joint)
  const key = (u: Use) => `${u.kind} ${u.value}`
  const [had, has] = [new Set(before.map(key)), new Set(uses.map(key))]
  const fresh = uses.filter((u) => !had.has(key(u)))
  if (fresh.length > 0)
    await trx('uses').insert(fresh.map((u) => ({ joint, project, kind: u.kind, value: u.value })))
  for (const gone of before.filter((u) => !has.has(key(u))))
    await trx('uses').where({ joint, kind: gone.kind, value: gone.value }).delete()
}

export const usesOfJoint = async (db: Knex, joint: string): Promise<Use[]> =>
  (await db('uses').select('kind', 'value').where({ joint })) as Use[]

export const usesOfJoints = async (
  db: Knex,
  joints: readonly string[],
): Promise<(Use & { joint: string })[]> => {
  const out: (Use & { joint: string })[] = []
  for (let i = 0; i < joints.length; i += 1000)
    out.push(
      ...((await db('uses')
        .select('joint', 'kind', 'value')
        .whereIn('joint', joints.slice(i, i + 1000))) as (Use & { joint: string })[]),
    )
  return out
}

export interface TouchedJoint {
  id: string
  number: string
  station: number
  alignment: string
  crew: string
  system: string
  state: string
}

/** Every joint made with something, along its line: the one query of a trace. */
export async function jointsUsing(
  db: Knex,
  project: string,
  kind: UseKind,
  value: string,
): Promise<TouchedJoint[]> {
  return (await db('uses as u')
    .join('joints as j', 'j.id', 'u.joint')
    .select('j.id', 'j.number', 'j.station', 'j.alignment', 'j.crew', 'j.system', 'j.state')
    .where({ 'u.project': project, 'u.kind': kind, 'u.value': value })
    .orderBy(['j.alignment', 'j.station'])) as TouchedJoint[]
}

/** Joints with readings of an instrument since a moment. */
export async function jointsReadSince(
  db: Knex,
  project: string,
  instrument: string,
  since: Date,
): Promise<TouchedJoint[]> {
  const ids = db('entries')
    .distinct('subject')
    .where({ project, instrument, subject_type: 'joint' })
    .where('recorded_at', '>=', since)
  return (await db('joints as j')
    .select('j.id', 'j.number', 'j.station', 'j.alignment', 'j.crew', 'j.system', 'j.state')
    .where('j.project', project)
    .whereIn('j.id', ids)
    .orderBy(['j.alignment', 'j.station'])) as TouchedJoint[]
}

/** Joints that name a lot at one of their steps, apart from the lots of built-in items. */
export async function jointsStepping(db: Knex, project: string, lot: string): Promise<string[]> {
  return db('uses as u')
    .join('entries as e', 'e.subject', 'u.joint')
    .where({ 'u.project': project, 'u.kind': 'lot', 'u.value': lot, 'e.kind': 'lot' })
    .whereRaw("JSON_VALUE(e.payload, '$.lot') = ?", [lot])
    .distinct()
    .pluck('u.joint')
}
