import type { Knex } from 'knex'
import { Problem } from '#core/problem'
import { inTransaction } from '../db/connection'
import { devicesAlong, endDevice, hearDevice, takeAlong, type DeviceKey } from '../db/devices-along'
import { membersOf } from '../db/people'
import type { Project } from '../db/projects'
import { deleteOwnSession } from '../db/sessions'
import { noteChange } from './changes'
import type { Actor } from './record'
import { forgetSessions } from './sessions'

/** A device takes a project's work along. */
export const deviceTakes = (db: Knex, actor: Actor, id: string, client: string): Promise<void> =>
  takeAlong(db, { id, person: actor.person, project: actor.project }, client.slice(0, 200), new Date())

/**
 * What a device tells of itself when it has contact.
 *
 * @returns whether somebody has ended it meanwhile: it lets go of what it took along
 */
export async function deviceHeard(
  db: Knex,
  actor: Actor,
  id: string,
  told: { waiting: number; since: Date | null },
  session: string | null,
): Promise<{ ended: boolean }> {
  const key = { id, person: actor.person, project: actor.project }
  const heard = { waiting: told.waiting, waitingSince: told.since, session, heardAt: new Date() }
  return { ended: (await hearDevice(db, key, heard))?.endedAt != null }
}

/** Devices that have the project's work along, the last heard first. */
export async function devices(db: Knex, project: Project) {
  const names = new Map((await membersOf(db, project.id)).map((m) => [m.id, m.name]))
  return (await devicesAlong(db, project.id)).map((d) => ({
    id: d.id,
    person: d.person,
    name: names.get(d.person) ?? 'no longer on the project',
    client: d.client,
    takenAt: d.takenAt.toISOString(),
    heardAt: d.heardAt.toISOString(),
    waiting: d.waiting,
    waitingSince: d.waitingSince?.toISOString() ?? null,
    endedAt: d.endedAt?.toISOString() ?? null,
  }))
}
export type DeviceShown = Awaited<ReturnType<typeof devices>>[number]

/**
 * Ends a device that is lost: its session ends at once, and if it comes back it lets go of what it took
 * along. What waited on it is not in the record; the project's record says how much that was.
 */
export async function loseDevice(
  db: Knex,
  project: Project,
  actor: Actor,
  { id, person }: Omit<DeviceKey, 'project'>,
  reason: string,
): Promise<void> {
  const found = (await devicesAlong(db, project.id)).find((d) => d.id === id && d.person === person)
  if (!found) throw new Problem('not-found', 'There is no such device.', 'device')
  if (found.endedAt) throw new Problem('wrong-state', 'This device has been ended already.', 'device')
  const at = new Date()
  await inTransaction(db, async (trx) => {
    await endDevice(trx, { id, person, project: project.id }, at)
    if (found.session) await deleteOwnSession(trx, person, found.session)
    await noteChange(trx, actor, 'keep-people', {
      ...{ what: 'device-ended', device: id, person, reason },
      ...{ heardAt: found.heardAt.toISOString(), waiting: found.waiting },
    })
  })
  forgetSessions()
}
