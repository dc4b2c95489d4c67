import type { Knex } from 'knex'
import type { SampledLot, Severity } from '#core/delivery/sampling'

/** A sample drawn from the items of one article on one delivery. */
export interface Sampling {
  id: string
  delivery: string
  item: string
  lotSize: number
  sample: number
  acceptance: number
  severity: Severity
  /** bad items found; null while the sample is being looked at */
  bad: number | null
  accepted: boolean | null
}

interface Row {
  id: string
  delivery: string
  item: string
  lot_size: number
  sample: number
  acceptance: number
  severity: Severity
  bad: number | null
  accepted: number | null
}

const columns = ['id', 'delivery', 'item', 'lot_size', 'sample', 'acceptance', 'severity', 'bad', 'accepted']
const sampling = (r: Row): Sampling => ({
  id: r.id,
  delivery: r.delivery,
  item: r.item,
  lotSize: r.lot_size,
  sample: r.sample,
  acceptance: r.acceptance,
  severity: r.severity,
  bad: r.bad,
  accepted: r.accepted === null ? null : Boolean(r.accepted),
})

export const samplingsOf = async (db: Knex, delivery: string): Promise<Sampling[]> =>
  ((await db('samplings').select(columns).where({ delivery }).orderBy('item')) as Row[]).map(sampling)

/** Judged samples of an article on this project, oldest first. */
export async function samplingHistory(db: Knex, project: string, item: string): Promise<SampledLot[]> {
  const rows = (await db('samplings')
    .select('bad', 'accepted')
    .where({ project, item })
    .whereNotNull('accepted')
    .orderBy('drawn_at')) as { bad: number; accepted: number }[]
  return rows.map((r) => ({ bad: r.bad, accepted: Boolean(r.accepted) }))
}

export const insertSampling = async (
  db: Knex,
  project: string,
  s: Omit<Sampling, 'bad' | 'accepted'>,
  at: Date,
): Promise<void> =>
  void (await db('samplings').insert({
    id: s.id,
    project,
    delivery: s.delivery,
    item: s.item,
    lot_size: s.lotSize,
    sample: s.sample,
    acceptance: s.acceptance,
    severity: s.severity,
    drawn_at: at,
  }))

export const saveSampling = async (
  db: Knex,
  id: string,
  bad: number | null,
  accepted: boolean | null,
): Promise<void> => void (await db('samplings').where({ id }).update({ bad, accepted }))
