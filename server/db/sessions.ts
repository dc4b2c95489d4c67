import type { Knex } from 'knex'

export interface SessionRow {
  id: string
  person: string
  client: string
  beganAt: Date
  seenAt: Date
}

const columns = ['id', 'person', 'client', 'began_at as beganAt', 'seen_at as seenAt']

/** Sessions by the digest of their token: who reads the table cannot sign in with it. */
export const findSession = async (db: Knex, token: Buffer): Promise<SessionRow | null> =>
  (await db('sessions').select(columns).where({ token }).first()) ?? null

export const insertSession = async (db: Knex, token: Buffer, s: SessionRow): Promise<void> =>
  // A commit can succeed unheard and be tried again.
  void (await db('sessions')
    .insert({
      token,
      id: s.id,
      person: s.person,
      client: s.client,
      began_at: s.beganAt,
      seen_at: s.seenAt,
    })
    .onConflict('token')
    .ignore())

export const touchSession = async (db: Knex, token: Buffer, at: Date): Promise<void> =>
  void (await db('sessions').where({ token }).update({ seen_at: at }))

export const deleteSession = async (db: Knex, token: Buffer): Promise<void> =>
  void (await db('sessions').where({ token }).delete())

/** Ends one of a person's own sessions. @returns whether there was one */
export const deleteOwnSession = async (db: Knex, person: string, id: string): Promise<boolean> =>
  (await db('sessions').where({ person, id }).delete()) > 0

export const sessionsOf = async (db: Knex, person: string): Promise<(SessionRow & { token: Buffer })[]> =>
  db('sessions')
    .select(...columns, 'token')
    .where({ person })
    .orderBy('seen_at', 'desc')

export const deleteSessionsBefore = async (db: Knex, began: Date, seen: Date): Promise<void> =>
  void (await db('sessions').where('began_at', '<', began).orWhere('seen_at', '<', seen).delete())

export interface Tries {
  failures: number
  nextAt: Date
}

/** How often a guarded thing was tried wrongly of late. */
export const triesOf = async (db: Knex, guarded: Buffer): Promise<Tries | null> =>
  (await db('tries').select('failures', 'next_at as nextAt').where({ guarded }).first()) ?? null

export const saveTries = async (db: Knex, guarded: Buffer, { failures, nextAt }: Tries): Promise<void> =>
  void (await db('tries').insert({ guarded, failures, next_at: nextAt }).onConflict('guarded').merge())

export const forgetTries = async (db: Knex, guarded: readonly Buffer[]): Promise<void> =>
  void (await db('tries').whereIn('guarded', guarded).delete())

export const forgetOldTries = async (db: Knex, before: Date): Promise<void> =>
  void (await db('tries').where('next_at', '<', before).delete())
