import type { Knex } from 'knex'

/** Where a project's announcements go besides. */
export interface Webhook {
  project: string
  /** the secret is made from it */
  id: string
  address: string
  /** place in the feed up to which everything was told */
  place: number
  tries: number
  nextAt: Date
  toldAt: Date | null
  fault: string | null
}

const columns = {
  ...{ project: 'project', id: 'id', address: 'address', place: 'place', tries: 'tries' },
  ...{ nextAt: 'next_at', toldAt: 'told_at', fault: 'fault' },
}

export const findWebhook = async (db: Knex, project: string): Promise<Webhook | null> =>
  ((await db('webhooks').where({ project }).select(columns).first()) as Webhook | undefined) ?? null

export const saveWebhook = async (
  db: Knex,
  hook: Pick<Webhook, 'project' | 'id' | 'address' | 'place'>,
  now: Date,
): Promise<void> =>
  void (await db('webhooks')
    .insert({ ...hook, next_at: now })
    .onConflict('project')
    .merge({ ...hook, next_at: now, tries: 0, claimed_until: null, told_at: null, fault: null }))

export const deleteWebhook = async (db: Knex, project: string): Promise<void> =>
  void (await db('webhooks').where({ project }).delete())

/** Takes a webhook that is due for itself for a while: of several processes one posts at a time. */
export async function claimWebhook(db: Knex, now: Date, until: Date): Promise<Webhook | null> {
  const due = (await db('webhooks')
    .where('next_at', '<=', now)
    .where((w) => w.whereNull('claimed_until').orWhere('claimed_until', '<', now))
    .orderBy('next_at')
    .select(columns)
    .first()) as Webhook | undefined
  if (!due) return null
  const taken = await db('webhooks')
    .where({ project: due.project, id: due.id })
    .where((w) => w.whereNull('claimed_until').orWhere('claimed_until', '<', now))
    .update({ claimed_until: until })
  return taken === 1 ? due : null
}

/** How a post went. One whose address was changed meanwhile says nothing about the new one. */
export const freeWebhook = async (
  db: Knex,
  { project, id }: Pick<Webhook, 'project' | 'id'>,
  to: { place: number; tries: number; nextAt: Date; toldAt?: Date; fault: string | null },
): Promise<void> =>
  void (await db('webhooks')
    .where({ project, id })
    .update({
      ...{ place: to.place, tries: to.tries, next_at: to.nextAt, fault: to.fault, claimed_until: null },
      ...(to.toldAt ? { told_at: to.toldAt } : {}),
    }))

/** What came in after a place of the feed, of the kinds named, with what its subject is called. */
export async function announcedAfter(
  db: Knex,
  project: string,
  after: number,
  kinds: readonly string[],
  limit: number,
): Promise<
  {
    feed: number
    id: string
    kind: string
    step: string | null
    type: string
    subject: string
    name: string
    at: Date
  }[]
> {
  return db('entries as e')
    .leftJoin('joints as j', 'j.id', 'e.subject')
    .leftJoin('reaches as r', 'r.id', 'e.subject')
    .leftJoin('ncrs as n', 'n.id', 'e.subject')
    .leftJoin('packs as p', 'p.id', 'e.subject')
    .where('e.project', project)
    .where('e.feed', '>', after)
    .whereIn('e.kind', kinds)
    .orderBy('e.feed')
    .limit(limit)
    .select('e.feed', 'e.id', 'e.kind', 'e.step', 'e.subject', {
      type: 'e.subject_type',
      at: 'e.received_at',
      name: db.raw("COALESCE(j.number, r.name, n.number, p.number, '')"),
    })
}
