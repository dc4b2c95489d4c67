import type { Knex } from 'knex'

/** The secret address of one person's calendar of one project; a new one takes the place of the old. */
export const saveCalendar = async (
  db: Knex,
  calendar: { token: Buffer; project: string; person: string; madeAt: Date },
): Promise<void> =>
  void (await db('calendars')
    .insert({
      ...{ token: calendar.token, project: calendar.project, person: calendar.person },
      made_at: calendar.madeAt,
    })
    .onConflict(['project', 'person'])
    .merge(['token', 'made_at']))

export const deleteCalendar = async (db: Knex, project: string, person: string): Promise<void> =>
  void (await db('calendars').where({ project, person }).delete())

export async function calendarMadeAt(db: Knex, project: string, person: string): Promise<Date | null> {
  const row = await db('calendars').where({ project, person }).first<{ made_at: Date } | undefined>('made_at')
  return row?.made_at ?? null
}

/** Whose calendar an address is. */
export async function findCalendar(db: Knex, token: Buffer): Promise<{ key: string; person: string } | null> {
  const row = await db('calendars as c')
    .join('projects as p', 'p.id', 'c.project')
    .where({ 'c.token': token })
    .first<{ key: string; person: string } | undefined>({ key: 'p.project_key', person: 'c.person' })
  return row ?? null
}
