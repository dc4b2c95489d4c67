import type { Knex } from 'knex'
import type { ShiftState } from '#core/crew/shift-signing'

export interface Shift {
  id: string
  crew: string
  day: string
  state: ShiftState
}

const columns = ['id', 'crew', 'state'] as const
const dayText = (db: Knex) => db.raw("DATE_FORMAT(day, '%Y-%m-%d') AS day")

export async function findShift(
  db: Knex,
  project: string,
  where: { crew: string; day: string } | { id: string },
): Promise<Shift | null> {
  const row = await db('shifts')
    .select(...columns, dayText(db))
    .where({ project, ...where })
    .first()
  return (row as Shift | undefined) ?? null
}

/** Days whose report somebody signed, the latest first. */
export const shiftsOf = async (db: Knex, project: string, crew: string, most: number): Promise<Shift[]> =>
  (await db('shifts')
    .select(...columns, dayText(db))
    .where({ project, crew })
    .orderBy('day', 'desc')
    .limit(most)) as Shift[]

/** Begins the record of a day; of two who do, the second finds what the first did. */
export async function beginShift(
  trx: Knex,
  project: string,
  shift: { id: string; crew: string; day: string },
): Promise<Shift> {
  const known = await findShift(trx, project, { crew: shift.crew, day: shift.day })
  if (known) return known
  await trx('shifts').insert({ ...shift, project })
  return { ...shift, state: 'open' }
}

export const saveShift = async (db: Knex, id: string, state: ShiftState): Promise<void> =>
  void (await db('shifts').where({ id }).update({ state }))

/** What a crew worked at within a span: joints and reaches of its own with an entry of that time. */
export async function workedAt(
  db: Knex,
  project: string,
  crew: string,
  { from, to }: { from: Date; to: Date },
): Promise<{ joints: string[]; reaches: string[] }> {
  const of = async (table: 'joints' | 'reaches', type: 'joint' | 'reach'): Promise<string[]> =>
    db('entries as e')
      .join(`${table} as t`, 't.id', 'e.subject')
      .where({ 'e.project': project, 'e.subject_type': type, 't.crew': crew })
      .where('e.recorded_at', '>=', from)
      .where('e.recorded_at', '<', to)
      .distinct('e.subject')
      .orderBy('e.subject')
      .pluck('e.subject')
  const [joints, reaches] = await Promise.all([of('joints', 'joint'), of('reaches', 'reach')])
  return { joints, reaches }
}

/** Days on which a crew recorded anything, of the last so many, in the project's zone. */
export async function daysWorked(
  db: Knex,
  project: string,
  crew: string,
  since: Date,
): Promise<{ at: Date }[]> {
  return db('entries as e')
    .join('joints as j', 'j.id', 'e.subject')
    .where({ 'e.project': project, 'e.subject_type': 'joint', 'j.crew': crew })
    .where('e.recorded_at', '>=', since)
    .select(db.raw('MAX(e.recorded_at) AS at'))
    .groupByRaw('FLOOR(UNIX_TIMESTAMP(e.recorded_at) / 3600)')
}
