import type { Knex } from 'knex'

/**
 * Devices that have a project's work along: when they were last heard, what waited on them then, and the
 * session that they speak by.
 */
export async function up(db: Knex): Promise<void> {
  await db.raw(`CREATE TABLE devices_along (
    id UUID NOT NULL, person UUID NOT NULL REFERENCES people(id), project UUID NOT NULL REFERENCES projects(id),
    client VARCHAR(200) NOT NULL, taken_at DATETIME(3) NOT NULL, heard_at DATETIME(3) NOT NULL,
    waiting INT UNSIGNED NOT NULL DEFAULT 0, waiting_since DATETIME(3) NULL, session UUID NULL,
    ended_at DATETIME(3) NULL, PRIMARY KEY (project, person, id))`)
}
