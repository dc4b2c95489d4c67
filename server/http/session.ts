import { deleteCookie, getCookie, getHeader, getRequestIP, setCookie, setHeader, type H3Event } from 'h3'
import type { Knex } from 'knex'
import { isUuid } from '#core/record/uuid'
import {
  ABSOLUTE,
  beginSession,
  deviceMark,
  endSession,
  isDeviceMark,
  makeStamp,
  readStamp,
  sessionOf,
  signIn,
} from '../services/sessions'

const TOKEN = 'vet-line'
const MARKS = 'vet-line-known'
const MOST_MARKS = 6
const YEAR = 365 * 24 * 3600

const cookie = () => ({
  httpOnly: true,
  sameSite: 'strict' as const,
  path: '/',
  secure: process.env.VET_LINE_INSECURE_COOKIE !== '1',
})

export const tokenOf = (event: H3Event): string | undefined => getCookie(event, TOKEN)

/** The person of the session that the request's token stands for, if any. */
export const currentPerson = async (event: H3Event, db: Knex): Promise<string | null> =>
  (await sessionOf(db, tokenOf(event)))?.person ?? null

/** The id of the session that the request speaks by. */
export const currentSession = async (event: H3Event, db: Knex): Promise<string | null> =>
  (await sessionOf(db, tokenOf(event)))?.id ?? null

const marks = (event: H3Event) => (getCookie(event, MARKS) ?? '').split('|').filter(Boolean)

/** Checks name and password, and begins a session on this device. */
export async function enter(
  event: H3Event,
  db: Knex,
  name: string,
  password: string,
): Promise<{ id: string; name: string }> {
  const before = marks(event)
  const person = await signIn(db, name, password, getRequestIP(event) ?? '', (id) =>
    before.some((m) => isDeviceMark(m, id)),
  )
  const old = tokenOf(event)
  if (old) await endSession(db, old)
  setCookie(event, TOKEN, await beginSession(db, person.id, getHeader(event, 'user-agent') ?? ''), {
    ...cookie(),
    maxAge: ABSOLUTE / 1000,
  })
  const mark = deviceMark(person.id)
  setCookie(event, MARKS, [mark, ...before.filter((m) => m !== mark)].slice(0, MOST_MARKS).join('|'), {
    ...cookie(),
    maxAge: YEAR,
  })
  return { id: person.id, name: person.name }
}

export async function leave(event: H3Event, db: Knex): Promise<void> {
  const token = tokenOf(event)
  if (token) await endSession(db, token)
  deleteCookie(event, TOKEN, cookie())
}

const DEVICE = 'x-vet-line-device'
const STAMP = 'x-vet-line-stamp'

/** The id that the device goes by, when it says one. */
export function deviceOf(event: H3Event): string | null {
  const id = getHeader(event, DEVICE)
  return id && isUuid(id) ? id : null
}

/** Gives the device its stamp of the server's time with the reply. */
export function stampReply(event: H3Event, person: string): void {
  const device = deviceOf(event)
  if (device) setHeader(event, STAMP, makeStamp(device, person))
}

/** The server's time in an entry's stamp. */
export const stampTime = (event: H3Event, person: string, stamp: string | null): Date | null => {
  const device = deviceOf(event)
  const at = device === null ? null : readStamp(stamp, device, person)
  return at === null ? null : new Date(at)
}
