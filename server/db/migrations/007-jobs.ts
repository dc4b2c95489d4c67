import type { Knex } from 'knex'

/**
 * What touches many subjects is worked page by page, outside any request, by whichever process holds the
 * lease; another goes on where a killed one stopped.
 */
async function jobs(db: Knex) {
  await db.raw(`CREATE TABLE jobs (
    id UUID PRIMARY KEY, project UUID NOT NULL REFERENCES projects(id),
    reason VARCHAR(20) NOT NULL, scope LONGTEXT NOT NULL CHECK (JSON_VALID(scope)),
    total INT UNSIGNED NOT NULL, done INT UNSIGNED NOT NULL DEFAULT 0, last_id VARCHAR(60) NULL,
    state VARCHAR(12) NOT NULL DEFAULT 'waiting' CHECK (state IN ('waiting', 'running', 'done', 'failed')),
    asked_by UUID NOT NULL REFERENCES people(id), asked_at DATETIME(3) NOT NULL,
    worker UUID NULL, lease_until DATETIME(3) NULL, finished_at DATETIME(3) NULL, error VARCHAR(400) NULL,
    KEY (state, lease_until), KEY (project, asked_at))`)
}

const states = ['not-started', 'in-work', 'accepted', 'rejected', 'too-close', 'waiting', 'held']
const list = (words: readonly string[]) => words.map((w) => `'${w}'`).join(', ')

/** A state is one of those that there are. */
async function checks(db: Knex) {
  for (const table of ['joints', 'reaches'])
    await db.raw(`ALTER TABLE ${table} ADD CONSTRAINT ${table}_state CHECK (state IN (${list(states)}))`)
  await db.raw(`ALTER TABLE ncrs ADD CONSTRAINT ncrs_state
    CHECK (state IN ('open', 'disposed', 'reworked', 'closed'))`)
  await db.raw(`ALTER TABLE packs ADD CONSTRAINT packs_state
    CHECK (state IN ('planned', 'running', 'evaluated', 'signed', 'failed'))`)
  await db.raw(`ALTER TABLE procedures ADD CONSTRAINT procedures_state
    CHECK (state IN ('draft', 'in-review', 'reviewed', 'issued', 'superseded'))`)
}

export async function up(db: Knex): Promise<void> {
  await jobs(db)
  await checks(db)
}
