import type { Knex } from 'knex'

/** A device that has a project's work along, in one person's hands. */
export interface DeviceAlong {
  id: string
  person: string
  project: string
  /** what its browser says of itself */
  client: string
  takenAt: Date
  heardAt: Date
  /** what waited on it when it was last heard, and since when */
  waiting: number
  waitingSince: Date | null
  /** the session that it speaks by */
  session: string | null
  endedAt: Date | null
}
export type DeviceKey = Pick<DeviceAlong, 'id' | 'person' | 'project'>

const columns = [
  ...['id', 'person', 'project', 'client', 'waiting', 'session', 'taken_at as takenAt'],
  ...['heard_at as heardAt', 'waiting_since as waitingSince', 'ended_at as endedAt'],
]

/** It takes the work along, for the first time or anew after it was ended. */
export const takeAlong = async (db: Knex, key: DeviceKey, client: string, at: Date): Promise<void> =>
  void (await db('devices_along')
    .insert({ ...key, client, taken_at: at, heard_at: at })
    .onConflict(['project', 'person', 'id'])
    .merge({ client, taken_at: at, heard_at: at, ended_at: null }))

/** Whether there is such a device, and whether it was ended; noted that it was heard. */
export async function hearDevice(
  db: Knex,
  key: DeviceKey,
  heard: Pick<DeviceAlong, 'waiting' | 'waitingSince' | 'session' | 'heardAt'>,
): Promise<DeviceAlong | null> {
  await db('devices_along').where(key).update({
    waiting: heard.waiting,
    waiting_since: heard.waitingSince,
    session: heard.session,
    heard_at: heard.heardAt,
  })
  return (await db('devices_along').select(columns).where(key).first()) ?? null
}

export const devicesAlong = async (db: Knex, project: string): Promise<DeviceAlong[]> =>
  db('devices_along').select(columns).where({ project }).orderBy('heard_at', 'desc')

export const endDevice = async (db: Knex, key: DeviceKey, at: Date): Promise<void> =>
  void (await db('devices_along').where(key).update({ ended_at: at }))
