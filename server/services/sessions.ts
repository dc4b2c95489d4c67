import { createHmac, randomBytes, timingSafeEqual } from 'node:crypto'
import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { signInKey } from '#core/record/names'
import { patience } from '#core/record/waiting'
import { Problem } from '#core/problem'
import { inTransaction } from '../db/connection'
import { findPerson, type PersonRow } from '../db/projects'
import {
  deleteOwnSession,
  deleteSession,
  deleteSessionsBefore,
  findSession,
  insertSession,
  sessionsOf,
  touchSession,
  type SessionRow,
} from '../db/sessions'
import { guarded } from './guarding'
import { digestOf } from './record'
import { secretMatches, siteSecret } from './secrets'

const HOUR = 3_600_000
/** A session ends when nothing was heard of it for a shift, or after some days whatever happens. */
export const IDLE = 14 * HOUR
export const ABSOLUTE = 5 * 24 * HOUR
/**
 * What is known of a token is read again after this many ms, so that what another process ends is soon
 * ended here.
 */
const FRESH = 1000
const TOUCHED = 5 * 60_000
const TOKEN = /^[\w-]{43}$/

const known = new Map<string, { at: number; session: Promise<SessionRow | null> }>()

const ended = new Set<() => void>()

/** Reads sessions anew at once, after something has ended some. */
export function forgetSessions(): void {
  known.clear()
  for (const listener of ended) listener()
}

/** Hears that sessions were ended here. @returns how to stop hearing */
export function onSessionsEnded(listener: () => void): () => void {
  ended.add(listener)
  return () => ended.delete(listener)
}

const alive = (s: SessionRow, now: number) =>
  now - s.seenAt.getTime() < IDLE && now - s.beganAt.getTime() < ABSOLUTE

async function read(db: Knex, token: string): Promise<SessionRow | null> {
  const digest = digestOf(token)
  const session = await findSession(db, digest)
  const now = Date.now()
  if (!session || !alive(session, now)) return null
  if (now - session.seenAt.getTime() > TOUCHED) await touchSession(db, digest, new Date(now))
  return session
}

/** The session of a token, if it stands. */
export function sessionOf(db: Knex, token: string | undefined): Promise<SessionRow | null> {
  if (!token || !TOKEN.test(token)) return Promise.resolve(null)
  const cached = known.get(token)
  if (cached && Date.now() - cached.at < FRESH) return cached.session
  if (known.size >= 5000) known.clear()
  const session = read(db, token)
  known.set(token, { at: Date.now(), session })
  // What could not be read is asked again by the next one.
  session.catch(() => known.delete(token))
  return session
}

/** Begins a session. @returns its token, which is kept nowhere else */
export async function beginSession(db: Knex, person: string, client: string): Promise<string> {
  const token = randomBytes(32).toString('base64url')
  const now = new Date()
  // Apart, and again after a deadlock: many sign in when a shift begins.
  await inTransaction(db, (trx) =>
    insertSession(trx, digestOf(token), {
      id: uuidv7(),
      person,
      client: client.slice(0, 200),
      beganAt: now,
      seenAt: now,
    }),
  )
  await inTransaction(db, (trx) =>
    deleteSessionsBefore(trx, new Date(now.getTime() - ABSOLUTE), new Date(now.getTime() - IDLE)),
  )
  return token
}

export async function endSession(db: Knex, token: string): Promise<void> {
  await deleteSession(db, digestOf(token))
  forgetSessions()
}

/** Where a person is signed in, and which of it is here. */
export async function ownSessions(
  db: Knex,
  person: string,
  token: string,
): Promise<{ id: string; client: string; beganAt: string; seenAt: string; here: boolean }[]> {
  const mine = digestOf(token)
  const now = Date.now()
  return (await sessionsOf(db, person))
    .filter((s) => alive(s, now))
    .map((s) => ({
      id: s.id,
      client: s.client,
      beganAt: s.beganAt.toISOString(),
      seenAt: s.seenAt.toISOString(),
      here: s.token.equals(mine),
    }))
}

