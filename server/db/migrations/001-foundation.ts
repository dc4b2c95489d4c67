import type { Knex } from 'knex'

const utc = 'DATETIME(3) NOT NULL'

/** People, projects and what a project is laid out with. */
async function people(db: Knex) {
  await db.raw(`CREATE TABLE people (
    id UUID PRIMARY KEY, sign_in VARCHAR(60) NOT NULL UNIQUE, name VARCHAR(120) NOT NULL,
    password_hash VARCHAR(200) NOT NULL, pin_hash VARCHAR(200) NULL, active BOOLEAN NOT NULL DEFAULT TRUE)`)
  await db.raw(`CREATE TABLE projects (
    id UUID PRIMARY KEY, project_key VARCHAR(60) NOT NULL UNIQUE, name VARCHAR(160) NOT NULL,
      zone VARCHAR(60) NOT NULL,
    settings LONGTEXT NOT NULL CHECK (JSON_VALID(settings)), last_ncr INT UNSIGNED NOT NULL DEFAULT 0)`)
  await db.raw(
    `CREATE TABLE crews (id UUID PRIMARY KEY, project UUID NOT NULL REFERENCES projects(id),
      name VARCHAR(80) NOT NULL, UNIQUE (project, name))`,
  )
  await db.raw(`CREATE TABLE memberships (
    project UUID NOT NULL REFERENCES projects(id), person UUID NOT NULL REFERENCES people(id),
      role VARCHAR(20) NOT NULL, crew UUID NULL REFERENCES crews(id),
    PRIMARY KEY (project, person, role), KEY (person))`)
  await db.raw(`CREATE TABLE instruments (
    id UUID PRIMARY KEY, project UUID NOT NULL REFERENCES projects(id), name VARCHAR(120) NOT NULL,
      kind VARCHAR(60) NOT NULL, quantity VARCHAR(30) NOT NULL,
    range_min DOUBLE NOT NULL, range_max DOUBLE NOT NULL, resolution DOUBLE NOT NULL,
      uncertainty DOUBLE NOT NULL, calibrated_until ${utc}, KEY (project))`)
  // \`lines\` is a reserved word of the database.
  await db.raw(`CREATE TABLE alignments (
    id UUID PRIMARY KEY, project UUID NOT NULL REFERENCES projects(id), line_key VARCHAR(40) NOT NULL,
      name VARCHAR(120) NOT NULL, material VARCHAR(60) NOT NULL,
    from_station DOUBLE NOT NULL, to_station DOUBLE NOT NULL,
      profile LONGTEXT NOT NULL CHECK (JSON_VALID(profile)),
      facts LONGTEXT NOT NULL CHECK (JSON_VALID(facts)), UNIQUE (project, line_key))`)
  await db.raw(`CREATE TABLE procedures (
    id UUID PRIMARY KEY, project UUID NOT NULL REFERENCES projects(id), procedure_key VARCHAR(60) NOT NULL,
      revision VARCHAR(20) NOT NULL, title VARCHAR(160) NOT NULL, state VARCHAR(20) NOT NULL,
    source LONGTEXT NOT NULL, sha256 CHAR(64) NOT NULL, issued_by UUID NULL REFERENCES people(id),
      issued_at DATETIME(3) NULL, UNIQUE (project, procedure_key, revision))`)
}

