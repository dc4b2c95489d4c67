import type { Knex } from 'knex'

/** What a link is for: the first administrator, a person who comes in, or one who is locked out. */
export type LinkKind = 'found' | 'join' | 'reset'

export interface Link {
  kind: LinkKind
  person: string | null
  expiresAt: Date
  usedAt: Date | null
}

const columns = ['kind', 'person', 'expires_at as expiresAt', 'used_at as usedAt']

/** Links by the digest of their token: who reads the table cannot use one. */
export const findLink = async (db: Knex, digest: Buffer): Promise<Link | null> =>
  (await db('links').select(columns).where({ digest }).first()) ?? null

/** Lays a new link; those of the same kind for the same person that were not used end with it. */
export async function insertLink(
  db: Knex,
  digest: Buffer,
  link: { kind: LinkKind; person: string | null; madeBy: string | null; madeAt: Date; expiresAt: Date },
): Promise<void> {
  const { kind, person, madeBy, madeAt, expiresAt } = link
  await db('links').where({ kind, person }).whereNull('used_at').update({ expires_at: madeAt })
  await db('links').insert({ digest, kind, person, made_by: madeBy, made_at: madeAt, expires_at: expiresAt })
}

/** Uses a link up. @returns whether it was there to be used: of two at once, one is */
export const useUpLink = async (db: Knex, digest: Buffer, now: Date): Promise<boolean> =>
  (await db('links')
    .where({ digest })
    .whereNull('used_at')
    .where('expires_at', '>', now)
    .update({ used_at: now })) === 1

/** Until when each person's last link stands that nobody used yet. */
export async function openLinks(db: Knex, people: readonly string[], now: Date): Promise<Map<string, Date>> {
  const rows = (await db('links')
    .select('person')
    .max({ until: 'expires_at' })
    .whereIn('person', [...people])
    .whereNull('used_at')
    .where('expires_at', '>', now)
    .groupBy('person')) as { person: string; until: Date }[]
  return new Map(rows.map((r) => [r.person, r.until]))
}

export const installationName = async (db: Knex): Promise<string | null> =>
  (await db('installation').first<{ name: string } | undefined>('name'))?.name ?? null

export const insertInstallation = async (db: Knex, name: string, foundedAt: Date): Promise<void> =>
  void (await db('installation').insert({ name, founded_at: foundedAt }))
