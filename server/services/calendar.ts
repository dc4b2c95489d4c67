import { createHash, randomBytes } from 'node:crypto'
import ical, { ICalCalendarMethod } from 'ical-generator'
import type { Knex } from 'knex'
import { patience } from '#core/record/waiting'
import { Problem } from '#core/problem'
import { calendarMadeAt, deleteCalendar, findCalendar, saveCalendar } from '../db/calendars'
import type { Project } from '../db/projects'
import { guarded } from './guarding'
import type { Actor } from './record'
import { today, type TodayItem } from './today'

/** 200 bits: nobody guesses one. */
const TOKEN = /^[0-9a-f]{50}$/
const digest = (token: string) => createHash('sha256').update(token).digest()
/** What has no length is drawn so long, ms. */
const QUARTER = 15 * 60_000

/** Makes the secret address of a person's calendar; an earlier one is dead from then on. */
export async function makeCalendar(db: Knex, actor: Actor): Promise<{ token: string }> {
  const token = randomBytes(25).toString('hex')
  const { project, person } = actor
  await saveCalendar(db, { token: digest(token), project, person, madeAt: new Date() })
  return { token }
}

export const revokeCalendar = (db: Knex, actor: Actor): Promise<void> =>
  deleteCalendar(db, actor.project, actor.person)

export const calendarOf = async (db: Knex, actor: Actor): Promise<{ madeAt: string | null }> => ({
  madeAt: (await calendarMadeAt(db, actor.project, actor.person))?.toISOString() ?? null,
})

/**
 * Whose calendar an address is. Whoever tries many waits longer each time.
 *
 * @throws Problem `not-found`: a wrong address and a dead one are the same
 */
export async function ownerOf(
  db: Knex,
  token: string,
  address: string,
): Promise<{ key: string; person: string }> {
  const door = { name: `calendar ${address}`, patience: patience.address }
  const found = await guarded(db, [door], async () =>
    TOKEN.test(token) ? await findCalendar(db, digest(token)) : null,
  )
  if (!found) throw new Problem('not-found', 'There is no such calendar.', 'token')
  return found
}

const paths: Partial<Record<TodayItem['kind'], string>> = {
  test: '/tests/',
  ncr: '/ncrs/',
  lot: '/lots/',
  delivery: '/deliveries/',
  round: '/yard/',
}
const sheets = { joint: '/joints/', reach: '/embedment/', pack: '/tests/' }
/** What stands since a while has no time of its own in a calendar: it stands at the present. */
const startOf = (item: TodayItem, now: number) => item.due ?? (item.kind === 'hold' ? now : null)

/**
 * What needs a person, as a calendar: holds, invitations, clocks that ask for somebody, tests and what falls due.
 * It holds what the person's own Today holds and nothing else. Times are UTC.
 *
 * @param origin of the site, for the links
 */
export async function calendarFeed(
  db: Knex,
  project: Project,
  actor: Actor,
  origin: string,
  now = Date.now(),
): Promise<string> {
  const calendar = ical({ name: `Vet Line: ${project.name}`, method: ICalCalendarMethod.PUBLISH, ttl: 900 })
  calendar.prodId({ company: 'Vet Line', product: 'Vet Line', language: 'EN' })
  for (const item of await today(db, project, actor, now)) {
    const start = startOf(item, now)
    if (start === null) continue
    const path = `${paths[item.kind] ?? sheets[item.of ?? 'joint']}${item.subject}`
    calendar.createEvent({
      // The same matter is the same event each time the calendar is read.
      id: `${item.kind}-${item.subject}-${item.step ?? ''}@vet-line`,
      start: new Date(item.span?.from ?? start),
      end: new Date(Math.max(item.span?.to ?? start + QUARTER, (item.span?.from ?? start) + QUARTER)),
      summary: `${item.place}: ${item.title}`,
      description: [item.detail, item.crew].filter(Boolean).join(' · '),
      url: `${origin}${path}`,
    })
  }
  return calendar.toString()
}
