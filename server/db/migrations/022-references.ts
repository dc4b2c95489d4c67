import type { Knex } from 'knex'

/**
 * Whoever an entry, a report or a signature names is somebody of the house, and a state is one that there is.
 * What a registry says anew with every release – roles, kinds of entries and checks – is left to it.
 */
const references: readonly [table: string, column: string, of: string][] = [
  ['entries', 'person', 'people'],
  ['entries', 'crew', 'crews'],
  ['files', 'person', 'people'],
  ['ncrs', 'raised_by', 'people'],
  ['ncrs', 'reworked_by', 'people'],
  ['ncrs', 'crew', 'crews'],
  ['packs', 'signed_by', 'people'],
  ['deliveries', 'signed_by', 'people'],
  ['chains', 'project', 'projects'],
  ['uses', 'project', 'projects'],
]
const states: readonly [table: string, column: string, states: string[]][] = [
  ['shifts', 'state', ['open', 'led', 'signed']],
  ['items', 'state', ['received', 'accepted', 'remark', 'quarantined', 'returned']],
  ['items', 'kind', ['pipe', 'fitting', 'consumable']],
  ['deliveries', 'state', ['open', 'signed']],
  ['packs', 'verdict', ['accept', 'reject', 'too-close', 'incomplete']],
  ['ncrs', 'disposition', ['rework', 'repair', 'use-as-is', 'return', 'scrap']],
]

export async function up(db: Knex): Promise<void> {
  for (const [table, column, of] of references)
    await db.raw(
      `ALTER TABLE ${table} ADD CONSTRAINT ${table}_${column} FOREIGN KEY (${column}) REFERENCES ${of} (id)`,
    )
  for (const [table, column, known] of states)
    await db.raw(
      `ALTER TABLE ${table} ADD CONSTRAINT ${table}_${column}_known
        CHECK (${column} IS NULL OR ${column} IN (${known.map(() => '?').join(', ')}))`,
      known,
    )
}
