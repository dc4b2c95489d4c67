import type { Knex } from 'knex'

/** Nonconformance reports, test packs and files: one small repository each. */
export interface SampleRow {
  at: Date
  pressure: number
  pipe: number | null
  air: number | null
  makeup: number | null
}

/** Readings of a running test in order of time, each with when it arrived. */
export const samplesOf = async (db: Knex, pack: string): Promise<(SampleRow & { receivedAt: Date })[]> =>
  db('samples')
    .select('at', 'pressure', 'pipe', 'air', 'makeup', { receivedAt: 'received_at' })
    .where({ pack })
    .orderBy('at')

/** How many readings there are, and when the newest arrived: whether there is anything new. */
export async function samplesMark(db: Knex, pack: string): Promise<{ count: number; received: number }> {
  const row = (await db('samples')
    .where({ pack })
    .count({ n: '*' })
    .max({ received: 'received_at' })
    .first()) as { n: number; received: Date | null } | undefined
  return { count: Number(row?.n ?? 0), received: row?.received?.getTime() ?? 0 }
}

/** Adds samples; one with a time already taken is the same sample sent again. */
export async function insertSamples(db: Knex, pack: string, samples: SampleRow[]): Promise<void> {
  const received = new Date()
  for (let i = 0; i < samples.length; i += 200)
    await db('samples')
      .insert(samples.slice(i, i + 200).map((s) => ({ pack, ...s, received_at: received })))
      .onConflict()
      .ignore()
}
