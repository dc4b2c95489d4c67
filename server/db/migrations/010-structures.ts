import type { Knex } from 'knex'

/** What stands on a line or turns it: manholes, valves, bends, tees, closures, reducers, tanks. */
export async function up(db: Knex): Promise<void> {
  await db.raw(`CREATE TABLE structures (
    id UUID PRIMARY KEY, project UUID NOT NULL REFERENCES projects(id),
    alignment UUID NOT NULL REFERENCES alignments(id), name VARCHAR(80) NOT NULL, kind VARCHAR(20) NOT NULL,
    station DOUBLE NOT NULL, angle DOUBLE NULL, UNIQUE (project, name), KEY (alignment, station))`)
}
