import { randomBytes } from 'node:crypto'
import type { Knex } from 'knex'
import { signInKey } from '#core/record/names'
import { checkPassword, checkPin } from '#core/record/secret-rules'
import { patience } from '#core/record/waiting'
import { Problem } from '#core/problem'
import { uuidv7 } from 'uuidv7'
import { inTransaction } from '../db/connection'
import {
  findLink,
  insertInstallation,
  insertLink,
  installationName,
  useUpLink,
  type Link,
  type LinkKind,
} from '../db/links'
import { insertPerson, saveSecrets } from '../db/people'
import { findPerson } from '../db/projects'
import { guarded } from './guarding'
import { digestOf } from './record'
import { hashSecret } from './secrets'

const HOUR = 3_600_000
/** How long each kind of link waits to be used, ms. */
export const LASTS: Record<LinkKind, number> = { found: 24 * HOUR, join: 72 * HOUR, reset: 24 * HOUR }

/** 256 bits: nobody guesses one. */
const TOKEN = /^[\w-]{43}$/

/** Makes a link that works once. @returns its token, which is kept nowhere else */
export async function makeLink(
  db: Knex,
  kind: LinkKind,
  person: string | null,
  madeBy: string | null,
): Promise<string> {
  const token = randomBytes(32).toString('base64url')
  const madeAt = new Date()
  const expiresAt = new Date(madeAt.getTime() + LASTS[kind])
  await insertLink(db, digestOf(token), { kind, person, madeBy, madeAt, expiresAt })
  return token
}

const GONE = () =>
  new Problem('dead-link', 'This link does not work, or not any more: ask for a new one.', 'token')

/** The link of a token that may still be used. Whoever tries many waits longer each time. */
async function standingLink(db: Knex, token: string, address: string): Promise<Link> {
  const door = { name: `link ${address}`, patience: patience.address }
  const link = await guarded(db, [door], async () => {
    const found = TOKEN.test(token) ? await findLink(db, digestOf(token)) : null
    return found && !found.usedAt && found.expiresAt.getTime() > Date.now() ? found : null
  })
  if (!link) throw GONE()
  return link
}

/** What a link is for, and for whom. */
export async function lookAtLink(db: Knex, token: string, address: string) {
  const { kind, person } = await standingLink(db, token, address)
  const row = person ? await findPerson(db, { id: person }) : null
  if (person && !row?.active) throw GONE()
  return {
    kind,
    installation: await installationName(db),
    person: row && { name: row.name, signIn: row.sign_in },
  }
}

export interface Founding {
  installation: string
  name: string
  signIn: string
  password: string
  pin: string
}

const secretsOf = async ({ password, pin }: { password: string; pin: string }) =>
  Promise.all([hashSecret(password), hashSecret(pin)])

/** Makes the first administrator, by the link that the start command printed. */
export async function foundInstallation(
  db: Knex,
  token: string,
  address: string,
  founding: Founding,
): Promise<{ signIn: string }> {
  const { kind } = await standingLink(db, token, address)
  if (kind !== 'found') throw GONE()
  const signIn = signInKey(founding.signIn)
  checkSignIn(signIn)
  checkPassword(founding.password, signIn)
  checkPin(founding.pin)
  const [password, pin] = await secretsOf(founding)
  await inTransaction(db, async (trx) => {
    if ((await installationName(trx)) !== null || !(await useUpLink(trx, digestOf(token), new Date())))
      throw GONE()
    await insertInstallation(trx, founding.installation, new Date())
    const id = uuidv7()
    await insertPerson(trx, { id, signIn, name: founding.name, keeper: true })
    await saveSecrets(trx, id, password, pin)
  })
  return { signIn }
}

/** A person chooses password and PIN, by the link that an administrator handed over. */
export async function chooseSecrets(
  db: Knex,
  token: string,
  address: string,
  secrets: { password: string; pin: string },
): Promise<{ signIn: string }> {
  const link = await standingLink(db, token, address)
  const person = link.person ? await findPerson(db, { id: link.person }) : null
  if (!person?.active) throw GONE()
  checkPassword(secrets.password, person.sign_in)
  checkPin(secrets.pin)
  const [password, pin] = await secretsOf(secrets)
  await inTransaction(db, async (trx) => {
    if (!(await useUpLink(trx, digestOf(token), new Date()))) throw GONE()
    await saveSecrets(trx, person.id, password, pin)
  })
  return { signIn: person.sign_in }
}

const SIGN_IN = /^[a-z0-9][a-z0-9._-]{1,39}$/
/** @throws Problem naming `signIn` */
export function checkSignIn(signIn: string): void {
  if (!SIGN_IN.test(signIn))
    throw new Problem(
      'bad-sign-in-name',
      'A sign-in name is 2 to 40 small letters, digits, dots, hyphens or underscores.',
      'signIn',
    )
}
