import type { Knex } from 'knex'

/** Labels, lots and their age, the yard, samples of deliveries, and what each joint was made with. */
export async function up(db: Knex): Promise<void> {
  await db.raw(`ALTER TABLE catalogue ADD COLUMN gtin CHAR(14) NULL,
    ADD COLUMN limits LONGTEXT NOT NULL DEFAULT '[]' CHECK (JSON_VALID(limits)), ADD COLUMN mass DOUBLE NULL,
    ADD COLUMN shelf_months INT UNSIGNED NULL, ADD COLUMN opened_days INT UNSIGNED NULL,
      ADD UNIQUE (project, gtin)`)
  await db.raw(`CREATE TABLE places (
    id UUID PRIMARY KEY, project UUID NOT NULL REFERENCES projects(id), name VARCHAR(80) NOT NULL,
      kind VARCHAR(20) NOT NULL, min_temperature DOUBLE NULL, max_temperature DOUBLE NULL,
      every_days INT UNSIGNED NOT NULL DEFAULT 7,
    last_round DATETIME(3) NULL, findings LONGTEXT NOT NULL DEFAULT '[]' CHECK (JSON_VALID(findings)),
      UNIQUE (project, name))`)
  await db.raw(
    `ALTER TABLE items ADD COLUMN place UUID NULL REFERENCES places(id),
      ADD COLUMN sampled BOOLEAN NOT NULL DEFAULT FALSE, ADD KEY (delivery, kind, serial), ADD KEY (place),
      ADD KEY (project, state)`,
  )
  await db.raw(`CREATE TABLE lots (
    id UUID PRIMARY KEY, project UUID NOT NULL REFERENCES projects(id), lot VARCHAR(80) NOT NULL,
      item VARCHAR(80) NULL, made DATE NULL, expires DATE NULL, opened DATE NULL,
    quarantined_at DATETIME(3) NULL, reason VARCHAR(400) NULL, UNIQUE (project, lot), KEY (project,
      expires))`)
  await db.raw(`CREATE TABLE samplings (
    id UUID PRIMARY KEY, project UUID NOT NULL REFERENCES projects(id),
      delivery UUID NOT NULL REFERENCES deliveries(id), item VARCHAR(80) NOT NULL,
      lot_size INT UNSIGNED NOT NULL, sample INT UNSIGNED NOT NULL, acceptance INT UNSIGNED NOT NULL,
    severity VARCHAR(12) NOT NULL, drawn_at DATETIME(3) NOT NULL, bad INT UNSIGNED NULL,
      accepted BOOLEAN NULL, UNIQUE (delivery, item), KEY (project, item, drawn_at))`)
  await db.raw(
    `CREATE TABLE column_maps (project UUID NOT NULL REFERENCES projects(id), kind VARCHAR(12) NOT NULL,
      headings CHAR(64) CHARACTER SET ascii NOT NULL,
      mapping LONGTEXT NOT NULL CHECK (JSON_VALID(mapping)), PRIMARY KEY (project, kind, headings))`,
  )
  // A projection of the joints' rows and entries: both directions of tracing are one look-up each.
  await db.raw(`CREATE TABLE uses (
    joint UUID NOT NULL REFERENCES joints(id), kind VARCHAR(12) CHARACTER SET ascii NOT NULL,
      value VARCHAR(80) NOT NULL, project UUID NOT NULL, PRIMARY KEY (joint, kind, value), KEY (project,
      kind, value))`)
  await db.raw(
    `INSERT INTO lots (id, project, lot, item) SELECT UUID(), project, lot,
      MIN(item) FROM items GROUP BY project, lot`,
  )
  for (const place of ['upstream', 'downstream', 'fitting']) {
    await db.raw(`INSERT IGNORE INTO uses (joint, kind, value, project)
      SELECT j.id, 'item', i.id,
      j.project FROM joints j JOIN items i ON i.id = j.${place} UNION SELECT j.id, 'lot', i.lot,
      j.project FROM joints j JOIN items i ON i.id = j.${place}
      UNION SELECT j.id, 'delivery', i.delivery, j.project FROM joints j JOIN items i ON i.id = j.${place}`)
  }
  await db.raw(`INSERT IGNORE INTO uses (joint, kind, value, project)
    SELECT id, 'crew', crew, project FROM joints WHERE procedure_id IS NOT NULL UNION SELECT id,
      'procedure', procedure_id, project FROM joints WHERE procedure_id IS NOT NULL
    UNION SELECT subject, 'instrument', instrument,
      project FROM entries WHERE subject_type = 'joint' AND instrument IS NOT NULL
    UNION SELECT subject, 'person', person,
      project FROM entries WHERE subject_type = 'joint' AND role = 'crew-lead'
    UNION SELECT subject, 'lot', JSON_VALUE(payload, '$.lot'),
      project FROM entries WHERE subject_type = 'joint' AND kind = 'lot'`)
}
