import type { Knex } from 'knex'
import { rolesFor } from '#core/access'
import { Problem } from '#core/problem'
import { boundTo, type ReleaseHere } from '#core/record/release-here'
import { entriesOf } from '../db/entries'
import { membersOf } from '../db/people'
import type { Project } from '../db/projects'
import { raiseNcr } from './ncrs'
import { recordAt } from './record-at'
import type { Actor, NewEntry } from './record'
import { openPin, sealingKey, type SealedPin } from './sealed-pin'
import { confirmPin } from './sessions'
import { visibleSubject, type WorkedSubject } from './subjects'

/** Who may release on somebody else's device, and what their PIN is sealed for. No trace of a PIN is in it. */
export async function releasers(db: Knex, project: Project) {
  const may = new Set(rolesFor('release-hold'))
  const people = (await membersOf(db, project.id))
    .filter((m) => m.active && m.joined && m.roles.some((r) => may.has(r.role)))
    .map(({ id, name }) => ({ id, name }))
  return { key: sealingKey(), people }
}
export type Releasers = Awaited<ReturnType<typeof releasers>>

export interface HereOrder extends Omit<ReleaseHere, 'subject'> {
  sealed: SealedPin
  reason: string
  /** id of the report that is made when it is no release */
  report: string
  /** the device's word on its time, of whoever carries it */
  timed: Pick<NewEntry, 'device' | 'number' | 'stampAt' | 'moved' | 'recordedAt'>
}

/**
 * A hold released by an inspector on the crew's device while there was no signal. It is checked now: where
 * it is no release, the crew has gone on without one, and a report says so.
 *
 * @param carrier whose device it was given on
 * @param signer who released, as a member of the project now; throws where they are none
 * @throws Problem `not-released`
 */
export async function releaseHere(
  db: Knex,
  project: Project,
  carrier: Actor,
  type: WorkedSubject,
  id: string,
  order: HereOrder,
  signer: () => Promise<Actor>,
): Promise<void> {
  const subject = await visibleSubject(db, carrier, type, id)
  if ((await entriesOf(db, id)).some((e) => e.id === order.id && e.kind === 'release')) return
  const { step, reason, timed } = order
  try {
    const inspector = await signer().catch(() => {
      throw new Problem('forbidden', 'This person is not on the project any more.', 'by')
    })
    const pin = openPin(order.sealed, boundTo({ ...order, subject: id }))
    if (pin === null) throw new Problem('bad-secret', 'The PIN was not given for this.', 'sealed')
    await confirmPin(db, inspector.person, pin)
    await recordAt(db, project, inspector, type, id, [
      {
        id: order.id,
        kind: 'release',
        step,
        payload: { ...(reason ? { note: reason } : {}), here: true },
        ...timed,
        carrier: carrier.person,
      },
    ])
  } catch (error) {
    // A wait after wrong tries ends: the letter comes again.
    if (!(error instanceof Problem) || ['too-many', 'busy'].includes(error.code)) throw error
    const name = (await membersOf(db, project.id)).find((m) => m.id === order.by)?.name ?? 'somebody'
    await raiseNcr(
      db,
      project,
      carrier,
      { id: order.report, subjectType: type, subject: id, step, photo: null },
      {
        criterion: 'A hold point is released by somebody who may, before work goes on.',
        reading: `Released on the crew’s device without a signal, in the name of ${name}. On arrival: ${error.message}`,
      },
    )
    throw new Problem(
      'not-released',
      `${subject.title} is not released: ${error.message} A report has been raised.`,
      'step',
    )
  }
}
