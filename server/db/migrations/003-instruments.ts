import type { Knex } from 'knex'

/** Calibrations have a beginning as well as an end, so that a later one does not cure an earlier reading. */
export async function up(db: Knex): Promise<void> {
  await db.raw(`CREATE TABLE calibrations (
    id UUID PRIMARY KEY, project UUID NOT NULL REFERENCES projects(id),
      instrument UUID NOT NULL REFERENCES instruments(id), from_at DATETIME(3) NOT NULL,
      until_at DATETIME(3) NOT NULL, certificate VARCHAR(80) NULL, KEY (instrument, until_at),
      KEY (project))`)
  await db.raw(
    `INSERT INTO calibrations (id, project, instrument, from_at, until_at) SELECT UUID(), project, id,
      '2000-01-01', calibrated_until FROM instruments`,
  )
  await db.raw('ALTER TABLE instruments DROP COLUMN calibrated_until')
  await db.raw('ALTER TABLE entries ADD KEY (project, instrument)')
}