/** The record: entries are ink. Only the triggers here move a chain's head. */
async function record(db: Knex) {
  await db.raw(
    `CREATE TABLE chains (subject UUID PRIMARY KEY, subject_type VARCHAR(12) NOT NULL,
      project UUID NOT NULL, seq INT UNSIGNED NOT NULL, hash CHAR(64) CHARACTER SET ascii NOT NULL,
      KEY (project))`,
  )
  await db.raw(`CREATE TABLE entries (
    feed BIGINT UNSIGNED AUTO_INCREMENT PRIMARY KEY, id UUID NOT NULL UNIQUE, project UUID NOT NULL,
      subject_type VARCHAR(12) NOT NULL, subject UUID NOT NULL, seq INT UNSIGNED NOT NULL,
    kind VARCHAR(20) NOT NULL, step VARCHAR(60) NULL,
      payload LONGTEXT NOT NULL CHECK (JSON_VALID(payload)), instrument VARCHAR(36) NULL,
      person UUID NOT NULL, role VARCHAR(20) NOT NULL,
    crew UUID NULL, device VARCHAR(60) NULL, recorded_at ${utc}, received_at ${utc},
      prev CHAR(64) CHARACTER SET ascii NOT NULL, hash CHAR(64) CHARACTER SET ascii NOT NULL,
    UNIQUE (subject, seq), KEY (project, feed))`)
  await db.raw(`CREATE TRIGGER entries_chain BEFORE INSERT ON entries FOR EACH ROW
    BEGIN
      DECLARE head_seq INT UNSIGNED DEFAULT 0;
      DECLARE head_hash CHAR(64) DEFAULT REPEAT('0', 64);
      DECLARE CONTINUE HANDLER FOR NOT FOUND BEGIN END;
      SELECT seq, hash INTO head_seq, head_hash FROM chains WHERE subject = NEW.subject FOR UPDATE;
      IF NEW.seq <> head_seq + 1 OR NEW.prev <> head_hash THEN
        SIGNAL SQLSTATE '45000' SET MYSQL_ERRNO = 31001, MESSAGE_TEXT = 'another entry came first';
      END IF;
      IF head_seq = 0 THEN INSERT INTO chains (subject, subject_type, project, seq,
      hash) VALUES (NEW.subject, NEW.subject_type, NEW.project, NEW.seq, NEW.hash);
      ELSE UPDATE chains SET seq = NEW.seq, hash = NEW.hash WHERE subject = NEW.subject; END IF;
    END`)
  for (const action of ['UPDATE', 'DELETE']) {
    await db.raw(
      `CREATE TRIGGER entries_no_${action.toLowerCase()} BEFORE ${action} ON entries FOR ` +
        `EACH ROW SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'entries are never changed or ` +
        `removed'`,
    )
  }
  await db.raw(`CREATE TABLE files (
    id UUID PRIMARY KEY, project UUID NOT NULL REFERENCES projects(id), name VARCHAR(200) NOT NULL,
      mime VARCHAR(80) NOT NULL, sha256 CHAR(64) NOT NULL, size INT UNSIGNED NOT NULL,
      bytes LONGBLOB NOT NULL,
    person UUID NOT NULL, received_at ${utc}, KEY (project))`)
}

/** Delivered goods and joints. Columns that repeat what entries say are projections,
  rebuilt by \`verify\`. */
async function goods(db: Knex) {
  await db.raw(`CREATE TABLE catalogue (
    project UUID NOT NULL REFERENCES projects(id), item VARCHAR(80) NOT NULL, title VARCHAR(160) NOT NULL,
      kind VARCHAR(12) NOT NULL, pressure_class VARCHAR(80) NOT NULL,
    facts LONGTEXT NOT NULL CHECK (JSON_VALID(facts)), PRIMARY KEY (project, item))`)
  await db.raw(
    `CREATE TABLE orders (id UUID PRIMARY KEY, project UUID NOT NULL REFERENCES projects(id),
      number VARCHAR(40) NOT NULL, supplier VARCHAR(120) NOT NULL, UNIQUE (project, number))`,
  )
  await db.raw(`CREATE TABLE order_lines (
    id UUID PRIMARY KEY, order_id UUID NOT NULL REFERENCES orders(id), item VARCHAR(80) NOT NULL,
      pressure_class VARCHAR(80) NOT NULL, quantity INT UNSIGNED NOT NULL,
      lots LONGTEXT NOT NULL CHECK (JSON_VALID(lots)), UNIQUE (order_id, item))`)
  await db.raw(`CREATE TABLE deliveries (
    id UUID PRIMARY KEY, project UUID NOT NULL REFERENCES projects(id),
      order_id UUID NOT NULL REFERENCES orders(id), number VARCHAR(60) NOT NULL, received_at ${utc},
    lines_json LONGTEXT NOT NULL CHECK (JSON_VALID(lines_json)), state VARCHAR(12) NOT NULL,
      signed_by UUID NULL, signed_at DATETIME(3) NULL, UNIQUE (project, number))`)
  await db.raw(`CREATE TABLE items (
    id UUID PRIMARY KEY, project UUID NOT NULL REFERENCES projects(id),
      delivery UUID NOT NULL REFERENCES deliveries(id), item VARCHAR(80) NOT NULL,
      kind VARCHAR(12) NOT NULL, serial VARCHAR(80) NOT NULL,
    lot VARCHAR(80) NOT NULL, length DOUBLE NULL, conforms BOOLEAN NOT NULL, state VARCHAR(12) NOT NULL,
      remark VARCHAR(400) NULL, UNIQUE (project, serial), KEY (delivery), KEY (project, lot), KEY (project,
      kind, state))`)
  await db.raw(`CREATE TABLE joints (
    id UUID PRIMARY KEY, project UUID NOT NULL REFERENCES projects(id),
      alignment UUID NOT NULL REFERENCES alignments(id), number VARCHAR(40) NOT NULL,
      station DOUBLE NOT NULL, crew UUID NOT NULL REFERENCES crews(id),
    procedure_id UUID NULL REFERENCES procedures(id), upstream UUID NULL REFERENCES items(id),
      downstream UUID NULL REFERENCES items(id), fitting UUID NULL REFERENCES items(id),
    facts LONGTEXT NOT NULL CHECK (JSON_VALID(facts)), opened_at DATETIME(3) NULL,
    state VARCHAR(16) NOT NULL DEFAULT 'not-started', until_at DATETIME(3) NULL,
      then_state VARCHAR(16) NULL, testable_at DATETIME(3) NULL, held_since DATETIME(3) NULL,
      drafts INT UNSIGNED NOT NULL DEFAULT 0,
    done INT UNSIGNED NOT NULL DEFAULT 0, applicable INT UNSIGNED NOT NULL DEFAULT 0,
      summary LONGTEXT NOT NULL CHECK (JSON_VALID(summary)),
    UNIQUE (project, number), KEY (alignment, station), KEY (project, state), KEY (project, held_since),
      KEY (upstream), KEY (downstream), KEY (fitting))`)
}

