import type { Knex } from 'knex'

/** Tables whose rows have a record: each row gets its chain head with it. */
const subjects: Record<string, string> = {
  joints: 'joint',
  deliveries: 'delivery',
  items: 'item',
  reaches: 'reach',
  packs: 'pack',
  ncrs: 'ncr',
  procedures: 'procedure',
  instruments: 'instrument',
  orders: 'order',
  lots: 'lot',
  places: 'place',
}
const START = "REPEAT('0', 64)"

/** A chain belongs to one project and one type for ever; it begins with its subject,
  and an id is used once. */
async function chains(db: Knex) {
  await db.raw('ALTER TABLE chains ADD UNIQUE KEY chain_identity (subject, project, subject_type)')
  const head = (table: string, type: string, project: string) =>
    db.raw(
      `INSERT IGNORE INTO chains (subject, subject_type, project, seq, hash) SELECT id, '${type}',
      ${project}, 0, ${START} FROM ${table}`,
    )
  const trigger = async (table: string, type: string, project: string) => {
    await db.raw(`CREATE TRIGGER ${table}_id BEFORE INSERT ON ${table} FOR EACH ROW
      IF EXISTS (SELECT 1 FROM chains WHERE subject = NEW.id) THEN
        SIGNAL SQLSTATE '45000' SET MYSQL_ERRNO = 31002, MESSAGE_TEXT = 'the id is of something else';
      END IF`)
    await db.raw(`CREATE TRIGGER ${table}_chain AFTER INSERT ON ${table} FOR EACH ROW
      BEGIN
        DECLARE EXIT HANDLER FOR 1062 SIGNAL SQLSTATE '45000' SET MYSQL_ERRNO = 31002,
        MESSAGE_TEXT = 'the id is of something else';
        INSERT INTO chains (subject, subject_type, project, seq, hash) VALUES (NEW.id, '${type}',
        NEW.${project}, 0, ${START});
      END`)
  }
  for (const [table, type] of Object.entries(subjects)) {
    await head(table, type, 'project')
    await trigger(table, type, 'project')
  }
  await head('projects', 'project', 'id')
  await trigger('projects', 'project', 'id')
}

/**
 * The place of an entry in its project's feed grows in the order of commits: nobody can read past one
 * that shows later.
 */
async function feed(db: Knex) {
  await db.raw(
    'CREATE TABLE feeds (project UUID PRIMARY KEY REFERENCES projects(id), place BIGINT UNSIGNED NOT NULL)',
  )
  await db.raw(`INSERT INTO feeds (project, place)
    SELECT p.id, COALESCE((SELECT MAX(e.feed) FROM entries e WHERE e.project = p.id), 0) FROM projects p`)
  await db.raw(
    'CREATE TRIGGER projects_feed AFTER INSERT ON projects FOR EACH ROW INSERT INTO feeds (project, place) VALUES (NEW.id, 0)',
  )
}

async function entries(db: Knex) {
  await db.raw('DROP TRIGGER entries_chain')
  await db.raw(`ALTER TABLE entries
    MODIFY feed BIGINT UNSIGNED NOT NULL DEFAULT 0, DROP PRIMARY KEY, ADD PRIMARY KEY (project, feed),
    ADD COLUMN device_number INT UNSIGNED NULL AFTER device,
      ADD COLUMN stamp_at DATETIME(3) NULL AFTER device_number,
    ADD COLUMN late VARCHAR(16) CHARACTER SET ascii NULL AFTER stamp_at,
    ADD CONSTRAINT entries_of_chain FOREIGN KEY (subject, project,
      subject_type) REFERENCES chains (subject, project, subject_type)`)
  await db.raw(`CREATE TRIGGER entries_chain BEFORE INSERT ON entries FOR EACH ROW
    BEGIN
      DECLARE head_seq INT UNSIGNED DEFAULT NULL;
      DECLARE head_hash CHAR(64) DEFAULT NULL;
      DECLARE head_type VARCHAR(12) DEFAULT NULL;
      DECLARE head_project UUID DEFAULT NULL;
      DECLARE CONTINUE HANDLER FOR NOT FOUND BEGIN END;
      SELECT seq, hash, subject_type, project INTO head_seq, head_hash, head_type,
      head_project FROM chains WHERE subject = NEW.subject FOR UPDATE;
      IF head_seq IS NULL OR head_type <> NEW.subject_type OR head_project <> NEW.project THEN
        SIGNAL SQLSTATE '45000' SET MYSQL_ERRNO = 31002, MESSAGE_TEXT = 'the chain is of something else';
      END IF;
      IF NEW.seq <> head_seq + 1 OR NEW.prev <> head_hash THEN
        SIGNAL SQLSTATE '45000' SET MYSQL_ERRNO = 31001, MESSAGE_TEXT = 'another entry came first';
      END IF;
      UPDATE chains SET seq = NEW.seq, hash = NEW.hash WHERE subject = NEW.subject;
      UPDATE feeds SET place = (@vet_line_place := place + 1) WHERE project = NEW.project;
      SET NEW.feed = @vet_line_place;
    END`)
}

