import type { Knex } from 'knex'

/** Where a project's announcements go besides, how far they have gone, and when it is tried again. */
export async function up(db: Knex): Promise<void> {
  await db.raw(`CREATE TABLE webhooks (
    project UUID PRIMARY KEY REFERENCES projects(id), id UUID NOT NULL, address VARCHAR(400) NOT NULL,
    place BIGINT NOT NULL, tries INT NOT NULL DEFAULT 0, next_at DATETIME(3) NOT NULL,
    claimed_until DATETIME(3) NULL, told_at DATETIME(3) NULL, fault VARCHAR(200) NULL)`)
}