async function later(db: Knex) {
  await db.raw(`CREATE TABLE ncrs (
    id UUID PRIMARY KEY, project UUID NOT NULL REFERENCES projects(id), number VARCHAR(20) NOT NULL,
      subject_type VARCHAR(12) NOT NULL, subject UUID NOT NULL, step VARCHAR(60) NULL, crew UUID NULL,
      place VARCHAR(120) NOT NULL,
    criterion VARCHAR(600) NOT NULL, reading VARCHAR(600) NOT NULL, state VARCHAR(16) NOT NULL,
      disposition VARCHAR(20) NULL, raised_by UUID NOT NULL, reworked_by UUID NULL, raised_at ${utc},
      closed_at DATETIME(3) NULL,
    UNIQUE (project, number), KEY (subject), KEY (project, state))`)
  await db.raw(`CREATE TABLE reaches (
    id UUID PRIMARY KEY, project UUID NOT NULL REFERENCES projects(id),
      alignment UUID NOT NULL REFERENCES alignments(id), crew UUID NOT NULL REFERENCES crews(id),
      name VARCHAR(80) NOT NULL, from_station DOUBLE NOT NULL, to_station DOUBLE NOT NULL,
    pipe_od DOUBLE NOT NULL, criteria LONGTEXT NOT NULL CHECK (JSON_VALID(criteria)),
      state VARCHAR(16) NOT NULL DEFAULT 'not-started', left_level DOUBLE NOT NULL DEFAULT 0,
      right_level DOUBLE NOT NULL DEFAULT 0, UNIQUE (project, name), KEY (alignment, from_station))`)
  await db.raw(`CREATE TABLE packs (
    id UUID PRIMARY KEY, project UUID NOT NULL REFERENCES projects(id),
      alignment UUID NOT NULL REFERENCES alignments(id), number VARCHAR(40) NOT NULL,
      from_station DOUBLE NOT NULL, to_station DOUBLE NOT NULL, method VARCHAR(40) NOT NULL,
    design LONGTEXT NOT NULL CHECK (JSON_VALID(design)), gauge UUID NULL REFERENCES instruments(id),
      due_at DATETIME(3) NULL, state VARCHAR(16) NOT NULL DEFAULT 'planned',
      log_file UUID NULL REFERENCES files(id), verdict VARCHAR(16) NULL, signed_by UUID NULL,
      signed_at DATETIME(3) NULL,
    UNIQUE (project, number), KEY (alignment, from_station))`)
  await db.raw(
    `CREATE TABLE samples (pack UUID NOT NULL REFERENCES packs(id), at ${utc}, pressure DOUBLE NOT NULL,
      temperature DOUBLE NULL, makeup DOUBLE NOT NULL DEFAULT 0, PRIMARY KEY (pack, at))`,
  )
}

export async function up(db: Knex): Promise<void> {
  await people(db)
  await record(db)
  await goods(db)
  await later(db)
}