/** Sessions are rows, so that they can be ended; whatever changes who somebody is or may do ends them. */
async function sessions(db: Knex) {
  await db.raw(`CREATE TABLE sessions (
    token BINARY(32) PRIMARY KEY, id UUID NOT NULL UNIQUE, person UUID NOT NULL REFERENCES people(id),
      client VARCHAR(200) NOT NULL,
    began_at DATETIME(3) NOT NULL, seen_at DATETIME(3) NOT NULL, KEY (person), KEY (seen_at))`)
  await db.raw(`CREATE TRIGGER people_sessions AFTER UPDATE ON people FOR EACH ROW
    IF NOT (NEW.active <=> OLD.active AND NEW.password_hash <=> OLD.password_hash AND NEW.pin_hash <=> OLD.pin_hash) THEN
      DELETE FROM sessions WHERE person = NEW.id;
    END IF`)
  await db.raw(
    'CREATE TRIGGER memberships_changed AFTER UPDATE ON memberships FOR EACH ROW DELETE ' +
      'FROM sessions WHERE person IN (OLD.person, NEW.person)',
  )
  await db.raw(
    'CREATE TRIGGER memberships_ended AFTER DELETE ON memberships FOR EACH ROW DELETE FROM sessions WHERE person = OLD.person',
  )
  // How often a secret was wrong, by digest of what is guarded; when the next try is looked at.
  await db.raw(
    'CREATE TABLE tries (guarded BINARY(32) PRIMARY KEY, failures INT UNSIGNED NOT NULL, next_at DATETIME(3) NOT NULL, KEY (next_at))',
  )
  await db.raw(`CREATE TABLE devices (
    id UUID NOT NULL, person UUID NOT NULL REFERENCES people(id), last_number INT UNSIGNED NOT NULL,
      last_recorded_at DATETIME(3) NOT NULL, seen_at DATETIME(3) NOT NULL,
    PRIMARY KEY (id, person))`)
}

/** Names are compared by the core alone: stored as the core spells them, byte for byte. */
async function names(db: Knex) {
  await db.raw(`UPDATE people SET sign_in = LOWER(TRIM(sign_in))`)
  await db.raw(
    `ALTER TABLE people MODIFY sign_in VARCHAR(60) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL`,
  )
  // Whose records name a file; a crew sees a file by what it is attached to.
  await db.raw(
    `CREATE TABLE attachments (file UUID NOT NULL REFERENCES files(id), subject UUID NOT NULL,
      PRIMARY KEY (file, subject))`,
  )
  for (const path of ['$.file', '$.photo']) {
    await db.raw(
      `INSERT IGNORE INTO attachments (file, subject) SELECT f.id,
      e.subject FROM entries e JOIN files f ON f.id = JSON_VALUE(e.payload,
      '${path}') AND f.project = e.project`,
    )
  }
}

export async function up(db: Knex): Promise<void> {
  await chains(db)
  await feed(db)
  await entries(db)
  await sessions(db)
  await names(db)
}
