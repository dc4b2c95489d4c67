import type { Knex } from 'knex'

/**
 * Whose installation it is, and how people come in: by links that work once. A person who has not chosen a
 * password yet has none, and cannot sign in.
 */
async function comingIn(db: Knex) {
  await db.raw(`CREATE TABLE installation (
    one TINYINT PRIMARY KEY DEFAULT 1 CHECK (one = 1), name VARCHAR(120) NOT NULL, founded_at DATETIME(3) NOT NULL)`)
  await db.raw(`ALTER TABLE people
    MODIFY password_hash VARCHAR(200) NULL,
    ADD COLUMN keeper BOOLEAN NOT NULL DEFAULT FALSE`)
  await db.raw(`CREATE TABLE links (
    digest BINARY(32) PRIMARY KEY, kind VARCHAR(6) CHARACTER SET ascii NOT NULL CHECK (kind IN ('found', 'join', 'reset')),
    person UUID NULL REFERENCES people(id), made_by UUID NULL REFERENCES people(id),
    made_at DATETIME(3) NOT NULL, expires_at DATETIME(3) NOT NULL, used_at DATETIME(3) NULL, KEY (person))`)
}

/** Lines by their own coordinates, and the ground over them. */
async function lines(db: Knex) {
  await db.raw(`ALTER TABLE alignments
    ADD COLUMN path LONGTEXT NOT NULL DEFAULT '[]' CHECK (JSON_VALID(path)),
    ADD COLUMN ground LONGTEXT NOT NULL DEFAULT '[]' CHECK (JSON_VALID(ground))`)
}

export async function up(db: Knex): Promise<void> {
  await comingIn(db)
  await lines(db)
}
