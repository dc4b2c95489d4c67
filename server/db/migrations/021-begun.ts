import type { Knex } from 'knex'

/** When work at a subject was begun, and what that was the occasion of; work begun before was of none. */
export async function up(db: Knex): Promise<void> {
  for (const table of ['joints', 'reaches']) {
    await db.raw(`ALTER TABLE ${table}
      ADD COLUMN begun_at DATETIME(3) NULL AFTER opened_at,
      ADD COLUMN occasions SET('first-of-day', 'first-of-crew', 'after-rejection') NOT NULL DEFAULT ''
        AFTER begun_at,
      ADD COLUMN passed LONGTEXT NOT NULL DEFAULT '[]' CHECK (JSON_VALID(passed)) AFTER occasions,
      ADD KEY (project, crew, system, begun_at)`)
    await db.raw(`UPDATE ${table} t JOIN (
        SELECT subject, MIN(recorded_at) AS first_at FROM entries GROUP BY subject
      ) e ON e.subject = t.id SET t.begun_at = e.first_at`)
  }
}
