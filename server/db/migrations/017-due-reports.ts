import type { Knex } from 'knex'

/** Until which day a nonconformance is to be answered. */
export async function up(db: Knex): Promise<void> {
  await db.raw('ALTER TABLE ncrs ADD COLUMN due DATE NULL AFTER disposition')
}
