import { randomBytes, scrypt, timingSafeEqual } from 'node:crypto'
import { makeTurn } from './turn'

const COST = { N: 16384, r: 8, p: 1 }
/** Deriving is slow on purpose; one at a time leaves the machine to everybody else. */
const inTurn = makeTurn(200, 'Too many people sign in at this moment: try again in a few seconds.')

const derive = (secret: string, salt: Buffer) =>
  inTurn(
    () =>
      new Promise<Buffer>((resolve, reject) =>
        scrypt(secret.normalize('NFKC'), salt, 32, COST, (error, key) =>
          error ? reject(error) : resolve(key),
        ),
      ),
  )

/** A memory-hard hash with its salt, for passwords and PINs. */
export async function hashSecret(secret: string): Promise<string> {
  const salt = randomBytes(16)
  return `scrypt$${salt.toString('base64')}$${(await derive(secret, salt)).toString('base64')}`
}

export async function secretMatches(secret: string, hash: string | null): Promise<boolean> {
  const [scheme, salt, key] = (hash ?? '').split('$')
  if (scheme !== 'scrypt' || !salt || !key) return false
  const wanted = Buffer.from(key, 'base64')
  const found = await derive(secret, Buffer.from(salt, 'base64'))
  return found.length === wanted.length && timingSafeEqual(found, wanted)
}

/** What everything that this site signs or seals is derived from. */
export function siteSecret(): string {
  const secret = process.env.VET_LINE_SECRET
  if (!secret || secret.length < 32)
    throw new Error('VET_LINE_SECRET is not set: start Vet Line with ./vet-line.')
  return secret
}
