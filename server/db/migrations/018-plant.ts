import type { Knex } from 'knex'

/** The machines that crews run beside and over the pipe. */
export async function up(db: Knex): Promise<void> {
  await db.raw(`CREATE TABLE plants (
    id UUID PRIMARY KEY, project UUID NOT NULL REFERENCES projects(id),
    crew UUID NOT NULL REFERENCES crews(id), name VARCHAR(80) NOT NULL,
    kind ENUM('hand','plate','roller','vehicle') NOT NULL, mass DOUBLE NULL, wheel_load DOUBLE NULL,
    UNIQUE (project, name))`)
}
