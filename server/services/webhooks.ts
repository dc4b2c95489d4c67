import { createHmac } from 'node:crypto'
import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { announced, type AnnouncedKind, type Announcement } from '#core/record/announced'
import { Problem } from '#core/problem'
import { inTransaction } from '../db/connection'
import { feedEnd } from '../db/entries'
import { findProjectById, type Project } from '../db/projects'
import {
  announcedAfter,
  claimWebhook,
  deleteWebhook,
  findWebhook,
  freeWebhook,
  saveWebhook,
  type Webhook,
} from '../db/webhooks'
import { noteChange } from './changes'
import { actingRole, type Actor } from './record'
import { siteSecret } from './secrets'

/** So many go in one post, and so long a receiver may take. */
const PAGE = 50
const PATIENCE = 8000
/** How long a process has a webhook for itself: longer than a post may take. */
const LEASE = 20_000
const FIRST_WAIT = 5000
const LONGEST_WAIT = 3_600_000

/** Of a webhook, made from what this site keeps secret: the database does not hold it. */
const secretOf = (id: string): string =>
  createHmac('sha256', siteSecret()).update(`webhook ${id}`).digest('hex')

/** What a receiver checks: the body with the time at which it was sent, under the secret that both know. */
export const signed = (secret: string, time: string, body: string): string =>
  createHmac('sha256', secret).update(`${time}\n${body}`).digest('hex')

/** How long until it is tried again, ms: twice as long each time. */
export const waitAfter = (tries: number): number =>
  Math.min(LONGEST_WAIT, FIRST_WAIT * 2 ** Math.min(20, tries - 1))

function checkedAddress(address: string): string {
  const url = URL.canParse(address) ? new URL(address) : null
  if (!url || !['http:', 'https:'].includes(url.protocol))
    throw new Problem('bad-address', 'This is no address of the web: it begins with https://.', 'address')
  if (url.username || url.password)
    throw new Problem('bad-address', 'A name or password does not belong into the address.', 'address')
  return url.href
}

/** What a project's webhook does; its secret is never told again. */
export async function webhookOf(db: Knex, project: Project) {
  const hook = await findWebhook(db, project.id)
  return (
    hook && {
      address: hook.address,
      toldAt: hook.toldAt?.getTime() ?? null,
      tries: hook.tries,
      nextAt: hook.nextAt.getTime(),
      fault: hook.fault,
    }
  )
}

/**
 * Sets where announcements go besides, or that they go nowhere. What happened before is not told.
 *
 * @returns the secret, this once
 */
export async function setWebhook(
  db: Knex,
  project: Project,
  actor: Actor,
  { address, reason }: { address: string | null; reason: string },
): Promise<{ secret: string | null }> {
  actingRole(actor, 'set-project')
  const wanted = address === null ? null : checkedAddress(address)
  const id = uuidv7()
  await inTransaction(db, async (trx) => {
    if (wanted === null) await deleteWebhook(trx, project.id)
    await noteChange(trx, actor, 'set-project', { what: 'webhook', address: wanted, reason })
    const place = await feedEnd(trx, project.id)
    if (wanted !== null)
      await saveWebhook(trx, { project: project.id, id, address: wanted, place }, new Date())
  })
  return { secret: wanted === null ? null : secretOf(id) }
}

async function post(hook: Webhook, key: string, list: readonly Announcement[]): Promise<string | null> {
  const body = JSON.stringify({ project: key, announcements: list })
  const time = new Date().toISOString()
  try {
    const reply = await fetch(hook.address, {
      method: 'POST',
      headers: {
        'content-type': 'application/json',
        'x-vet-line-time': time,
        'x-vet-line-signature': signed(secretOf(hook.id), time, body),
      },
      body,
      // What answers is not followed anywhere, and nothing of its answer is kept.
      redirect: 'manual',
      signal: AbortSignal.timeout(PATIENCE),
    })
    await reply.body?.cancel()
    return reply.ok ? null : `It answered ${reply.status}.`
  } catch (error) {
    return (error as Error).name === 'TimeoutError' ? 'It did not answer in time.' : 'It cannot be reached.'
  }
}

const kinds = Object.keys(announced)

/**
 * Tells one webhook that is due what it has not been told, in the order of the record. What was not taken is
 * told again later: each at least once, and nothing of it overtakes another.
 *
 * @returns whether one was due
 */
export async function tellWebhooks(db: Knex, now = new Date()): Promise<boolean> {
  const hook = await claimWebhook(db, now, new Date(now.getTime() + LEASE))
  if (!hook) return false
  const project = (await findProjectById(db, hook.project))!
  const end = await feedEnd(db, hook.project)
  const rows = await announcedAfter(db, hook.project, hook.place, kinds, PAGE)
  const soon = new Date(now.getTime() + 1000)
  if (rows.length === 0) {
    await freeWebhook(db, hook, { place: end, tries: 0, nextAt: soon, fault: null })
    return true
  }
  const list = rows.map(({ id, kind, step, type, subject, name, at }): Announcement => ({
    ...{ id, kind: kind as AnnouncedKind, says: announced[kind as AnnouncedKind], step },
    ...{ subject: { type, id: subject, name }, at: at.toISOString() },
  }))
  const fault = await post(hook, project.key, list)
  if (fault === null)
    await freeWebhook(db, hook, {
      // What came in since this was read has not been told.
      place: rows.length < PAGE ? Math.max(end, rows.at(-1)!.feed) : rows.at(-1)!.feed,
      ...{ tries: 0, nextAt: soon, toldAt: new Date(), fault: null },
    })
  else {
    const tries = hook.tries + 1
    const nextAt = new Date(Date.now() + waitAfter(tries))
    await freeWebhook(db, hook, { place: hook.place, tries, nextAt, fault })
  }
  return true
}
