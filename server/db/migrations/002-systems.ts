import type { Knex } from 'knex'

/** Every joint is planned for a procedure; procedures are drafted, reviewed and issued by named people. */
export async function up(db: Knex): Promise<void> {
  await db.raw(
    `ALTER TABLE joints ADD COLUMN system VARCHAR(60) NOT NULL DEFAULT '' AFTER station, ADD KEY (project,
      system)`,
  )
  await db.raw(`UPDATE joints j JOIN procedures p ON p.id = j.procedure_id SET j.system = p.procedure_key`)
  // Joints that were only planned follow the one procedure that their project had.
  await db.raw(
    `UPDATE joints j SET j.system = COALESCE((SELECT MIN(p.procedure_key) FROM procedures ` +
      `p WHERE p.project = j.project AND p.state = 'issued'), '') WHERE j.system = ''`,
  )
  await db.raw(`ALTER TABLE procedures ADD COLUMN system VARCHAR(60) NOT NULL DEFAULT '',
    ADD COLUMN material VARCHAR(60) NOT NULL DEFAULT '',
      ADD COLUMN drafted_by UUID NULL REFERENCES people(id), ADD COLUMN drafted_at DATETIME(3) NULL,
    ADD COLUMN reviewed_by UUID NULL REFERENCES people(id), ADD COLUMN reviewed_at DATETIME(3) NULL,
      ADD COLUMN version INT UNSIGNED NOT NULL DEFAULT 1, ADD KEY (project, procedure_key, state)`)
  await db.raw(`UPDATE procedures SET system = procedure_key WHERE system = ''`)
}
