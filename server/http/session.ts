import type { H3Event } from 'h3'
import type { Knex } from 'knex'
import { RateLimiterMemory } from 'rate-limiter-flexible'
import { Problem } from '#core/problem'
import { findPerson } from '../db/projects'
import { secretMatches } from '../services/secrets'

const attempts = new RateLimiterMemory({ points: 8, duration: 60 })

/** The person of the sealed cookie, if any. */
export async function currentPerson(event: H3Event): Promise<{ id: string } | null> {
  const session = await getUserSession(event)
  const user = session.user as { id?: string } | undefined
  return user?.id ? { id: user.id } : null
}

async function limited<T>(key: string, run: () => Promise<T>): Promise<T> {
  try {
    await attempts.consume(key)
  } catch {
    throw new Problem('too-many', 'Too many tries: wait a minute.')
  }
  const result = await run()
  await attempts.delete(key)
  return result
}

/** Checks name and password. The same sentence for both faults, and the same work. */
export const signIn = (db: Knex, signIn: string, password: string, address: string) =>
  limited(`${address} ${signIn}`, async () => {
    const person = await findPerson(db, { sign_in: signIn })
    const right = await secretMatches(password, person?.password_hash ?? 'scrypt$AAAAAAAAAAAAAAAAAAAAAA==$AAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAA=')
    if (!person || !person.active || !right) throw new Problem('bad-sign-in', 'Name or password is not right.', 'password')
    return person
  })

/** A sign-off asks again who it is: PIN or password. */
export const confirmSecret = (db: Knex, person: string, secret: string) =>
  limited(`secret ${person}`, async () => {
    const row = await findPerson(db, { id: person })
    if (!row || !((await secretMatches(secret, row.pin_hash)) || (await secretMatches(secret, row.password_hash)))) throw new Problem('bad-secret', 'PIN or password is not right.', 'secret')
  })
