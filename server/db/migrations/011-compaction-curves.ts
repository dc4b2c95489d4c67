import type { Knex } from 'knex'

/** What laboratories found of the materials that trenches are filled with. */
export async function up(db: Knex): Promise<void> {
  await db.raw(`CREATE TABLE compaction_curves (
    id UUID PRIMARY KEY, project UUID NOT NULL REFERENCES projects(id), name VARCHAR(80) NOT NULL,
    material VARCHAR(80) NOT NULL, source VARCHAR(120) NOT NULL, dated DATE NOT NULL,
    points LONGTEXT NOT NULL CHECK (JSON_VALID(points)), specific_gravity DOUBLE NULL,
    UNIQUE (project, name))`)
}
