import type { Knex } from 'knex'
import * as foundation from './migrations/001-foundation'
import * as instruments from './migrations/003-instruments'
import * as goods from './migrations/004-goods'
import * as systems from './migrations/002-systems'
import * as trust from './migrations/005-trust'
import * as subjects from './migrations/006-subjects'
import * as jobs from './migrations/007-jobs'
import * as names from './migrations/008-names'
import * as ownProject from './migrations/009-own-project'
import * as structures from './migrations/010-structures'
import * as compactionCurves from './migrations/011-compaction-curves'
import * as summaries from './migrations/012-summaries'
import * as testRuns from './migrations/013-test-runs'
import * as shifts from './migrations/014-shifts'
import * as withdrawal from './migrations/015-withdrawal'
import * as devicesAlong from './migrations/016-devices-along'
import * as dueReports from './migrations/017-due-reports'
import * as plant from './migrations/018-plant'
import * as points from './migrations/019-points'
import * as webhooks from './migrations/020-webhooks'
import * as begun from './migrations/021-begun'
import * as references from './migrations/022-references'

interface Migration {
  name: string
  up(db: Knex): Promise<void>
}
const onlyForward = () => Promise.reject(new Error('There is no way back.'))

/** Migrations in order; each runs once. They only go forward. */
const migrations: Migration[] = [
  { name: '001-foundation', up: foundation.up },
  { name: '002-systems', up: systems.up },
  { name: '003-instruments', up: instruments.up },
  { name: '004-goods', up: goods.up },
  { name: '005-trust', up: trust.up },
  { name: '006-subjects', up: subjects.up },
  { name: '007-jobs', up: jobs.up },
  { name: '008-names', up: names.up },
  { name: '009-own-project', up: ownProject.up },
  { name: '010-structures', up: structures.up },
  { name: '011-compaction-curves', up: compactionCurves.up },
  { name: '012-summaries', up: summaries.up },
  { name: '013-test-runs', up: testRuns.up },
  { name: '014-shifts', up: shifts.up },
  { name: '015-withdrawal', up: withdrawal.up },
  { name: '016-devices-along', up: devicesAlong.up },
  { name: '017-due-reports', up: dueReports.up },
  { name: '018-plant', up: plant.up },
  { name: '019-points', up: points.up },
  { name: '020-webhooks', up: webhooks.up },
  { name: '021-begun', up: begun.up },
  { name: '022-references', up: references.up },
]

/** What ran before the migrator was Knex's own, in its columns. */
async function takeOver(owner: Knex): Promise<void> {
  if (!(await owner.schema.hasTable('migrations'))) return
  if (!(await owner.schema.hasColumn('migrations', 'ran_at'))) return
  await owner.raw(`ALTER TABLE migrations DROP PRIMARY KEY,
    ADD COLUMN id INT UNSIGNED AUTO_INCREMENT PRIMARY KEY FIRST, ADD UNIQUE (name),
    ADD COLUMN batch INT NOT NULL DEFAULT 1 AFTER name,
    CHANGE COLUMN ran_at migration_time DATETIME(3) NOT NULL`)
}

/**
 * Brings the schema up to date as its owner, then grants the application user what it needs and no more.
 *
 * @param last the migration to stop after; all of them when left out
 */
export async function migrate(owner: Knex, applicationUser: string, last?: string): Promise<string[]> {
  await takeOver(owner)
  const upTo = last === undefined ? migrations.length : migrations.findIndex((m) => m.name === last) + 1
  const config: Knex.MigratorConfig = {
    tableName: 'migrations',
    // MariaDB commits before it changes a table: there is nothing to roll back.
    disableTransactions: true,
    migrationSource: {
      getMigrations: () => Promise.resolve(migrations.slice(0, upTo)),
      getMigrationName: ({ name }: Migration) => name,
      getMigration: ({ up }: Migration) => Promise.resolve({ up, down: onlyForward }),
    },
  }
  // A migration that was killed has left its lock. Whoever starts the database is alone with it.
  await owner.migrate.forceFreeMigrationsLock(config)
  const [, fresh] = (await owner.migrate.latest(config)) as [number, string[]]
  await grant(owner, applicationUser)
  return fresh
}

/**
 * Entries may be read and added; chains and feeds are moved by triggers alone, which run as the owner.
 * People and projects come and change, and are never deleted.
 */
const only: Record<string, string> = {
  entries: 'SELECT, INSERT',
  chains: 'SELECT',
  feeds: 'SELECT',
  migrations: 'SELECT',
  migrations_lock: 'SELECT',
  files: 'SELECT, INSERT',
  attachments: 'SELECT, INSERT',
  procedures: 'SELECT, INSERT, UPDATE',
  people: 'SELECT, INSERT, UPDATE',
  memberships: 'SELECT, INSERT, DELETE',
  crews: 'SELECT, INSERT, UPDATE',
  projects: 'SELECT, INSERT, UPDATE',
  installation: 'SELECT, INSERT',
  links: 'SELECT, INSERT, UPDATE',
}

/** Everything that may be granted on a table. */
const PRIVILEGES = [
  ...['SELECT', 'INSERT', 'UPDATE', 'DELETE', 'CREATE', 'DROP', 'REFERENCES', 'INDEX', 'ALTER', 'TRIGGER'],
  ...['CREATE VIEW', 'SHOW VIEW', 'DELETE HISTORY'],
]

/** Gives what is due and takes the rest, in this order: whoever is at work meanwhile is never shut out. */
async function grant(owner: Knex, user: string) {
  const [rows] = await owner.raw('SHOW TABLES')
  for (const row of rows as Record<string, string>[]) {
    const table = Object.values(row)[0]!
    const due = only[table] ?? 'SELECT, INSERT, UPDATE, DELETE'
    const held = due.split(', ')
    const on = `ON ${'`'}${table}${'`'}`
    await owner.raw(`GRANT ${due} ${on} TO '${user}'@'127.0.0.1'`)
    // What an earlier version granted and this one does not.
    const rest = PRIVILEGES.filter((p) => !held.includes(p))
    await owner.raw(`REVOKE ${rest.join(', ')} ${on} FROM '${user}'@'127.0.0.1'`)
  }
}
