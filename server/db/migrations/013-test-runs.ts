import type { Knex } from 'knex'

/**
 * Samples of a running test: the air beside the pipe, no meter told from no water, and when each arrived.
 */
export async function up(db: Knex): Promise<void> {
  await db.raw(`ALTER TABLE samples
    CHANGE COLUMN temperature pipe DOUBLE NULL,
    ADD COLUMN air DOUBLE NULL AFTER pipe,
    MODIFY COLUMN makeup DOUBLE NULL,
    ADD COLUMN received_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3)`)
}
