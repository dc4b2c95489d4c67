import type { Knex } from 'knex'

const of = {
  joints: 'not-started in-work accepted rejected too-close waiting held withdrawn',
  reaches: 'not-started in-work accepted rejected too-close waiting held withdrawn',
  packs: 'planned running evaluated signed failed withdrawn',
}

/** What bears entries is withdrawn, never deleted: a state more. */
export async function up(db: Knex): Promise<void> {
  for (const [table, states] of Object.entries(of)) {
    const list = states
      .split(' ')
      .map((state) => `'${state}'`)
      .join(', ')
    await db.raw(`ALTER TABLE ${table} DROP CONSTRAINT ${table}_state,
      ADD CONSTRAINT ${table}_state CHECK (state IN (${list}))`)
  }
}
