import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'

/**
 * What is stored of a judgement says more than it did: of a reach what its fill measures, of a joint who was
 * invited to it. A job makes it anew for every project that has something to judge.
 */
export async function up(db: Knex): Promise<void> {
  for (const { id } of (await db('projects').select('id')) as { id: string }[]) {
    const [joints, reaches] = await Promise.all(
      ['joints', 'reaches'].map(async (table) => {
        const [row] = (await db(table).where({ project: id }).count({ n: '*' })) as { n: number }[]
        return Number(row!.n)
      }),
    )
    const asker = (await db('memberships').where({ project: id }).first('person')) as
      { person: string } | undefined
    if (!asker || joints! + reaches! === 0) continue
    await db('jobs').insert({
      ...{ id: uuidv7(), project: id, reason: 'rule', scope: JSON.stringify({ all: true }) },
      ...{ total: joints! + reaches!, asked_by: asker.person, asked_at: new Date() },
    })
  }
}