export async function endOwnSession(db: Knex, person: string, id: string): Promise<void> {
  if (!(await deleteOwnSession(db, person, id)))
    throw new Problem('not-found', 'There is no such session.', 'session')
  forgetSessions()
}

/** A hash that nobody's password has: an unknown name costs as much as a known one. */
const NOBODY = 'scrypt$AAAAAAAAAAAAAAAAAAAAAA==$AAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAA='

/**
 * Checks name and password. The same sentence for both faults, and the same work.
 *
 * @param knownDevice whether this person has signed in on this device before
 */
export async function signIn(
  db: Knex,
  name: string,
  password: string,
  address: string,
  knownDevice: (person: string) => boolean,
): Promise<PersonRow> {
  const key = signInKey(name)
  const person = await findPerson(db, { sign_in: key })
  // Where a person has been before, others' wrong tries do not keep them out.
  const doors =
    person && knownDevice(person.id)
      ? [{ name: `known ${key} ${address}`, patience: patience.known }]
      : [
          { name: `pair ${key} ${address}`, patience: patience.pair },
          { name: `account ${key}`, patience: patience.account },
          { name: `address ${address}`, patience: patience.address },
        ]
  const found = await guarded(db, doors, async () => {
    const right = await secretMatches(password, person?.password_hash ?? NOBODY)
    return person?.active && right ? person : null
  })
  if (!found) throw new Problem('bad-sign-in', 'Name or password is not right.', 'password')
  return found
}

/** Asks again who it is, with what one of the hashes of a person is of. */
async function confirm(
  db: Knex,
  person: string,
  secret: string,
  { hashes, sentence }: { hashes: (row: PersonRow) => (string | null)[]; sentence: string },
): Promise<void> {
  const right = await guarded(db, [{ name: `confirm ${person}`, patience: patience.confirm }], async () => {
    const row = await findPerson(db, { id: person })
    if (!row?.active) return null
    for (const hash of hashes(row)) if (await secretMatches(secret, hash)) return row
    return null
  })
  if (!right) throw new Problem('bad-secret', sentence, 'secret')
}

/** A sign-off asks again who it is: PIN or password. */
export const confirmSecret = (db: Knex, person: string, secret: string): Promise<void> =>
  confirm(db, person, secret, {
    hashes: (row) => [row.pin_hash, row.password_hash],
    sentence: 'PIN or password is not right.',
  })

/** As `confirmSecret`, of a PIN alone: a password is not typed on somebody else's device. */
export const confirmPin = (db: Knex, person: string, pin: string): Promise<void> =>
  confirm(db, person, pin, { hashes: (row) => [row.pin_hash], sentence: 'The PIN is not right.' })

const sign = (text: string) => createHmac('sha256', siteSecret()).update(text).digest('base64url')
const matches = (text: string, mac: string) => {
  const [a, b] = [Buffer.from(sign(text)), Buffer.from(mac)]
  return a.length === b.length && timingSafeEqual(a, b)
}

/**
 * Half of what opens a person's store on a device: given to whoever is signed in, so that no PIN is asked
 * while there is a signal, and of no use to whoever only has the device.
 */
export const deviceShare = (person: string): string => sign(`share ${person}`)

/** A mark that stays on a device where somebody has signed in. */
export const deviceMark = (person: string): string => `${person}.${sign(`device ${person}`)}`
export const isDeviceMark = (mark: string, person: string): boolean => {
  const [who, mac] = mark.split('.')
  return who === person && mac !== undefined && matches(`device ${person}`, mac)
}

/** What a device gets with every reply: the server's time, for this device in this person's hands. */
export const makeStamp = (device: string, person: string, at = Date.now()): string =>
  `${at}.${sign(`stamp ${at} ${device} ${person}`)}`

/** The server's time in a stamp; null when it is not one of ours for this device and person. */
export function readStamp(stamp: string | null, device: string, person: string): number | null {
  const [at, mac] = (stamp ?? '').split('.')
  if (!at || !mac || !/^\d{13}$/.test(at) || !matches(`stamp ${at} ${device} ${person}`, mac)) return null
  return Number(at)
}
